"""Routes of the quick sums."""

from typing import Annotated, Any

from fastapi import APIRouter, Body, Query, Response
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.sums import SUMS, work_out
from weary_cedar.core.sums_of_plan import backs, filled, part_names
from weary_cedar.formats.sum_figures import read_figures
from weary_cedar.workshop.derivation import json_of, opened

router = APIRouter(prefix="/api", tags=["sums"])


class GivenView(BaseModel):
    """A figure that goes in."""

    key: str
    label: str
    unit: str
    default: float


class SumView(BaseModel):
    """A sum: what it answers and what goes in."""

    name: str
    title: str
    given: list[GivenView]
    source: str
    #: What its answer is about, where another figure of the plan could be taken for it.
    basis: str


class FoundView(BaseModel):
    """A figure that comes out."""

    label: str
    value: float
    unit: str


class BackView(BaseModel):
    """How a result goes back into the plan: what is changed, and the merge patch."""

    words: str
    patch: dict[str, Any]


class FoundForPlan(FoundView):
    """A figure that comes out, with how it goes back."""

    back: BackView | None


class PartName(BaseModel):
    """A part of the plan that a sum may be about."""

    id: str
    name: str


class SumOfPlan(BaseModel):
    """What a plan knows of a sum: the parts that it may be about, and the figures of the chosen one."""

    parts: list[PartName]
    about: str | None
    known: dict[str, float]


Figures = Annotated[
    dict[str, Annotated[str, Field(max_length=60)]],
    Body(openapi_examples={"cord": {"value": {"length": "40 ft", "awg": "12", "amps": "8"}}}),
]


@router.get("/sums", responses=documented())
def sums() -> list[SumView]:
    """All sums."""
    return [
        SumView(
            name=item.name,
            title=item.title,
            source=item.source,
            basis=item.basis,
            given=[GivenView(key=g.key, label=g.label, unit=g.unit, default=g.default) for g in item.given],
        )
        for item in SUMS.values()
    ]


@router.post("/sums/{name}", responses=documented(404, 413, 422))
def work(name: str, figures: Figures) -> list[FoundView]:
    """Do a sum; figures as people write them, with or without units."""
    found = work_out(name, read_figures(name, figures))
    return [FoundView(label=item.label, value=item.value, unit=item.unit) for item in found]


About = Annotated[str | None, Query(max_length=40, description="a part of the plan; the first if absent")]


@router.get("/plans/{plan_id}/sums/{name}", response_model=SumOfPlan, responses=documented(404, 422))
def sum_of_plan(desk: AtDesk, plan_id: PlanId, name: str, about: About = None) -> Response:
    """Figures of a sum that a plan knows."""
    return desk.answer(plan_id, _known, name, about)


def _known(document: str, name: str, about: str | None) -> bytes:
    plan = opened(document).plan
    known = filled(plan, name, about)
    room = SUMS[name].room
    parts = part_names(plan, room)
    found = SumOfPlan(
        parts=[PartName(id=key, name=words) for key, words in parts.items()],
        about=about or next(iter(parts), None),
        known=known,
    )
    return found.model_dump_json().encode()


@router.post(
    "/plans/{plan_id}/sums/{name}", response_model=list[FoundForPlan], responses=documented(404, 413, 422)
)
def work_for_plan(
    desk: AtDesk, plan_id: PlanId, name: str, figures: Figures, about: About = None
) -> Response:
    """Do a sum for a part of a plan; what the figures leave out is taken from the plan."""
    return desk.answer(plan_id, _worked, name, figures, about)


def _worked(document: str, name: str, figures: dict[str, str], about: str | None) -> bytes:
    plan = opened(document).plan
    found = work_out(name, {**filled(plan, name, about), **read_figures(name, figures)})
    ways = {way.label: BackView(words=way.words, patch=way.patch) for way in backs(plan, name, found, about)}
    lines = [
        FoundForPlan(label=item.label, value=item.value, unit=item.unit, back=ways.get(item.label))
        for item in found
    ]
    return json_of(list[FoundForPlan], lines)
