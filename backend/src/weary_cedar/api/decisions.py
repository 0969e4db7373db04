"""Routes of what is decided with figures: how likely it is that a plan lasts, what would make it last."""

from functools import partial
from time import monotonic
from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.advice.schedule import USUAL_OUTAGES, Schedule, schedule
from weary_cedar.core.advice.size import Size, SizeAsked, Sized
from weary_cedar.core.advice.suggest import Suggestions, suggest
from weary_cedar.core.advice.why import Why, why
from weary_cedar.core.checks import stops_of
from weary_cedar.core.decide.chance import BATCHES, MOST_OUTAGES, Chance, Varying
from weary_cedar.core.decide.for_ever import ForEver, for_ever
from weary_cedar.core.decide.heat_choice import HeatChoices, heat_choices
from weary_cedar.core.decide.ways_in import WaysIn, ways_in
from weary_cedar.workshop import chances, sizes
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["decide"])
#: A schedule is tried in so many outages at most.
MOST_JUDGED = 40
#: And for so long, s.
MOST_COMPARED_S = 12.0


class ChanceAsked(Varying):
    """What varies, and after how many outages the answer is wanted."""

    outages: Annotated[int, Field(ge=1, le=MOST_OUTAGES)] = BATCHES[0]


@router.get("/suggestions", response_model=Suggestions, responses=documented(404, 422))
def suggestions(desk: AtDesk, plan_id: PlanId, gear: bool = False) -> Response:
    """What would make a plan last that does not: changes as merge patches, each proven by a run."""
    return desk.answer(plan_id, _suggested, gear)


def _suggested(document: str, gear: bool) -> bytes:
    found = opened(document)
    return suggest(found.plan, found.run, gear=gear).model_dump_json().encode()


@router.get("/why", response_model=Why, responses=documented(404, 422))
def why_so(desk: AtDesk, plan_id: PlanId) -> Response:
    """Where the energy went until it failed, or until the end."""
    return desk.answer(plan_id, _why)


def _why(document: str) -> bytes:
    found = opened(document)
    return why(found.plan, found.run).model_dump_json().encode()


@router.get("/chance", response_model=Chance, responses=documented(404, 422))
def chance(
    desk: AtDesk,
    plan_id: PlanId,
    asked: Annotated[ChanceAsked, Query()],
) -> Response:
    """The chance that a plan lasts, after so many outages as they may be.

    Ask again for more: what was tried is remembered while the plan stays as it is. Whoever leaves ends it.
    """
    varying = Varying.model_validate(asked.model_dump(exclude={"outages"}))
    return desk.further(plan_id, "chance", chances.more, chances.Remembered(), asked.outages, varying)


@router.get("/size", response_model=Size, responses=documented(404, 422))
def how_much(desk: AtDesk, plan_id: PlanId, asked: Annotated[SizeAsked, Query()]) -> Response:
    """How much to buy, as far as it is worked out: ask again until it says that it is done."""
    return desk.further(plan_id, "size", sizes.more, Sized(), asked)


@router.get("/schedule", response_model=Schedule, responses=documented(404, 422))
def when_to(
    desk: AtDesk,
    plan_id: PlanId,
    from_s: Annotated[float, Query(ge=0, le=31 * 86_400)] = 0.0,
    outages: Annotated[int, Query(ge=0, le=MOST_JUDGED)] = USUAL_OUTAGES,
) -> Response:
    """When to do what, as one merge patch, with what that costs and saves; nothing is stored."""
    return desk.answer(plan_id, _scheduled, from_s, outages)


def _is_late(begun: float) -> bool:
    """Whether a schedule is told without the outages that it was to be compared in."""
    return monotonic() - begun > MOST_COMPARED_S


def _scheduled(document: str, from_s: float, outages: int) -> bytes:
    found = opened(document)
    begun = monotonic()
    late = partial(_is_late, begun)
    said = schedule(found.plan, found.run, from_s=from_s, outages=outages, late=late)
    return said.model_dump_json().encode()


@router.get("/heat", response_model=HeatChoices, responses=documented(404, 422))
def heat(desk: AtDesk, plan_id: PlanId) -> Response:
    """What heats, by the station, by the engine or by gas."""
    return desk.answer(plan_id, _heat)


def _heat(document: str) -> bytes:
    found = opened(document)
    return heat_choices(found.plan, found.run, stops_of(found.findings)).model_dump_json().encode()


@router.get("/ways-in", response_model=WaysIn, responses=documented(404, 422))
def by_which_way(desk: AtDesk, plan_id: PlanId) -> Response:
    """The same house by cords, by a switch for one circuit, by an interlock, by a transfer switch."""
    return desk.answer(plan_id, _ways_in)


def _ways_in(document: str) -> bytes:
    found = opened(document)
    return ways_in(found.plan, stops_of(found.findings)).model_dump_json().encode()


@router.get("/for-ever", response_model=ForEver, responses=documented(404, 422))
def without_end(desk: AtDesk, plan_id: PlanId) -> Response:
    """Whether the plan goes on without end, and under which sky."""
    return desk.answer(plan_id, _for_ever)


def _for_ever(document: str) -> bytes:
    found = opened(document)
    return for_ever(found.plan, stops_of(found.findings)).model_dump_json().encode()
