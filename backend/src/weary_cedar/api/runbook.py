"""Routes of the runbook: the sheets of a plan, and on paper."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.errors import NotFound, Problem
from weary_cedar.core.runbook.sheet import CAUTIONS, Sheet
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.formats.sheets_pdf import sheets_pdf
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["runbook"])


class Runbook(BaseModel):
    """Every sheet of a plan, and what stands at the head of each."""

    cautions: tuple[str, ...] = CAUTIONS
    sheets: list[Sheet]


@router.get("/sheets", response_model=Runbook, responses=documented(404, 422))
def sheets(desk: AtDesk, plan_id: PlanId) -> Response:
    """The sheets: changing over, swapping, charging, returning, recovering, making safe; step by step."""
    return desk.answer(plan_id, _sheets)


def _sheets(document: str) -> bytes:
    found = opened(document)
    return Runbook(sheets=sheets_of(found.plan, found.findings, found.run)).model_dump_json().encode()


@router.get(
    "/sheets.pdf",
    response_class=Response,
    responses={
        200: {
            "content": {"application/pdf": {"schema": {"type": "string", "format": "binary"}}},
            "description": "On paper",
        },
        **documented(404, 422),
    },
)
def sheets_on_paper(
    desk: AtDesk, plan_id: PlanId, sheet: Annotated[str | None, Query(max_length=200)] = None
) -> Response:
    """All sheets on paper, or one of them: boxes to tick, lines for readings."""
    answer = desk.answer(plan_id, _on_paper, sheet)
    answer.headers["Content-Type"] = "application/pdf"
    answer.headers["Content-Disposition"] = f'attachment; filename="{plan_id}-sheets.pdf"'
    return answer


def _on_paper(document: str, key: str | None) -> bytes:
    found = opened(document)
    every = sheets_of(found.plan, found.findings, found.run)
    wanted = [sheet for sheet in every if key in (None, sheet.key)]
    if not wanted:
        names = ", ".join(sheet.key for sheet in every) or "a plan in which something feeds"
        problem = Problem("/sheet", key or "none", names)
        raise NotFound(str(problem), (problem,))
    return sheets_pdf(found.plan, wanted)
