"""Which revisions are kept as a history grows: the folder does not grow for ever."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

#: Every one of the last so many is kept.
KEPT_LAST = 500
#: Every one of so many days is kept, then the last one of each day.
KEPT_DAYS = 30


@dataclass(frozen=True)
class Line:
    """A revision without its document."""

    number: int
    undo_to: int | None
    redo_to: int | None
    saved_at: datetime


def kept_revisions(lines: Sequence[Line], head: int, now: datetime) -> set[int]:
    """Numbers of the revisions to keep.

    Args:
        lines: all that there are, by rising number.
        head: the current one.
        now: the present moment.

    Returns:
        The last 500, those of the last 30 days, the last of each day before, the current one, and
        the next 500 that undo and redo lead to from there.
    """
    kept = {line.number for line in lines[-KEPT_LAST:]} | {head}
    kept |= {line.number for line in lines if line.saved_at >= now - timedelta(days=KEPT_DAYS)}
    kept |= set({line.saved_at.date(): line.number for line in lines}.values())
    by_number = {line.number: line for line in lines}
    for way in ("undo_to", "redo_to"):
        number: int | None = head
        for _ in range(KEPT_LAST):
            line = by_number.get(number) if number is not None else None
            if line is None:
                break
            kept.add(line.number)
            number = getattr(line, way)
    return kept & by_number.keys()


def relinked(lines: Iterable[Line], kept: set[int]) -> dict[int, tuple[int | None, int | None]]:
    """Where undo and redo of kept revisions lead once the others are gone.

    Args:
        lines: all that there are.
        kept: numbers of those that stay.

    Returns:
        Number → (undo_to, redo_to) for those that change: undo leads on to the next one that is
        kept, redo to nothing where its revision is gone.
    """
    by_number = {line.number: line for line in lines}
    found = {}
    for number in kept:
        line = by_number[number]
        undo_to = line.undo_to
        while undo_to is not None and undo_to not in kept:
            undo_to = by_number[undo_to].undo_to if undo_to in by_number else None
        redo_to = line.redo_to if line.redo_to in kept else None
        if (undo_to, redo_to) != (line.undo_to, line.redo_to):
            found[number] = (undo_to, redo_to)
    return found
