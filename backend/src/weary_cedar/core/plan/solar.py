"""Solar modules and how they are wired to an input."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Answer, Id, Metres, Name, Noun, Survey, Volts


class Module(Noun):
    """Plate of one module at standard test conditions."""

    watts: Annotated[float, Field(gt=0, le=1_000)]
    voc_v: Volts
    vmp_v: Volts
    isc_a: Amps
    imp_a: Amps
    voc_percent_per_k: Annotated[float, Field(gt=-2, lt=0)] | None = None
    vmp_percent_per_k: Annotated[float, Field(gt=-2, lt=0)] | None = None
    tolerance_percent: Annotated[float, Field(ge=0, le=10)] = 3.0
    series_fuse_a: Amps | None = None


class SolarArray(Noun):
    """Series × parallel modules on one input of a station, or a grid-tied array of the house."""

    name: Name
    kind: Literal["portable", "roof", "grid_tied"] = "portable"
    module: Module
    series: Annotated[int, Field(ge=1, le=40)] = 1
    parallel: Annotated[int, Field(ge=1, le=40)] = 1
    station_id: Id | None = None
    input_id: Id | None = None
    lead_m: Metres = 0.0
    lead_awg: Literal[14, 12, 10, 8, 6] = 12
    string_fuses: Answer = "unknown"
    survey: Survey = Field(default_factory=dict)
