"""What displays and meters show with some branches on: between which watts, and what else would add to it."""

import math
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass

from weary_cedar.core.decide.needs import DOUBT
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.network import Network, Way
from weary_cedar.core.network.carrying import Draw, spread
from weary_cedar.core.plan import Job, Load, Role, Station, Steady
from weary_cedar.core.runbook.sheet import Expected, Other

#: A display is off by so much of what it shows, cords included, and by so many W. Common practice.
DISPLAY_OFF, DISPLAY_STEP_W = 0.03, 10.0
#: A lamp that is plugged in takes at most so much, W. Common practice.
LAMP_W = 100.0
#: Someone may have left these off at a switch, on the wall or their own. Common practice.
SWITCHED_ROLES: tuple[Role, ...] = ("light", "tool", "hot")
SWITCHED_WORDS = (
    "light", "lamp", "television", "tv", "radio", "music", "computer", "screen", "printer", "charger", "fan",
    "desk", "office", "game",
)  # fmt: skip
NOT_ON = "something that should be on is not, or its breaker is not all the way on"

Axis = Callable[[Draw], float]
AXES: Mapping[str, Axis] = {"a": lambda d: d.a, "b": lambda d: d.b, "total": lambda d: d.total}


@dataclass(frozen=True)
class Part:
    """One load of a branch: W by leg while it is on, how far off that may be, whether it surely is on."""

    watts: Draw
    doubt: float
    sure: bool


@dataclass(frozen=True)
class Place:
    """Where watts are read: of a leg or of both, and whether it need not be there."""

    axis: str
    where: str
    optional: bool = False


class Displays:
    """Watts of a way as they are shown, W."""

    def __init__(self, network: Network, way: Way, behind: Sequence[tuple[str, str]]) -> None:
        """Displays of a way; `behind`: every branch that it can reach, with its name."""
        self.network, self.plan, self.way, self.behind = network, network.plan, way, behind
        self.places = list(self._places())
        self._parts: dict[str, list[Part]] = {}

    def _places(self) -> Iterator[Place]:
        link, source = self.plan.link_of(self.way.hookup), self.plan.source(self.way.hookup)
        name = link.name if link else source.name
        one = self.way.single or not self.plan.site.split_phase
        if link is not None and link.kind == "two_legs" and not one:
            for axis, unit in (("a", link.leg_a), ("b", link.leg_b)):
                yield Place(axis, f"leg {axis.upper()}, on the display of {self.plan.stations[unit].name}")
            return
        has_display = isinstance(source, Station)
        displays = "on the displays of both units" if link else "on its display"
        told = displays if has_display else "where it shows watts"
        yield Place("total", f"output of {name}, {told}", not has_display)
        if not one:
            meter = "on the switch’s meter" if self.way.hookup.traits.moves == "handles" else "on a meter"
            yield from (Place(axis, f"leg {axis.upper()}, {meter}", optional=True) for axis in ("a", "b"))

    def shown(
        self, on: Collection[str], lit: Mapping[str, Draw] | None = None, usual: Draw | None = None
    ) -> list[Expected]:
        """What is shown with some branches on.

        Args:
            on: branches that are on.
            lit: what lamps add on a branch, that someone has switched on to see how a leg stands, W.
            usual: what flows in the run then, W.

        Returns:
            A band for each place. Least: what nobody turns off; most: all that may run at once, lamps
            too. Wider by the doubts of the loads, which add as squares, and by what a display is off.

        Source: doubts by the origin of figures, and displays: common practice.
        """
        parts = [part for branch in on for part in self._of(branch)]
        lamps = [draw for key, draw in (lit or {}).items() if key in on]
        found = []
        for place in self.places:
            axis = AXES[place.axis]
            least = _sum([part for part in parts if part.sure], axis, -1)
            most = _sum(parts, axis, 1) + math.fsum(map(axis, lamps))
            in_run = axis(usual) if usual else None
            low = max(0.0, math.floor(least * (1 - DISPLAY_OFF) - DISPLAY_STEP_W))
            high = math.ceil(max(most, in_run or 0.0) * (1 + DISPLAY_OFF) + DISPLAY_STEP_W)
            found.append(
                Expected(
                    where=place.where, optional=place.optional, low=low, high=high, usual=in_run, unit="W",
                    if_low=NOT_ON, others=self._others(on, axis),
                )
            )  # fmt: skip
        return found

    def _others(self, on: Collection[str], axis: Axis) -> list[Other]:
        """What is off and would add, whatever its mark: all of its loads on."""
        found = []
        for branch, name in self.behind:
            if branch not in on:
                adds = axis(self._draw_of(branch))
                found += [Other(name=name, adds=adds)] if adds > 0 else []
        return found

    def _draw_of(self, branch: str) -> Draw:
        watts = sum(on_watts(load) for load in self._loads(branch))
        legs = self.plan.circuit_legs(branch) if branch in self.plan.circuits else ("A",)
        share = watts / len(legs)
        return Draw(share if legs[0] != "B" else 0.0, share if "B" in legs else 0.0)

    def _loads(self, branch: str) -> list[Load]:
        return [self.plan.loads[key] for key in self.network.loads_of([branch])]

    def _of(self, branch: str) -> list[Part]:
        if branch not in self._parts:
            self._parts[branch] = [
                Part(spread(self.way, branch, on_watts(load)), DOUBT[load.origin], _is_sure(load))
                for load in self._loads(branch)
                if not isinstance(load.behaviour, Job)
            ]
        return self._parts[branch]

    def lamp(self, branch: str, *, lamps: bool) -> Draw:
        """What lamps add that someone switches on in a branch, at most, W: its own, or one plugged in."""
        jobs = [load for load in self._loads(branch) if isinstance(load.behaviour, Job)]
        most = sum((1 + DOUBT[load.origin]) * on_watts(load) for load in jobs)
        return spread(self.way, branch, most if lamps else LAMP_W)


def _is_sure(load: Load) -> bool:
    """Whether a load draws as soon as it has power: steady, and nobody can have left it off at a switch."""
    words = load.name.casefold().replace("-", " ").split()
    switched = any(word.startswith(SWITCHED_WORDS) for word in words)
    return isinstance(load.behaviour, Steady) and load.role not in SWITCHED_ROLES and not switched


def _sum(parts: Sequence[Part], axis: Axis, side: int) -> float:
    """Watts of an axis, with its doubts on one side."""
    sums = math.fsum(axis(part.watts) for part in parts)
    return sums + side * math.hypot(*(part.doubt * axis(part.watts) for part in parts))
