"""Routes of plans: list, edit, history, files, run."""

import json
import re
from datetime import datetime
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Body, Depends, Header, Path, Request, Response, UploadFile
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.views import HistoryLine, PlanLine, PlanView, plan_view, run_of
from weary_cedar.core import beginning
from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.errors import InvalidInput, NotReadable, Problem, RevisionMissing
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.plan import Plan, plan_schema, read_plan
from weary_cedar.demo import demo_plan
from weary_cedar.formats.label_lines import read_labels
from weary_cedar.formats.schedule_csv import read_schedule
from weary_cedar.store.merge import apply_patch
from weary_cedar.store.plans import PlanStore, StoredPlan, canonical

router = APIRouter(prefix="/api")

PlanId = Annotated[str, Path(pattern=r"^[a-z0-9][a-z0-9_-]{0,39}$", examples=["foothill-house"])]
Number = Annotated[int, Path(ge=1, le=2_000_000_000, examples=[1])]


def _store(request: Request) -> PlanStore:
    store: PlanStore = request.app.state.plans
    return store


def _base(
    if_match: Annotated[str | None, Header(description='Revision edited, as in ETag: "12"')] = None,
) -> int:
    if if_match is None:
        problem = Problem("If-Match", "nothing", 'the revision that was edited, for example "12"')
        raise RevisionMissing("Send If-Match with the revision that was edited.", (problem,))
    found = re.fullmatch(r'(?:W/)?"(\d{1,9})"', if_match.strip())
    if found is None:
        problem = Problem("If-Match", if_match[:40], 'a revision number in quotes, for example "12"')
        raise InvalidInput(str(problem), (problem,))
    return int(found[1])


Store = Annotated[PlanStore, Depends(_store)]
Base = Annotated[int, Depends(_base)]


async def _json_object(request: Request) -> dict[str, Any]:
    """The body as a JSON object; anything else is refused by name."""
    body = await request.body()
    try:
        data = json.loads(body)
    except (ValueError, RecursionError):
        shown = body[:40].decode("utf-8", "replace")
        raise NotReadable("The body is not JSON.", (Problem("/", shown, "a JSON object"),)) from None
    if not isinstance(data, dict):
        raise NotReadable("The body is not a JSON object.", (Problem("/", str(data)[:40], "a JSON object"),))
    return data


def body_of(schema: dict[str, Any], example: Any, kind: str = "application/json") -> dict[str, Any]:
    """OpenAPI description of a body that is read by hand."""
    return {"requestBody": {"required": True, "content": {kind: {"schema": schema, "example": example}}}}


MERGE_PATCH = "application/merge-patch+json"
PLAN_BODY = body_of({"$ref": "#/components/schemas/Plan"}, {"schema_version": 1, "name": "My house"})
Document = Annotated[dict[str, Any], Depends(_json_object)]


def _answer(response: Response, stored: StoredPlan) -> PlanView:
    response.headers["ETag"] = f'"{stored.revision}"'
    return plan_view(stored)


class Outlook(BaseModel):
    """What is shown of a plan before and after an edit."""

    verdict: Verdict
    wh_day: float
    wh_day_error: float
    runtime_h: float | None


class Trial(BaseModel):
    """A plan as it is, and as it would be."""

    before: Outlook
    after: Outlook


class NewPlan(BaseModel):
    """How a plan begins: as a demo household, from rooms, typed labels or a CSV, or empty."""

    name: str
    begin: Literal["empty", "foothill", "canal", "hut", "rooms", "labels", "csv"] = "empty"
    rooms: Annotated[list[str], Field(max_length=40)] = []
    text: Annotated[str, Field(max_length=200_000)] = ""


@router.get("/plans", tags=["plans"], responses=documented())
def list_plans(store: Store) -> list[PlanLine]:
    """All plans, the last saved first."""
    return [PlanLine(id=e.id, name=e.name, revision=e.revision, saved_at=e.saved_at) for e in store.entries()]


@router.post("/plans", tags=["plans"], status_code=201, responses=documented(422, 507))
def new_plan(
    store: Store, response: Response, new: Annotated[NewPlan, Body(examples=[{"name": "Lake cabin"}])]
) -> PlanView:
    """Begin a plan."""
    plan = read_plan({**canonical(_beginning(new)), "name": new.name})
    return _answer(response, store.create(plan))


def _beginning(new: NewPlan) -> Plan:
    start = datetime.now().replace(hour=18, minute=0, second=0, microsecond=0)
    if new.begin == "empty":
        return beginning.empty_plan("New plan", start)
    if new.begin == "rooms":
        return beginning.plan_from_rooms("New plan", start, new.rooms)
    if new.begin == "labels":
        circuits = read_labels(new.text, beginning.PANEL_ID)
        return beginning.plan_from_circuits("New plan", start, circuits)
    if new.begin == "csv":
        whole = beginning.empty_plan("New plan", start)
        circuits = read_schedule(new.text, whole, beginning.PANEL_ID).circuits
        return beginning.plan_from_circuits("New plan", start, circuits)
    return demo_plan(new.begin)


@router.get("/library/rooms", tags=["plans"], responses=documented())
def rooms() -> list[str]:
    """Rooms that a plan can begin from."""
    return beginning.rooms()


@router.get("/plans/{plan_id}", tags=["plans"], responses=documented(404, 422))
def get_plan(store: Store, response: Response, plan_id: PlanId) -> PlanView:
    """A plan as it stands, with panel schedules and verdict."""
    return _answer(response, store.get(plan_id))


