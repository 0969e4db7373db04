"""Routes of the table of breakers: shown, read, taken over, as CSV and as a spreadsheet."""

from typing import Annotated, Literal

from fastapi import APIRouter, Body, Response, UploadFile
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, Base, PlanId
from weary_cedar.api.printed import SPREADSHEET, a_file, attached
from weary_cedar.api.views import PlanView
from weary_cedar.formats.breakers import csv_table, table_as_csv, table_as_xlsx, written, xlsx_table
from weary_cedar.formats.spreadsheet import MAGIC
from weary_cedar.formats.text_file import text_of
from weary_cedar.workshop.beginnings import bare_house
from weary_cedar.workshop.breaker_tables import GivenTable, TableView, read_table, with_table
from weary_cedar.workshop.derivation import plan_of

router = APIRouter(prefix="/api", tags=["panels"])

LINES = {"text": "1 kitchen fridge 20 A\n5 7 well pump 20 A 12 AWG keep"}
Given = Annotated[GivenTable, Body(examples=[LINES])]


class NewTable(BaseModel):
    """A table for a house that is not there yet."""

    table: GivenTable = Field(examples=[LINES])
    system: Literal["split_phase_120_240", "single_phase_230"] = "split_phase_120_240"


class FileText(BaseModel):
    """A file as lines that can be laid over a table, with how many rows it has and what was left out."""

    text: str
    rows: int
    notes: list[str]


@router.get("/plans/{plan_id}/breakers", response_model=TableView, responses=documented(404, 422))
def breakers(desk: AtDesk, plan_id: PlanId) -> Response:
    """All breakers of a plan as a table of cells."""
    return desk.sheet(plan_id, "breakers")


@router.post("/plans/{plan_id}/breakers/read", response_model=TableView, responses=documented(404, 413, 422))
def read(desk: AtDesk, plan_id: PlanId, given: Given) -> Response:
    """What pasted lines or changed cells say, for a plan; nothing is stored."""
    return desk.answer(plan_id, _read, given)


def _read(document: str, given: GivenTable) -> bytes:
    return read_table(plan_of(document), given).model_dump_json().encode()


@router.post("/breakers/read", response_model=TableView, responses=documented(413, 422))
def read_new(desk: AtDesk, given: Annotated[NewTable, Body(examples=[{"table": LINES}])]) -> Response:
    """What pasted lines say, for a house that is not there yet; nothing is stored."""
    return desk.answer_from("breakers", _read_new, given)


def _read_new(given: NewTable) -> bytes:
    return read_table(bare_house(given.system), given.table).model_dump_json().encode()


@router.post(
    "/plans/{plan_id}/breakers",
    response_model=PlanView,
    responses=documented(404, 412, 413, 422, 428, 507),
)
def take(desk: AtDesk, plan_id: PlanId, base: Base, given: Given) -> Response:
    """Put a table into the plan, as one edit: cells are all of it, lines are laid over what is there."""
    return desk.edit_by(plan_id, base, with_table, given)


@router.post("/breakers/cells", response_model=FileText, responses=documented(413, 422))
def cells(desk: AtDesk, file: UploadFile) -> Response:
    """A CSV or a spreadsheet (.xlsx) as CSV with the columns that are known; nothing is stored."""
    return desk.answer_from("breakers", _cells, file.file.read())


def _cells(content: bytes) -> bytes:
    table = xlsx_table(content) if content.startswith(MAGIC) else csv_table(text_of(content))
    found = FileText(text=table_as_csv(table), rows=len(table.rows), notes=list(table.notes))
    return found.model_dump_json().encode()


@router.get("/plans/{plan_id}/breakers.csv", responses=a_file("text/csv"), response_class=Response)
def as_csv(desk: AtDesk, plan_id: PlanId) -> Response:
    """All breakers of a plan as CSV."""
    return attached(desk.answer(plan_id, _as_csv), "text/csv", f"{plan_id}-breakers.csv")


def _as_csv(document: str) -> bytes:
    return table_as_csv(written(plan_of(document))).encode()


@router.get("/plans/{plan_id}/breakers.xlsx", responses=a_file(SPREADSHEET), response_class=Response)
def as_spreadsheet(desk: AtDesk, plan_id: PlanId) -> Response:
    """All breakers of a plan as a spreadsheet."""
    return attached(desk.answer(plan_id, _as_spreadsheet), SPREADSHEET, f"{plan_id}-breakers.xlsx")


def _as_spreadsheet(document: str) -> bytes:
    return table_as_xlsx(written(plan_of(document)))
