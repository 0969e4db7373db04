"""What uses power, and how it behaves over time."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Amps,
    Bounds,
    Celsius,
    Id,
    LocalTime,
    Name,
    Noun,
    Origin,
    PowerFactor,
    Ref,
    Seconds,
    Survey,
    Watts,
)
from weary_cedar.core.plan.circuit import Mark


class StartedOn(Noun):
    """A source on which a motor was started."""

    kind: Literal["station", "link", "generator", "vehicle"] = "station"
    id: Id


class Start(Noun):
    """Inrush of a motor or heater: total apparent power while it starts, and for how long."""

    va: Annotated[float, Bounds(1, 200_000, "a start of nothing is none: leave it out")]
    seconds: Annotated[float, Bounds(0.01, 30, "no motor starts faster or slower")] = 0.5
    seen_on: tuple[StartedOn, ...] = Field(
        default=(), max_length=20, description="sources on which it was seen to start well"
    )


class Steady(Noun):
    """Always on at one power."""

    kind: Literal["steady"] = "steady"
    watts: Watts


class Defrost(Noun):
    """A burst on its own clock that takes the place of the cycle while it lasts."""

    watts: Watts
    seconds: Annotated[float, Bounds(60, 86_400, "shorter than a minute makes no sense here")]
    every_s: Annotated[float, Bounds(600, 30 * 86_400, "nothing defrosts more often or less")]


class Hours(Noun):
    """A stretch of every day; one that ends earlier than it begins runs past midnight."""

    begins: LocalTime
    ends: LocalTime


class Cycling(Noun):
    """On for `duty` of every period: a refrigerator, a pump on a float, a dehumidifier."""

    kind: Literal["cycling"] = "cycling"
    on_w: Watts
    duty: Annotated[float, Bounds(0, 1, "a share of its time, from never to always")]
    period_s: Annotated[float, Bounds(10, 7 * 86_400, "no appliance cycles faster or slower")] = 2_400.0
    phase: Annotated[float, Field(ge=0, lt=1)] | None = Field(
        default=None, description="position in the cycle at the start of the outage; spread by rule if absent"
    )
    defrost: Defrost | None = None
    hours: Hours | None = Field(
        default=None, description="of every day in which a timer lets it run; any if absent"
    )


class JobStep(Noun):
    """One stretch of a job at one power."""

    watts: Watts
    minutes: Annotated[float, Bounds(0.01, 1_440, "under a second nothing is done; a day is the longest")]


class Job(Noun):
    """Something done at a time of day: cooking, a dishwasher, a hair dryer."""

    kind: Literal["job"] = "job"
    steps: Annotated[tuple[JobStep, ...], Field(min_length=1, max_length=24)]
    earliest: LocalTime = Field(description="local time of day at which it begins if it can")
    latest: LocalTime = Field(description="local time of day after which it is not begun any more")
    daily: bool = Field(default=True, description="every day, or only the first time in the outage")
    splittable: bool = Field(default=False, description="goes on where it stopped after a break in power")


class SequenceStep(Noun):
    """One step of a heater's electrical sequence, before or after it heats."""

    name: Name
    watts: Watts
    seconds: Annotated[float, Bounds(0.5, 3_600, "a step of a sequence lasts from half a second to an hour")]


class Setback(Noun):
    """Hours of every day with another set point."""

    begins: LocalTime
    ends: LocalTime
    set_c: Celsius


LossWPerK = Annotated[float, Bounds(1, 10_000, "even a hut loses more than 1 W/K")]


class Thermostatic(Noun):
    """A heater or cooler on a thermostat: gas furnace, boiler with pumps, window air conditioner."""

    kind: Literal["thermostatic"] = "thermostatic"
    mode: Literal["heat", "cool"] = "heat"
    loss_w_per_k: LossWPerK = 200.0
    capacity_wh_per_k: Annotated[
        float, Bounds(20, 1_000_000, "what holds less than 20 Wh/K warms within seconds: no room does")
    ] = 5_000.0
    gain_w: Annotated[float, Field(ge=0, le=50_000)] = 400.0
    set_c: Celsius = 20.0
    setback: Setback | None = None
    band_k: Annotated[float, Bounds(0.1, 5, "no thermostat tells less than 0.1 K")] = 0.5
    cycles_at_half: Annotated[float, Bounds(0.1, 12, "from once in ten hours to every five minutes")] = 3.0
    output_w: Annotated[float, Bounds(100, 200_000, "under 100 W no heater holds a room")] = Field(
        default=15_000.0, description="heat moved while it runs"
    )
    run_w: Watts = Field(default=600.0, description="electrical power while it heats or cools")
    before: Annotated[tuple[SequenceStep, ...], Field(max_length=8)] = ()
    after: Annotated[tuple[SequenceStep, ...], Field(max_length=8)] = ()


