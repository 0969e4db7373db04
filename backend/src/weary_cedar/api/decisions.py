"""Routes of what is decided with figures: how likely it is that a plan lasts."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.decide.chance import BATCHES, MOST_OUTAGES, Chance, Varying

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["decide"])


class ChanceAsked(Varying):
    """What varies, and after how many outages the answer is wanted."""

    outages: Annotated[int, Field(ge=1, le=MOST_OUTAGES)] = BATCHES[0]


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
