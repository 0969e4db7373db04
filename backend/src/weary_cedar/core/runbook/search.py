"""A search for a cause: looks, each of which leads by what is seen or read to another one, or to an end."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.burner import WHOLE_OHM
from weary_cedar.core.runbook.sheet import Answer, End, Expected, Sheet, Step

ELECTRICIAN = "Leave it off; a licensed electrician looks before anything is turned on again"
#: Across a leg, or one conductor of a 230 V house: least, and most, V. 120 V ± 8 % under load, 230 V ± 10 %.
SOUND_V = {True: (110.0, 126.0), False: (207.0, 253.0)}
#: Volts of neutral to ground above which they are not tied, V. Common practice.
TIED_V = 3.0
#: Under this a leg counts as dead, V. Common practice.
DEAD_LEG_V = 60.0


@dataclass(frozen=True)
class Look:
    """One thing to look at or to read, and where each answer leads: to a look by its name, or to an end."""

    action: str
    where: str
    see: str
    #: By what is seen; of a reading, by `Span`.
    leads: Mapping["str | Span", "str | End"]
    reading: Expected | None = None
    why: str = ""
    wait_s: float = 0.0


@dataclass(frozen=True)
class Span:
    """A reading up to a value, in words; the first begins at nothing, the last has no end."""

    words: str
    below: float | None = field(default=None)


def search(key: str, title: str, looks: Mapping[str, Look], notes: Sequence[str] = ()) -> Sheet:
    """A search as a sheet.

    Args:
        key: of the sheet, behind `find-out/`.
        title: what is seen, as people say it.
        looks: by name, the first of them first; each leads only to later ones.
        notes: what is said before.

    Returns:
        The sheet: its steps are numbered in the order of the looks.

    Raises:
        KeyError: a look leads to one that there is not.
    """
    numbers = {name: number for number, name in enumerate(looks, 1)}
    steps = [
        Step(
            action=look.action, where=look.where, see=look.see, why=look.why, wait_s=look.wait_s,
            if_not="None of these: stop here, and go to “Something is wrong”",
            readings=[look.reading] if look.reading else [], answers=_answers(look, numbers),
        )
        for look in looks.values()
    ]  # fmt: skip
    return Sheet(key=f"find-out/{key}", kind="find_out", title=title, notes=list(notes), steps=steps)


def _answers(look: Look, numbers: Mapping[str, int]) -> list[Answer]:
    found, low = [], None
    for when, target in look.leads.items():
        words, high = (when.words, when.below) if isinstance(when, Span) else (when, None)
        answer = Answer(when=words, low=low, high=high)
        if isinstance(target, End):
            found.append(answer.model_copy(update={"end": target}))
        else:
            found.append(answer.model_copy(update={"to": numbers[target]}))
        low = high if isinstance(when, Span) else None
    return found


def volts(plan: Plan, where: str, if_low: str = "", if_high: str = "") -> Expected:
    """A reading of one leg, or of line to neutral."""
    low, high = SOUND_V[plan.site.split_phase]
    return Expected(where=where, low=low, high=high, unit="V", if_low=if_low, if_high=if_high)


def ohms(where: str) -> Expected:
    """A reading of a conductor from end to end."""
    return Expected(where=where, low=0, high=WHOLE_OHM, unit="ohm", if_high="broken")
