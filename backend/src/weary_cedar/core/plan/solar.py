"""Solar modules and how they are wired to an input."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Amps,
    Answer,
    Bounds,
    Degrees,
    Id,
    LocalTime,
    Metres,
    Name,
    Noun,
    OnPlate,
    Owned,
    Percent,
    Ref,
    Seconds,
    Survey,
    Volts,
    Watts,
)


class Module(Noun):
    """Plate of one module at standard test conditions."""

    watts: Annotated[float, Bounds(0.1, 1_000, "no module gives less than 0.1 W")]
    voc_v: Volts | None = Field(default=None, description="open circuit; not known if absent")
    vmp_v: Volts | None = Field(default=None, description="at its greatest power; not known if absent")
    isc_a: Amps | None = Field(default=None, description="short circuit; not known if absent")
    imp_a: Amps | None = Field(default=None, description="at its greatest power; not known if absent")
    voc_percent_per_k: Annotated[float, Field(gt=-2, lt=0)] | None = None
    vmp_percent_per_k: Annotated[float, Field(gt=-2, lt=0)] | None = None
    tolerance_percent: Annotated[float, Field(ge=0, le=10)] = 3.0
    series_fuse_a: Amps | None = None


Tilt = Annotated[float, Field(ge=0, le=90)]


class Facing(Noun):
    """Where an array that is moved by hand looks from a time of day on."""

    at: LocalTime
    tilt_deg: Tilt
    azimuth_deg: Degrees


class Shade(Noun):
    """Hours of every day in which something stands in the sun's way."""

    begins: LocalTime
    ends: LocalTime
    share_percent: Percent = Field(default=100.0, description="of the power that is lost by it")


class SeenSun(Noun):
    """What an array really gave: from `t_s[i]` after the start of the outage on, `watts[i]`."""

    t_s: Annotated[tuple[Seconds, ...], Field(min_length=1, max_length=5_000)]
    watts: Annotated[tuple[Watts, ...], Field(min_length=1, max_length=5_000)]


class SolarArray(Owned):
    """Series × parallel modules on one input of a station, or a grid-tied array of the house."""

    name: Name
    kind: Literal["portable", "roof", "grid_tied"] = "portable"
    module: Module
    series: Annotated[int, Field(ge=1, le=40)] = 1
    parallel: Annotated[int, Field(ge=1, le=40)] = 1
    station_id: Annotated[Id | None, Ref("stations", "lets_go", with_it=("pack_id", "input_id"))] = None
    pack_id: Id | None = Field(default=None, description="of that station, where the input is a pack's own")
    input_id: Id | None = None
    tilt_deg: Tilt = 30.0
    azimuth_deg: Degrees = Field(default=180.0, description="from north, clockwise")
    moved: Annotated[tuple[Facing, ...], Field(max_length=12)] = Field(
        default=(), description="by hand at set times; fixed if absent"
    )
    shade: Annotated[tuple[Shade, ...], Field(max_length=12)] = ()
    soiling_percent: Percent = 3.0
    losses_percent: Percent = Field(
        default=15.0, description="mismatch, wiring, not square to the sun; heat is counted apart"
    )
    face_factor: Annotated[float, Field(ge=0, le=1.3)] = Field(
        default=1.0, description="0.71 for a two-sided module that lies on its face"
    )
    lead_m: Annotated[Metres | None, OnPlate("the length of the lead to its input", "m")] = 0.0
    lead_awg: Literal[14, 12, 10, 8, 6] = 12
    string_fuses: Answer = "unknown"
    seen: SeenSun | None = Field(default=None, description="measured at its input; instead of the model")
    survey: Survey = Field(default_factory=dict)
