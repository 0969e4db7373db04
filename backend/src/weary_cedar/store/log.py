"""The repository of the log: sessions of plans, and rows that are added only."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import uuid4

from sqlalchemy import select

from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.log.session import Session, SessionRow, read_session
from weary_cedar.store.models import LogRow, LogSession
from weary_cedar.store.sessions import Sessions, plan_row


@dataclass(frozen=True)
class KeptSession:
    """A session as it is kept: its id, the revision and document of its plan, and all its rows."""

    id: str
    plan_id: str
    revision: int
    plan_document: str
    session: Session


class LogStore:
    """Sessions in a database; safe to use from several threads."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def begin(self, plan_id: str, revision: int, plan_document: str, session: Session) -> str:
        """Keep a new session; returns its id.

        Raises:
            NotFound: there is no such plan.
        """
        key = uuid4().hex[:16]
        bare = session.model_copy(update={"rows": ()}).model_dump_json()
        with self._sessions.writing() as database:
            plan_row(database, plan_id)
            database.add(
                LogSession(
                    id=key, plan_id=plan_id, revision=revision, plan_document=plan_document, document=bare
                )
            )
        return key

    def ids(self, plan_id: str) -> list[tuple[str, Session]]:
        """Sessions of a plan without their rows, the newest first."""
        with self._sessions.reading() as database:
            plan_row(database, plan_id)
            asked = (
                select(LogSession.id, LogSession.document)
                .where(LogSession.plan_id == plan_id)
                .order_by(LogSession.created_at.desc(), LogSession.id)
            )
            return [(row.id, read_session(row.document.encode())) for row in database.execute(asked)]

    def get(self, plan_id: str, session_id: str) -> KeptSession:
        """A session with its rows, in the order in which they came.

        Raises:
            NotFound: no such session of that plan.
        """
        with self._sessions.reading() as database:
            kept = database.get(LogSession, session_id)
            if kept is None or kept.plan_id != plan_id:
                problem = Problem("/session_id", shown(session_id), "a session of this plan")
                raise NotFound(str(problem), (problem,))
            asked = select(LogRow.document).where(LogRow.session_id == session_id).order_by(LogRow.id)
            rows = tuple(SessionRow.model_validate_json(document) for (document,) in database.execute(asked))
            bare = read_session(kept.document.encode())
            return KeptSession(kept.id, kept.plan_id, kept.revision, kept.plan_document, bare.with_rows(rows))

    def add(self, plan_id: str, session_id: str, rows: Sequence[SessionRow]) -> int:
        """Add rows that are not there yet; returns how many were new."""
        known = {row.id for row in self.get(plan_id, session_id).session.rows}
        new = [row for row in rows if row.id not in known]
        with self._sessions.writing() as database:
            database.add_all(
                LogRow(session_id=session_id, row_id=row.id, document=row.model_dump_json()) for row in new
            )
        return len(new)
