"""Routes of plans: list, edit, history, files, run."""

import json
import re
from typing import Annotated, Any

from fastapi import APIRouter, Body, Depends, Header, Path, Query, Request, Response, UploadFile
from fastapi.openapi.models import Example
from pydantic import BaseModel

from weary_cedar.api.desk import Desk, desk_of
from weary_cedar.api.errors import documented
from weary_cedar.api.views import HistoryLine, HistoryView, PlanLine, PlanView, line_of
from weary_cedar.core.answers import Climate, climates
from weary_cedar.core.beginning import RoomOf, room_list
from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.commands import AnyCommand, do
from weary_cedar.core.decide.how_long import HowLong
from weary_cedar.core.decide.how_sure import judged
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.errors import InvalidInput, Problem, RevisionMissing
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.plan import SCHEMA_VERSION, Plan, plan_schema, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.plan.reading import parse
from weary_cedar.store.edits import canonical
from weary_cedar.store.thinning import KEPT_DAYS, KEPT_LAST
from weary_cedar.workshop.beginnings import Beginning, NewPlan, begun, previewed
from weary_cedar.workshop.derivation import Outline, json_of, opened
from weary_cedar.workshop.edits import copy_of, plan_of_file

router = APIRouter(prefix="/api")

PlanId = Annotated[str, Path(pattern=r"^[a-z0-9][a-z0-9_-]{0,39}$", examples=["foothill-house"])]
Number = Annotated[int, Path(ge=1, le=2_000_000_000, examples=[1])]


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


AtDesk = Annotated[Desk, Depends(desk_of)]
Base = Annotated[int, Depends(_base)]


async def _body(request: Request) -> bytes:
    """The body as it was sent: what it says is read where it is worked out."""
    return await request.body()


def body_of(schema: dict[str, Any], example: Any, kind: str = "application/json") -> dict[str, Any]:
    """OpenAPI description of a body that is read by hand."""
    return {"requestBody": {"required": True, "content": {kind: {"schema": schema, "example": example}}}}


MERGE_PATCH = "application/merge-patch+json"
PLAN_BODY = body_of(
    {"$ref": "#/components/schemas/Plan"}, {"schema_version": SCHEMA_VERSION, "name": "My house"}
)
JsonBody = Annotated[bytes, Depends(_body)]


class Outlook(BaseModel):
    """What is shown of a plan before and after an edit."""

    verdict: Verdict
    wh_day: float
    wh_day_error: float
    how_long: HowLong


class Trial(BaseModel):
    """A plan as it is, and as it would be."""

    before: Outlook
    after: Outlook


@router.get("/plans", tags=["plans"], responses=documented(422))
def list_plans(
    desk: AtDesk, put_away: Annotated[bool, Query(description="those that were put away, instead")] = False
) -> list[PlanLine]:
    """All plans, the last saved first."""
    found = desk.store.entries(deleted=put_away)
    return [PlanLine(id=e.id, name=e.name, revision=e.revision, saved_at=e.saved_at) for e in found]


@router.post(
    "/plans", tags=["plans"], status_code=201, response_model=PlanView, responses=documented(413, 422, 507)
)
def new_plan(desk: AtDesk, new: Annotated[NewPlan, Body(examples=[{"name": "Lake cabin"}])]) -> Response:
    """Begin a plan."""
    return desk.create("new", "Plan begun", begun, new)


@router.post("/beginnings", tags=["plans"], response_model=Beginning, responses=documented(413, 422))
def preview(desk: AtDesk, new: Annotated[NewPlan, Body(examples=[{"name": "Lake cabin"}])]) -> Response:
    """What would become of a plan that is begun so; nothing is stored."""
    return desk.answer_from("new plans", previewed, new)


@router.get("/library/rooms", tags=["plans"], responses=documented())
def rooms() -> list[RoomOf]:
    """Rooms that a plan can begin from, each with what it usually brings."""
    return room_list()


@router.get("/library/climates", tags=["plans"], responses=documented())
def climate_list() -> list[Climate]:
    """Climates that a plan can begin from."""
    return climates()


@router.get("/plans/{plan_id}", tags=["plans"], response_model=PlanView, responses=documented(404, 422))
def get_plan(desk: AtDesk, plan_id: PlanId) -> Response:
    """A plan as it stands, with panel schedules and verdict; `failed` names what could not be made."""
    return desk.view(desk.store.settled(plan_id))


