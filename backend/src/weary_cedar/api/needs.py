"""Routes of needs: the list, the library, typed lines."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import PlanId, Store
from weary_cedar.core.decide.needs import NeedList, need_list
from weary_cedar.core.library import Appliance, appliances, beginnings, role_of
from weary_cedar.core.plan import Cycling, Job, Role, Start, Steady, Thermostatic
from weary_cedar.formats.need_lines import read_need_lines

router = APIRouter(prefix="/api")


class NeedLine(BaseModel):
    """A typed need as a load would hold it."""

    name: str
    behaviour: Annotated[Steady | Cycling, Field(discriminator="kind")]
    start: Start | None
    role: Role | None


class Beginnings(BaseModel):
    """What a load begins with, by the kind of its behaviour."""

    steady: Steady
    cycling: Cycling
    job: Job
    thermostatic: Thermostatic


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


@router.get("/plans/{plan_id}/needs", tags=["needs"], responses=documented(404, 422))
def needs(store: Store, plan_id: PlanId) -> NeedList:
    """What every load costs, how sure that is, and what to measure next."""
    return need_list(store.get(plan_id).plan)


@router.post("/needs/read", tags=["needs"], responses=documented(413, 422))
def read_needs(given: NeedText) -> list[NeedLine]:
    """Read needs from lines or CSV; nothing is stored."""
    return [
        NeedLine(name=n.name, behaviour=n.behaviour, start=n.start, role=role_of(n.name))
        for n in read_need_lines(given.text)
    ]
