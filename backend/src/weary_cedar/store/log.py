"""The repository of the log: sessions of plans, and rows that are added only."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import uuid4

from sqlalchemy import Select, func, select

from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.log.session import Session, SessionRow, read_session
from weary_cedar.store.models import LogRow, LogSession, PlanRow
from weary_cedar.store.sessions import Sessions, plan_row

#: Rows that one look at a session shows.
SHOWN_ROWS = 200
#: Of these the last one of each part says how it stands; of everything else every row counts.
LATEST = (
    "charge", "in_w", "out_w", "sun_w", "leg_a_w", "leg_b_w", "wh", "volts", "hertz", "amps", "shown_h",
    "fuel_l", "temperature_c",
)  # fmt: skip


@dataclass(frozen=True)
class KeptSession:
    """A session as it is kept: id, revision and document of its plan, rows, and how many there are."""

    id: str
    plan_id: str
    revision: int
    plan_document: str
    session: Session
    rows_total: int


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

    def newest(self) -> list[tuple[str, str, datetime | None]]:
        """The newest session of each plan that is there: both ids, and when its last row came to be known."""
        with self._sessions.reading() as database:
            last = (
                select(func.max(LogRow.kept_at)).where(LogRow.session_id == LogSession.id).scalar_subquery()
            )
            there = select(PlanRow.id).where(PlanRow.deleted_at.is_(None))
            asked = select(LogSession.plan_id, LogSession.id, last).where(LogSession.plan_id.in_(there))
            asked = asked.order_by(LogSession.created_at)
            found = {plan_id: (plan_id, key, kept) for plan_id, key, kept in database.execute(asked)}
        return [
            (plan_id, key, None if kept is None else kept.replace(tzinfo=UTC))
            for plan_id, key, kept in found.values()
        ]

    def get(self, plan_id: str, session_id: str, most: int | None = None) -> KeptSession:
        """A session with its rows, in the order in which they came.

        Args:
            plan_id: the plan that it is of.
            session_id: which.
            most: at most so many rows, the newest; all, if absent.

        Raises:
            NotFound: no such session of that plan.
        """
        asked = select(LogRow.document).where(LogRow.session_id == session_id)
        if most is None:
            return self._kept(plan_id, session_id, asked.order_by(LogRow.id))
        newest = select(LogRow.id).where(LogRow.session_id == session_id)
        newest = newest.order_by(LogRow.id.desc()).limit(most)
        return self._kept(plan_id, session_id, asked.where(LogRow.id.in_(newest)).order_by(LogRow.id))

    def as_it_stands(self, plan_id: str, session_id: str) -> KeptSession:
        """A session with those of its rows that say how it stands: what was done, and what was read last.

        Rows that another one corrects are not among them. What it costs hangs little on how many there are.
        """
        mine = LogRow.session_id == session_id
        gone = select(LogRow.corrects).where(mine, LogRow.corrects != "")
        standing = (
            select(
                LogRow.id,
                LogRow.what,
                func.row_number()
                .over(
                    partition_by=(LogRow.what, LogRow.part, LogRow.pack),
                    order_by=(LogRow.at.desc(), LogRow.id.desc()),
                )
                .label("place"),
            )
            .where(mine, LogRow.row_id.not_in(gone))
            .subquery()
        )
        told = select(standing.c.id).where(standing.c.what.not_in(LATEST) | (standing.c.place == 1))
        asked = select(LogRow.document).where(LogRow.id.in_(told)).order_by(LogRow.id)
        return self._kept(plan_id, session_id, asked)

    def _kept(self, plan_id: str, session_id: str, asked: Select[str]) -> KeptSession:
        with self._sessions.reading() as database:
            kept = database.get(LogSession, session_id)
            if kept is None or kept.plan_id != plan_id:
                problem = Problem("/session_id", shown(session_id), "a session of this plan")
                raise NotFound(str(problem), (problem,))
            rows = tuple(SessionRow.model_validate_json(document) for (document,) in database.execute(asked))
            counted = select(func.count()).where(LogRow.session_id == session_id)
            total = database.execute(counted).scalar_one()
            bare = read_session(kept.document.encode()).with_rows(rows)
            return KeptSession(kept.id, kept.plan_id, kept.revision, kept.plan_document, bare, total)

    def has(self, session_id: str, row_id: str) -> bool:
        """Whether a session has a row."""
        with self._sessions.reading() as database:
            asked = select(LogRow.id).where(LogRow.session_id == session_id, LogRow.row_id == row_id)
            return database.execute(asked).first() is not None

    def add(self, plan_id: str, session_id: str, rows: Sequence[SessionRow]) -> int:
        """Add rows that are not there yet; returns how many were new. It costs the same at any length.

        Raises:
            NotFound: no such session of that plan.
        """
        self.get(plan_id, session_id, most=0)
        with self._sessions.writing() as database:
            asked = select(LogRow.row_id).where(
                LogRow.session_id == session_id, LogRow.row_id.in_([row.id for row in rows])
            )
            known = {key for (key,) in database.execute(asked)}
            new = {row.id: row for row in rows if row.id not in known}
            database.add_all(
                LogRow(
                    session_id=session_id, row_id=row.id, at=row.at.isoformat(), kind=row.kind, what=row.what,
                    part=row.part, pack=row.pack, corrects=row.corrects, document=row.model_dump_json(),
                )
                for row in new.values()
            )  # fmt: skip
        return len(new)
