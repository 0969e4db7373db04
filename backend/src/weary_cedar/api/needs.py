"""Routes of needs: the list, the library, typed lines."""

from typing import Annotated

from fastapi import APIRouter, Response, UploadFile
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.api.printed import SPREADSHEET, a_file, attached
from weary_cedar.core.decide.needs import NeedList, need_list
from weary_cedar.core.library import Appliance, appliances, beginnings, role_of
from weary_cedar.core.plan import Cycling, Job, Refrigerating, Role, Start, Steady, Thermostatic
from weary_cedar.formats.list_csv import needs_csv, needs_spreadsheet
from weary_cedar.formats.need_lines import read_need_lines, text_of_table
from weary_cedar.workshop.derivation import json_of, plan_of

router = APIRouter(prefix="/api")


class NeedLine(BaseModel):
    """A typed need as a load would hold it."""

    name: str
    behaviour: Annotated[Steady | Cycling, Field(discriminator="kind")]
    start: Start | None
    role: Role | None
    breaker: str = ""
    origin: str = ""


class Beginnings(BaseModel):
    """What a load begins with, by the kind of its behaviour."""

    steady: Steady
    cycling: Cycling
    job: Job
    thermostatic: Thermostatic
    refrigerating: Refrigerating


class NeedText(BaseModel):
    """Lines as typed or pasted."""

    text: Annotated[str, Field(max_length=200_000)]


@router.get("/library/appliances", tags=["needs"], responses=documented())
def library() -> list[Appliance]:
    """Generic appliances with typical figures and where those are from."""
    return appliances()


@router.get("/library/behaviours", tags=["needs"], responses=documented())
def behaviours() -> Beginnings:
    """Typical figures of each kind of behaviour, to begin from."""
    return Beginnings.model_validate(beginnings())


@router.get("/plans/{plan_id}/needs", tags=["needs"], response_model=NeedList, responses=documented(404, 422))
def needs(desk: AtDesk, plan_id: PlanId) -> Response:
    """What every load costs, how sure that is, and what to measure next."""
    return desk.sheet(plan_id, "needs")


@router.get(
    "/plans/{plan_id}/needs.csv", tags=["needs"], responses=a_file("text/csv"), response_class=Response
)
def needs_as_csv(desk: AtDesk, plan_id: PlanId) -> Response:
    """The list of needs as CSV; its rows can be read as needs again."""
    return attached(desk.answer(plan_id, _needs_csv), "text/csv", f"{plan_id}-needs.csv")


def _needs_csv(document: str) -> bytes:
    plan = plan_of(document)
    return needs_csv(plan, need_list(plan)).encode()


@router.get(
    "/plans/{plan_id}/needs.xlsx", tags=["needs"], responses=a_file(SPREADSHEET), response_class=Response
)
def needs_as_spreadsheet(desk: AtDesk, plan_id: PlanId) -> Response:
    """The list of needs as a spreadsheet; its rows can be read as needs again."""
    return attached(desk.answer(plan_id, _needs_book), SPREADSHEET, f"{plan_id}-needs.xlsx")


def _needs_book(document: str) -> bytes:
    plan = plan_of(document)
    return needs_spreadsheet(plan, need_list(plan))


@router.post(
    "/needs/read-file", tags=["needs"], response_model=list[NeedLine], responses=documented(413, 422)
)
def read_needs_file(desk: AtDesk, file: UploadFile) -> Response:
    """Read needs from a CSV or a spreadsheet (.xlsx); nothing is stored."""
    return desk.answer_from("lines", _read_file, file.file.read())


def _read_file(content: bytes) -> bytes:
    return _read(text_of_table(content))


@router.post("/needs/read", tags=["needs"], response_model=list[NeedLine], responses=documented(413, 422))
def read_needs(desk: AtDesk, given: NeedText) -> Response:
    """Read needs from lines or CSV; nothing is stored."""
    return desk.answer_from("lines", _read, given.text)


def _read(text: str) -> bytes:
    lines = [NeedLine(**vars(need), role=role_of(need.name)) for need in read_need_lines(text)]
    return json_of(list[NeedLine], lines)
