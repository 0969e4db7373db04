"""Where things stand."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Answer, Celsius, Name, Noun


class Place(Noun):
    """A place in or about the house, with what matters for engines, batteries and water."""

    name: Name
    kind: Literal["living_space", "bedroom", "garage", "basement", "outdoors", "vehicle"]
    opening_m: Annotated[float, Field(ge=0, le=500)] | None = Field(
        default=None, description="distance of an outdoor place to the nearest door, window or vent"
    )
    co_alarm: Answer = Field(default="unknown", description="a working carbon-monoxide alarm in the house")
    coldest_c: Celsius | None = None
    hottest_c: Celsius | None = None
    below_flood_level: Answer = "unknown"
    escape_route: Answer = "unknown"
    wet: Answer = Field(default="unknown", description="rain or spray reaches what stands there")
    dusty: Answer = Field(default="unknown", description="sawdust, flour or the like gets into fans")
