"""Batteries: packs of a station, the bank of a built-up one, and external ones that refill it."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Amps,
    Answer,
    Bounds,
    Id,
    Name,
    Noun,
    Owned,
    Ref,
    Volts,
    WattHours,
    Watts,
)
from weary_cedar.core.plan.station_inputs import DcInput, DcOutput

FaultAmps = Annotated[float, Bounds(1, 1_000_000, "every battery gives more than 1 A into a short")]
CellWh = Annotated[float, Bounds(1, 1_000_000, "a battery of under 1 Wh feeds nothing")]


class Taper(Noun):
    """How a battery takes less as it fills: all it can up to the knee, then linearly less."""

    knee_percent: Annotated[float, Field(ge=0, lt=100)] = 95.0
    end_percent: Annotated[float, Bounds(1, 100, "under 1 % it would never be full")] = Field(
        default=35.0, description="of the reference, at full charge"
    )
    reference_w: Annotated[float, Bounds(1, 100_000, "under 1 W it would never be full")] | None = Field(
        default=None, description="taken below the knee, at the cells; the largest AC charge if absent"
    )


class Pack(Owned):
    """An extra battery that adds energy to a station; it may have a solar input of its own."""

    name: Name
    nameplate_wh: CellWh
    cell_wh: WattHours | None = Field(default=None, description="really given, 100 to 0 %; plate if absent")
    count: Annotated[int, Field(ge=1, le=50)] = 1
    reading_offset_percent: Annotated[float, Field(ge=-20, le=20)] = Field(
        default=0.0, description="points by which its display is off; without effect on its energy"
    )
    dc_inputs: dict[Id, DcInput] = Field(
        default_factory=dict, description="of its own; without one it charges through the head unit"
    )
    dc_outputs: dict[Id, DcOutput] = Field(
        default_factory=dict, description="of its own, usable with the inverter off"
    )

    @property
    def total_cell_wh(self) -> float:
        """Energy of all of them from 100 to 0 %, in Wh."""
        return (self.nameplate_wh if self.cell_wh is None else self.cell_wh) * self.count


class BankBattery(Noun):
    """One battery of a bank, as its plate describes it."""

    name: Name
    discharge_a: Amps | None = Field(default=None, description="most that its protection lets out")
    charge_a: Amps | None = Field(default=None, description="most that it may be charged with")


class Bank(Noun):
    """Batteries, cables and fuse of a station that was built up from parts."""

    nominal_v: Volts
    lowest_v: Volts
    charge_v: Volts | None = None
    charge_a: Amps | None = Field(default=None, description="most that the batteries may be charged with")
    cable_a: Amps | None = None
    fused: Answer = Field(
        default="unknown", description="whether there is a fuse at all, where its amps are not said"
    )
    fuse_a: Amps | None = None
    fuse_for_dc: Answer = "unknown"
    fuse_interrupts_a: FaultAmps | None = None
    fault_a: FaultAmps | None = None
    bms_a: Amps | None = Field(default=None, description="least discharge limit of any battery of a string")
    batteries: Annotated[dict[Id, BankBattery], Field(max_length=100)] = Field(
        default_factory=dict, description="one by one, where they are not all alike"
    )
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

    @property
    def weakest_a(self) -> float | None:
        """Most that the weakest battery lets out, A: as said, or of those that are named; else not known."""
        limits = [battery.discharge_a for battery in self.batteries.values()]
        said = [limit for limit in (self.bms_a, *limits) if limit is not None]
        return min(said) if said and (self.bms_a is not None or None not in limits) else None

    @property
    def most_draw_w(self) -> float | None:
        """Most that the weakest battery lets out with all that are beside it, W at nominal volts."""
        return None if self.weakest_a is None else self.weakest_a * self.parallel * self.nominal_v

    @property
    def most_charge_w(self) -> float | None:
        """Most that the batteries may be charged with, W; nothing where the plate was not read."""
        one_by_one = [b.charge_a * self.parallel for b in self.batteries.values() if b.charge_a is not None]
        limits = [amps for amps in (self.charge_a, *one_by_one) if amps is not None]
        return min(limits) * (self.charge_v or self.nominal_v) if limits else None


class ExternalBattery(Owned):
    """Tool packs or a 12 V battery that give their energy to a station's DC input."""

    name: Name
    kind: Literal["tool_packs", "lead_acid", "lithium"] = "lithium"
    wh: CellWh = Field(description="of one")
    lowest_v: Volts
    highest_v: Volts = Field(description="of one, fully charged")
    in_series: Annotated[int, Field(ge=1, le=20)] = 1
    parallel: Annotated[int, Field(ge=1, le=100)] = 1
    equal_charge: Answer = Field(default="unknown", description="batteries in a row have the same charge")
    gives_w: Watts | None = Field(default=None, description="most that its lead or adapter carries")
    transfer_efficiency: Annotated[float, Field(ge=0.3, le=1)] = Field(
        default=0.9, description="of what it gives, what arrives in the cells"
    )
    fuse_at_battery: Answer = "unknown"
    station_id: Annotated[Id | None, Ref("stations", "lets_go", with_it=("pack_id", "input_id"))] = None
    pack_id: Id | None = Field(default=None, description="of that station, where the input is a pack's own")
    input_id: Id | None = None
    cycle_life: Annotated[int, Field(ge=1, le=50_000)] | None = None

    @property
    def total_wh(self) -> float:
        """Energy of all of them, Wh."""
        return self.wh * self.in_series * self.parallel

    @property
    def usable_share(self) -> float:
        """Share that may be taken: half of lead-acid, all of the others. Common practice."""
        return 0.5 if self.kind == "lead_acid" else 1.0
