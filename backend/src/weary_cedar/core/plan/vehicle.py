"""A vehicle that gives power."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Answer, Bounds, Litres, Name, Owned, Seconds, Watts


class Vehicle(Owned):
    """Outlet or 12 V socket of a vehicle."""

    name: Name
    kind: Literal["battery", "hybrid", "engine"] = "battery"
    outlet: Literal["ac_120", "ac_230", "socket_12v", "battery_12v"] = "ac_120"
    most_w: Annotated[float, Bounds(1, 20_000, "under 1 W it gives nothing")] = 1_500.0
    socket_fuse_a: Amps | None = None
    draws_w: Watts = 0.0
    may_start_engine: Answer = "unknown"
    fuse_at_battery: Answer = "unknown"
    usable_kwh: Annotated[float, Field(ge=0, le=500)] | None = Field(
        default=None, description="of its battery, down to where it stops giving"
    )
    tank_l: Litres | None = None
    kwh_per_l: Annotated[float, Field(ge=0, le=20)] | None = Field(
        default=None, description="given for each litre when its engine tops up"
    )
    supply_12v_w: Watts | None = Field(default=None, description="most that its 12 V supply gives for long")
    ready_timeout_s: Seconds = Field(default=3_600.0, description="turns itself off after this")
    told_to_stay: Answer = Field(default="unknown", description="it was set to stay on")
