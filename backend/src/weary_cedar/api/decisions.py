"""Routes of what is decided with figures: how likely it is that a plan lasts, what would make it last."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.advice.suggest import Suggestions, suggest
from weary_cedar.core.advice.why import Why, why
from weary_cedar.core.decide.chance import BATCHES, MOST_OUTAGES, Chance, Varying
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["decide"])


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
    return desk.chance(plan_id, asked.outages, varying)
