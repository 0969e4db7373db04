"""Outlets of a source, and how its neutral is tied to ground."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Answer, Name, Noun

#: Neutral to ground inside the source. "changes": different in bypass than on battery.
Neutral = Literal["floating", "bonded", "switchable", "changes", "unknown"]


#: The same while a source passes through what comes into it: that of what comes in, or its own.
InBypass = Literal["passes", "floating", "bonded", "unknown"]


class Receptacle(Noun):
    """A group of outlets behind one breaker; `kind` by its configuration, such as L14-30."""

    kind: Name
    rating_a: Amps
    gfci: Answer = "unknown"
    leg: Literal["both", "A", "B"] | None = Field(
        default=None, description="of a source of 120/240 V; by its configuration if absent"
    )
    transfer_gap_ms: Annotated[float, Field(ge=0, le=10_000)] | None = Field(
        default=None, description="0 if always on the inverter; that of the station if absent"
    )
    continuous: Answer = Field(default="unknown", description="its maker states the rating as lasting")
    live_while_charging: Answer = Field(default="unknown", description="while the wall charges the station")
    live_while_linked: Answer = Field(default="unknown", description="while the unit is linked to another")
    shown_on_when_dead: Answer = Field(
        default="unknown", description="the screen shows it on though it is dead"
    )