@router.get(
    "/plans/{plan_id}/outline", tags=["plans"], response_model=Outline, responses=documented(404, 422)
)
def outline(desk: AtDesk, plan_id: PlanId) -> Response:
    """What a plan amounts to: verdict, how many stops and cautions, its charge over the outage."""
    return desk.sheet(plan_id, "outline")


@router.patch(
    "/plans/{plan_id}",
    tags=["plans"],
    response_model=PlanView,
    responses=documented(404, 412, 413, 422, 428, 507),
    openapi_extra=body_of({"type": "object"}, {"circuits": {"fridge": {"mark": "keep"}}}, MERGE_PATCH),
)
def edit_plan(desk: AtDesk, plan_id: PlanId, base: Base, patch: JsonBody) -> Response:
    """Edit a plan by a JSON merge patch (RFC 7396) made on the revision in If-Match."""
    return desk.edit(plan_id, base, patch)


@router.post(
    "/plans/{plan_id}/aside",
    tags=["history"],
    status_code=201,
    responses=documented(404, 413, 422, 507),
    openapi_extra=body_of({"type": "object"}, {"circuits": {"fridge": {"mark": "keep"}}}, MERGE_PATCH),
)
def put_aside(desk: AtDesk, plan_id: PlanId, patch: JsonBody) -> HistoryLine:
    """Keep in the history what an edit would make; the plan stays as it is."""
    return line_of(desk.put_aside(plan_id, patch))


@router.get("/plans/{plan_id}/head", tags=["plans"], responses=documented(404, 422))
def head(desk: AtDesk, plan_id: PlanId) -> PlanLine:
    """Where a plan stands, to be asked often: another window may have saved."""
    found = desk.store.get(plan_id)
    return PlanLine(id=found.id, name=found.name, revision=found.revision, saved_at=found.saved_at)


@router.delete("/plans/{plan_id}", tags=["plans"], status_code=204, responses=documented(404, 422, 507))
def delete_plan(desk: AtDesk, plan_id: PlanId) -> None:
    """Take a plan off the list; `undelete` brings it back."""
    desk.store.delete(plan_id)


@router.post(
    "/plans/{plan_id}/undelete", tags=["plans"], response_model=PlanView, responses=documented(404, 422, 507)
)
def undelete_plan(desk: AtDesk, plan_id: PlanId) -> Response:
    """Bring a deleted plan back."""
    return desk.view(desk.store.undelete(plan_id))


@router.post(
    "/plans/{plan_id}/duplicate",
    tags=["plans"],
    status_code=201,
    response_model=PlanView,
    responses=documented(404, 422, 507),
)
def duplicate_plan(desk: AtDesk, plan_id: PlanId) -> Response:
    """Copy a plan; the copy has a history of its own."""
    old = desk.store.get(plan_id)
    return desk.create("duplicate", f"Copied from {old.name}", copy_of, old.document)


@router.post(
    "/plans/{plan_id}/undo",
    tags=["history"],
    response_model=PlanView,
    responses=documented(404, 409, 412, 422, 428, 507),
)
def undo(desk: AtDesk, plan_id: PlanId, base: Base) -> Response:
    """Take the last edit back, as a new revision."""
    return desk.step(plan_id, base, "undo")


@router.post(
    "/plans/{plan_id}/redo",
    tags=["history"],
    response_model=PlanView,
    responses=documented(404, 409, 412, 422, 428, 507),
)
def redo(desk: AtDesk, plan_id: PlanId, base: Base) -> Response:
    """Bring an undone edit again, as a new revision."""
    return desk.step(plan_id, base, "redo")


RULE = f"every one of the last {KEPT_LAST} and of the last {KEPT_DAYS} days, then the last of each day"


@router.get("/plans/{plan_id}/history", tags=["history"], responses=documented(404, 422))
def history(desk: AtDesk, plan_id: PlanId) -> HistoryView:
    """What changed and when, the newest first, and how much of it is kept."""
    lines = [line_of(entry) for entry in desk.store.history(plan_id)]
    kept = desk.store.kept(plan_id)
    return HistoryView(lines=lines, kept=kept.revisions, thinned=kept.thinned, bytes=kept.bytes, rule=RULE)


@router.get(
    "/plans/{plan_id}/revisions/{number}",
    tags=["history"],
    response_model=PlanView,
    responses=documented(404, 422),
)
def get_revision(desk: AtDesk, plan_id: PlanId, number: Number) -> Response:
    """An older revision, to look at."""
    return desk.view(desk.store.revision(plan_id, number))