class Measured(Noun):
    """A meter series as change points: from `t_s[i]` on it draws `watts[i]`."""

    kind: Literal["measured"] = "measured"
    t_s: Annotated[tuple[Seconds, ...], Field(min_length=1, max_length=5_000)]
    watts: Annotated[tuple[Watts, ...], Field(min_length=1, max_length=5_000)]
    length_s: Annotated[float, Bounds(60, 31 * 86_400, "shorter than a minute makes no sense here")]
    repeats: bool = True


#: 40 °F: perishable food that was warmer than this for long is not safe any more. Guidance of the U.S.
#: Department of Agriculture, from memory.
FOOD_LIMIT_C = 4.44


class Compartment(Noun):
    """A space that is kept cold: what lies in it warms when the compressor cannot run."""

    name: Name
    contents_kg: Annotated[float, Bounds(0.5, 2_000, "less than half a kilogram tells nothing about food")]
    loss_w_per_k: Annotated[float, Bounds(0.05, 100, "no box is tighter or leakier")] = Field(
        description="heat that comes in for each kelvin between the air around it and its contents, W/K"
    )
    set_c: Celsius = Field(description="what its contents are kept at")
    band_k: Annotated[float, Bounds(0.1, 10, "no control tells less than 0.1 K")] = 1.0
    start_c: Celsius | None = Field(default=None, description="at the start; within its band if absent")
    limit_c: Celsius = Field(
        default=FOOD_LIMIT_C, description="its contents are counted as too warm above this: 40 °F"
    )


class Refrigerating(Noun):
    """A refrigerator or freezer whose compartments drive its compressor."""

    kind: Literal["refrigerating"] = "refrigerating"
    on_w: Watts
    cop: Annotated[float, Bounds(0.3, 6, "no compressor of a kitchen is worse or better")] = Field(
        default=1.4, description="heat taken out for each watt that the compressor draws"
    )
    compartments: Annotated[dict[Id, Compartment], Field(min_length=1, max_length=4)]
    room_c: Celsius = Field(
        default=21.0, description="air around it; where its place is outdoors, the weather counts instead"
    )
    defrost: Defrost | None = None


Behaviour = Annotated[
    Steady | Cycling | Job | Thermostatic | Measured | Refrigerating, Field(discriminator="kind")
]


#: What a load is for, where that decides: what a check asks of it, or who depends on it.
Role = Literal[
    "life_support", "sleep_apnoea", "light", "communication", "heat", "food", "pump", "hot", "tool"
]


class Load(Noun):
    """One appliance or group of small ones, on a breaker or on a lead."""

    name: Name
    circuit_id: Annotated[Id | None, Ref("circuits")] = Field(
        default=None,
        description="breaker that it hangs on at home; none if only ever on a lead",
    )
    mark: Mark | None = Field(
        default=None, description="of a load on a lead by itself, keep if absent; else its breaker's counts"
    )
    order: Annotated[int, Field(ge=1, le=999)] | None = Field(
        default=None, description="of a load on a lead by itself: 1 is the last to go; 50 if absent"
    )
    behaviour: Behaviour
    power_factor: PowerFactor = 1.0
    power_factor_origin: Origin = "estimate"
    start: Start | None = Field(default=None, description="not known if absent")
    soft_start: bool = Field(default=False, description="a drive or starter without inrush")
    compressor: bool = Field(default=False, description="starts harder within 5 min of stopping")
    restart_factor: Annotated[float, Field(ge=1, le=4)] = 1.5
    drops_on_dip: bool = Field(default=False, description="a contactor or saw that stays off after a dip")
    tolerance_s: Seconds = Field(default=900.0, description="how long it may be without power")
    needs_bonded: bool = Field(default=False, description="flame sensing that wants neutral at ground")
    needs_sine: bool = False
    largest_gap_ms: Annotated[float, Field(ge=0, le=60_000)] | None = Field(
        default=None, description="longest change-over that it rides through; any if absent"
    )
    role: Role | None = None
    protection_class: Literal["I", "II"] | None = Field(
        default=None, description="I: its case is earthed; II: doubly insulated; counted as I if absent"
    )
    plate_volts: Annotated[float, Bounds(1, 1_000, "no plate says less than 1 V")] | None = None
    locked_rotor_a: Amps | None = None
    continuous: bool | None = Field(
        default=None, description="draws for 3 h or more at a time; judged by its behaviour if absent"
    )
    place_id: Annotated[Id | None, Ref("places", "lets_go")] = None
    survey: Survey = Field(default_factory=dict)
    origin: Origin = "estimate"
    read_on: date | None = Field(default=None, description="day on which what it draws was read last")
