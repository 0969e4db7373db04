"""The outputs of a plan in the run: stations alone and linked, engines, vehicles, the utility."""

import math
from collections.abc import Sequence
from typing import ClassVar, Final

from weary_cedar.core.network import ACROSS, LEG_A, LEG_B
from weary_cedar.core.outage.leg_sums import LegSums
from weary_cedar.core.outage.tree import Carrier
from weary_cedar.core.plan import CurvePoint, Link, Station, Vehicle
from weary_cedar.core.supply.engine import Engine, engine_curve
from weary_cedar.core.supply.overload import OverloadAccount, OverloadCurve
from weary_cedar.core.supply.reserve import Reserve
from weary_cedar.core.supply.unit import Unit

NEVER: Final = math.inf
#: Two moments closer than this are one, s.
SAME_S: Final = 1e-6
#: The outlet of a vehicle opens within seconds over its watts. Common practice.
OUTLET_CURVE: Final = OverloadCurve((CurvePoint(multiple=1.05), CurvePoint(multiple=1.2, seconds=5.0)))


class StationCarrier(Carrier):
    """One station, two on a leg each, or two in parallel.

    On two legs each unit pays for its own leg and half of what is across, and any unit that is empty
    or tripped stops both. In parallel each pays by its rating and an empty one drops out.
    """

    STATE: ClassVar[str] = Carrier.STATE + " weak_at met empty"
    kind = "station"

    def __init__(
        self, key: str, stations: Sequence[Station], units: Sequence[Unit], link: Link | None
    ) -> None:
        first = stations[0]
        self.link = link
        self.pair = link is not None and link.kind == "two_legs"
        side_by_side = len(units) if link is not None and not self.pair else 1
        leg_va = min(s.leg_limit_va for s in stations) * side_by_side
        total_va = sum(s.rated_va for s in stations)
        super().__init__(key, link.name if link else first.name, leg_va, total_va, OverloadCurve(first.curve))
        self.stations = tuple(stations)
        self.units = tuple(units)
        #: Two linked units have one each; outlets of one station, and units in parallel, share one.
        if self.pair:
            self.accounts = [OverloadAccount(OverloadCurve(s.curve)) for s in stations]
        self.limits_va = [s.leg_limit_va for s in stations]
        #: Most that the weakest battery of a bank lets out, W at the cells, and when it will open.
        self.weak = min((s.bank.most_draw_w for s in stations if s.bank and s.bank.most_draw_w), default=None)
        self.weak_at = NEVER
        self.cutout = first.cuts_out
        #: In parallel: how many levels of all together were reached when someone looked last.
        self.met = -1
        self.empty = False

    def rate(self) -> None:
        """In parallel, what is empty carries nothing: take the rating of the others."""
        if self.link is None or self.pair:
            return
        able = [s for s, unit in zip(self.stations, self.units, strict=True) if not unit.empty]
        able = able or list(self.stations)
        self.leg_va = min(s.leg_limit_va for s in able) * len(able)
        self.total_va = sum(s.rated_va for s in able)

    @property
    def empty_now(self) -> bool:
        """Whether its cells give nothing more: any of two legs, all of those in parallel."""
        gone = [unit.empty for unit in self.units]
        return any(gone) if self.pair else all(gone)

    @property
    def percent(self) -> float:
        """Charge as it counts for rules: the lower of two legs, else of all together."""
        if self.pair:
            return min(unit.percent for unit in self.units)
        return 100.0 * sum(u.stored_wh for u in self.units) / sum(u.cap_wh for u in self.units)

    def shares(self) -> list[float]:
        """Share of each unit in what is across or drawn in parallel."""
        if self.pair or len(self.units) == 1:
            return [1 / len(self.units)] * len(self.units)
        rated = [0.0 if unit.empty else unit.station.rated_va for unit in self.units]
        whole = sum(rated)
        return [item / whole if whole else 1 / len(rated) for item in rated]

    def split_w(self, sums: LegSums, cord_w: float) -> list[float]:
        """AC power that each unit makes, W."""
        if not self.pair:
            watts = sums.watts() + cord_w
            return [watts * share for share in self.shares()]
        half = sums.px / 2 + cord_w / 2
        return [sums.pa + half, sums.pb + half]

    def bent(self, leg: int) -> list[float]:
        """Share of each unit in what is drawn on a leg."""
        if not self.pair:
            return self.shares()
        return {LEG_A: [1.0, 0.0], LEG_B: [0.0, 1.0], ACROSS: [0.5, 0.5]}[leg]

    def load_accounts(self) -> float:
        """Set the present multiple of rating; returns the seconds until the first account is full."""
        if not self.pair:
            assert self.account is not None
            return self.account.load(self.multiple)
        on_a, on_b = self.accounts
        return min(on_a.load(self.va[0] / self.limits_va[0]), on_b.load(self.va[1] / self.limits_va[1]))

    def clear_accounts(self) -> None:
        """As a reset does."""
        self.weak_at = NEVER
        for account in self.accounts:
            account.clear()

    @property
    def level(self) -> float:
        """The fullest overload account, 0 to 1."""
        accounts = self.accounts
        return accounts[0].level if len(accounts) == 1 else max(account.level for account in accounts)


