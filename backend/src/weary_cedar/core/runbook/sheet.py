"""A sheet of steps: each one action, where, what should be seen, what it means if not, and why."""

from collections.abc import Iterable, Sequence
from hashlib import blake2b
from typing import Literal

from pydantic import BaseModel, computed_field

from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.steps import Move

#: What a hand takes from one act to the next, s.
HAND_S = 5.0

SheetKind = Literal[
    "before",
    "change_over",
    "swap",
    "charge",
    "between_cuts",
    "sun",
    "night",
    "ration",
    "return",
    "recover",
    "make_safe",
]


class Other(BaseModel):
    """What should be off just then, and what it would add to a reading."""

    name: str
    adds: float


class Expected(BaseModel):
    """What a meter or a display should show: between which values, in which unit, and where."""

    where: str
    low: float
    high: float
    unit: str
    #: What it shows in the run, where that was tried: between the two.
    usual: float | None = None
    #: What a reading means that is too low, or too high with nothing else that could be on.
    if_low: str = "stop: output off, and find out why before going on"
    if_high: str = "stop: output off, and find out why before going on"
    #: What else could be on, where the reading is too high.
    others: list[Other] = []


class Step(BaseModel):
    """One action at one place."""

    action: str
    where: str
    see: str
    if_not: str
    why: str = ""
    acts: list[Move] = []
    wait_s: float = 0.0
    readings: list[Expected] = []


class First(BaseModel):
    """What comes before all steps, where it is so: what is done then, and that it ends there."""

    when: str
    do: list[str]


class Sheet(BaseModel):
    """An order of steps, from how the house stands before."""

    key: str
    kind: SheetKind
    title: str
    #: Why there is none, each finding in a line; the steps are empty then.
    held_by: list[str] = []
    #: Circuits that find no room and stay off.
    stay_off: list[str] = []
    #: Circuits that are marked off, and stay so.
    leave_off: list[str] = []
    #: What the plan asks for and the sheet cannot follow, or leaves out, and why.
    notes: list[str] = []
    begins: dict[str, str] = {}
    #: Asked before the first step: where one of them is so, it is done and nothing after it.
    first: list[First] = []
    steps: list[Step] = []
    #: What comes next, and what is watched until when.
    next: list[str] = []
    #: Stands at the head of the sheet wherever it is shown.
    cautions: tuple[str, ...] = ()

    @computed_field  # type: ignore[prop-decorator]
    @property
    def fingerprint(self) -> str:
        """Of what its steps ask for: sheets of one fingerprint are gone through alike."""
        acts = [[act.what + act.to for act in step.acts] for step in self.steps]
        read = [[(item.where, item.low, item.high) for item in step.readings] for step in self.steps]
        steps = [(step.action, step.where, step.see) for step in self.steps], acts, read
        told = repr((self.key, [first.when for first in self.first], steps))
        return blake2b(told.encode(), digest_size=6).hexdigest()

    @property
    def acts(self) -> list[Move]:
        """All acts in their order, with the waits between them."""
        return [act for step in self.steps for act in step.acts]


#: At the head of every sheet.
CAUTIONS = (
    "Local code, and the instructions of panel, switch and source, come first; permanent wiring is a "
    "licensed electrician’s work. This is no approval.",
    "Dry hands, one hand at a time, a light. Never work alone; anything that smells, hums or is hot: stop.",
    "Engines outdoors only, far from openings, with a carbon-monoxide alarm in the house.",
)


def told(sheet: Sheet) -> list[str]:
    """A sheet in lines of text."""
    lines = [f"{sheet.title} ({sheet.key})"]
    lines += [f"  Held back, do not energise: {words}" for words in sheet.held_by]
    lines += [f"  Caution: {words}" for words in sheet.cautions]
    lines += [f"  Stays off, no room for it: {label}" for label in sheet.stay_off]
    lines += [f"  Leave off: {words}" for words in sheet.leave_off]
    lines += [f"  Note: {words}" for words in sheet.notes]
    for first in sheet.first:
        lines.append(f"  First: {first.when}")
        lines += [f"     - {words}" for words in first.do]
        lines.append("     Nothing after that.")
    for number, step in enumerate(sheet.steps, 1):
        lines.append(f"{number:3}. {step.action}, {step.where}{told_wait(step)}")
        lines.append(f"     You should see: {step.see}")
        lines += [f"     {told_reading(reading)}" for reading in step.readings]
        lines.append(f"     If not: {step.if_not}")
    lines += [f"  Next: {words}" for words in sheet.next]
    return lines


def told_wait(step: Step) -> str:
    """How long a step has to wait, in words; empty where it has not."""
    return f" (after {step.wait_s / 60:.0f} min)" if step.wait_s >= 60 else ""


def told_reading(reading: Expected) -> str:
    """What a meter should show, in words."""
    told = f"{reading.where}: {reading.low:,.0f} to {reading.high:,.0f} {reading.unit}"
    return told if reading.usual is None else f"{told}, in the run {reading.usual:,.0f}"


class Order:
    """Steps as they are written down, with the house beside them: what stands right already is no act."""

    def __init__(self, plan: Plan, begins: dict[str, str] | None = None) -> None:
        house = House(plan, begins)
        self.plan = plan
        self.begins = begins or {}
        self.at = house.at
        self.elements = house.elements
        self.steps: list[Step] = []
        #: To be waited before the next act, s.
        self._wait_s = 0.0

    def name(self, key: str) -> str:
        """An element by its name."""
        return self.elements[key].name

    def step(
        self,
        action: str,
        where: str,
        see: str,
        if_not: str,
        *,
        why: str = "",
        wait_s: float = 0.0,
        readings: Sequence[Expected] = (),
    ) -> None:
        """A step to look, to wait or to measure: without an act."""
        self._wait_s += wait_s
        self._write([], action, where, see, if_not, why, wait_s, readings)

    def put(
        self,
        moves: Iterable[tuple[str, str]],
        action: str,
        where: str,
        see: str,
        if_not: str,
        *,
        why: str = "",
        wait_s: float = 0.0,
        readings: Sequence[Expected] = (),
    ) -> None:
        """A step that moves elements which do not stand so yet, after a wait; none if all of them do."""
        acts = [Move(what=what, to=to) for what, to in moves if self.at.get(what, to) != to]
        if not acts:
            return
        self.at.update({act.what: act.to for act in acts})
        acts[0] = acts[0].model_copy(update={"wait_s": max(HAND_S, self._wait_s + wait_s)})
        self._wait_s = 0.0
        self._write(acts, action, where, see, if_not, why, wait_s, readings)

    def _write(
        self,
        acts: list[Move],
        action: str,
        where: str,
        see: str,
        if_not: str,
        why: str,
        wait_s: float,
        readings: Sequence[Expected],
    ) -> None:
        written = Step(
            action=action, where=where, see=see, if_not=if_not, why=why, acts=acts, wait_s=wait_s,
            readings=list(readings),
        )  # fmt: skip
        self.steps.append(written)
