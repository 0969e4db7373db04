"""Routes of panel schedules as files: CSV in and out, printed schedule and labels."""

from typing import Any

from fastapi import APIRouter, Response, UploadFile

from weary_cedar.api.errors import documented
from weary_cedar.api.panels import panel_of, save_plan
from weary_cedar.api.plans import Base, PlanId, Store
from weary_cedar.api.views import PlanView
from weary_cedar.core.errors import NotReadable, Problem
from weary_cedar.core.plan import read_plan
from weary_cedar.formats.panel_pdf import labels_pdf, schedule_pdf
from weary_cedar.formats.schedule_csv import read_schedule, write_schedule
from weary_cedar.store.plans import canonical

router = APIRouter(prefix="/api/plans/{plan_id}/panels/{panel_id}", tags=["panels"])


def _file(kind: str, what: str) -> dict[int | str, dict[str, Any]]:
    schema = {"type": "string"} if kind == "text/csv" else {"type": "string", "format": "binary"}
    return {200: {"content": {kind: {"schema": schema}}, "description": what}, **documented(404, 422)}


def _attached(content: str | bytes, kind: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=kind, headers=headers)


@router.get("/schedule.csv", responses=_file("text/csv", "The schedule"), response_class=Response)
def schedule_as_csv(store: Store, plan_id: PlanId, panel_id: str) -> Response:
    """The panel schedule as CSV."""
    stored = store.get(plan_id)
    content = write_schedule(stored.plan, panel_of(stored, panel_id))
    return _attached(content, "text/csv", f"{plan_id}-{panel_id}.csv")


@router.post("/schedule.csv", responses=documented(404, 412, 413, 422, 428, 507))
def schedule_from_csv(
    store: Store, response: Response, plan_id: PlanId, panel_id: str, base: Base, file: UploadFile
) -> PlanView:
    """Put the breakers of a CSV in the place of the panel's, as one edit."""
    stored = store.revision(plan_id, base)
    panel_of(stored, panel_id)
    try:
        text = file.file.read().decode("utf-8-sig")
    except UnicodeDecodeError:
        raise NotReadable(
            "This is not a text file.", (Problem("/file", "binary data", "CSV as UTF-8"),)
        ) from None
    plan = read_plan(canonical(read_schedule(text, stored.plan, panel_id)))
    return save_plan(store, response, stored, base, plan)


@router.get("/schedule.pdf", responses=_file("application/pdf", "On paper"), response_class=Response)
def schedule_as_pdf(store: Store, plan_id: PlanId, panel_id: str) -> Response:
    """The panel schedule on paper: what stays on, what may, what never."""
    stored = store.get(plan_id)
    content = schedule_pdf(stored.plan, panel_of(stored, panel_id))
    return _attached(content, "application/pdf", f"{plan_id}-{panel_id}-schedule.pdf")


@router.get("/labels.pdf", responses=_file("application/pdf", "Labels"), response_class=Response)
def labels_as_pdf(store: Store, plan_id: PlanId, panel_id: str) -> Response:
    """Breaker labels to cut out."""
    stored = store.get(plan_id)
    content = labels_pdf(stored.plan, panel_of(stored, panel_id))
    return _attached(content, "application/pdf", f"{plan_id}-{panel_id}-labels.pdf")
