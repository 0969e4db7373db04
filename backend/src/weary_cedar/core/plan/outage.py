"""The outage that the plan is for."""

from datetime import time
from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Id, LocalMoment, LocalTime, Noun, Percent, Seconds


class AwayWindow(Noun):
    """Hours of every day with nobody at home."""

    leaves: LocalTime
    returns: LocalTime


class Occupancy(Noun):
    """When someone is there and awake to do things by hand. Equal times: always awake."""

    wakes: LocalTime = time(6, 30)
    sleeps: LocalTime = time(22, 30)
    away: tuple[AwayWindow, ...] = ()


class Incident(Noun):
    """Something that goes wrong at a time, for a time."""

    kind: Literal["cord_unplugged", "door_open"]
    at_s: Seconds
    for_s: Annotated[float, Field(gt=0, le=31 * 86_400)]
    load_id: Id | None = None


class Outage(Noun):
    """Start, length and circumstances."""

    start_local: LocalMoment
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
