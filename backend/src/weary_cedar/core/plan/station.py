"""A portable power station: one inverter with its packs."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Amps,
    Answer,
    Celsius,
    Id,
    Name,
    Noun,
    Origin,
    Percent,
    Survey,
    Volts,
    WattHours,
    Watts,
)
from weary_cedar.core.plan.receptacle import Neutral, Receptacle


class Pack(Noun):
    """An extra battery that adds energy to a station."""

    name: Name
    nameplate_wh: Annotated[float, Field(gt=0, le=1_000_000)]
    count: Annotated[int, Field(ge=1, le=50)] = 1


class AcInput(Noun):
    """Where a station takes AC: for charging, and for passing through."""

    volts: Literal[120, 230, 240] = 120
    most_w: Annotated[float, Field(gt=0, le=50_000)]
    cap_a: Amps = Field(default=15.0, description="of inlet and pass-through")
    passes_through: bool = True
    over_cap: Literal["input_trips", "assist"] = "input_trips"


class DcInput(Noun):
    """Where a station takes direct current."""

    kind: Literal["solar", "socket_12v"] = "solar"
    low_v: Annotated[float, Field(ge=0, le=2_000)] = 12.0
    high_v: Volts
    most_a: Amps
    short_circuit_a: Amps | None = None
    most_w: Annotated[float, Field(gt=0, le=50_000)]


class Bank(Noun):
    """Batteries, cables and fuse of a station that was built up from parts."""

    nominal_v: Volts
    lowest_v: Volts
    cable_a: Amps | None = None
    fuse_a: Amps | None = None
    fuse_for_dc: Answer = "unknown"
    fuse_interrupts_a: Annotated[float, Field(gt=0, le=1_000_000)] | None = None
    fault_a: Annotated[float, Field(gt=0, le=1_000_000)] | None = None
    bms_a: Amps | None = Field(default=None, description="least discharge limit of any battery of a string")
    parallel: Annotated[int, Field(ge=1, le=50)] = 1
    fuse_per_battery: Answer = "unknown"
    in_series: Annotated[int, Field(ge=1, le=50)] = 1
    most_in_series: Annotated[int, Field(ge=1, le=50)] | None = None
    alike: Answer = "unknown"
    joined_apart_v: Annotated[float, Field(ge=0, le=100)] | None = Field(
        default=None, description="difference of the batteries' voltages when they are joined"
    )
    precharge: Answer = "unknown"
    closed_room: Answer = "unknown"
    low_temperature_lockout: Answer = "unknown"


class CurvePoint(Noun):
    """An overload multiple of rating and how long it is carried; no seconds means for ever."""

    multiple: Annotated[float, Field(ge=1, le=20)]
    seconds: Annotated[float, Field(gt=0, le=86_400)] | None = None


class IdleCutout(Noun):
    """The station turns its output off when little has been drawn for long."""

    threshold_w: Watts = 10.0
    after_s: Annotated[float, Field(ge=60, le=7 * 86_400)] = 7_200.0


#: Default overload behaviour of a station, multiple of rating and seconds. From memory, an estimate
#: for the class; replace by the maker's curve or by what was measured.
DEFAULT_CURVE = (
    CurvePoint(multiple=1.05),
    CurvePoint(multiple=1.10, seconds=600.0),
    CurvePoint(multiple=1.15, seconds=180.0),
    CurvePoint(multiple=1.28, seconds=10.0),
    CurvePoint(multiple=1.5, seconds=1.0),
    CurvePoint(multiple=2.0, seconds=0.2),
)


class Station(Noun):
    """A station as its plate and its owner describe it; defaults are typical of the class."""

    name: Name
    output: Literal["120/240", "120", "230"] = "120/240"
    rated_va: Annotated[float, Field(gt=0, le=100_000)]
    leg_va: Annotated[float, Field(gt=0, le=100_000)] | None = Field(
        default=None, description="limit of one leg; half of the rating if absent"
    )
    receptacles: dict[Id, Receptacle] = Field(default_factory=dict)
    nameplate_wh: Annotated[float, Field(gt=0, le=1_000_000)]
    cell_wh: WattHours | None = Field(
        default=None, description="what the head unit's cells really give, 100 to 0 %; nameplate if absent"
    )
    packs: dict[Id, Pack] = Field(default_factory=dict)
    cutoff_percent: Percent = 0.0
    inverter_efficiency: Annotated[float, Field(ge=0.5, le=1)] = 0.92
    idle_w: Watts = 40.0
    sleep_w: Watts = 3.0
    self_discharge_percent_per_week: Annotated[float, Field(ge=0, le=20)] = 0.5
    overload_curve: Annotated[tuple[CurvePoint, ...], Field(min_length=1, max_length=20)] = DEFAULT_CURVE
    idle_cutout: IdleCutout | None = Field(
        default=None, description="absent when the station never turns off by itself or it is disabled"
    )
    chemistry: Literal["lfp", "nmc", "lead_flooded", "lead_sealed"] = "lfp"
    self_heated: bool = False
    coldest_charge_c: Celsius = 0.0
    waveform: Literal["sine", "modified", "unknown"] = "sine"
    hertz: Literal[50, 60] | None = Field(default=None, description="that of the site if absent")
    neutral: Neutral = "unknown"
    isolated: Answer = Field(default="yes", description="output isolated from the battery, so groundable")
    transfer_gap_ms: Annotated[float, Field(ge=0, le=10_000)] = 20.0
    ac_inputs: dict[Id, AcInput] = Field(default_factory=dict)
    dc_inputs: dict[Id, DcInput] = Field(default_factory=dict)
    output_while_charging: bool = Field(
        default=True, description="keeps its output on while the wall charges it"
    )
    auto_restart: Answer = Field(default="unknown", description="output comes back by itself after empty")
    refuses: tuple[Literal["inverter", "conventional", "standby"], ...] = Field(
        default=(), description="classes of generator that its charger is known to refuse"
    )
    bank: Bank | None = Field(default=None, description="of a station built up from parts")
    place_id: Id | None = None
    price: Annotated[float, Field(ge=0, le=1_000_000)] | None = None
    weight_kg: Annotated[float, Field(ge=0, le=5_000)] | None = None
    cycle_life: Annotated[int, Field(ge=1, le=50_000)] | None = None
    noise_db: Annotated[float, Field(ge=0, le=120)] | None = None
    survey: Survey = Field(default_factory=dict)
    idle_origin: Origin = "library"
    efficiency_origin: Origin = "library"
    capacity_origin: Origin = "plate"

    @property
    def total_cell_wh(self) -> float:
        """Energy of head unit and packs from 100 to 0 %, in Wh at the cells."""
        head = self.nameplate_wh if self.cell_wh is None else self.cell_wh
        return head + sum(pack.nameplate_wh * pack.count for pack in self.packs.values())

    @property
    def leg_limit_va(self) -> float:
        """Limit of one leg in VA."""
        if self.leg_va is not None:
            return self.leg_va
        return self.rated_va / 2 if self.output == "120/240" else self.rated_va
