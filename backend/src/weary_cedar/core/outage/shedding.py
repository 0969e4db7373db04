"""Which loads must go so that what remains fits, and which may come back."""

from weary_cedar.core.outage.connected import ConnectedLoad
from weary_cedar.core.outage.feed_limits import FeedLimits
from weary_cedar.core.outage.leg_sums import SLACK, LegSums
from weary_cedar.core.supply.overload import OverloadCurve

#: A load that was shed for a limit stays off at least this long, s: no chattering.
MIN_OFF_S = 600.0


class Fitter:
    """Fits wishes under limits: the last in rank that relieves a violated limit goes first.

    A start that the station does not carry even alone is not worth shedding for: it will trip.
    """

    def __init__(self, limits: FeedLimits, curve: OverloadCurve) -> None:
        self._limits = limits
        self._curve = curve

    def must_go(
        self,
        on: list[ConnectedLoad],
        starting: list[ConnectedLoad],
        t: float,
        spare: ConnectedLoad | None = None,
    ) -> list[ConnectedLoad]:
        """Loads to shed, least important first, so that the rest is within limits and its starts carried.

        Args:
            on: loads that draw or are about to, by rank.
            starting: those of them that start now, by rank.
            t: the moment, s.
            spare: only loads behind this one in rank may go; it itself may go too.

        Returns:
            Loads to shed; empty when all fits.
        """
        staying = list(on)
        gone: list[ConnectedLoad] = []
        while True:
            a, b, total = self._violated(staying, [s for s in starting if s not in gone], t)
            if not (a or b or total):
                return gone
            victim = next(
                (
                    load
                    for load in reversed(staying)
                    if (total or (a and load.on_leg_a) or (b and load.on_leg_b))
                    and (spare is None or load.rank >= spare.rank)
                ),
                None,
            )
            if victim is None:
                return gone
            staying.remove(victim)
            gone.append(victim)

    def _violated(
        self, staying: list[ConnectedLoad], starting: list[ConnectedLoad], t: float
    ) -> tuple[bool, bool, bool]:
        sums = LegSums()
        for load in staying:
            sums.add(load, load.demand.watts)
        a, b, total = sums.over(self._limits)
        if a or b or total or not starting:
            return a, b, total
        for load in reversed(starting):
            sums.add(load, -load.demand.watts)
        for load in starting:
            if load.load.start is not None:
                carried = self._curve.carried_multiple(load.load.start.seconds) * (1 + SLACK)
                start_va = load.start_va(t)
                alone = LegSums().start_multiple(load, start_va, self._limits)
                if alone <= carried < sums.start_multiple(load, start_va, self._limits):
                    return load.on_leg_a, load.on_leg_b, False
            sums.add(load, load.demand.watts)
        return False, False, False