@router.patch(
    "/plans/{plan_id}",
    tags=["plans"],
    responses=documented(404, 412, 422, 428, 507),
    openapi_extra=body_of({"type": "object"}, {"circuits": {"fridge": {"mark": "keep"}}}, MERGE_PATCH),
)
def edit_plan(store: Store, response: Response, plan_id: PlanId, base: Base, patch: Document) -> PlanView:
    """Edit a plan by a JSON merge patch (RFC 7396) made on the revision in If-Match."""
    return _answer(response, store.edit(plan_id, base, patch))


@router.delete("/plans/{plan_id}", tags=["plans"], status_code=204, responses=documented(404, 422, 507))
def delete_plan(store: Store, plan_id: PlanId) -> None:
    """Take a plan off the list; `undelete` brings it back."""
    store.delete(plan_id)


@router.post("/plans/{plan_id}/undelete", tags=["plans"], responses=documented(404, 422, 507))
def undelete_plan(store: Store, response: Response, plan_id: PlanId) -> PlanView:
    """Bring a deleted plan back."""
    return _answer(response, store.undelete(plan_id))


@router.post(
    "/plans/{plan_id}/duplicate", tags=["plans"], status_code=201, responses=documented(404, 422, 507)
)
def duplicate_plan(store: Store, response: Response, plan_id: PlanId) -> PlanView:
    """Copy a plan; the copy has a history of its own."""
    old = store.get(plan_id).plan
    plan = read_plan({**canonical(old), "name": f"{old.name[:70]}, copy"})
    return _answer(response, store.create(plan, "duplicate", f"Copied from {old.name}"))


@router.post("/plans/{plan_id}/undo", tags=["history"], responses=documented(404, 409, 412, 422, 428, 507))
def undo(store: Store, response: Response, plan_id: PlanId, base: Base) -> PlanView:
    """Take the last edit back, as a new revision."""
    return _answer(response, store.undo(plan_id, base))


@router.post("/plans/{plan_id}/redo", tags=["history"], responses=documented(404, 409, 412, 422, 428, 507))
def redo(store: Store, response: Response, plan_id: PlanId, base: Base) -> PlanView:
    """Bring an undone edit again, as a new revision."""
    return _answer(response, store.redo(plan_id, base))


@router.get("/plans/{plan_id}/history", tags=["history"], responses=documented(404, 422))
def history(store: Store, plan_id: PlanId) -> list[HistoryLine]:
    """What changed and when, the newest first."""
    return [
        HistoryLine(
            revision=e.revision, kind=e.kind, summary=e.summary, saved_at=e.saved_at, current=e.current
        )
        for e in store.history(plan_id)
    ]


@router.get("/plans/{plan_id}/revisions/{number}", tags=["history"], responses=documented(404, 422))
def get_revision(store: Store, plan_id: PlanId, number: Number) -> PlanView:
    """An older revision, to look at."""
    return plan_view(store.revision(plan_id, number))


@router.post(
    "/plans/{plan_id}/revisions/{number}/restore",
    tags=["history"],
    responses=documented(404, 412, 422, 428, 507),
)
def restore_revision(
    store: Store, response: Response, plan_id: PlanId, number: Number, base: Base
) -> PlanView:
    """Bring an older revision back, as a new one."""
    return _answer(response, store.restore(plan_id, base, number))


@router.get("/plans/{plan_id}/run", tags=["run"], responses=documented(404, 422))
def run_plan(store: Store, plan_id: PlanId) -> RunResult:
    """The whole run of a plan as it stands."""
    return run_of(store.get(plan_id).plan)


@router.get("/plans/{plan_id}/file", tags=["files"], responses=documented(404, 422))
def plan_file(store: Store, plan_id: PlanId) -> Response:
    """The plan as a file."""
    document = json.dumps(canonical(store.get(plan_id).plan), indent=1, ensure_ascii=False)
    headers = {"Content-Disposition": f'attachment; filename="{plan_id}.json"'}
    return Response(document, media_type="application/json", headers=headers)


@router.post("/plans/import", tags=["files"], status_code=201, responses=documented(413, 422, 507))
def import_plan(store: Store, response: Response, file: UploadFile) -> PlanView:
    """Add a plan from a file; nothing that is there is changed."""
    plan = read_plan(file.file.read())
    return _answer(response, store.create(plan, "import", f"Read from {(file.filename or 'a file')[:80]}"))


@router.post("/check", tags=["run"], responses=documented(413, 422), openapi_extra=PLAN_BODY)
def check_document(document: Document) -> list[Finding]:
    """Check a plan document without storing it."""
    return findings_of(read_plan(document))


@router.post("/run", tags=["run"], responses=documented(413, 422), openapi_extra=PLAN_BODY)
def run_document(document: Document) -> RunResult:
    """Run a plan document without storing it."""
    return run_outage(read_plan(document))


@router.post(
    "/plans/{plan_id}/try",
    tags=["run"],
    responses=documented(404, 422),
    openapi_extra=body_of({"type": "object"}, {"loads": {"fridge": {"origin": "measured"}}}, MERGE_PATCH),
)
def try_edit(store: Store, plan_id: PlanId, patch: Document) -> Trial:
    """What an edit would change; nothing is stored."""
    plan = store.get(plan_id).plan
    return Trial(before=_outlook(plan), after=_outlook(read_plan(apply_patch(canonical(plan), patch))))


def _outlook(plan: Plan) -> Outlook:
    needs = need_list(plan)
    return Outlook(
        verdict=run_of(plan).verdict,
        wh_day=needs.wh_day,
        wh_day_error=needs.wh_day_error,
        runtime_h=needs.runtime_h,
    )


@router.get("/schema/plan", tags=["files"], responses=documented())
def schema() -> dict[str, Any]:
    """JSON Schema of the plan file."""
    return plan_schema()
