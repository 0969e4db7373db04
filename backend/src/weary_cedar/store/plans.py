"""The repository of plans: every edit is a revision, undo and redo are revisions too."""

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from threading import Lock

from sqlalchemy import Engine, delete, func, select, update
from sqlalchemy.orm import Session

from weary_cedar.core.errors import (
    EditConflict,
    NotFound,
    NothingToUndo,
    Problem,
)
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.merge import Json
from weary_cedar.store.edits import Made, edited, made_of, restored, stepped
from weary_cedar.store.models import PlanRow, RevisionRow, now
from weary_cedar.store.sessions import Sessions, no_plan, plan_row, turn
from weary_cedar.store.thinning import Line, kept_revisions, relinked

#: One who opens a plan waits so long for edits that are being saved, s.
SETTLES_S = 1.0
#: Histories are thinned after every so many revisions.
THINNED_EVERY = 50


@dataclass(frozen=True)
class StoredPlan:
    """A plan as it stands at one revision; its document as it was written."""

    id: str
    name: str
    revision: int
    document: str
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    merged: bool = False
    #: What the revision changed, in words, as its history says.
    summary: str = ""
    #: The plan that it is a variant of.
    variant_of: str | None = None
    #: When it was begun here: a plan of the same id in another data folder was begun at another moment.
    born: datetime | None = None

    @property
    def plan(self) -> Plan:
        """The plan, read anew.

        Raises:
            InvalidPlan: what was stored is not a plan by the present rules.
        """
        return read_plan(self.document)


@dataclass(frozen=True)
class PlanEntry:
    """A line in the list of plans."""

    id: str
    name: str
    revision: int
    saved_at: datetime
    deleted: bool


@dataclass(frozen=True)
class HistoryEntry:
    """A line of a plan's history."""

    revision: int
    kind: str
    summary: str
    saved_at: datetime
    current: bool


@dataclass(frozen=True)
class Kept:
    """How much of a history is kept: revisions, those thinned out, and the bytes of the documents."""

    revisions: int
    thinned: int
    bytes: int


#: Makes a plan of its head, of the base of the edit if that is another one, and of the head's number.
Make = Callable[[str, str | None, int], Made | None]


