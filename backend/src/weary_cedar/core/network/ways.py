"""Ways from a source through a feed to circuits, and which of them take turns.

A circuit that is wired to a switch of its own, or whose loads hang on cords, belongs to those feeds;
all others of a panel belong to the feeds of that panel. Feeds that reach the same circuits take turns.
No meaning hangs on the order in which the plan names its parts.
"""

from dataclasses import dataclass, field
from functools import cached_property

from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.plan import BREAKER_KINDS, WIRED_KINDS, Feed, Generator, Plan, Station, leg_of_space

#: Where a load's current goes at its source: leg A (or the only hot), leg B, across both.
LEG_A, LEG_B, ACROSS = 0, 1, 2

#: Kinds of feed that are refused, with the reason for whoever wants to use them.
REFUSED = {
    "no_transfer": "nothing keeps it and the utility apart: this can kill and is refused; see the checks",
    "receptacle_backfeed": "a live plug into a house outlet can kill and is refused; see the checks",
}
#: Configurations of outlets that carry both legs.
BOTH_LEGS = "120/240"


@dataclass(frozen=True)
class Way:
    """One feed as the run takes it: from which source, on which legs, to which circuits."""

    feed_id: str
    feed: Feed
    name: str
    #: Circuit → LEG_A, LEG_B or ACROSS at the source, of those that may be on.
    circuits: dict[str, int]
    #: Circuits that are reached but get no voltage: two-pole on a single hot, or the other leg.
    dead: tuple[str, ...]
    #: One hot only: 120 V by cord or switch, bridged, half a panel, or a 230 V house.
    single: bool
    #: Why the run does not use it; empty when it does.
    why_not: str = ""
    #: Taken for granted, in words, because the plan does not say.
    assumed: tuple[str, ...] = ()

    @property
    def wired(self) -> bool:
        """Whether only circuits that are wired to it are reached."""
        return self.feed.kind in WIRED_KINDS

    @property
    def automatic(self) -> bool:
        """Whether it changes over by itself."""
        return self.feed.kind in ("automatic", "hybrid")


@dataclass(frozen=True)
class Turn:
    """Ways that reach the same circuits: at most one of them feeds at a time, the first that can."""

    ways: tuple[Way, ...]
    circuits: frozenset[str] = field(default_factory=frozenset)


#: The network that was compiled last: the same plan is asked by many.
_LAST: list["Network"] = []


def network_of(plan: Plan) -> "Network":
    """The network of a plan; compiled once as long as the same plan is asked again."""
    if not _LAST or _LAST[0].plan is not plan:
        _LAST[:] = [Network(plan)]
    return _LAST[0]


