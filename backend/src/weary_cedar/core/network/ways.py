"""Ways from a source through a lead to circuits, and which of them take turns.

A circuit that is wired to a switch of its own, or whose loads hang on cords, belongs to those; all others
of a panel belong to the feeds of that panel. Leads that reach the same circuits take turns.
No meaning hangs on the order in which the plan names its parts.
"""

from collections.abc import Collection, Mapping
from copy import copy
from dataclasses import dataclass, field
from functools import cached_property
from typing import Final

from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.network.path import Path, paths_of
from weary_cedar.core.plan import (
    Generator,
    Hang,
    Hookup,
    Plan,
    Station,
    hangs_of,
    in_order,
    leg_of_space,
    need_class,
    plug_of,
)

#: Where a load's current goes at its source: leg A (or the only hot), leg B, across both.
LEG_A: Final = 0
LEG_B: Final = 1
ACROSS: Final = 2

#: Configurations of outlets that carry both legs.
BOTH_LEGS = "120/240"


@dataclass(frozen=True)
class Way:
    """One lead as the run takes it: from which source, on which legs, to which circuits."""

    lead_id: str
    hookup: Hookup
    name: str
    #: Circuit, or plug of a single load → LEG_A, LEG_B or ACROSS at the source, of those that may be on.
    branches: dict[str, int]
    #: What is reached but gets no voltage: two-pole on a single hot, or the other leg.
    dead: tuple[str, ...]
    #: One hot only: 120 V by cord or switch, bridged, half a panel, or a 230 V house.
    single: bool
    #: Why the run does not use it; empty when it does.
    why_not: str = ""
    #: Taken for granted, in words, because the plan does not say.
    assumed: tuple[str, ...] = ()
    #: Its one hot is of a source with two legs, and on which it is, is not said: leg A in the run.
    either_leg: bool = False

    @property
    def circuits(self) -> dict[str, int]:
        """Its branches that are circuits of a panel."""
        return {key: leg for key, leg in self.branches.items() if key not in self.plugs}

    @property
    def plugs(self) -> frozenset[str]:
        """Its branches that are plugs of single loads."""
        return frozenset(plug_of(key) for key in self.hookup.load_ids)

    @property
    def wired(self) -> bool:
        """Whether only circuits that are wired to it are reached."""
        return self.hookup.traits.own_circuits

    @property
    def automatic(self) -> bool:
        """Whether it changes over by itself."""
        return self.hookup.traits.by_itself


@dataclass(frozen=True)
class Turn:
    """Ways that reach the same circuits: at most one of them feeds at a time, the first that can."""

    ways: tuple[Way, ...]
    branches: frozenset[str] = field(default_factory=frozenset)


#: The network that was compiled last: the same plan is asked by many.
_LAST: list["Network"] = []


def network_of(plan: Plan) -> "Network":
    """The network of a plan; compiled once as long as the same plan is asked again."""
    if not _LAST or _LAST[0].given is not plan:
        _LAST[:] = [Network(plan)]
    return _LAST[0]