class PlanStore:
    """Plans in a database; safe to use from several threads."""

    def __init__(self, engine: Engine) -> None:
        self.sessions = Sessions(engine)
        self._turns: defaultdict[str, Lock] = defaultdict(Lock)

    # ------------------------------------------------------------ reading

    def entries(self, *, deleted: bool = False) -> list[PlanEntry]:
        """All plans that are not deleted, or those that are; the last saved first."""
        with self.sessions.reading() as session:
            rows = session.execute(
                select(PlanRow, RevisionRow.created_at)
                .join(RevisionRow, (RevisionRow.plan_id == PlanRow.id) & (RevisionRow.number == PlanRow.head))
                .where(PlanRow.deleted_at.is_not(None) if deleted else PlanRow.deleted_at.is_(None))
                .where(PlanRow.variant_of.is_(None))
                .order_by(RevisionRow.created_at.desc(), PlanRow.id)
            ).all()
            return [PlanEntry(row.id, row.name, row.head, _utc(at), deleted) for row, at in rows]

    def family(self, plan_id: str) -> list[StoredPlan]:
        """A plan with its variants, the oldest first; asked of the plan or of one of them."""
        with self.sessions.reading() as session:
            row = plan_row(session, plan_id)
            own = plan_row(session, row.variant_of) if row.variant_of else row
            variants = session.scalars(
                select(PlanRow)
                .where(PlanRow.variant_of == own.id, PlanRow.deleted_at.is_(None))
                .order_by(PlanRow.created_at, PlanRow.id)
            ).all()
            return [_stored(each, _revision(session, each.id, each.head)) for each in (own, *variants)]

    def never_used(self) -> bool:
        """Whether there has not been any plan yet, not even one that was deleted."""
        with self.sessions.reading() as session:
            return session.scalar(select(func.count()).select_from(PlanRow)) == 0

    def get(self, plan_id: str) -> StoredPlan:
        """The current revision."""
        with self.sessions.reading() as session:
            row = plan_row(session, plan_id)
            return _stored(row, _revision(session, row.id, row.head))

    def settled(self, plan_id: str) -> StoredPlan:
        """The current revision, after edits that are being saved, if that takes no longer than a moment."""
        turn = self._turns[plan_id]
        if turn.acquire(timeout=SETTLES_S):
            turn.release()
        return self.get(plan_id)

    def revision(self, plan_id: str, number: int) -> StoredPlan:
        """An older revision, to look at."""
        with self.sessions.reading() as session:
            row = plan_row(session, plan_id)
            return _stored(row, _revision(session, row.id, number))

    def history(self, plan_id: str, most: int = 200) -> list[HistoryEntry]:
        """The line of revisions, the newest first."""
        columns = (RevisionRow.number, RevisionRow.kind, RevisionRow.summary, RevisionRow.created_at)
        with self.sessions.reading() as session:
            row = plan_row(session, plan_id)
            found = session.execute(
                select(*columns)
                .where(RevisionRow.plan_id == row.id)
                .order_by(RevisionRow.number.desc())
                .limit(most)
            )
            return [
                HistoryEntry(number, kind, summary, _utc(at), number == row.head)
                for number, kind, summary, at in found
            ]

    def kept(self, plan_id: str) -> Kept:
        """How much of a plan's history is kept."""
        size = func.coalesce(func.sum(func.length(RevisionRow.document)), 0)
        with self.sessions.reading() as session:
            row = plan_row(session, plan_id)
            count, last, held = session.execute(
                select(func.count(), func.max(RevisionRow.number), size).where(RevisionRow.plan_id == row.id)
            ).one()
            return Kept(count, last - count, held)

    # ------------------------------------------------------------ writing

    def create(
        self,
        plan: Plan | Made,
        kind: str = "new",
        summary: str = "Plan begun",
        wanted_id: str = "",
        variant_of: str | None = None,
    ) -> StoredPlan:
        """Add a plan under an id made from its name; or a variant of another one."""
        made = plan if isinstance(plan, Made) else made_of(plan)
        with self.sessions.writing() as session:
            plan_id = free_id(wanted_id or made.name, set(session.scalars(select(PlanRow.id))), "plan")
            row = PlanRow(id=plan_id, name=made.name, head=1, variant_of=variant_of)
            session.add(row)
            session.flush()
            return _append(session, row, Made(made.document, made.name, summary), kind, undo_to=None)

    def edit(self, plan_id: str, base: int, patch: Json) -> StoredPlan:
        """Apply a merge patch that was made on revision `base`, as `edited` does."""
        return self.change(plan_id, base, lambda head, old, number: edited(head, old, number, patch))

    def change(self, plan_id: str, base: int, make: Make) -> StoredPlan:
        """Store what is made of a plan as its next revision.

        Edits to different things merge by themselves. Where both changed the same place, nothing is
        saved and both versions are told. What is made is made outside of any transaction; edits of
        one plan take turns.

        Raises:
            NotFound: no such plan or base.
            EditConflict: someone else changed the same place since `base`.
            InvalidPlan: the edited plan has something wrong.
        """
        with turn(self._turns[plan_id], "other edits of this plan are being saved"):
            head = self.get(plan_id)
            old = None if base == head.revision else self.revision(plan_id, base).document
            made = make(head.document, old, head.revision)
            if made is None:
                return head
            with self.sessions.writing() as session:
                row = plan_row(session, plan_id)
                _refuse_moved(row, head.revision)
                return _append(
                    session, row, made, "edit", undo_to=head.revision, merged=base != head.revision
                )

    def undo(self, plan_id: str, base: int, make: Callable[..., Made] = stepped) -> StoredPlan:
        """Write a revision that takes the last edit back."""
        return self._step(plan_id, base, "undo", make)

    def redo(self, plan_id: str, base: int, make: Callable[..., Made] = stepped) -> StoredPlan:
        """Write a revision that brings an undone edit again."""
        return self._step(plan_id, base, "redo", make)

    def _step(self, plan_id: str, base: int, way: str, make: Callable[..., Made]) -> StoredPlan:
        with turn(self._turns[plan_id], "other edits of this plan are being saved"):
            with self.sessions.reading() as session:
                row = plan_row(session, plan_id)
                head = _head_for(session, row, base)
                target_number = head.undo_to if way == "undo" else head.redo_to
                if target_number is None:
                    raise NothingToUndo(f"There is nothing to {way}.")
                target = _revision(session, plan_id, target_number)
                here, there, undo_to = head.document, target.document, target.undo_to
                redo_to = head.number if way == "undo" else target.redo_to
            made = make(here, there, way)
            with self.sessions.writing() as session:
                row = plan_row(session, plan_id)
                _refuse_moved(row, base)
                return _append(session, row, made, way, undo_to=undo_to, redo_to=redo_to)

    def restore(
        self, plan_id: str, base: int, number: int, make: Callable[[str, str], Made] = restored
    ) -> StoredPlan:
        """Bring an older revision back as a new one."""
        with turn(self._turns[plan_id], "other edits of this plan are being saved"):
            with self.sessions.reading() as session:
                row = plan_row(session, plan_id)
                _head_for(session, row, base)
                old = _revision(session, plan_id, number)
                at = _utc(old.created_at).strftime("%Y-%m-%d %H:%M UTC")
                document = old.document
            made = make(document, f"Brought back revision {number} of {at}")
            with self.sessions.writing() as session:
                row = plan_row(session, plan_id)
                _refuse_moved(row, base)
                return _append(session, row, made, "restore", undo_to=base)

    def put_aside(self, plan_id: str, make: Callable[[str, int], Made | None]) -> HistoryEntry:
        """Keep in the history what an edit would make of a plan that stays as it is.

        Args:
            plan_id: of the plan.
            make: what the edit makes of the head's document and number; nothing if nothing changes.

        Raises:
            InvalidPlan: the edited plan has something wrong.
        """
        with turn(self._turns[plan_id], "other edits of this plan are being saved"):
            head = self.get(plan_id)
            made = make(head.document, head.revision)
            with self.sessions.writing() as session:
                row = plan_row(session, plan_id)
                _refuse_moved(row, head.revision)
                made = Made(head.document, head.name, "Nothing changed") if made is None else made
                summary = f"Not kept: {made.summary}"
                aside = _added(session, row, Made(made.document, made.name, summary), "aside")
                return HistoryEntry(aside.number, aside.kind, aside.summary, _utc(aside.created_at), False)

    def delete(self, plan_id: str) -> None:
        """Take a plan off the list; it can be brought back."""
        with self.sessions.writing() as session:
            plan_row(session, plan_id).deleted_at = now()

    def undelete(self, plan_id: str) -> StoredPlan:
        """Bring a deleted plan back."""
        with self.sessions.writing() as session:
            row = session.get(PlanRow, plan_id)
            if row is None:
                raise no_plan(plan_id)
            row.deleted_at = None
            return _stored(row, _revision(session, row.id, row.head))

    def thin(self) -> None:
        """Thin the histories of all plans."""
        with self.sessions.writing() as session:
            for row in session.scalars(select(PlanRow)).all():
                _thin(session, row)


