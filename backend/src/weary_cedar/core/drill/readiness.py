"""Whether people are ready: what was passed, when it is due again, and one’s weakest points."""

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Final

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.drill.exercise import Exercise

#: A pass counts for so long.
COUNTS: Final = timedelta(days=90)
#: After a pass it comes again in twice as many days as the last time; after a failure in one.
FIRST_DAYS, MOST_DAYS = 1, 64
WEAKEST: Final = 3


class Practised(BaseModel):
    """One time that an exercise was played."""

    model_config = ConfigDict(frozen=True)

    exercise: str
    on: date
    passed: bool
    hints: int = 0
    person: str = ""
    #: What went wrong first, in words.
    wrong: str = ""


class Due(BaseModel):
    """An exercise as it stands: whether it counts as passed, and when it is due again."""

    model_config = ConfigDict(frozen=True)

    exercise: Exercise
    ready: bool
    last: date | None = None
    due: date | None = None
    failed: int = 0


class Readiness(BaseModel):
    """How ready people are for the outage of a plan."""

    model_config = ConfigDict(frozen=True)

    ready: bool
    sentence: str
    #: What is due first, the weakest first.
    exercises: tuple[Due, ...]
    weakest: tuple[str, ...] = ()


def readiness(exercises: Sequence[Exercise], rows: Sequence[Practised], today: date) -> Readiness:
    """Whether each exercise that fits was passed within 90 days without hints, and what comes next.

    Args:
        exercises: those that fit the plan.
        rows: what was practised, in any order.
        today: by the clock of the site.

    Returns:
        Exercises as they are due: never passed and failed most first. Days double after a pass (1, 2, 4, …
        64), and start again after a failure.

    Source: repetition at growing distances; common practice.
    """
    keys = {exercise.key for exercise in exercises}
    rows = [row for row in rows if row.exercise in keys]
    found = [
        _due(exercise, [row for row in rows if row.exercise == exercise.key], today) for exercise in exercises
    ]
    found.sort(key=lambda item: (item.ready, item.due or date.min, -item.failed))
    open_ = [item for item in found if not item.ready]
    if not exercises:
        sentence = "There is nothing to practise yet: no sheet of the plan can be gone through."
    elif not open_:
        sentence = f"Ready: all {len(found)} exercises were passed within {COUNTS.days} days."
    elif not rows:
        sentence = f"Never practised: {len(found)} exercises fit this plan."
    else:
        sentence = (
            f"{len(found) - len(open_)} of {len(found)} exercises were passed within {COUNTS.days} days."
        )
    return Readiness(
        ready=bool(exercises) and not open_,
        sentence=sentence,
        exercises=tuple(found),
        weakest=tuple(_weakest(rows)),
    )


def _due(exercise: Exercise, rows: Sequence[Practised], today: date) -> Due:
    rows = sorted(rows, key=lambda row: row.on)
    days, due = 0, None
    for row in rows:
        days = min(MOST_DAYS, max(FIRST_DAYS, 2 * days)) if row.passed else 0
        due = row.on + timedelta(days=max(FIRST_DAYS, days))
    passed = [row.on for row in rows if row.passed and not row.hints]
    ready = bool(passed) and today - passed[-1] <= COUNTS and (not rows or rows[-1].passed)
    return Due(
        exercise=exercise, ready=ready, last=rows[-1].on if rows else None, due=due,
        failed=sum(not row.passed for row in rows),
    )  # fmt: skip


def _weakest(rows: Sequence[Practised]) -> list[str]:
    """What went wrong most often, the last time the later the weightier."""
    counted: dict[str, tuple[int, date]] = {}
    for row in rows:
        if row.wrong and not row.passed:
            count, last = counted.get(row.wrong, (0, date.min))
            counted[row.wrong] = (count + 1, max(last, row.on))
    ordered = sorted(counted.items(), key=lambda item: (-item[1][0], -item[1][1].toordinal()))
    return [words for words, _ in ordered[:WEAKEST]]
