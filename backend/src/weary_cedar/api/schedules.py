"""Routes of panel schedules as files: CSV in and out, printed schedule and labels."""

from fastapi import APIRouter, Response, UploadFile

from weary_cedar.api.errors import documented
from weary_cedar.api.panels import of_panel
from weary_cedar.api.plans import AtDesk, Base, PlanId
from weary_cedar.api.printed import a_file, attached, printed
from weary_cedar.api.views import PlanView
from weary_cedar.core.plan import Plan
from weary_cedar.formats.panel_pdf import labels_pdf, schedule_pdf
from weary_cedar.formats.paper import Edition
from weary_cedar.workshop.breaker_tables import with_schedule
from weary_cedar.workshop.derivation import opened, plan_of

router = APIRouter(prefix="/api/plans/{plan_id}/panels/{panel_id}", tags=["panels"])


@router.get("/schedule.csv", responses=a_file("text/csv"), response_class=Response)
def schedule_as_csv(desk: AtDesk, plan_id: PlanId, panel_id: str) -> Response:
    """The panel schedule as CSV."""
    sheet = desk.sheet(plan_id, f"schedule.csv/{panel_id}", "text/csv")
    return attached(sheet, "text/csv; charset=utf-8", f"{plan_id}-panel.csv")


@router.post("/schedule.csv", response_model=PlanView, responses=documented(404, 412, 413, 422, 428, 507))
def schedule_from_csv(desk: AtDesk, plan_id: PlanId, panel_id: str, base: Base, file: UploadFile) -> Response:
    """Put the breakers of a CSV in the place of the panel's, as one edit."""
    return desk.edit_by(plan_id, base, _with_schedule, panel_id, file.file.read())


def _with_schedule(plan: Plan, panel_id: str, content: bytes) -> Plan:
    return with_schedule(of_panel(plan, panel_id), panel_id, content)


@router.get("/schedule.pdf", responses=a_file("application/pdf"), response_class=Response)
def schedule_as_pdf(desk: AtDesk, plan_id: PlanId, panel_id: str) -> Response:
    """The panel schedule on paper: what stays on, what may, what never."""
    return printed(desk, plan_id, f"{plan_id}-schedule.pdf", _schedule, panel_id)


def _schedule(document: str, edition: Edition, panel_id: str) -> bytes:
    found = opened(document)
    of_panel(found.plan, panel_id)
    return schedule_pdf(found.plan, panel_id, edition, found.findings)


@router.get("/labels.pdf", responses=a_file("application/pdf"), response_class=Response)
def labels_as_pdf(desk: AtDesk, plan_id: PlanId, panel_id: str) -> Response:
    """Breaker labels to cut out."""
    return printed(desk, plan_id, f"{plan_id}-labels.pdf", _labels, panel_id)


def _labels(document: str, edition: Edition, panel_id: str) -> bytes:
    return labels_pdf(of_panel(plan_of(document), panel_id), panel_id, edition)
