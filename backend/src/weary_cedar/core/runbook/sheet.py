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
    "end_charge",
    "between_cuts",
    "sun",
    "night",
    "ration",
    "return",
    "recover",
    "find_out",
    "trial",
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
    #: Read only where there is such a display or meter: nothing is missing where it is left blank.
    optional: bool = False
    #: What a reading means that is too low, or too high with nothing else that could be on.
    if_low: str = "stop: output off, and find out why before going on"
    if_high: str = "stop: output off, and find out why before going on"
    #: What else could be on, where the reading is too high.
    others: list[Other] = []


class End(BaseModel):
    """Where a search ends: at a cause and what to do, or at work that is not for whoever searches."""

    cause: str
    do: str
    #: Stop here: it is an electrician's, or a heating technician's.
    stop: bool = False


class Answer(BaseModel):
    """What may be seen or read at a step of a search, and where that leads: to a later step, or to an end."""

    when: str
    #: Of the step's first reading: from, and up to; none where it is seen, not read.
    low: float | None = None
    high: float | None = None
    #: Number of the step that follows.
    to: int | None = None
    end: End | None = None


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
    #: Of a search: which of these it is picks what follows. Empty elsewhere: the next step follows.
    answers: list[Answer] = []
    #: Head of the list in which it stands with those beside it that are done alike, and its line there.
    list_head: str = ""
    line: str = ""

    def stands_with(self, other: "Step") -> bool:
        """Whether it stands in one list with another: same head, place, sight, and way out."""
        mine, its = [
            (one.list_head, one.where, one.see, one.if_not, [read.where for read in one.readings])
            for one in (self, other)
        ]
        return self.list_head != "" and mine == its


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
        leads = [[answer.model_dump() for answer in step.answers] for step in self.steps]
        steps = [(step.action, step.where, step.see) for step in self.steps], acts, read
        told = repr((self.key, [first.when for first in self.first], steps, *filter(any, [leads])))
        return blake2b(told.encode(), digest_size=6).hexdigest()

    @property
    def acts(self) -> list[Move]:
        """All acts in their order, with the waits between them."""
        return [act for step in self.steps for act in step.acts]

    @property
    def after(self) -> dict[str, str]:
        """How the house stands after it, where that is not as on the utility."""
        return self.begins | {act.what: act.to for act in self.acts}


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
    if sheet.leave_off:
        lines.append(f"  Leave off, marked so: {', '.join(sheet.leave_off)}")
    lines += [f"  Note: {words}" for words in sheet.notes]
    for first in sheet.first:
        lines.append(f"  First: {first.when}")
        lines += [f"     - {words}" for words in first.do]
        lines.append("     Nothing after that.")
    for number, together in folded(sheet.steps):
        lines += _told_list(number, together) if len(together) > 1 else _told_step(number, together[0])
    lines += [f"  Next: {words}" for words in sheet.next]
    return lines


def folded(steps: Sequence[Step]) -> list[tuple[int, list[Step]]]:
    """Steps as they are written out: each with its number, those that stand in one list together."""
    found: list[tuple[int, list[Step]]] = []
    for number, step in enumerate(steps, 1):
        if found and step.stands_with(found[-1][1][0]):
            found[-1][1].append(step)
        else:
            found.append((number, [step]))
    return found


def _told_step(number: int, step: Step) -> list[str]:
    return [
        f"{number:3}. {step.action}, {step.where}{told_wait(step)}",
        f"     You should see: {step.see}",
        *(f"     {told_reading(reading)}" for reading in step.readings),
        *(f"     {told_answer(answer)}" for answer in step.answers),
        *([] if step.answers else [f"     If not: {step.if_not}"]),
    ]


def told_answer(answer: Answer) -> str:
    """Where what is seen or read at a step of a search leads, in words."""
    if answer.end is None:
        return f"{answer.when}: go to {answer.to}"
    stop = "STOP. " if answer.end.stop else ""
    return f"{answer.when}: {stop}{answer.end.cause}. {answer.end.do}"


def _told_list(number: int, together: Sequence[Step]) -> list[str]:
    head, last = together[0], number + len(together) - 1
    places = " | ".join(reading.where for reading in head.readings)
    return [
        f"{number:3}. to {last}. {head.list_head}, {head.where}",
        f"     You should see: {head.see}",
        *([f"     Read: {places}"] if places else []),
        f"     If not: {head.if_not}",
        *(f"{n:3}. {told_line(step)}" for n, step in enumerate(together, number)),
    ]


def told_line(step: Step) -> str:
    """A step as its line of a list: what, after which wait, and what should be read, place by place."""
    bands = " | ".join(told_band(reading) for reading in step.readings)
    return f"{step.line}{told_wait(step)}{': ' * bool(bands)}{bands}"


def told_wait(step: Step) -> str:
    """How long a step has to wait, in words; empty where it has not."""
    return f" (after {step.wait_s / 60:.0f} min)" if step.wait_s >= 60 else ""


def told_reading(reading: Expected) -> str:
    """What a meter should show, in words."""
    return f"{reading.where}: {told_band(reading)}"


def told_band(reading: Expected) -> str:
    """Between what a meter should show, and what it shows in the run, in words."""
    told = f"{reading.low:,.0f} to {reading.high:,.0f} {reading.unit}"
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
        list_head: str = "",
        line: str = "",
    ) -> None:
        """A step that moves elements which do not stand so yet, after a wait; none if all of them do.

        One with `list_head` stands in a list with those beside it, as its `line`.
        """
        acts = [Move(what=what, to=to) for what, to in moves if self.at.get(what, to) != to]
        if not acts:
            return
        self.at.update({act.what: act.to for act in acts})
        acts[0] = acts[0].model_copy(update={"wait_s": max(HAND_S, self._wait_s + wait_s)})
        self._wait_s = 0.0
        self._write(acts, action, where, see, if_not, why, wait_s, readings)
        self.steps[-1] = self.steps[-1].model_copy(update={"list_head": list_head, "line": line})

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
