"""The outage that the plan is for."""

from datetime import datetime, time
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from weary_cedar.core.plan.base import Id, Noun, Percent, Seconds


def _local(value: datetime) -> datetime:
    if value.tzinfo is not None:
        raise ValueError(
            "should be local time of the site without an offset, for example 2026-10-13T18:00:00"
        )
    return value


class AwayWindow(Noun):
    """Hours of every day with nobody at home."""

    leaves: time
    returns: time


class Occupancy(Noun):
    """When someone is there and awake to do things by hand. Equal times: always awake."""

    wakes: time = time(6, 30)
    sleeps: time = time(22, 30)
    away: tuple[AwayWindow, ...] = ()


class Incident(Noun):
    """Something that goes wrong at a time, for a time."""

    kind: Literal["cord_unplugged", "door_open"]
    at_s: Seconds
    for_s: Annotated[float, Field(gt=0, le=31 * 86_400)]
    load_id: Id | None = None


class Outage(Noun):
    """Start, length and circumstances."""

    start_local: Annotated[datetime, AfterValidator(_local)]
    length_s: Annotated[float, Field(ge=600, le=31 * 86_400)] = 3 * 86_400.0
    start_charge_percent: dict[Id, Percent] = Field(
        default_factory=dict, description="by station; 100 where absent"
    )
    ac_on_at_start: bool = False
    changeover_after_s: Seconds = 900.0
    restore: Literal["one_at_a_time", "all_at_once"] = "one_at_a_time"
    restore_interval_s: Annotated[float, Field(gt=0, le=3_600)] = 20.0
    occupancy: Occupancy = Occupancy()
    incidents: dict[Id, Incident] = Field(default_factory=dict)