class EngineCarrier(Carrier):
    """A generator: gives while it runs and has fuel."""

    STATE: ClassVar[str] = Carrier.STATE + " refuelled_at light_s ran"
    kind = "generator"

    def __init__(self, engine: Engine) -> None:
        generator = engine.generator
        leg_w, rated_w = generator.leg_limit_w, generator.rated_w
        super().__init__(engine.key, generator.name, leg_w, rated_w, engine_curve(generator))
        self.engine = engine
        self.refuelled_at = NEVER
        self.light_s = 0.0
        #: From when to when it ran, s.
        self.ran: list[tuple[float, float]] = []

    def book(self, seconds: float, energy_wh: float) -> None:
        """Fuel that it burnt, and how long it ran with too little to do."""
        if not self.engine.running:
            return
        self.engine.burn(energy_wh, seconds / 3600.0)
        self._note_run(self.since_s, self.since_s + seconds)
        generator = self.engine.generator
        if self.ac_w < generator.healthy_w:
            self.light_s += seconds

    def _note_run(self, begins_s: float, ends_s: float) -> None:
        """It ran for a while: that goes on from before, or begins anew."""
        if self.ran and begins_s - self.ran[-1][1] < SAME_S:
            self.ran[-1] = (self.ran[-1][0], ends_s)
        else:
            self.ran.append((begins_s, ends_s))

    def rate(self) -> None:
        """Take the rating on the fuel that the engine has now."""
        share = self.engine.rated_share
        generator = self.engine.generator
        self.total_va = generator.rated_w * share
        self.leg_va = generator.leg_limit_w * share


class VehicleCarrier(Carrier):
    """An AC outlet of a vehicle."""

    STATE: ClassVar[str] = Carrier.STATE + " off_at on_again_at trips_away"
    kind = "vehicle"

    def __init__(self, key: str, vehicle: Vehicle, reserve: Reserve) -> None:
        super().__init__(key, vehicle.name, vehicle.lasting_w, vehicle.lasting_w, OUTLET_CURVE)
        self.vehicle = vehicle
        self.reserve = reserve
        self.off_at = NEVER
        self.on_again_at = NEVER
        #: In how many of its hours away it is now.
        self.trips_away = 0

    def book(self, seconds: float, energy_wh: float) -> None:
        """What its battery gave for it."""
        self.reserve.given_wh += energy_wh

    @property
    def away(self) -> bool:
        """Whether it is driven, and not at the house."""
        return self.trips_away > 0

    @property
    def can_give(self) -> bool:
        """Whether it is at the house and holds something."""
        return self.reserve.left_wh > 0 and not self.away

    def switch(self, t: float, on: bool) -> None:
        """Turn it on, or off; on, it turns itself off after its time unless it was told to stay."""
        self.turn(on and not self.away)
        on, stays = self.ac_on, self.vehicle.told_to_stay == "yes"
        self.off_at = NEVER if stays or not on else t + self.vehicle.ready_timeout_s
        self.ends_at = min(self.off_at, self.on_again_at)


class GridCarrier(Carrier):
    """The utility, in the windows in which it is back."""

    kind = "grid"

    def __init__(self) -> None:
        super().__init__("grid", "the utility", NEVER, NEVER, None)


__all__ = [
    "EngineCarrier",
    "GridCarrier",
    "StationCarrier",
    "VehicleCarrier",
]
