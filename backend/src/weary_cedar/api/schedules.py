"""Routes of panel schedules as files: CSV in and out, printed schedule and labels."""

from typing import Any

from fastapi import APIRouter, Response, UploadFile

from weary_cedar.api.errors import documented
from weary_cedar.api.panels import of_panel
from weary_cedar.api.plans import AtDesk, Base, PlanId
from weary_cedar.api.views import PlanView
from weary_cedar.core.plan import Plan
from weary_cedar.formats.schedule_csv import read_schedule
from weary_cedar.formats.text_file import text_of

router = APIRouter(prefix="/api/plans/{plan_id}/panels/{panel_id}", tags=["panels"])


def _file(kind: str, what: str) -> dict[int | str, dict[str, Any]]:
    schema = {"type": "string"} if kind == "text/csv" else {"type": "string", "format": "binary"}
    return {200: {"content": {kind: {"schema": schema}}, "description": what}, **documented(404, 422)}


def _attached(content: Response, name: str) -> Response:
    content.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return content


@router.get("/schedule.csv", responses=_file("text/csv", "The schedule"), response_class=Response)
def schedule_as_csv(desk: AtDesk, plan_id: PlanId, panel_id: str) -> Response:
    """The panel schedule as CSV."""
    return _attached(desk.sheet(plan_id, f"schedule.csv/{panel_id}", "text/csv"), f"{plan_id}-panel.csv")


@router.post("/schedule.csv", response_model=PlanView, responses=documented(404, 412, 413, 422, 428, 507))
def schedule_from_csv(desk: AtDesk, plan_id: PlanId, panel_id: str, base: Base, file: UploadFile) -> Response:
    """Put the breakers of a CSV in the place of the panel's, as one edit."""
    return desk.edit_by(plan_id, base, _with_schedule, panel_id, file.file.read())


def _with_schedule(plan: Plan, panel_id: str, content: bytes) -> Plan:
    return read_schedule(text_of(content), of_panel(plan, panel_id), panel_id)


@router.get("/schedule.pdf", responses=_file("application/pdf", "On paper"), response_class=Response)
def schedule_as_pdf(desk: AtDesk, plan_id: PlanId, panel_id: str) -> Response:
    """The panel schedule on paper: what stays on, what may, what never."""
    sheet = desk.sheet(plan_id, f"schedule.pdf/{panel_id}", "application/pdf")
    return _attached(sheet, f"{plan_id}-schedule.pdf")


@router.get("/labels.pdf", responses=_file("application/pdf", "Labels"), response_class=Response)
def labels_as_pdf(desk: AtDesk, plan_id: PlanId, panel_id: str) -> Response:
    """Breaker labels to cut out."""
    return _attached(
        desk.sheet(plan_id, f"labels.pdf/{panel_id}", "application/pdf"), f"{plan_id}-labels.pdf"
    )
