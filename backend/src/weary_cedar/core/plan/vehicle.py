"""A vehicle that gives power."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Amps,
    Answer,
    Bounds,
    Litres,
    Money,
    Name,
    OnPlate,
    Owned,
    Percent,
    Seconds,
    Volts,
    Watts,
)
from weary_cedar.core.plan.generator import Generator
from weary_cedar.core.plan.load import Hours
from weary_cedar.core.plan.receptacle import Neutral, Receptacle

#: The name under which a vehicle's one outlet is found.
VEHICLE_OUTLET = "ac"
#: What every outlet of a house and of a vehicle carries, A.
FIFTEEN_A = 15.0


class Vehicle(Owned):
    """Outlet or 12 V socket of a vehicle."""

    name: Name
    kind: Literal["battery", "hybrid", "engine"] = "battery"
    outlet: Literal["ac_120", "ac_230", "socket_12v", "battery_12v"] = "ac_120"
    most_w: Annotated[
        Annotated[float, Bounds(1, 20_000, "under 1 W it gives nothing")] | None,
        OnPlate("the most that its outlet gives", "W"),
    ] = 1_500.0
    socket_fuse_a: Amps | None = None
    socket_v: Volts = Field(default=12.0, description="at its 12 V socket or battery while it gives")
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
    engine_w: Annotated[float, Bounds(1, 100_000, "under 1 W it tops nothing up")] | None = Field(
        default=None,
        description="with which its engine tops up; gives its hours, and without a battery its most",
    )
    fuel_price_per_l: Money | None = None
    inverter_efficiency: Annotated[float, Field(ge=0.3, le=1)] = Field(
        default=1.0,
        description="from its battery to its outlet or 12 V socket; 1 where the kWh are what arrives there",
    )
    tops_up_below_percent: Percent = Field(
        default=20.0, description="charge of its battery at which its engine starts, where it may"
    )
    tops_up_to_percent: Percent = Field(default=80.0, description="charge at which the engine stops again")
    supply_12v_w: Watts | None = Field(default=None, description="most that its 12 V supply gives for long")
    ready_timeout_s: Seconds = Field(default=3_600.0, description="turns itself off after this")
    neutral: Neutral = "unknown"
    gfci: Answer = Field(default="unknown", description="whether its outlet has ground-fault protection")
    told_to_stay: Answer = Field(default="unknown", description="it was set to stay on")
    away: Annotated[tuple[Hours, ...], Field(max_length=24)] = Field(
        default=(), description="hours of every day at which it is not at the house and gives nothing"
    )

    @property
    def tops_up(self) -> bool:
        """Whether its engine charges its battery."""
        return self.kind == "engine" or (self.kind == "hybrid" and self.may_start_engine == "yes")

    @property
    def gives_w(self) -> float:
        """Most that its outlet gives, W, that counts."""
        return float(self.counted("most_w"))

    @property
    def lasting_w(self) -> float:
        """Most that it gives for long, W: where it has no battery, no more than its engine."""
        return min(self.gives_w, self.engine_w) if self.kind == "engine" and self.engine_w else self.gives_w

    @property
    def gives_ac(self) -> bool:
        """Whether it has an outlet that appliances and feeds can hang on."""
        return self.outlet in ("ac_120", "ac_230")

    def as_source(self) -> Generator:
        """Its outlet as a source of AC: one hot, no more than its watts, nothing above them for a start."""
        volts = 230.0 if self.outlet == "ac_230" else 120.0
        amps = self.lasting_w / volts
        kind = "CEE 7" if self.outlet == "ac_230" else "5-15" if amps <= FIFTEEN_A else "5-20"
        outlet = Receptacle(kind=kind, rating_a=max(FIFTEEN_A, amps), gfci=self.gfci)
        return Generator(
            name=self.name,
            rated_w=max(10.0, self.lasting_w),
            starting_w=max(10.0, self.lasting_w),
            output="230" if self.outlet == "ac_230" else "120",
            neutral=self.neutral,
            receptacles={VEHICLE_OUTLET: outlet},
        )