class Network:
    """The ways of a plan, in an order that does not depend on that of its keys."""

    def __init__(self, plan: Plan) -> None:
        self.given = plan
        self.plan = in_order(plan)

    def with_plan(self, plan: Plan) -> "Network":
        """This network of another plan, whose parts are joined as here and in the order of this plan's."""
        other = copy(self)
        other.given = other.plan = plan
        return other

    @cached_property
    def ways(self) -> tuple[Way, ...]:
        """Every lead that feeds something, those of stations before those of engines."""
        order = sorted(self.hookups.items(), key=lambda item: self._engine(item[1]))
        return tuple(self._way(key, hookup) for key, hookup in order)

    @cached_property
    def hookups(self) -> Mapping[str, Hookup]:
        """Leads that end at feeds and at appliances."""
        return self.plan.hookups

    @cached_property
    def running(self) -> tuple[Way, ...]:
        """Those that the run uses."""
        return tuple(way for way in self.ways if not way.why_not)

    @cached_property
    def paths(self) -> Mapping[str, Path]:
        """Every lead as a row of elements, those that feed and those that charge."""
        return {path.key: path for path in paths_of(self.given)}

    def way(self, lead_id: str) -> Way:
        """The way of a lead."""
        return next(way for way in self.ways if way.lead_id == lead_id)

    @cached_property
    def hangs(self) -> Mapping[str, Hang]:
        """Where every load hangs, by its id."""
        return hangs_of(self.plan)

    def feeding(self, branch: str) -> Way | None:
        """The way that feeds a circuit or a plug first, if any does."""
        return next((way for way in self.running if branch in way.branches), None)

    @cached_property
    def branches(self) -> frozenset[str]:
        """Circuits and plugs that may be on and that some way of the run feeds."""
        return frozenset(key for way in self.running for key in way.branches)

    @cached_property
    def carried(self) -> frozenset[str]:
        """Circuits that may be on and that some way of the run feeds."""
        return frozenset(key for key in self.branches if key in self.plan.circuits)

    def legs_of(self, load_id: str) -> tuple[str, ...]:
        """Legs that a load is on: of its circuit at home, or of the source that its plug is in."""
        hang = self.hangs[load_id]
        if hang.circuit_id is not None:
            return self.plan.circuit_legs(hang.circuit_id)
        if not self.plan.site.split_phase:
            return ("L",)
        way = self.feeding(hang.branch)
        at = ACROSS if hang.poles == 2 else LEG_A if way is None else way.branches[hang.branch]
        return {LEG_A: ("A",), LEG_B: ("B",), ACROSS: ("A", "B")}[at]

    def given_up_first(self, branches: Collection[str]) -> list[str]:
        """Branches by how readily one is left off: room, the last in order, the least needed first.

        The run sheds in this order, too; of what matters alike it takes the least that is enough.
        """
        worths: dict[str, tuple[bool, int, int]] = {}
        for key, hang in self.hangs.items():
            worth = (hang.mark == "room", hang.order, need_class(self.plan.loads[key]))
            worths[hang.branch] = min(worth, worths.get(hang.branch, worth))
        for key in branches:
            circuit = self.plan.circuits.get(key)
            if key not in worths:
                worths[key] = (circuit is None or circuit.mark == "room", circuit.order if circuit else 0, 0)
        return sorted((key for key in worths if key in branches), key=worths.__getitem__, reverse=True)

    def loads_of(self, branches: Collection[str]) -> list[str]:
        """Loads that hang on some circuits or plugs."""
        return [key for key, hang in self.hangs.items() if hang.branch in branches]

    @cached_property
    def counted(self) -> frozenset[str]:
        """Circuits that count towards legs and energy: marked on, and reached if only wired ones are."""
        if self.running and all(way.wired for way in self.running):
            return self.carried
        return frozenset(key for key, circuit in self.plan.circuits.items() if circuit.mark != "off")

    @cached_property
    def counted_loads(self) -> frozenset[str]:
        """Loads that count towards legs and energy: on circuits that do, and on leads."""
        return frozenset(self.loads_of(self.counted | self.branches))

    @cached_property
    def turns(self) -> tuple[Turn, ...]:
        """Ways that share circuits, grouped."""
        groups: list[tuple[list[Way], set[str]]] = []
        for way in self.running:
            met = [group for group in groups if any(self._compete(way, other) for other in group[0])]
            ways = [found for group in met for found in group[0]] + [way]
            keys = set(way.branches).union(*(group[1] for group in met))
            groups = [group for group in groups if group not in met] + [(ways, keys)]
        rank = {way.lead_id: index for index, way in enumerate(self.running)}
        sorted_groups = [(sorted(ways, key=lambda w: rank[w.lead_id]), keys) for ways, keys in groups]
        sorted_groups.sort(key=lambda group: rank[group[0][0].lead_id])
        return tuple(Turn(tuple(ways), frozenset(keys)) for ways, keys in sorted_groups)

    def _compete(self, one: Way, other: Way) -> bool:
        """Whether two ways feed one at a time: not where one enters a panel below that of the other."""
        return bool(one.branches.keys() & other.branches.keys()) and not (
            self.inside(one, other) or self.inside(other, one)
        )

    def inside(self, inner: Way, outer: Way) -> bool:
        """Whether a way enters a panel that hangs on that of another: its feeder is opened while it feeds."""
        entered, above = inner.hookup.panel_id, outer.hookup.panel_id
        if inner.wired or outer.wired or not entered or not above or entered == above:
            return False
        return entered in self.plan.panels_reached(above)

    @cached_property
    def main(self) -> Way | None:
        """The way that carries most of what must run: shown where only one can be."""
        return max(self.ways, key=self._weight, default=None)

    def _weight(self, way: Way) -> tuple[bool, bool, int, int]:
        kept = sum(self.plan.circuits[key].mark == "keep" for key in way.circuits)
        kept += sum(self.hangs[key].mark == "keep" for key in way.hookup.load_ids)
        return not way.why_not, not self._engine(way.hookup), kept, len(way.branches)

    # ---------------------------------------------------------------- compiling

    def _engine(self, hookup: Hookup) -> bool:
        return hookup.source_kind in ("generator", "vehicle")

    def reached(self, hookup: Hookup) -> frozenset[str]:
        """Circuits that a hook-up can put under power, whatever their mark."""
        if hookup.traits.own_circuits or not hookup.panel_id:
            return frozenset(hookup.circuit_ids)
        panels = self.plan.panels_reached(hookup.panel_id)
        return frozenset(key for key, circuit in self.plan.circuits.items() if circuit.panel_id in panels)

    def _reached(self, hookup: Hookup) -> list[str]:
        """Circuits that may be on and that a feed puts under power, sub-panels included."""
        plan = self.plan
        own = hookup.traits.own_circuits
        wired = set(hookup.circuit_ids) if own else set(plan.circuits) - self._taken(hookup)
        panels = set(plan.panels) if not hookup.panel_id else plan.panels_reached(hookup.panel_id)
        for key, panel in plan.panels.items():
            if panel.fed_from is not None and key in panels and panel.fed_from in wired:
                wired |= {k for k, c in plan.circuits.items() if c.panel_id == key} - self._taken(hookup)
        return [
            key
            for key, circuit in plan.circuits.items()
            if key in wired and circuit.mark != "off" and circuit.panel_id in panels
        ]

    def _taken(self, hookup: Hookup) -> set[str]:
        """Circuits that belong to other feeds, being wired to them or on their cords."""
        return {
            key
            for other in self.hookups.values()
            if other is not hookup and other.traits.own_circuits
            for key in other.circuit_ids
        }

    def _way(self, lead_id: str, hookup: Hookup) -> Way:
        source = self.plan.source(hookup)
        single, assumed = self._single(hookup, source)
        branches, dead = {}, []
        outlet_leg = self._outlet_leg(hookup)
        found = {key: self._leg(hookup, key, single, outlet_leg) for key in self._reached(hookup)}
        for key in (key for key in self.plan.loads if key in hookup.load_ids):
            if self.hangs[key].mark != "off":
                found[plug_of(key)] = self._plug_leg(self.hangs[key], single, outlet_leg)
        for key, at in found.items():
            if at is None:
                dead.append(key)
            else:
                branches[key] = at
        link = self.plan.link_of(hookup)
        ends = self.plan.panels[hookup.panel_id].name if hookup.panel_id else "appliances"
        name = f"{link.name if link else source.name} to {ends}"
        why_not = hookup.traits.refused or self._misfit(hookup, source, single)
        either = single and bool(assumed)
        return Way(lead_id, hookup, name, branches, tuple(dead), single, why_not, assumed, either)

    def _single(self, hookup: Hookup, source: Station | Generator) -> tuple[bool, tuple[str, ...]]:
        """Whether a feed has one hot only, and what was taken for granted about it."""
        if not self.plan.site.split_phase or hookup.traits.one_hot:
            return True, ()
        if hookup.source_kind == "link":
            return False, ()
        row = receptacle(self.plan.outlet(hookup).kind)
        if source.output == "120":
            return True, ()
        one_hot = row is not None and row["volts"] == "120" and (hookup.traits.own_circuits)
        if one_hot and self.plan.outlet(hookup).leg is None:
            ends = self.plan.panels[hookup.panel_id].name if hookup.panel_id else "appliances"
            words = f"the outlet of {source.name} that feeds {ends} is on leg A"
            return True, (words,)
        return one_hot, ()

    def _outlet_leg(self, hookup: Hookup) -> int:
        """Where the one hot of a feed is at a source of both legs."""
        return LEG_B if self.plan.outlet(hookup).leg == "B" else LEG_A

    def _leg(self, hookup: Hookup, circuit_id: str, single: bool, outlet_leg: int) -> int | None:
        legs = self.plan.circuit_legs(circuit_id)
        if not self.plan.site.split_phase:
            return LEG_A
        if not single:
            leg = hookup.switch_legs.get(circuit_id, legs[0])
            return ACROSS if len(legs) == 2 else (LEG_A if leg == "A" else LEG_B)
        if len(legs) == 2:
            return None
        if hookup.kind == "half_leg" and hookup.breaker_spaces:
            first = self.plan.panels[hookup.panel_id].first_leg
            if legs[0] != leg_of_space(hookup.breaker_spaces[0], first):
                return None
        return outlet_leg

    def _plug_leg(self, hang: Hang, single: bool, outlet_leg: int) -> int | None:
        """Where a single load is at the source: a 240 V plug needs both legs."""
        if not self.plan.site.split_phase:
            return LEG_A
        if hang.poles == 2:
            return None if single else ACROSS
        return outlet_leg

    def _misfit(self, hookup: Hookup, source: Station | Generator, single: bool) -> str:
        """Why a source cannot feed what it is meant to; empty when it can."""
        site = self.plan.site
        if not site.split_phase:
            return (
                ""
                if source.output == "230"
                else f"{source.name} gives {source.output} V where the house takes 230 V"
            )
        if source.output == "230":
            return f"{source.name} gives 230 V where the house takes 120/240 V"
        if hookup.kind == "interlock_inlet" and len(hookup.breaker_spaces) != 2:
            return "the feed breaker does not reach every leg of the panel"
        if hookup.traits.whole and source.output == "120" and hookup.source_kind != "link":
            return f"{source.name} gives 120 V where the house takes 120/240 V"
        if hookup.kind == "half_leg" and not hookup.breaker_spaces:
            return "which spaces its breaker takes is not said, so its leg is not known"
        return ""
