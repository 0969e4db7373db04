"""Routes of sessions as files: JSON and CSV in and out, the report."""

import json
from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.log import Pushed, SessionId, SessionView, now_at
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.api.printed import a_file
from weary_cedar.core.log.afterwards import afterwards
from weary_cedar.core.log.learn import learn
from weary_cedar.core.log.session import Session
from weary_cedar.formats.paper import Edition
from weary_cedar.formats.session_csv import read_rows, write_rows
from weary_cedar.formats.session_pdf import session_pdf
from weary_cedar.store.log import SHOWN_ROWS
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}/sessions", tags=["log"])


@router.get("/{session_id}/file", response_model=Session, responses=documented(404, 422))
def session_file(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """A session with all its rows as a file, which the command line reads, too."""
    kept = desk.log.get(plan_id, session_id)
    whole = kept.session.model_copy(update={"plan": json.loads(kept.plan_document)})
    return _attached(whole.model_dump_json(indent=1).encode(), "application/json", f"{session_id}.json")


@router.get("/{session_id}/rows.csv", response_class=Response, responses=a_file("text/csv"))
def rows_as_csv(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """All rows as CSV."""
    kept = desk.log.get(plan_id, session_id)
    return _attached(write_rows(kept.session).encode(), "text/csv; charset=utf-8", f"{session_id}.csv")


@router.get("/{session_id}/report.pdf", response_class=Response, responses=a_file("application/pdf"))
def report(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """How it went, on two pages."""
    kept = desk.log.get(plan_id, session_id)
    body = desk.work(plan_id, _report, kept.plan_document, kept.session, kept.revision)
    return _attached(body, "application/pdf", f"{session_id}.pdf")


class RowsText(BaseModel):
    """Rows as CSV text."""

    csv: Annotated[
        str, Field(max_length=8_000_000, examples=["id,at,kind,told\nr1,2026-10-14T08:00:00,remark,x\n"])
    ]


@router.post("/{session_id}/rows.csv", status_code=201, responses=documented(404, 413, 422, 507))
def rows_from_csv(desk: AtDesk, plan_id: PlanId, session_id: SessionId, told: RowsText) -> Pushed:
    """Add rows of a CSV; those that are there already count once."""
    rows = desk.work(plan_id, read_rows, told.csv)
    return Pushed(new=desk.log.add(plan_id, session_id, rows))


@router.post("/import", status_code=201, responses=documented(404, 413, 422, 507))
def import_session(desk: AtDesk, plan_id: PlanId, told: Session) -> SessionView:
    """Keep a session out of a file, with the plan as it stands now."""
    stored = desk.store.get(plan_id)
    key = desk.log.begin(plan_id, stored.revision, stored.document, told.model_copy(update={"plan": None}))
    desk.log.add(plan_id, key, told.rows)
    kept = desk.log.get(plan_id, key, most=SHOWN_ROWS)
    return SessionView(id=key, revision=kept.revision, session=kept.session, rows_total=kept.rows_total)


def _attached(body: bytes, kind: str, name: str) -> Response:
    return Response(body, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _report(document: str, session: Session, revision: int) -> bytes:
    plan = opened(document).plan
    day = now_at(plan.site.time_zone).date()
    return session_pdf(plan, session, afterwards(plan, session), learn(plan, session), Edition(revision, day))
