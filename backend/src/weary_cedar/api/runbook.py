"""Routes of the runbook: the sheets of a plan, and on paper."""

import json
from collections.abc import Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel

from weary_cedar.api.errors import FieldProblem, documented
from weary_cedar.api.guard import LOCAL_NAMES
from weary_cedar.api.log import now_at
from weary_cedar.api.plans import AtDesk, JsonBody, PlanId, body_of
from weary_cedar.api.printed import a_file, printed
from weary_cedar.core.errors import NotFound, Problem
from weary_cedar.core.log.session import SessionRow
from weary_cedar.core.log.ticked import ticked
from weary_cedar.core.one_line import one_line
from weary_cedar.core.record import RecordEntry, RefusedRow, differs, of_another, read_record
from weary_cedar.core.runbook.sheet import CAUTIONS, Sheet
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.formats.bundle_pdf import bundle_pdf
from weary_cedar.formats.one_line_drawing import one_line_pdf, one_line_svg
from weary_cedar.formats.paper import Edition
from weary_cedar.formats.pocket import pocket_html
from weary_cedar.formats.sheets_pdf import sheets_pdf
from weary_cedar.formats.sign_pdf import signs_pdf
from weary_cedar.store.plans import StoredPlan
from weary_cedar.store.record import KeptRow, RowText
from weary_cedar.workshop.derivation import opened, plan_of

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["runbook"])


class Runbook(BaseModel):
    """Every sheet of a plan, and what stands at the head of each."""

    cautions: tuple[str, ...] = CAUTIONS
    #: When the plan was begun here, and at which revision the sheets are made.
    born: str
    revision: int
    sheets: list[Sheet]


@router.get("/sheets", response_model=Runbook, responses=documented(404, 422))
def sheets(desk: AtDesk, plan_id: PlanId) -> Response:
    """The sheets: changing over, swapping, charging, returning, recovering, making safe; step by step."""
    stored = desk.store.get(plan_id)
    return desk.answer_from(plan_id, _sheets, stored.document, _born(stored), stored.revision)


def _born(stored: StoredPlan) -> str:
    return stored.born.isoformat() if stored.born else ""


def _sheets(document: str, born: str, revision: int) -> bytes:
    found = opened(document)
    sheets = sheets_of(found.plan, found.findings, found.run)
    return Runbook(born=born, revision=revision, sheets=sheets).model_dump_json().encode()


@router.get("/sheets.pdf", response_class=Response, responses=a_file("application/pdf"))
def sheets_on_paper(
    desk: AtDesk,
    plan_id: PlanId,
    request: Request,
    sheet: Annotated[str | None, Query(max_length=200)] = None,
) -> Response:
    """All sheets on paper, or one of them: boxes to tick, lines for readings, a code that opens the page."""
    return printed(desk, plan_id, f"{plan_id}-sheets.pdf", _on_paper, sheet, code=page_of(request, plan_id))


def page_of(request: Request, plan_id: str) -> str:
    """The address of the runbook as another device reaches it; none where it is served to this one alone."""
    if (request.url.hostname or "") in LOCAL_NAMES:
        network = getattr(request.app.state, "network", None)
        found = network.addresses if network is not None and network.on else []
        return f"{found[0]}/plans/{plan_id}/runbook" if found else ""
    return f"{request.base_url}plans/{plan_id}/runbook"


def _on_paper(document: str, edition: Edition, key: str | None) -> bytes:
    found = opened(document)
    every = sheets_of(found.plan, found.findings, found.run)
    wanted = [sheet for sheet in every if key in (None, sheet.key)]
    if not wanted:
        names = ", ".join(sheet.key for sheet in every) or "a plan in which something feeds"
        problem = Problem("/sheet", key or "none", names)
        raise NotFound(str(problem), (problem,))
    return sheets_pdf(found.plan, wanted, edition)


@router.get("/bundle.pdf", response_class=Response, responses=a_file("application/pdf"))
def bundle(desk: AtDesk, plan_id: PlanId, request: Request) -> Response:
    """Everything for whoever it is handed over to: house, needs, gear, findings, sheets, test record."""
    return printed(desk, plan_id, f"{plan_id}-bundle.pdf", _bundle, code=page_of(request, plan_id))


def _bundle(document: str, edition: Edition) -> bytes:
    found = opened(document)
    sheets = sheets_of(found.plan, found.findings, found.run)
    return bundle_pdf(found.plan, found.run, found.findings, sheets, edition)


@router.get("/signs.pdf", response_class=Response, responses=a_file("application/pdf"))
def signs(desk: AtDesk, plan_id: PlanId) -> Response:
    """The sign at each inlet: what may be plugged in, and how its neutral must stand."""
    return printed(desk, plan_id, f"{plan_id}-signs.pdf", _signs)


def _signs(document: str, edition: Edition) -> bytes:
    return signs_pdf(plan_of(document), edition)


@router.get("/one-line.pdf", response_class=Response, responses=a_file("application/pdf"))
def one_line_on_paper(desk: AtDesk, plan_id: PlanId) -> Response:
    """The one-line diagram on paper."""
    return printed(desk, plan_id, f"{plan_id}-one-line.pdf", _one_line_pdf)


def _one_line_pdf(document: str, edition: Edition) -> bytes:
    return one_line_pdf(plan_of(document), edition)


