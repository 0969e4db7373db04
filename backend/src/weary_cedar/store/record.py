"""The repository of what was done at the panel: rows are added, and the same row twice counts once."""

from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import select

from weary_cedar.core.record import RecordEntry
from weary_cedar.store.models import RecordRow
from weary_cedar.store.sessions import Sessions, plan_row


@dataclass(frozen=True)
class KeptRow:
    """A row, and when it came to be known here."""

    row: RecordEntry
    entered_at: datetime


class RecordStore:
    """Rows of plans in a database; safe to use from several threads."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def take(self, plan_id: str, rows: tuple[RecordEntry, ...]) -> int:
        """Add those rows that are not there yet; how many they were.

        Raises:
            NotFound: there is no such plan.
        """
        with self._sessions.writing() as session:
            plan_row(session, plan_id)
            known = set(session.scalars(select(RecordRow.row_id).where(RecordRow.plan_id == plan_id)))
            new = {row.id: row for row in rows if row.id not in known}
            session.add_all(
                RecordRow(
                    plan_id=plan_id, row_id=key, at=row.at.astimezone(UTC), document=row.model_dump_json()
                )
                for key, row in new.items()
            )
            return len(new)

    def rows(self, plan_id: str) -> list[KeptRow]:
        """All rows of a plan by the time of the act.

        Raises:
            NotFound: there is no such plan.
        """
        with self._sessions.reading() as session:
            plan_row(session, plan_id)
            found = session.scalars(
                select(RecordRow)
                .where(RecordRow.plan_id == plan_id)
                .order_by(RecordRow.at, RecordRow.entered_at, RecordRow.id)
            )
            return [
                KeptRow(RecordEntry.model_validate_json(row.document), row.entered_at.replace(tzinfo=UTC))
                for row in found
            ]
