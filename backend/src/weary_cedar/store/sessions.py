"""Transactions on the database, for every repository alike: readers never wait, writers take turns."""

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

from sqlalchemy import Engine
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from weary_cedar.core.errors import Busy, CannotRead, CannotStore, NotFound, Problem
from weary_cedar.store.database import PATIENCE_S, READS_ONLY
from weary_cedar.store.models import PlanRow

#: An edit waits so long for the edits of the same plan before it, s.
TURN_S = 60.0


class Sessions:
    """Transactions on one database; safe to use from several threads."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._reader = engine.execution_options(**{READS_ONLY: True})
        self._pen = Lock()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A transaction that only reads: it goes on while someone else writes or holds the database."""
        try:
            with Session(self._reader) as session, session.begin():
                yield session
        except DBAPIError as error:
            reason = str(error.orig)
            problem = Problem("/data", reason, "a database that can be read")
            raise CannotRead(f"It could not be read: {reason}.", (problem,)) from None

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A transaction that writes; one at a time, so that only one waits for another program."""
        with turn(self._pen, "another edit is being saved"):
            try:
                with Session(self._engine) as session, session.begin():
                    yield session
            except DBAPIError as error:
                raise _not_saved(str(error.orig)) from None


@contextmanager
def turn(lock: Lock, what: str) -> Iterator[None]:
    """Wait for a lock, but not for ever."""
    if not lock.acquire(timeout=TURN_S):
        problem = Problem("/data", what, "to try again in a moment")
        raise Busy(f"It was not saved: {what}, for {TURN_S:.0f} s now.", (problem,))
    try:
        yield
    finally:
        lock.release()


def _not_saved(reason: str) -> CannotStore | Busy:
    if "locked" in reason or "busy" in reason:
        right = "the other program to let go of it, then the same edit again"
        detail = (
            f"It was not saved: another program has held the database for {PATIENCE_S:.0f} s and more. "
            "What was saved before is kept."
        )
        return Busy(detail, (Problem("/data", reason, right),))
    problem = Problem("/data", reason, "room on the disk and a folder that can be written")
    return CannotStore(f"It could not be saved: {reason}. What was saved before is kept.", (problem,))


def no_plan(plan_id: str) -> NotFound:
    """That there is no such plan."""
    return NotFound(f"There is no plan “{plan_id}”.", (Problem("/plan_id", plan_id, "a plan of the list"),))


def plan_row(session: Session, plan_id: str) -> PlanRow:
    """The row of a plan that is there and not deleted."""
    row = session.get(PlanRow, plan_id)
    if row is None or row.deleted_at is not None:
        raise no_plan(plan_id)
    return row