def _revision(session: Session, plan_id: str, number: int) -> RevisionRow:
    found = session.scalar(
        select(RevisionRow).where(RevisionRow.plan_id == plan_id, RevisionRow.number == number)
    )
    if found is None:
        raise NotFound(
            f"Plan “{plan_id}” has no revision {number}.",
            (Problem("/revision", str(number), "a revision number from the history"),),
        )
    return found


def _refuse_moved(row: PlanRow, seen: int) -> None:
    """Refuse where the plan is not at the revision that the person saw."""
    if seen != row.head:
        problem = Problem("/revision", str(seen), f"saved meanwhile: revision {row.head}")
        raise EditConflict(
            "The plan was changed elsewhere meanwhile; look at it first.", (problem,), row.head
        )


def _head_for(session: Session, row: PlanRow, base: int) -> RevisionRow:
    _refuse_moved(row, base)
    return _revision(session, row.id, row.head)


def _append(
    session: Session,
    row: PlanRow,
    made: Made,
    kind: str,
    *,
    undo_to: int | None,
    redo_to: int | None = None,
    merged: bool = False,
) -> StoredPlan:
    revision = _added(session, row, made, kind, undo_to=undo_to, redo_to=redo_to)
    row.head, row.name = revision.number, made.name
    session.flush()
    if revision.number % THINNED_EVERY == 0:
        _thin(session, row)
    return _stored(row, revision, merged)


def _added(
    session: Session,
    row: PlanRow,
    made: Made,
    kind: str,
    *,
    undo_to: int | None = None,
    redo_to: int | None = None,
) -> RevisionRow:
    """A revision more in the history; where the plan stands is not changed by it."""
    last = session.scalar(select(func.max(RevisionRow.number)).where(RevisionRow.plan_id == row.id)) or 0
    revision = RevisionRow(
        plan_id=row.id,
        number=last + 1,
        kind=kind,
        summary=made.summary[:300],
        document=made.document,
        undo_to=undo_to,
        redo_to=redo_to,
    )
    session.add(revision)
    session.flush()
    return revision


def _thin(session: Session, row: PlanRow) -> None:
    columns = (RevisionRow.number, RevisionRow.undo_to, RevisionRow.redo_to, RevisionRow.created_at)
    found = session.execute(
        select(*columns).where(RevisionRow.plan_id == row.id).order_by(RevisionRow.number)
    )
    lines = [Line(number, undo_to, redo_to, _utc(at)) for number, undo_to, redo_to, at in found]
    kept = kept_revisions(lines, row.head, now())
    gone = [line.number for line in lines if line.number not in kept]
    if not gone:
        return
    own = RevisionRow.plan_id == row.id
    for number, (undo_to, redo_to) in relinked(lines, kept).items():
        change = update(RevisionRow).where(own, RevisionRow.number == number)
        session.execute(change.values(undo_to=undo_to, redo_to=redo_to))
    for begin in range(0, len(gone), 500):
        session.execute(delete(RevisionRow).where(own, RevisionRow.number.in_(gone[begin : begin + 500])))


def _stored(row: PlanRow, revision: RevisionRow, merged: bool = False) -> StoredPlan:
    return StoredPlan(
        id=row.id,
        name=row.name,
        revision=revision.number,
        document=revision.document,
        saved_at=_utc(revision.created_at),
        can_undo=revision.undo_to is not None,
        can_redo=revision.redo_to is not None,
        merged=merged,
        summary=revision.summary,
        variant_of=row.variant_of,
        born=_utc(row.created_at),
    )


def _utc(at: datetime) -> datetime:
    return at.replace(tzinfo=UTC) if at.tzinfo is None else at.astimezone(UTC)
