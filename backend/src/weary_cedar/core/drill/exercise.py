"""Exercises of a plan: made from its sheets, so that there is one set of rules."""

from collections.abc import Sequence
from typing import Final, Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import Sheet, Step

#: How it is played: handles are moved; what follows from what is seen, or comes first, is chosen.
Form = Literal["order", "search", "first"]

#: Kinds of exercises with their titles; which sheet each is made from, where it is one of acts.
ORDERS: Final[dict[str, tuple[str, str]]] = {
    "change-over": ("Change over at night", "change_over"),
    "open-neutral": ("An open neutral that shows only under load", "change_over"),
    "return": ("Back to the utility", "return"),
    "half-back": ("The utility comes back by half", "return"),
    "recover": ("Overload, and back on", "recover"),
    "swap": ("Swap to the engine, or back", "swap"),
    "charge": ("Charge from another source", "charge"),
    "end-charge": ("End a charge", "end_charge"),
    "between-cuts": ("Rolling cuts: an hour of utility", "between_cuts"),
    "make-safe": ("Something is wrong: make it safe", "make_safe"),
}
SEARCHES: Final[dict[str, str]] = {
    "uneven": "Bright on one leg, dim on the other",
    "dead-leg": "Nothing on one leg, and a load of both hums",
    "start-trips": "It trips when a motor starts",
    "went-off": "The output went off in the night",
    "open-ground": "The tester shows “open ground”",
    "does-not-hold": "The ground-fault device does not hold",
    "charging-stops": "Charging stops: a chain, an engine, the sun",
    "locks-out": "A boiler or furnace runs a minute and locks out",
    "no-flame": "No flame",
}
FIRSTS: Final = "first"
#: Exercises in which a reading is not as it should be, and what then has to be off.
SURPRISED: Final = ("open-neutral", "half-back")
#: What has to be read before one goes on, by its unit; watts may be.
MUST: Final = ("V", "Hz")
#: At the head of every exercise.
CAUTION: Final = (
    "A drill is not the real panel: nothing here is switched. At the real one local code, the instructions "
    "of "
    "panel and source, and a licensed electrician come first."
)


class Exercise(BaseModel):
    """One exercise on the house of a plan."""

    model_config = ConfigDict(frozen=True)

    key: str
    kind: str
    form: Form
    title: str
    tells: str
    night: bool = False
    sheet: str
    #: Of a first-things exercise: which of its sheet’s.
    number: int = 0


class Listing(BaseModel):
    """Exercises that fit a plan, and by kind why others do not."""

    model_config = ConfigDict(frozen=True)

    exercises: tuple[Exercise, ...]
    not_here: dict[str, str]


def exercises_of(plan: Plan, sheets: Sequence[Sheet]) -> Listing:
    """Exercises of a plan.

    Args:
        plan: the plan.
        sheets: all of its sheets; one that is held back makes no exercise.

    Returns:
        One for each sheet of a kind that can be practised, two more where a reading surprises, one for each
        thing that comes first of all; and by kind why there is none.
    """
    found: list[Exercise] = []
    held: set[str] = {sheet.kind for sheet in sheets if sheet.held_by}
    usable = [sheet for sheet in sheets if sheet.steps and not sheet.held_by]
    for kind, (title, of) in ORDERS.items():
        own = [sheet for sheet in usable if sheet.kind == of and (kind not in SURPRISED or _legs_read(sheet))]
        found += [_order(kind, title, sheet) for sheet in own]
    for kind, title in SEARCHES.items():
        own = [sheet for sheet in usable if sheet.key.startswith(f"find-out/{kind}/")]
        found += [
            Exercise(
                key=f"{kind}/{sheet.key.removeprefix(f'find-out/{kind}/')}", kind=kind, form="search",
                title=sheet.title, tells=f"{title}. What is it?", sheet=sheet.key,
            )
            for sheet in own
        ]  # fmt: skip
    found += list(_firsts(usable))
    kinds = {exercise.kind for exercise in found}
    missing = {kind: _why(plan, kind, held) for kind in (*ORDERS, *SEARCHES, FIRSTS) if kind not in kinds}
    return Listing(exercises=tuple(found), not_here=missing)


def _order(kind: str, title: str, sheet: Sheet) -> Exercise:
    own = sheet.key.partition("/")[2]
    tells = {
        "change-over": "It is night, and the power is out. Bring the house onto the source.",
        "return": "The utility has been back and steady for ten minutes. Go back to it.",
        "recover": "The output has tripped; what ran then is still switched on. Bring the house back.",
        "make-safe": "Something is not right, and nobody is in danger yet. Make it safe.",
        "open-neutral": "The power is out. Change over, and mind what you read.",
        "half-back": "The street has power again. Go back to it, and mind what you read.",
    }.get(kind, f"{sheet.title}.")
    return Exercise(
        key=f"{kind}/{own}", kind=kind, form="order", title=f"{title}: {sheet.title.partition(': ')[2]}",
        tells=tells, night=kind in ("change-over", "open-neutral", "make-safe"), sheet=sheet.key,
    )  # fmt: skip


def _firsts(sheets: Sequence[Sheet]) -> list[Exercise]:
    seen: dict[str, Exercise] = {}
    for sheet in sheets:
        for number, first in enumerate(sheet.first):
            key = f"{FIRSTS}/{number + 1}/{sheet.key.partition('/')[2]}"
            made = Exercise(
                key=key, kind=FIRSTS, form="first", title=first.when, tells=f"{first.when}. What do you "
                                                                            "do, in order?",
                sheet=sheet.key, number=number,
            )  # fmt: skip
            seen.setdefault(first.when, made)
    return list(seen.values())


def _why(plan: Plan, kind: str, held: set[str]) -> str:
    """Why there is no exercise of a kind."""
    of = ORDERS.get(kind, ("", ""))[1]
    if of in held:
        return "its sheet is held back by a stop: mend that first"
    if kind in ("open-neutral", "half-back", "uneven", "dead-leg") and not plan.site.split_phase:
        return "the house has no two legs"
    return {
        "swap": "no two sources share a feed", "charge": "no lead charges a station",
        "end-charge": "no lead charges a station", "between-cuts": "no cuts with the utility in between",
        "charging-stops": "nothing charges a station", "locks-out": "nothing that burns is fed",
        "no-flame": "nothing that burns is fed",
    }.get(kind, "no lead feeds the house in that way")  # fmt: skip


def reading_steps(sheet: Sheet, *, must: bool = False) -> list[int]:
    """Places of steps at which something is read; or at which volts or hertz have to be read."""
    return [
        index
        for index, step in enumerate(sheet.steps)
        if any(not reading.optional and (not must or reading.unit in MUST) for reading in step.readings)
    ]


def _legs_read(sheet: Sheet) -> bool:
    return surprise_step(sheet) is not None


def surprise_step(sheet: Sheet) -> int | None:
    """The step at which both legs are read with something on them: there an open neutral shows."""
    both = [index for index, step in enumerate(sheet.steps) if _reads_both(step)]
    if not both:
        return None
    return both[0] if sheet.kind == "return" else both[min(2, len(both) - 1)]


def _reads_both(step: Step) -> bool:
    wheres = " ".join(reading.where for reading in step.readings if reading.unit == "V")
    return "leg A" in wheres and "leg B" in wheres


def sheet_of(exercise: Exercise, sheets: Sequence[Sheet]) -> Sheet:
    """The sheet that an exercise is made from."""
    return next(sheet for sheet in sheets if sheet.key == exercise.sheet)
