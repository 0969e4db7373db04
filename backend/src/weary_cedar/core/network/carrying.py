"""What comes on with a breaker, and what a source carries of it."""

from dataclasses import dataclass

from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.network import ACROSS, LEG_A, Network, Way
from weary_cedar.core.network.feed_limits import feed_limits
from weary_cedar.core.plan import Job, Load, Station
from weary_cedar.core.supply.overload import OverloadCurve

#: Sums of halves are a little off.
ROUNDING = 1e-9


@dataclass(frozen=True)
class Draw:
    """VA of leg A, of leg B, and how long that lasts, s."""

    a: float
    b: float
    seconds: float = 0.0

    @property
    def total(self) -> float:
        """Both legs, VA."""
        return self.a + self.b

    def plus(self, other: "Draw") -> "Draw":
        """Both at once, as long as the longer."""
        return Draw(self.a + other.a, self.b + other.b, max(self.seconds, other.seconds))


NOTHING = Draw(0.0, 0.0)


def running(network: Network, way: Way, branch: str) -> Draw:
    """What may run by itself on a branch as soon as it has power: jobs are begun by someone later.

    Args:
        network: of the plan.
        way: what feeds it.
        branch: circuit or plug.

    Returns:
        VA by leg, every load of it on at once and in phase: the careful way.

    Source: common practice.
    """
    return _sum(way, branch, [(on_va(load), 0.0) for load in _by_itself(network, branch)])


def starting(network: Network, way: Way, branch: str) -> Draw:
    """What a branch takes at the moment at which its breaker goes on, all of its starts at once."""
    return _sum(way, branch, [_start(load) for load in _by_itself(network, branch)])


def _by_itself(network: Network, branch: str) -> list[Load]:
    loads = (network.plan.loads[key] for key in network.loads_of([branch]))
    return [load for load in loads if not isinstance(load.behaviour, Job)]


def on_va(load: Load) -> float:
    """Apparent power of a load while it is on, VA."""
    return on_watts(load) / load.power_factor


def _start(load: Load) -> tuple[float, float]:
    if load.start is None:
        return on_va(load), 0.0
    return max(load.start.va, on_va(load)), load.start.seconds


def _sum(way: Way, branch: str, parts: list[tuple[float, float]]) -> Draw:
    seconds = max((s for _, s in parts), default=0.0)
    return spread(way, branch, sum(part for part, _ in parts), seconds)


def spread(way: Way, branch: str, va: float, seconds: float = 0.0) -> Draw:
    """What a branch takes, by the legs that it is on, VA, for so long, s."""
    leg = way.branches.get(branch)
    if leg is None:
        return NOTHING
    if leg == ACROSS:
        return Draw(va / 2, va / 2, seconds)
    return Draw(va, 0.0, seconds) if leg == LEG_A else Draw(0.0, va, seconds)


@dataclass(frozen=True)
class Bearer:
    """What a way carries for long, by leg and in all, and its source alone, VA; above that, for a start."""

    leg_va: float
    total_va: float
    source_leg_va: float
    curve: OverloadCurve | None
    #: Starting watts over rated watts, of an engine.
    surge: float

    def over(self, draw: Draw) -> str:
        """What a start, or a draw that lasts (of no seconds), exceeds; empty if it is carried."""
        starts = draw.seconds > 0
        multiple = (
            (self.curve.carried_multiple(draw.seconds) if self.curve else self.surge) if starts else 1.0
        )
        leg_va = self.source_leg_va * multiple if starts else self.leg_va
        for name, va in (("on leg A", draw.a), ("on leg B", draw.b)):
            if va > leg_va * (1 + ROUNDING):
                return f"{va:,.0f} VA {name}; {leg_va:,.0f} VA are carried"
        if draw.total > self.total_va * multiple * (1 + ROUNDING):
            return f"{draw.total:,.0f} VA in all; {self.total_va * multiple:,.0f} VA are carried"
        return ""


def bearer(network: Network, way: Way) -> Bearer:
    """What a way carries: of a station its legs by its overload curve, of an engine its starting watts.

    Source: ratings of plates; curve as in the plan.
    """
    limits, source = feed_limits(network.plan, way.hookup), network.plan.source(way.hookup)
    leg_va = limits.elements[0].rating_a * limits.leg_volts
    if isinstance(source, Station):
        return Bearer(limits.leg_va, limits.total_va, leg_va, OverloadCurve(source.curve), 1.0)
    return Bearer(
        limits.leg_va, limits.total_va, leg_va, None, (source.starting_w or source.rated_w) / source.rated_w
    )
