"""Routes of the strip: a run that is only tried, a stretch of it in full, and each day in words."""

from typing import Annotated

from fastapi import APIRouter, Path, Query, Response
from pydantic import BaseModel

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, Base, PlanId
from weary_cedar.api.printed import a_file, attached
from weary_cedar.api.views import PlanView
from weary_cedar.core.advice.may_start import MayStart, asked_of, may_start
from weary_cedar.core.checks import stops_of
from weary_cedar.core.decide.block_deeds import BlockDeed, done
from weary_cedar.core.decide.blocks import LaneOf, lanes_of
from weary_cedar.core.decide.day_plan import DayPlan, day_plan
from weary_cedar.core.decide.remedies import Remedy, remedies
from weary_cedar.core.outage import RunResult, first_part, run_outage
from weary_cedar.core.outage.thinned import stretch, thinned
from weary_cedar.formats.calendar_file import calendar_of
from weary_cedar.formats.series_csv import zipped_series
from weary_cedar.workshop.derivation import json_of, opened, plan_of

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["run"])

Seconds = Annotated[float, Query(ge=0, le=31 * 86_400)]


class BlockTrial(BaseModel):
    """Where all blocks would be, and the run: up to `until_s`, where only its first part was asked for."""

    lanes: list[LaneOf]
    run: RunResult
    until_s: float


class DayPlans(BaseModel):
    """Each day in words, as it could hang on the refrigerator; and what forbids to follow it."""

    days: list[DayPlan]
    stops: list[str]
    verdict: str


@router.get("/blocks", response_model=list[LaneOf], responses=documented(404, 422))
def blocks(desk: AtDesk, plan_id: PlanId) -> Response:
    """What the plan says about hours, as blocks on lanes."""
    return desk.answer(plan_id, _blocks)


def _blocks(document: str) -> bytes:
    return json_of(list[LaneOf], lanes_of(plan_of(document)))


@router.post("/blocks/try", response_model=BlockTrial, responses=documented(404, 413, 422))
def try_blocks(
    desk: AtDesk, plan_id: PlanId, deed: BlockDeed, until_s: Annotated[float | None, Query(gt=0)] = None
) -> Response:
    """What a block that is moved would do while it is dragged, up to a moment if one is given; not stored."""
    if until_s is None:
        return desk.answer(plan_id, _tried, deed)
    return desk.answer(plan_id, _tried_until, deed, until_s)


def _tried(document: str, deed: BlockDeed) -> bytes:
    return _tried_until(document, deed, plan_of(document).outage.length_s)


def _tried_until(document: str, deed: BlockDeed, until_s: float) -> bytes:
    plan = done(plan_of(document), deed)
    length_s = plan.outage.length_s
    until_s = min(until_s, length_s)
    run = thinned(run_outage(first_part(plan, until_s)))
    trial = BlockTrial(
        lanes=lanes_of(plan), run=run.model_copy(update={"length_s": length_s}), until_s=until_s
    )
    return trial.model_dump_json().encode()


@router.post("/blocks", response_model=PlanView, responses=documented(404, 412, 413, 422, 428, 507))
def do_block(desk: AtDesk, plan_id: PlanId, base: Base, deed: BlockDeed) -> Response:
    """Move, resize, add, choose or take away a block, as one edit."""
    return desk.edit_by(plan_id, base, done, deed)


@router.get("/run/stretch", response_model=RunResult, responses=documented(404, 422))
def run_stretch(desk: AtDesk, plan_id: PlanId, from_s: Seconds, to_s: Seconds) -> Response:
    """A stretch of the run with every change in it, however many: for looking closely."""
    return desk.answer(plan_id, _stretched, from_s, to_s)


def _stretched(document: str, from_s: float, to_s: float) -> bytes:
    return thinned(stretch(opened(document).run, from_s, to_s)).model_dump_json().encode()


@router.get("/events/{number}/remedies", response_model=list[Remedy], responses=documented(404, 422))
def event_remedies(desk: AtDesk, plan_id: PlanId, number: Annotated[int, Path(ge=0, le=100_000)]) -> Response:
    """What would prevent an event of the run, each proven by a run of its own."""
    return desk.answer(plan_id, _remedies, number)


def _remedies(document: str, number: int) -> bytes:
    found = opened(document)
    return json_of(list[Remedy], remedies(found.plan, found.run, number))


@router.get("/start", response_model=MayStart, responses=documented(404, 422))
def start(
    desk: AtDesk,
    plan_id: PlanId,
    at_s: Seconds,
    load_id: Annotated[str | None, Query(max_length=64)] = None,
    watts: Annotated[float | None, Query(ge=0.1, le=100_000)] = None,
    start_va: Annotated[float | None, Query(ge=1, le=200_000)] = None,
    lasts_s: Annotated[float | None, Query(ge=60, le=86_400)] = None,
    circuit_id: Annotated[str | None, Query(max_length=64)] = None,
) -> Response:
    """May an appliance be started at a moment: one of the plan, or watts that are not in it."""
    return desk.answer(plan_id, _start, at_s, load_id, watts, start_va, lasts_s, circuit_id)


def _start(
    document: str,
    at_s: float,
    load_id: str | None,
    watts: float | None,
    start_va: float | None,
    lasts_s: float | None,
    circuit_id: str | None,
) -> bytes:
    found = opened(document)
    asked = asked_of(
        found.plan,
        load_id=load_id,
        watts=watts,
        start_va=start_va,
        lasts_s=lasts_s,
        circuit_id=circuit_id,
    )
    answer = may_start(found.plan, found.run, at_s, asked, stops_of(found.findings))
    return answer.model_dump_json().encode()


@router.get("/days", response_model=DayPlans, responses=documented(404, 422))
def days(desk: AtDesk, plan_id: PlanId) -> Response:
    """Each day of the outage in words."""
    return desk.answer(plan_id, _days)


def _days(document: str) -> bytes:
    found = opened(document)
    days = day_plan(found.plan, found.run)
    plans = DayPlans(days=days, stops=stops_of(found.findings), verdict=found.run.verdict.sentence)
    return plans.model_dump_json().encode()


@router.get(
    "/days.ics",
    response_class=Response,
    responses={
        200: {"content": {"text/calendar": {"schema": {"type": "string"}}}, "description": "The days"},
        **documented(404, 422),
    },
)
def days_file(desk: AtDesk, plan_id: PlanId) -> Response:
    """The days and what is to be done on them as a calendar file (RFC 5545)."""
    return attached(desk.answer(plan_id, _calendar), "text/calendar", f"{plan_id}.ics")


def _calendar(document: str) -> bytes:
    found = opened(document)
    return calendar_of(found.plan, day_plan(found.plan, found.run), stops_of(found.findings))


@router.get("/results.zip", responses=a_file("application/zip"), response_class=Response)
def results(desk: AtDesk, plan_id: PlanId) -> Response:
    """The series of the run, as many CSV files as the command line writes, in one archive."""
    return attached(desk.answer(plan_id, _results), "application/zip", f"{plan_id}-results.zip")


def _results(document: str) -> bytes:
    return zipped_series(opened(document).run)
