"""The outage that the plan is for."""

from datetime import time
from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Bounds, Celsius, Id, LocalMoment, LocalTime, Noun, Percent, Seconds


class AwayWindow(Noun):
    """Hours of every day with nobody at home."""

    leaves: LocalTime
    returns: LocalTime


class Occupancy(Noun):
    """When someone is there and awake to do things by hand. Equal times: always awake."""

    wakes: LocalTime = time(6, 30)
    sleeps: LocalTime = time(22, 30)
    away: Annotated[tuple[AwayWindow, ...], Field(max_length=24)] = ()


class Incident(Noun):
    """Something that goes wrong at a time, for a time."""

    kind: Literal["cord_unplugged", "door_open"]
    at_s: Seconds
    for_s: Annotated[float, Bounds(1, 31 * 86_400, "shorter than a second makes no sense here")]
    load_id: Id | None = None


class Weather(Noun):
    """Outdoor temperature: hourly values from the start, or one day curve that repeats."""

    hourly_c: Annotated[tuple[Celsius, ...], Field(max_length=1_000)] = Field(
        default=(), description="one value an hour from the start of the outage; the last one stays"
    )
    low_c: Celsius = 5.0
    high_c: Celsius = 15.0
    coldest_at: LocalTime = time(6, 0)


class Outage(Noun):
    """Start, length and circumstances."""

    start_local: LocalMoment
    length_s: Annotated[
        float, Bounds(600, 31 * 86_400, "under ten minutes nothing is planned, nor over a month")
    ] = 3 * 86_400.0
    start_charge_percent: dict[Id, Percent] = Field(
        default_factory=dict, description="by station; 100 where absent"
    )
    pack_charge_percent: dict[Id, dict[Id, Percent]] = Field(
        default_factory=dict, description="by station and pack; that of its station where absent"
    )
    ac_on_at_start: bool = False
    changeover_after_s: Seconds = 900.0
    restore: Literal["one_at_a_time", "all_at_once"] = "one_at_a_time"
    restore_interval_s: Annotated[float, Bounds(1, 3_600, "no hand is faster than a second")] = 20.0
    occupancy: Occupancy = Occupancy()
    weather: Weather = Weather()
    incidents: Annotated[dict[Id, Incident], Field(max_length=200)] = Field(default_factory=dict)
