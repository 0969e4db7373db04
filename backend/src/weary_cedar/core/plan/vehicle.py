"""A vehicle that gives power."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Answer, Id, Name, Noun, Watts


class Vehicle(Noun):
    """Outlet or 12 V socket of a vehicle."""

    name: Name
    kind: Literal["battery", "hybrid", "engine"] = "battery"
    outlet: Literal["ac_120", "ac_230", "socket_12v", "battery_12v"] = "ac_120"
    most_w: Annotated[float, Field(gt=0, le=20_000)] = 1_500.0
    socket_fuse_a: Amps | None = None
    draws_w: Watts = 0.0
    may_start_engine: Answer = "unknown"
    fuse_at_battery: Answer = "unknown"
    place_id: Id | None = None
