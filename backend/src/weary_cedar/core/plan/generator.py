"""An engine that makes electricity."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Answer,
    Bounds,
    Id,
    Litres,
    LocalTime,
    Money,
    Name,
    Noun,
    OnPlate,
    Owned,
    Seconds,
    Survey,
)
from weary_cedar.core.plan.receptacle import Neutral, Receptacle

Fuel = Literal["petrol", "diesel", "propane", "natural_gas"]


class QuietHours(Noun):
    """Hours of every day in which the engine stays off."""

    begins: LocalTime
    ends: LocalTime


class SecondFuel(Noun):
    """What an engine runs on when its first fuel is used up: a bottle of propane, a gas line."""

    fuel: Fuel
    rated_share: Annotated[float, Bounds(0.3, 1, "no engine loses two thirds of its power")] = Field(
        default=0.9, description="of its rating on this fuel; 0.9 is usual for propane"
    )
    tank_l: Litres | None = Field(default=None, description="of one bottle; all at once if absent")
    on_hand_l: Litres | None = Field(default=None, description="counted as enough if absent")
    price_per_l: Money | None = None


class Generator(Owned):
    """A portable or standby generator as its plate describes it."""

    name: Name
    rated_w: Annotated[float, Bounds(10, 200_000, "no engine is rated under 10 W")]
    starting_w: Annotated[float, Bounds(10, 400_000, "no engine is rated under 10 W")] | None = None
    output: Literal["120/240", "120", "230"] = "120"
    leg_w: Annotated[float, Bounds(10, 200_000, "no engine is rated under 10 W")] | None = Field(
        default=None, description="most of one leg of 120/240 V; half of its rating if absent"
    )
    waveform: Literal["inverter", "conventional", "standby"] = "inverter"
    auto_start: Annotated[bool | None, OnPlate("whether it starts by itself")] = False
    locked_out: Answer = Field(default="unknown", description="automatic start locked while another feeds")
    neutral: Neutral = "unknown"
    receptacles: dict[Id, Receptacle] = Field(default_factory=dict)
    healthy_minimum_share: Annotated[
        Annotated[float, Field(ge=0, le=1)] | None,
        OnPlate("the least load that does it no harm, as a share of its rating"),
    ] = Field(default=0.0, description="0 where it bears any; 0.3 is usual for diesel")
    fuel: Fuel = "petrol"
    tank_l: Litres | None = None
    on_hand_l: Litres | None = Field(default=None, description="fuel in the house, tank included")
    no_load_l_per_h: Annotated[float, Field(ge=0, le=100)] | None = Field(
        default=None, description="running with nothing on; by fuel and rating if absent"
    )
    l_per_kwh: Annotated[float, Field(ge=0, le=20)] | None = Field(
        default=None, description="for every kWh given; by fuel if absent"
    )
    fuel_price_per_l: Money | None = Field(default=None, description="in the money of all prices")
    second_fuel: SecondFuel | None = Field(default=None, description="used when the first is used up")
    refuel_pause_s: Seconds = 600.0
    distortion_percent: Annotated[float, Field(ge=0, le=100)] | None = Field(
        default=None, description="total harmonic distortion"
    )
    hertz_swing: Annotated[float, Field(ge=0, le=20)] | None = Field(
        default=None, description="by how much its frequency strays either way"
    )
    quiet: QuietHours | None = None
    noise_db: Annotated[float, Field(ge=0, le=140)] | None = None
    survey: Survey = Field(default_factory=dict)

    @property
    def healthy_w(self) -> float:
        """Least load that does it no harm, W, that counts."""
        return float(self.counted("healthy_minimum_share")) * self.rated_w

    @property
    def leg_limit_w(self) -> float:
        """Most of one leg, W: as its plate says, else half of its rating where it has two."""
        halved = self.rated_w / 2 if self.output == "120/240" else self.rated_w
        return halved if self.leg_w is None else self.leg_w
