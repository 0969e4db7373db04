"""Plans with everything that follows from them, for the routes: store, lanes, and what is remembered."""

import json
import logging
from collections.abc import Callable
from typing import Any, TypeVar
from uuid import uuid4

from fastapi import Request, Response

from weary_cedar.api.alarms import Alarms, Reach
from weary_cedar.api.following import Following
from weary_cedar.api.lanes import VISIT, Lanes
from weary_cedar.api.memory import Memory, Worked, key_of
from weary_cedar.core.errors import (
    CannotOpen,
    InvalidPlan,
    NotFound,
    Problem,
    SheetFailed,
    TookTooLong,
    WearyCedarError,
)
from weary_cedar.core.plan import Plan
from weary_cedar.store.devices import DeviceStore
from weary_cedar.store.drills import DrillStore
from weary_cedar.store.edits import Made
from weary_cedar.store.log import LogStore
from weary_cedar.store.plans import HistoryEntry, PlanStore, StoredPlan
from weary_cedar.store.record import RecordStore
from weary_cedar.workshop import edits
from weary_cedar.workshop.derivation import Derivation, derive

T = TypeVar("T")
log = logging.getLogger("weary_cedar")


class Desk:
    """Where plans are opened, worked out and edited."""

    def __init__(
        self, store: PlanStore, lanes: Lanes, memory: Memory | None = None, reach: Reach | None = None
    ) -> None:
        self.store = store
        self.record = RecordStore(store.sessions)
        self.log = LogStore(store.sessions)
        self.devices = DeviceStore(store.sessions)
        self.drills = DrillStore(store.sessions)
        self.following = Following()
        self.alarms = Alarms(reach or Reach())
        self._lanes = lanes
        self._memory = memory or Memory()

    # ------------------------------------------------------------ working out

    def work(self, about: str, job: Callable[..., T], *args: Any) -> T:
        """Work something out in another process, as `Lanes.run` does."""
        return self._lanes.run(about, job, *args)

    def further(
        self, plan_id: str, about: str, job: Callable[..., Any], first: Worked, *told: Any
    ) -> Response:
        """What a job says of a plan, going on from where it was the last time it was asked the same."""
        document = self.store.get(plan_id).document
        key = f"{about} {key_of(document)} {told[-1].model_dump_json()}"
        more, body = self._lanes.run_slowly(about, job, document, self._memory.worked(key, first), *told)
        self._memory.remember_worked(key, more)
        return Response(body, media_type="application/json")

    def _finish(self, about: str, job: Callable[..., T], *args: Any) -> T:
        """The same for an edit: it is finished though the page that sent it was closed."""
        token = VISIT.set(None)
        try:
            return self.work(about, job, *args)
        finally:
            VISIT.reset(token)

    def derivation(self, about: str, document: str) -> Derivation:
        """All sheets of a plan; worked out once however many ask at the same time."""
        return self._memory.derivation(document, lambda: self._noted(self.work(about, derive, document)))

    def _derived(self, stored: StoredPlan) -> Derivation:
        try:
            return self.derivation(stored.id, stored.document)
        except (TookTooLong, InvalidPlan) as error:
            raise CannotOpen(error.detail, error.problems, vars(stored)) from None

    def _noted(self, found: Derivation) -> Derivation:
        for why in found.failed.values():
            if why.trace:
                noted(why.trace)
        return found

    # ------------------------------------------------------------ answers

    def sheet(self, plan_id: str, name: str, kind: str = "application/json") -> Response:
        """A sheet of a plan as it stands."""
        return self.sheet_of(self.store.get(plan_id), name, kind)

    def sheet_of(self, stored: StoredPlan, name: str, kind: str = "application/json") -> Response:
        """A sheet of a stored plan.

        Raises:
            NotFound: a sheet of a panel that the plan has not.
            SheetFailed: the sheet could not be made, with the reason.
            CannotOpen: the document is not a plan by the present rules.
        """
        found = self._derived(stored)
        if name in found.sheets:
            return Response(found.sheets[name], media_type=kind)
        if name not in found.failed:
            panel_id = name.partition("/")[2]
            problem = Problem("/panel_id", panel_id[:40], "a panel of this plan")
            raise NotFound(str(problem), (problem,))
        why = found.failed[name]
        raise SheetFailed(why.detail, why.problems)

    def answer(self, plan_id: str, job: Callable[..., bytes], *given: Any) -> Response:
        """What a job makes of a plan as it stands, as JSON."""
        return self.answer_from(plan_id, job, self.store.get(plan_id).document, *given)

    def answer_from(self, about: str, job: Callable[..., bytes], *given: Any) -> Response:
        """What a job makes of what is given, as JSON."""
        return Response(self.work(about, job, *given), media_type="application/json")

    def answer_slowly(self, about: str, job: Callable[..., bytes], *given: Any) -> Response:
        """The same of what takes long, while everything else goes on."""
        return Response(self._lanes.run_slowly(about, job, *given), media_type="application/json")

    def view(self, stored: StoredPlan, status: int = 200) -> Response:
        """A plan at a revision with what follows from it, and its ETag."""
        own = {
            "id": stored.id,
            "revision": stored.revision,
            "saved_at": stored.saved_at.isoformat(),
            "can_undo": stored.can_undo,
            "can_redo": stored.can_redo,
            "merged": stored.merged,
            "last_change": stored.summary,
            "variant_of": stored.variant_of,
        }
        derived = self._derived(stored).sheets["view"]
        body = json.dumps(own).encode()[:-1] + b"," + derived[1:]
        return Response(body, status, media_type="application/json", headers={"ETag": f'"{stored.revision}"'})

    # ------------------------------------------------------------ edits

    def edit(self, plan_id: str, base: int, patch: bytes) -> Response:
        """Store a merge patch that was made on a revision, once everything that follows is worked out."""

        def make(head: str, old: str | None, number: int) -> Made | None:
            changed = self._finish(plan_id, edits.edit, head, old, number, patch)
            return None if changed is None else self._accepted(changed, plan_id, head)

        return self.view(self.store.change(plan_id, base, make))

    def put_aside(self, plan_id: str, patch: bytes) -> HistoryEntry:
        """Keep in the history what a merge patch would make; the plan stays as it is."""

        def make(head: str, number: int) -> Made | None:
            return self._finish(plan_id, edits.aside, head, number, patch)

        return self.store.put_aside(plan_id, make)

    def edit_by(self, plan_id: str, base: int, make: Callable[..., Plan], *given: Any) -> Response:
        """Store what a function makes of the plan at a revision, as one edit."""
        document = self.store.revision(plan_id, base).document
        return self.edit(plan_id, base, self._finish(plan_id, edits.patch_by, make, document, *given))

    def step(self, plan_id: str, base: int, way: str) -> Response:
        """Undo or redo."""
        go = self.store.undo if way == "undo" else self.store.redo

        def make(here: str, there: str, way: str) -> Made:
            return self._accepted(self._finish(plan_id, edits.step, here, there, way), plan_id, here)

        return self.view(go(plan_id, base, make))

    def restore(self, plan_id: str, base: int, number: int) -> Response:
        """Bring an older revision back."""
        here = self.store.get(plan_id).document

        def make(there: str, summary: str) -> Made:
            return self._accepted(self._finish(plan_id, edits.restore, there, summary), plan_id, here)

        return self.view(self.store.restore(plan_id, base, number, make))

    def create(
        self,
        kind: str,
        summary: str,
        make: Callable[..., Plan],
        *given: Any,
        variant_of: str | None = None,
    ) -> Response:
        """Store a new plan that a function makes, or a variant of a plan."""
        changed = self._finish("new plans", edits.begin, make, *given)
        stored = self.store.create(self._accepted(changed), kind, summary, variant_of=variant_of)
        return self.view(stored, 201)

    def _accepted(self, changed: edits.Changed, plan_id: str = "", head: str | None = None) -> Made:
        """What was made, unless a sheet fails that could be made before."""
        failed = dict(changed.derivation.failed)
        if failed and head is not None:
            for name in self._failing(plan_id, head):
                failed.pop(name, None)
        if failed:
            error = edits.refusal(failed, changed.touched)
            traces = [why.trace for why in failed.values() if why.trace]
            if traces:
                error.detail += f" It is in the log as {noted(traces[0])}."
            raise error
        self._memory.remember(changed.made.document, self._noted(changed.derivation))
        return changed.made

    def _failing(self, plan_id: str, document: str) -> set[str]:
        """Sheets that already cannot be made: an edit that leaves it so is no worse."""
        try:
            return set(self.derivation(plan_id, document).failed)
        except WearyCedarError:
            return set()


def noted(trace: str) -> str:
    """Put a fault into the log; returns the id that it has there."""
    fault = uuid4().hex[:12]
    log.error("fault %s\n%s", fault, trace)
    return fault


def desk_of(request: Request) -> Desk:
    """The desk of the app that answers."""
    desk: Desk = request.app.state.desk
    return desk