class Network:
    """The ways of a plan, in an order that does not depend on that of its keys."""

    def __init__(self, plan: Plan) -> None:
        self.plan = plan

    @cached_property
    def ways(self) -> tuple[Way, ...]:
        """Every feed, those of stations before those of engines."""
        order = sorted(self.plan.feeds, key=lambda key: (self._engine(self.plan.feeds[key]), key))
        return tuple(self._way(key, self.plan.feeds[key]) for key in order)

    @cached_property
    def running(self) -> tuple[Way, ...]:
        """Those that the run uses."""
        return tuple(way for way in self.ways if not way.why_not)

    def way(self, feed_id: str) -> Way:
        """The way of a feed."""
        return next(way for way in self.ways if way.feed_id == feed_id)

    def feeding(self, circuit_id: str) -> Way | None:
        """The way that feeds a circuit first, if any does."""
        return next((way for way in self.running if circuit_id in way.circuits), None)

    @cached_property
    def carried(self) -> frozenset[str]:
        """Circuits that may be on and that some way of the run feeds."""
        return frozenset(key for way in self.running for key in way.circuits)

    @cached_property
    def counted(self) -> frozenset[str]:
        """Circuits that count towards legs and energy: marked on, and reached if only wired ones are."""
        if self.running and all(way.wired for way in self.running):
            return self.carried
        return frozenset(key for key, circuit in self.plan.circuits.items() if circuit.mark != "off")

    @cached_property
    def turns(self) -> tuple[Turn, ...]:
        """Ways that share circuits, grouped."""
        groups: list[tuple[list[Way], set[str]]] = []
        for way in self.running:
            met = [group for group in groups if group[1] & way.circuits.keys()]
            ways = [found for group in met for found in group[0]] + [way]
            keys = set(way.circuits).union(*(group[1] for group in met))
            groups = [group for group in groups if group not in met] + [(ways, keys)]
        rank = {way.feed_id: index for index, way in enumerate(self.running)}
        sorted_groups = [(sorted(ways, key=lambda w: rank[w.feed_id]), keys) for ways, keys in groups]
        sorted_groups.sort(key=lambda group: rank[group[0][0].feed_id])
        return tuple(Turn(tuple(ways), frozenset(keys)) for ways, keys in sorted_groups)

    @cached_property
    def main(self) -> Way | None:
        """The way that carries most of what must run: shown where only one can be."""
        return max(self.ways, key=self._weight, default=None)

    def _weight(self, way: Way) -> tuple[bool, bool, int, int]:
        kept = sum(self.plan.circuits[key].mark == "keep" for key in way.circuits)
        return not way.why_not, not self._engine(way.feed), kept, len(way.circuits)

    # ---------------------------------------------------------------- compiling

    def _engine(self, feed: Feed) -> bool:
        return feed.source_id in self.plan.generators

    def _reached(self, feed: Feed) -> set[str]:
        """Circuits that may be on and that a feed puts under power, sub-panels included."""
        plan = self.plan
        wired = set(feed.circuit_ids) if feed.kind in WIRED_KINDS else set(plan.circuits) - self._taken(feed)
        panels = plan.panels_reached(feed.panel_id)
        for key, panel in plan.panels.items():
            if panel.fed_from is not None and key in panels and panel.fed_from in wired:
                wired |= {k for k, c in plan.circuits.items() if c.panel_id == key} - self._taken(feed)
        return {
            key
            for key in wired & set(plan.circuits)
            if plan.circuits[key].mark != "off" and plan.circuits[key].panel_id in panels
        }

    def _taken(self, feed: Feed) -> set[str]:
        """Circuits that belong to other feeds, being wired to them or on their cords."""
        return {
            key
            for other in self.plan.feeds.values()
            if other is not feed and other.kind in WIRED_KINDS
            for key in other.circuit_ids
        }

    def _way(self, feed_id: str, feed: Feed) -> Way:
        source = self.plan.source(feed)
        single, assumed = self._single(feed, source)
        circuits, dead = {}, []
        for key in sorted(self._reached(feed)):
            at = self._leg(feed, key, single, self._outlet_leg(feed, source))
            if at is None:
                dead.append(key)
            else:
                circuits[key] = at
        link = self.plan.links.get(feed.source_id)
        name = f"{link.name if link else source.name} to {self.plan.panels[feed.panel_id].name}"
        why_not = REFUSED.get(feed.kind) or self._misfit(feed, source, single)
        return Way(feed_id, feed, name, circuits, tuple(dead), single, why_not, assumed)

    def _single(self, feed: Feed, source: Station | Generator) -> tuple[bool, tuple[str, ...]]:
        """Whether a feed has one hot only, and what was taken for granted about it."""
        if not self.plan.site.split_phase or feed.kind in ("bridged", "half_leg"):
            return True, ()
        link = self.plan.links.get(feed.source_id)
        if link is not None:
            return False, ()
        row = receptacle(source.receptacles[feed.receptacle_id].kind)
        if source.output == "120":
            return True, ()
        one_hot = row is not None and row["volts"] == "120" and (feed.kind in WIRED_KINDS)
        if one_hot and source.receptacles[feed.receptacle_id].leg is None:
            words = (
                f"the outlet of {source.name} that feeds {self.plan.panels[feed.panel_id].name} is on leg A"
            )
            return True, (words,)
        return one_hot, ()

    @staticmethod
    def _outlet_leg(feed: Feed, source: Station | Generator) -> int:
        """Where the one hot of a feed is at a source of both legs."""
        return LEG_B if source.receptacles[feed.receptacle_id].leg == "B" else LEG_A

    def _leg(self, feed: Feed, circuit_id: str, single: bool, outlet_leg: int) -> int | None:
        legs = self.plan.circuit_legs(circuit_id)
        if not self.plan.site.split_phase:
            return LEG_A
        if not single:
            return ACROSS if len(legs) == 2 else (LEG_A if legs[0] == "A" else LEG_B)
        if len(legs) == 2:
            return None
        if feed.kind == "half_leg" and feed.breaker_spaces:
            first = self.plan.panels[feed.panel_id].first_leg
            if legs[0] != leg_of_space(feed.breaker_spaces[0], first):
                return None
        return outlet_leg

    def _misfit(self, feed: Feed, source: Station | Generator, single: bool) -> str:
        """Why a source cannot feed what it is meant to; empty when it can."""
        site = self.plan.site
        link = self.plan.links.get(feed.source_id)
        if not site.split_phase:
            return (
                ""
                if source.output == "230"
                else f"{source.name} gives {source.output} V where the house takes 230 V"
            )
        if source.output == "230":
            return f"{source.name} gives 230 V where the house takes 120/240 V"
        if feed.kind == "interlock_inlet" and len(feed.breaker_spaces) != 2:
            return "the feed breaker does not reach every leg of the panel"
        whole = feed.kind in ("interlock_inlet", "transfer_panel", "automatic", "hybrid")
        if whole and source.output == "120" and link is None:
            return f"{source.name} gives 120 V where the house takes 120/240 V"
        if feed.kind in BREAKER_KINDS and feed.kind == "half_leg" and not feed.breaker_spaces:
            return "which spaces its breaker takes is not said, so its leg is not known"
        return ""
