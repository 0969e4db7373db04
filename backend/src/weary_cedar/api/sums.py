"""Routes of the quick sums."""

from typing import Annotated

from fastapi import APIRouter, Body
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.core.sums import SUMS, work_out
from weary_cedar.formats.sum_figures import read_figures

router = APIRouter(prefix="/api/sums", tags=["sums"])


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


class FoundView(BaseModel):
    """A figure that comes out."""

    label: str
    value: float
    unit: str


Figures = Annotated[
    dict[str, Annotated[str, Field(max_length=60)]],
    Body(openapi_examples={"cord": {"value": {"length": "25 ft", "awg": "14", "amps": "2.5"}}}),
]


@router.get("", responses=documented())
def sums() -> list[SumView]:
    """All sums."""
    return [
        SumView(
            name=item.name,
            title=item.title,
            source=item.source,
            given=[GivenView(key=g.key, label=g.label, unit=g.unit, default=g.default) for g in item.given],
        )
        for item in SUMS.values()
    ]


@router.post("/{name}", responses=documented(404, 422))
def work(name: str, figures: Figures) -> list[FoundView]:
    """Do a sum; figures as people write them, with or without units."""
    found = work_out(name, read_figures(name, figures))
    return [FoundView(label=item.label, value=item.value, unit=item.unit) for item in found]
