"""A portable power station: one inverter with its packs."""

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import AfterValidator, Discriminator, Field, Tag

from weary_cedar.core.plan.base import (
    NOT_KNOWN,
    Answer,
    Bounds,
    Celsius,
    Id,
    Name,
    Nothing,
    OnPlate,
    Origin,
    Owned,
    Percent,
    Survey,
    TheWord,
    WattHours,
    Watts,
    word_or_said,
)
from weary_cedar.core.plan.battery import Bank, Pack, Taper
from weary_cedar.core.plan.overload_curve import DEFAULT_CURVE, CurvePoint, IdleCutout
from weary_cedar.core.plan.receptacle import InBypass, Neutral, Receptacle
from weary_cedar.core.plan.station_inputs import AcInput, DcInput, DcOutput


class Station(Owned):
    """A station as its plate and its owner describe it; defaults are typical of the class."""

    name: Name
    output: Literal["120/240", "120", "230"] = "120/240"
    rated_va: Annotated[float, Bounds(10, 100_000, "under 10 VA it carries no appliance")]
    leg_va: Annotated[float, Bounds(10, 100_000, "under 10 VA a leg carries no appliance")] | None = Field(
        default=None, description="limit of one leg; half of the rating if absent"
    )
    receptacles: dict[Id, Receptacle] = Field(default_factory=dict)
    nameplate_wh: Annotated[float, Bounds(0, 1_000_000, "no battery holds less than nothing")] = Field(
        description="of the head unit; 0 where packs or a bank of batteries hold everything"
    )
    cell_wh: WattHours | None = Field(
        default=None, description="what the head unit's cells really give, 100 to 0 %; nameplate if absent"
    )
    delivered_wh: WattHours | None = Field(
        default=None, description="measured at its outlets from full to 0 %; gives cell_wh"
    )
    delivered_with_packs: bool = Field(
        default=False,
        description="its packs were plugged in when that was measured; else head unit alone",
    )
    delivered_at_w: Annotated[float, Bounds(1, 100_000, "no test runs on less")] | None = Field(
        default=None, description="mean load while that was measured"
    )
    packs: dict[Id, Pack] = Field(default_factory=dict)
    cutoff_percent: Percent = 0.0
    inverter_efficiency: Annotated[float, Field(ge=0.5, le=1)] = 0.92
    idle_w: Watts | None = Field(
        default=None, description="with its output on and nothing drawn; by its rating if absent"
    )
    sleep_w: Watts = 3.0
    self_discharge_percent_per_week: Annotated[float, Field(ge=0, le=20)] = 0.5
    overload_curve: Annotated[
        Annotated[tuple[CurvePoint, ...], Field(min_length=1, max_length=20), Tag("said")]
        | TheWord
        | Nothing,
        Discriminator(word_or_said),
        AfterValidator(lambda found: found or NOT_KNOWN),
        OnPlate("for how long it carries how much over its rating", keeps_word=True),
    ] = DEFAULT_CURVE
    idle_cutout: Annotated[
        Annotated[IdleCutout, Tag("said")] | TheWord | Nothing,
        Discriminator(word_or_said),
        OnPlate("whether it turns itself off when little is drawn", usual=IdleCutout(), keeps_word=True),
    ] = Field(default=None, description="null where it never turns off by itself or that is disabled")
    chemistry: Literal["lfp", "nmc", "lead_flooded", "lead_sealed"] = "lfp"
    self_heated: bool = False
    coldest_charge_c: Annotated[Celsius | None, OnPlate("how cold its cells may be to take charge", "°C")] = (
        0.0
    )
    works_from_c: Annotated[Celsius | None, OnPlate("the coldest air in which it gives power", "°C")] = -10.0
    works_to_c: Annotated[Celsius | None, OnPlate("the hottest air in which it gives power", "°C")] = 40.0
    waveform: Literal["sine", "modified", "unknown"] = "sine"
    hertz: Literal[50, 60] | None = Field(default=None, description="that of the site if absent")
    neutral: Neutral = Field(default="unknown", description="while it runs on its battery")
    neutral_in_bypass: InBypass = Field(
        default="unknown", description="while it passes through what comes in: that of its source, or its own"
    )
    isolated: Answer = Field(default="yes", description="output isolated from the battery, so groundable")
    transfer_gap_ms: Annotated[
        Annotated[float, Field(ge=0, le=10_000)] | None,
        OnPlate("the gap of its output when the utility goes", "ms"),
    ] = 20.0
    ac_inputs: dict[Id, AcInput] = Field(default_factory=dict)
    dc_inputs: dict[Id, DcInput] = Field(default_factory=dict)
    dc_outputs: dict[Id, DcOutput] = Field(default_factory=dict)
    charge_efficiency: Annotated[float, Field(ge=0.5, le=1)] = Field(
        default=0.88, description="AC charging, wall to cells"
    )
    max_charge_w: Annotated[float, Bounds(1, 100_000, "under 1 W it would never be full")] | None = Field(
        default=None, description="all sources together, at the cells"
    )
    recharge_below_percent: Percent = Field(
        default=95.0, description="charge under which a full unit takes AC charge again"
    )
    taper: Taper | None = Field(default=Taper(), description="none: it takes all it can until it is full")
    balance_w: Watts = Field(default=1_050.0, description="most that a fuller pack gives an emptier one")
    balance_band_percent: Annotated[float, Field(ge=0, le=50)] = Field(
        default=4.0, description="packs this close share in proportion to what they hold"
    )
    passthrough_overhead_w: Annotated[float, Field(ge=0, le=200)] = Field(
        default=5.0, description="taken from the AC input while passing through, instead of the idle draw"
    )
    output_while_charging: Annotated[
        bool | None, OnPlate("whether it keeps its output on while the wall charges it")
    ] = True
    auto_restart: Answer = Field(default="unknown", description="output comes back by itself after empty")
    restart_percent: Percent | None = Field(
        default=None, description="charge at which the output comes back by itself"
    )
    display_time_s: Annotated[float, Field(ge=0, le=3_600)] = Field(
        default=600.0, description="time constant of the load behind the shown remaining time"
    )
    display_inputs: Literal["each", "sum", "unknown"] = Field(
        default="unknown", description="what its display shows while several inputs charge it"
    )
    refuses: tuple[Literal["inverter", "conventional", "standby"], ...] = Field(
        default=(), description="classes of generator that its charger is known to refuse"
    )
    bank: Bank | None = Field(default=None, description="of a station built up from parts")
    cycle_life: Annotated[int, Field(ge=1, le=50_000)] | None = None
    noise_db: Annotated[float, Field(ge=0, le=120)] | None = None
    survey: Survey = Field(default_factory=dict)
    idle_origin: Origin = "library"
    efficiency_origin: Origin = "library"
    capacity_origin: Origin = "plate"

    @property
    def curve(self) -> tuple[CurvePoint, ...]:
        """Its overload curve that counts."""
        found: tuple[CurvePoint, ...] = self.counted("overload_curve")
        return found

    @property
    def charges_from_c(self) -> float:
        """Least temperature of cells that counts for its charging, °C."""
        return float(self.counted("coldest_charge_c"))

    @property
    def cuts_out(self) -> IdleCutout | None:
        """Its idle cut-out that counts; none where it has none."""
        found = self.counted("idle_cutout")
        return found if isinstance(found, IdleCutout) else None

    @property
    def head_wh(self) -> float:
        """Energy of the head unit alone from 100 to 0 %, in Wh at the cells.

        What was measured at the outlets holds losses and idle draw: cells = Wh · (P/η + idle)/P, less the
        packs where these were plugged in.
        """
        if self.delivered_wh is not None and self.delivered_at_w is not None:
            drawn_w = self.delivered_at_w / self.inverter_efficiency + self.idle_draw_w
            cells_wh = self.delivered_wh * drawn_w / self.delivered_at_w
            return max(0.0, cells_wh - self.packs_wh) if self.delivered_with_packs else cells_wh
        return self.nameplate_wh if self.cell_wh is None else self.cell_wh

    @property
    def idle_draw_w(self) -> float:
        """What the inverter takes with nothing drawn, W: as said, else usual of its rating.

        Source: common practice: 8 to 70 W are seen, about 5 W and 1 % of the rating.
        """
        return min(70.0, max(8.0, 5.0 + 0.01 * self.rated_va)) if self.idle_w is None else self.idle_w

    @property
    def total_cell_wh(self) -> float:
        """Energy of head unit and packs from 100 to 0 %, in Wh at the cells."""
        return self.head_wh + self.packs_wh

    @property
    def packs_wh(self) -> float:
        """Energy of the packs from 100 to 0 %, in Wh."""
        return sum(pack.total_cell_wh for pack in self.packs.values())

    def wh_at(self, percent: float, packs: Mapping[str, float]) -> float:
        """Energy at a charge of the head unit and charges of its packs, Wh at the cells."""
        held = sum(pack.total_cell_wh * packs.get(key, percent) for key, pack in self.packs.items())
        return (self.head_wh * percent + held) / 100.0

    @property
    def tapers(self) -> Taper:
        """Its taper; where it has none, one that never takes less."""
        return self.taper or Taper(end_percent=100.0, reference_w=100_000.0)

    @property
    def most_charge_w(self) -> float:
        """Most that all its AC inputs and limits let into the cells from the wall, W."""
        wall = max((entry.most_w for entry in self.ac_inputs.values()), default=0.0)
        limits = [self.max_charge_w, self.bank.most_charge_w if self.bank else None]
        return min([wall * self.charge_efficiency, *(limit for limit in limits if limit is not None)])

    @property
    def leg_limit_va(self) -> float:
        """Limit of one leg in VA."""
        if self.leg_va is not None:
            return self.leg_va
        return self.rated_va / 2 if self.output == "120/240" else self.rated_va