@router.post(
    "/plans/{plan_id}/revisions/{number}/restore",
    tags=["history"],
    response_model=PlanView,
    responses=documented(404, 412, 422, 428, 507),
)
def restore_revision(desk: AtDesk, plan_id: PlanId, number: Number, base: Base) -> Response:
    """Bring an older revision back, as a new one."""
    return desk.restore(plan_id, base, number)


@router.get("/plans/{plan_id}/run", tags=["run"], response_model=RunResult, responses=documented(404, 422))
def run_plan(desk: AtDesk, plan_id: PlanId) -> Response:
    """The whole run of a plan as it stands."""
    return desk.sheet(plan_id, "run")


@router.get("/plans/{plan_id}/file", tags=["files"], responses=documented(404, 422))
def plan_file(desk: AtDesk, plan_id: PlanId) -> Response:
    """The plan as a file, as it was stored."""
    answer = desk.answer(plan_id, _indented)
    answer.headers["Content-Disposition"] = f'attachment; filename="{plan_id}.json"'
    return answer


def _indented(document: str) -> bytes:
    return json.dumps(json.loads(document), indent=1, ensure_ascii=False).encode()


@router.post(
    "/plans/import",
    tags=["files"],
    status_code=201,
    response_model=PlanView,
    responses=documented(413, 422, 507),
)
def import_plan(desk: AtDesk, file: UploadFile) -> Response:
    """Add a plan from a file; nothing that is there is changed."""
    summary = f"Read from {(file.filename or 'a file')[:80]}"
    return desk.create("import", summary, plan_of_file, file.file.read())


@router.post(
    "/check",
    tags=["run"],
    response_model=list[Finding],
    responses=documented(413, 422),
    openapi_extra=PLAN_BODY,
)
def check_document(desk: AtDesk, document: JsonBody) -> Response:
    """Check a plan document without storing it."""
    return desk.answer_from("documents", _checked, document)


def _checked(document: bytes) -> bytes:
    return json_of(list[Finding], findings_of(read_plan(document)))


@router.post(
    "/run", tags=["run"], response_model=RunResult, responses=documented(413, 422), openapi_extra=PLAN_BODY
)
def run_document(desk: AtDesk, document: JsonBody) -> Response:
    """Run a plan document without storing it."""
    return desk.answer_from("documents", _run, document)


def _run(document: bytes) -> bytes:
    return judged(read_plan(document)).model_dump_json().encode()


@router.post(
    "/plans/{plan_id}/try",
    tags=["run"],
    response_model=Trial,
    responses=documented(404, 413, 422),
    openapi_extra=body_of({"type": "object"}, {"loads": {"fridge": {"origin": "measured"}}}, MERGE_PATCH),
)
def try_edit(desk: AtDesk, plan_id: PlanId, patch: JsonBody) -> Response:
    """What an edit would change; nothing is stored."""
    return desk.answer(plan_id, _tried, patch)


def _tried(document: str, patch: bytes) -> bytes:
    before = opened(document)
    after = read_plan(apply_patch(canonical(before.plan), parse(patch)))
    trial = Trial(
        before=_outlook(before.plan, before.run.verdict), after=_outlook(after, run_outage(after).verdict)
    )
    return trial.model_dump_json().encode()


def _outlook(plan: Plan, verdict: Verdict) -> Outlook:
    needs = need_list(plan)
    return Outlook(
        verdict=verdict, wh_day=needs.wh_day, wh_day_error=needs.wh_day_error, how_long=needs.how_long
    )


#: Commands as they are sent.
SHOWN_COMMANDS: dict[str, Example] = {
    "remove": {"value": {"command": "remove", "part": "loads/fridge"}},
    "mark": {"value": {"command": "mark", "mark": "off", "circuit_ids": ["office"]}},
}


@router.post(
    "/plans/{plan_id}/commands",
    tags=["plans"],
    response_model=PlanView,
    responses=documented(404, 412, 413, 422, 428, 507),
)
def do_command(
    desk: AtDesk,
    plan_id: PlanId,
    base: Base,
    command: Annotated[AnyCommand, Body(openapi_examples=SHOWN_COMMANDS)],
) -> Response:
    """Do something to a plan as one edit: take a part away with what hangs on it, plug, swap, mark, move."""
    return desk.edit_by(plan_id, base, do, command)


@router.get("/schema/plan", tags=["files"], responses=documented())
def schema() -> dict[str, Any]:
    """JSON Schema of the plan file."""
    return plan_schema()
