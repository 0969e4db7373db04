"""The repository of plans: every edit is a revision, undo and redo are revisions too."""

import json
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import Engine, func, select
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from weary_cedar.core.errors import CannotStore, EditConflict, NotFound, NothingToUndo, Problem
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.ids import free_id
from weary_cedar.store.describe import describe_change
from weary_cedar.store.merge import Json, apply_patch, clashes
from weary_cedar.store.models import PlanRow, RevisionRow, now


@dataclass(frozen=True)
class StoredPlan:
    """A plan as it stands at one revision."""

    id: str
    revision: int
    plan: Plan
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    merged: bool = False


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


def canonical(plan: Plan) -> Json:
    """The document of a plan as it is stored and exported: complete, without empty fields."""
    return plan.model_dump(mode="json", exclude_none=True)


class PlanStore:
    """Plans in a database; safe to use from several threads."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    @contextmanager
    def _session(self) -> Iterator[Session]:
        try:
            with Session(self._engine) as session, session.begin():
                yield session
        except DBAPIError as error:
            reason = str(error.orig)
            problem = Problem("/data", reason, "room on the disk and a folder that can be written")
            raise CannotStore(
                f"It could not be saved: {reason}. What was saved before is kept.", (problem,)
            ) from None

    # ------------------------------------------------------------ reading

    def entries(self) -> list[PlanEntry]:
        """All plans that are not deleted, the last saved first."""
        with self._session() as session:
            rows = session.execute(
                select(PlanRow, RevisionRow.created_at)
                .join(RevisionRow, (RevisionRow.plan_id == PlanRow.id) & (RevisionRow.number == PlanRow.head))
                .where(PlanRow.deleted_at.is_(None))
                .order_by(RevisionRow.created_at.desc(), PlanRow.id)
            ).all()
            return [PlanEntry(row.id, row.name, row.head, _utc(at), False) for row, at in rows]

    def get(self, plan_id: str) -> StoredPlan:
        """The current revision."""
        with self._session() as session:
            row = _plan_row(session, plan_id)
            return _stored(row, _revision(session, row.id, row.head))

    def revision(self, plan_id: str, number: int) -> StoredPlan:
        """An older revision, to look at."""
        with self._session() as session:
            row = _plan_row(session, plan_id)
            return _stored(row, _revision(session, row.id, number))

    def history(self, plan_id: str, most: int = 200) -> list[HistoryEntry]:
        """The line of revisions, the newest first."""
        with self._session() as session:
            row = _plan_row(session, plan_id)
            found = session.scalars(
                select(RevisionRow)
                .where(RevisionRow.plan_id == row.id)
                .order_by(RevisionRow.number.desc())
                .limit(most)
            )
            return [
                HistoryEntry(r.number, r.kind, r.summary, _utc(r.created_at), r.number == row.head)
                for r in found
            ]

    # ------------------------------------------------------------ writing

    def create(
        self, plan: Plan, kind: str = "new", summary: str = "Plan begun", wanted_id: str = ""
    ) -> StoredPlan:
        """Add a plan under an id made from its name."""
        with self._session() as session:
            plan_id = _free_id(session, wanted_id or plan.name)
            row = PlanRow(id=plan_id, name=plan.name, head=1)
            session.add(row)
            session.flush()
            return _append(session, row, plan, kind, summary, undo_to=None)

    def edit(self, plan_id: str, base: int, patch: Json) -> StoredPlan:
        """Apply a merge patch that was made on revision `base`.

        Edits to different things merge by themselves. Where both changed the same place, nothing is
        saved and both versions are told.

        Raises:
            NotFound: no such plan or base.
            EditConflict: someone else changed the same place since `base`.
            InvalidPlan: the edited plan has something wrong.
        """
        with self._session() as session:
            row = _plan_row(session, plan_id)
            head = _revision(session, plan_id, row.head)
            theirs: Json = json.loads(head.document)
            if base != head.number:
                self._refuse_clash(
                    json.loads(_revision(session, plan_id, base).document), theirs, patch, head.number
                )
            plan = read_plan(apply_patch(theirs, patch))
            after = canonical(plan)
            if after == theirs:
                return _stored(row, head)
            summary = describe_change(theirs, after)
            return _append(
                session, row, plan, "edit", summary, undo_to=head.number, merged=base != head.number
            )

    @staticmethod
    def _refuse_clash(base: Json, theirs: Json, patch: Json, revision: int) -> None:
        found = clashes(base, theirs, patch)
        if found:
            problems = tuple(
                Problem(
                    str(c["field"]), json.dumps(c["yours"]), f"saved meanwhile: {json.dumps(c['theirs'])}"
                )
                for c in found
            )
            raise EditConflict("The same thing was changed elsewhere meanwhile.", problems, revision, found)

    def undo(self, plan_id: str, base: int) -> StoredPlan:
        """Write a revision that takes the last edit back."""
        return self._step(plan_id, base, "undo")

    def redo(self, plan_id: str, base: int) -> StoredPlan:
        """Write a revision that brings an undone edit again."""
        return self._step(plan_id, base, "redo")

    def _step(self, plan_id: str, base: int, way: str) -> StoredPlan:
        with self._session() as session:
            row = _plan_row(session, plan_id)
            head = _head_for(session, row, base)
            target_number = head.undo_to if way == "undo" else head.redo_to
            if target_number is None:
                raise NothingToUndo(f"There is nothing to {way}.")
            target = _revision(session, plan_id, target_number)
            plan = read_plan(target.document)
            here, there = json.loads(head.document), json.loads(target.document)
            change = describe_change(there, here) if way == "undo" else describe_change(here, there)
            summary = f"{way.capitalize()}: {change}"
            redo_to = head.number if way == "undo" else target.redo_to
            return _append(session, row, plan, way, summary, undo_to=target.undo_to, redo_to=redo_to)

    def restore(self, plan_id: str, base: int, number: int) -> StoredPlan:
        """Bring an older revision back as a new one."""
        with self._session() as session:
            row = _plan_row(session, plan_id)
            head = _head_for(session, row, base)
            old = _revision(session, plan_id, number)
            at = _utc(old.created_at).strftime("%Y-%m-%d %H:%M UTC")
            summary = f"Brought back revision {number} of {at}"
            return _append(session, row, read_plan(old.document), "restore", summary, undo_to=head.number)

    def delete(self, plan_id: str) -> None:
        """Take a plan off the list; it can be brought back."""
        with self._session() as session:
            _plan_row(session, plan_id).deleted_at = now()

    def undelete(self, plan_id: str) -> StoredPlan:
        """Bring a deleted plan back."""
        with self._session() as session:
            row = session.get(PlanRow, plan_id)
            if row is None:
                raise _no_plan(plan_id)
            row.deleted_at = None
            return _stored(row, _revision(session, row.id, row.head))


def _no_plan(plan_id: str) -> NotFound:
    return NotFound(
        f"There is no plan “{plan_id}”.", (Problem("/plan_id", plan_id, "the id of a plan in the list"),)
    )


def _plan_row(session: Session, plan_id: str) -> PlanRow:
    row = session.get(PlanRow, plan_id)
    if row is None or row.deleted_at is not None:
        raise _no_plan(plan_id)
    return row


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


def _head_for(session: Session, row: PlanRow, base: int) -> RevisionRow:
    """The current revision, if that is the one that the person saw."""
    if base != row.head:
        problem = Problem("/revision", str(base), f"saved meanwhile: revision {row.head}")
        raise EditConflict(
            "The plan was changed elsewhere meanwhile; look at it first.", (problem,), row.head, []
        )
    return _revision(session, row.id, row.head)


def _append(
    session: Session,
    row: PlanRow,
    plan: Plan,
    kind: str,
    summary: str,
    *,
    undo_to: int | None,
    redo_to: int | None = None,
    merged: bool = False,
) -> StoredPlan:
    last = session.scalar(select(func.max(RevisionRow.number)).where(RevisionRow.plan_id == row.id)) or 0
    revision = RevisionRow(
        plan_id=row.id,
        number=last + 1,
        kind=kind,
        summary=summary[:300],
        document=json.dumps(canonical(plan), ensure_ascii=False),
        undo_to=undo_to,
        redo_to=redo_to,
    )
    session.add(revision)
    row.head, row.name = revision.number, plan.name
    session.flush()
    return _stored(row, revision, merged)


def _stored(row: PlanRow, revision: RevisionRow, merged: bool = False) -> StoredPlan:
    return StoredPlan(
        id=row.id,
        revision=revision.number,
        plan=read_plan(revision.document),
        saved_at=_utc(revision.created_at),
        can_undo=revision.undo_to is not None,
        can_redo=revision.redo_to is not None,
        merged=merged,
    )


def _utc(at: datetime) -> datetime:
    return at.replace(tzinfo=UTC) if at.tzinfo is None else at.astimezone(UTC)


def _free_id(session: Session, name: str) -> str:
    return free_id(name, set(session.scalars(select(PlanRow.id))), "plan")
