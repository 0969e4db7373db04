"""An engine that makes electricity."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Answer, Id, Name, Noun, Survey
from weary_cedar.core.plan.receptacle import Neutral, Receptacle


class Generator(Noun):
    """A portable or standby generator as its plate describes it."""

    name: Name
    rated_w: Annotated[float, Field(gt=0, le=200_000)]
    starting_w: Annotated[float, Field(gt=0, le=400_000)] | None = None
    output: Literal["120/240", "120", "230"] = "120"
    waveform: Literal["inverter", "conventional", "standby"] = "inverter"
    auto_start: bool = False
    locked_out: Answer = Field(default="unknown", description="automatic start locked while another feeds")
    neutral: Neutral = "unknown"
    receptacles: dict[Id, Receptacle] = Field(default_factory=dict)
    healthy_minimum_share: Annotated[float, Field(ge=0, le=1)] = Field(
        default=0.0, description="least lasting load as a share of rating; 0.3 is usual for diesel"
    )
    place_id: Id | None = None
    survey: Survey = Field(default_factory=dict)
