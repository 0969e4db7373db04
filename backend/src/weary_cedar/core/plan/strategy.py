"""What the household does during the outage."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Id, Noun, Percent


class Strategy(Noun):
    """Who sheds loads, how fast, and what stays off after a trip."""

    shedding: Literal["automatic", "by_hand", "none"] = "automatic"
    reaction_s: Annotated[float, Field(ge=0, le=86_400)] = 60.0
    reset_after_s: Annotated[float, Field(ge=0, le=86_400)] = 900.0
    recovery_off: tuple[Id, ...] = Field(
        default=(), description="circuits that are left off when someone resets after a trip"
    )
    room_off_below_percent: Percent | None = Field(
        default=None, description="charge under which circuits marked room are shed"
    )
