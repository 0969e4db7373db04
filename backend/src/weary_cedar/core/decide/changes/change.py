"""One change of a plan that may help: in words, as a merge patch, with what it asks of the household."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Final

from weary_cedar.core.network import Network, network_of
from weary_cedar.core.outage import RunResult
from weary_cedar.core.outage.result import EventKind
from weary_cedar.core.plan import Load, Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch

#: Too much at once, against too little in the cells.
AT_ONCE: Final[tuple[EventKind, ...]] = ("trip", "over_limit", "shed", "breaker_trip", "input_trip", "dip")
#: Nobody is asked to go without these.
NEVER: Final = ("life_support", "sleep_apnoea", "communication", "heat")


@dataclass(frozen=True)
class Change:
    """A change, and what it asks: minutes of someone's time a day, litres a day, what goes without."""

    words: str
    patch: Mapping[str, Any]
    minutes_day: float = 0.0
    litres_day: float = 0.0
    without: str = ""
    #: How much it is missed: 1 for what is marked room, 4 for what is marked keep.
    missed: float = 0.0
    #: It needs something that the household does not own.
    gear: bool = False
    kind: str = ""

    @property
    def trouble(self) -> float:
        """What it asks as one number, by which changes that gain alike are put in order.

        Five minutes a day, a litre a day and a thing marked room that goes without count alike; gear that is
        to be bought comes after everything else. Common practice, no source.
        """
        asked = 0.2 + self.minutes_day / 5.0 + self.litres_day + self.missed
        return asked + (100.0 if self.gear else 0.0)


@dataclass(frozen=True)
class Seen:
    """A plan and its run, as those see it who look for changes."""

    plan: Plan
    run: RunResult
    network: Network = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "network", network_of(self.plan))

    def drawn_wh(self, key: str) -> float:
        """What a load got in the run, Wh."""
        share = self.run.loads.get(key)
        return share.served_wh if share else 0.0

    def loads(self, *, mark: str | None = None) -> list[tuple[str, Load]]:
        """Loads that may run, those that took most first; of one mark, if one is named."""
        hangs = self.network.hangs
        found = [
            (key, load)
            for key, load in self.plan.loads.items()
            if hangs[key].branch in self.network.branches and mark in (None, hangs[key].mark)
        ]
        return sorted(found, key=lambda item: (-self.drawn_wh(item[0]), item[0]))

    def circuits(self, mark: str) -> list[str]:
        """Circuits of a mark on which nobody's life, breath, word or warmth hangs, by what they took."""
        energy: dict[str, float] = {}
        spared = set()
        for key, load in self.loads(mark=mark):
            circuit_id = self.network.hangs[key].circuit_id
            if circuit_id is None:
                continue
            if load.role in NEVER or "alarm" in load.name.lower():
                spared.add(circuit_id)
            energy[circuit_id] = energy.get(circuit_id, 0.0) + self.drawn_wh(key)
        kept = [key for key in energy if key not in spared and energy[key] > 0]
        return sorted(kept, key=lambda key: (-energy[key], key))

    def label(self, circuit_id: str) -> str:
        """A circuit by its label."""
        return self.plan.circuits[circuit_id].label

    def happens(self, *kinds: EventKind) -> bool:
        """Whether the run has an event of a kind."""
        return any(event.kind in kinds for event in self.run.events)

    @property
    def rules(self) -> list[dict[str, Any]]:
        """The rules of the strategy as a document has them."""
        return rules_of(self.plan)

    def with_rules(self, *more: Mapping[str, Any]) -> dict[str, Any]:
        """The patch that adds rules at the end."""
        return {"strategy": {"rules": [*self.rules, *more]}}

    def with_rule_changed(self, place: int, **update: Any) -> dict[str, Any]:
        """The patch that changes one rule."""
        rules = self.rules
        rules[place] = {**rules[place], **update}
        return {"strategy": {"rules": rules}}

    def with_part(self, room: str, key: str, **update: Any) -> dict[str, Any]:
        """The patch that changes figures of a part."""
        return {room: {key: update}}


def rules_of(plan: Plan) -> list[dict[str, Any]]:
    """The rules of a strategy as a document has them."""
    found: list[dict[str, Any]] = plan.strategy.model_dump(mode="json", exclude_none=True)["rules"]
    return found


Maker = Callable[[Seen], Iterator[Change]]


def patched(plan: Plan, patch: Mapping[str, Any]) -> Plan:
    """The plan with a merge patch applied, read as any document is.

    Raises:
        InvalidPlan: what comes out is no plan.
    """
    return read_plan(apply_patch(plan.model_dump(mode="json", exclude_none=True), patch))


def names(words: Sequence[str]) -> str:
    """A few names in a row."""
    return ", ".join(words[:-1]) + " and " + words[-1] if len(words) > 1 else words[0]
