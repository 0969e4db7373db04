"""The repository of what was done at the panel: rows are added, and the same row twice counts once."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import Select, select

from weary_cedar.store.models import RecordRow
from weary_cedar.store.sessions import Sessions, plan_row

#: Ids that one question asks for.
AT_ONCE = 500


@dataclass(frozen=True)
class RowText:
    """A row as it is kept: its id, the time of the act, and its JSON."""

    id: str
    at: datetime
    document: str


@dataclass(frozen=True)
class KeptRow:
    """The JSON of a row, and when it came to be known here."""

    document: str
    entered_at: datetime


@dataclass(frozen=True)
class Taken:
    """How many rows are new, and by id the JSON of those that are kept otherwise than they were sent."""

    new: int
    other: dict[str, str]


class RecordStore:
    """Rows of plans in a database; safe to use from several threads."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def take(self, plan_id: str, rows: Sequence[RowText]) -> Taken:
        """Add those rows that are not there yet. What it costs hangs on these alone.

        Raises:
            NotFound: there is no such plan.
        """
        with self._sessions.writing() as session:
            plan_row(session, plan_id)
            known: dict[str, str] = {}
            for ids in _in_parts([row.id for row in rows]):
                asked = select(RecordRow.row_id, RecordRow.document).where(
                    RecordRow.plan_id == plan_id, RecordRow.row_id.in_(ids)
                )
                known.update((row.row_id, row.document) for row in session.execute(asked))
            new: dict[str, RowText] = {}
            for row in rows:
                if row.id not in known:
                    new.setdefault(row.id, row)
            kept = known | {key: row.document for key, row in new.items()}
            session.add_all(
                RecordRow(plan_id=plan_id, row_id=key, at=row.at.astimezone(UTC), document=row.document)
                for key, row in new.items()
            )
            other = {row.id: kept[row.id] for row in rows if kept[row.id] != row.document}
            return Taken(len(new), other)

    def rows(self, plan_id: str, ids: Sequence[str] | None = None) -> list[KeptRow]:
        """Rows of a plan by the time of the act: all of them, or those with some ids.

        Raises:
            NotFound: there is no such plan.
        """
        with self._sessions.reading() as session:
            plan_row(session, plan_id)
            found = [row for asked in _asked(plan_id, ids) for row in session.execute(asked)]
        found.sort(key=lambda row: (row[0], row[1], row[2]))
        return [KeptRow(document, entered_at.replace(tzinfo=UTC)) for _, entered_at, _, document in found]


def _asked(plan_id: str, ids: Sequence[str] | None) -> Iterator[Select[datetime, datetime, int, str]]:
    """Questions for rows, as plain columns."""
    columns = select(RecordRow.at, RecordRow.entered_at, RecordRow.id, RecordRow.document)
    asked = columns.where(RecordRow.plan_id == plan_id)
    if ids is None:
        yield asked
        return
    for some in _in_parts(ids):
        yield asked.where(RecordRow.row_id.in_(some))


def _in_parts(ids: Sequence[str]) -> list[Sequence[str]]:
    return [ids[first : first + AT_ONCE] for first in range(0, len(ids), AT_ONCE)]