@router.get("/one-line.svg", response_class=Response, responses=a_file("image/svg+xml"))
def one_line_as_svg(desk: AtDesk, plan_id: PlanId) -> Response:
    """The one-line diagram as SVG."""
    name = f"{plan_id}-one-line.svg"
    return printed(desk, plan_id, name, _one_line_svg, kind="image/svg+xml; charset=utf-8")


def _one_line_svg(document: str, edition: Edition) -> bytes:
    plan = plan_of(document)
    return one_line_svg(one_line(plan), plan.name, edition).encode()


@router.get("/pocket.html", response_class=Response, responses=a_file("text/html"))
def pocket(desk: AtDesk, plan_id: PlanId) -> Response:
    """All sheets as one page that needs neither this server nor a network: for a phone's own storage."""
    stored = desk.store.get(plan_id)
    answer = desk.answer_from(plan_id, _pocket, stored.document, plan_id, stored.revision, _born(stored))
    answer.headers["Content-Type"] = "text/html; charset=utf-8"
    answer.headers["Content-Disposition"] = f'attachment; filename="{plan_id}-pocket.html"'
    return answer


def _pocket(document: str, plan_id: str, revision: int, born: str) -> bytes:
    found = opened(document)
    sheets = sheets_of(found.plan, found.findings, found.run)
    return pocket_html(found.plan, plan_id, revision, sheets, born).encode()


class RecordLine(RecordEntry):
    """A row, and when it came to be known here."""

    entered_at: datetime


class RefusedLine(BaseModel):
    """A row that cannot be taken in: its place among those that were sent, its id, what is wrong."""

    index: int
    id: str
    problems: list[FieldProblem]


class RecordView(BaseModel):
    """What was done at the panel, by the time of the act: all of it, or the rows that were sent."""

    rows: list[RecordLine]
    #: Of what was sent, how many rows are new; the others were known.
    taken: int = 0
    #: Of what was sent, rows that cannot be taken in; the others are.
    refused: list[RefusedLine] = []


RECORD_BODY = body_of(
    {"$ref": "#/components/schemas/Record"},
    {
        "record": 1,
        "plan_id": "foothill-house",
        "rows": [
            {
                "id": "5f0c1b1e-31ab",
                "at": "2026-11-27T03:10:00Z",
                "sheet": "change-over/inlet",
                "revision": 1,
                "step": 1,
                "action": "Turn the main off",
            }
        ],
    },
)


@router.get("/record", response_model=RecordView, responses=documented(404, 422))
def record(desk: AtDesk, plan_id: PlanId) -> Response:
    """What was done at the panel."""
    return _record(desk.record.rows(plan_id), 0)


@router.post(
    "/record", response_model=RecordView, responses=documented(404, 413, 422, 503), openapi_extra=RECORD_BODY
)
def take_record(desk: AtDesk, plan_id: PlanId, body: JsonBody) -> Response:
    """Take rows in, from a page or from a pocket file, and give back these; one that is known counts once.

    A row that is wrong, or that has the id of another, is named in `refused`; the others are taken in.
    """
    desk.store.get(plan_id)
    rows, refused = desk.work(plan_id, _rows_of, body, plan_id)
    taken = desk.record.take(plan_id, rows)
    if taken.other:
        refused += desk.work(plan_id, _others, body, plan_id, taken.other)
    sessions = [(key, session.begins) for key, session in desk.log.ids(plan_id)]
    if sessions and rows:
        document = desk.store.get(plan_id).document
        for session_id, row in desk.work(plan_id, _ticks, document, body, plan_id, sessions):
            desk.log.add(plan_id, session_id, [row])
    return _record(desk.record.rows(plan_id, [row.id for row in rows]), taken.new, refused)


def _rows_of(body: bytes, plan_id: str) -> tuple[list[RowText], list[RefusedRow]]:
    read = read_record(body, plan_id)
    return [RowText(row.id, row.at, row.model_dump_json()) for row in read.rows], list(read.refused)


def _ticks(
    document: str, body: bytes, plan_id: str, sessions: list[tuple[str, datetime]]
) -> list[tuple[str, SessionRow]]:
    """Rows of the log out of what was ticked."""
    zone = plan_of(document).site.time_zone
    return list(ticked(read_record(body, plan_id).rows, sessions, zone, now_at(zone)))


def _others(body: bytes, plan_id: str, kept: dict[str, str]) -> list[RefusedRow]:
    """Rows that were sent under the id of another one."""
    read = read_record(body, plan_id)
    wrong = {row.index for row in read.refused}
    places = (index for index in range(len(read.rows) + len(wrong)) if index not in wrong)
    sent = zip(places, read.rows, strict=True)
    return [of_another(at, row) for at, row in sent if row.id in kept and differs(kept[row.id], row)]


def _record(kept: Sequence[KeptRow], taken: int, refused: Sequence[RefusedRow] = ()) -> Response:
    """Rows as they are kept, each with when it came to be known here."""
    rows = (f'{row.document[:-1]},"entered_at":"{row.entered_at.isoformat()}"}}' for row in kept)
    out = json.dumps([asdict(row) for row in sorted(refused, key=lambda row: row.index)])
    answer = f'{{"rows":[{",".join(rows)}],"taken":{taken},"refused":{out}}}'
    return Response(answer, media_type="application/json")
