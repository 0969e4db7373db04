"""The result of a run, as typed data: verdict, events, ledger, series as change points."""

from datetime import datetime
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

Status = Literal["lasts", "does_not_last", "cannot_judge"]

EventKind = Literal[
    "outage_begins",
    "changeover",
    "restored",
    "shed",
    "back",
    "over_limit",
    "trip",
    "reset",
    "left_off",
    "dip",
    "hand",
    "empty",
    "room_shed",
    "idle_cutout",
    "unplugged",
    "plugged_in",
    "door_open",
    "keep_lost",
    "outage_ends",
    "breaker_trip",
    "input_trip",
    "locked_out",
    "restarted",
    "full",
    "room_back",
    "swap",
    "engine_on",
    "engine_off",
    "left_running",
    "engine_dry",
    "engine_fails",
    "refuelled",
    "vehicle_off",
    "source_empty",
    "plug",
    "grid",
    "act",
    "cold",
    "food_warm",
    "food_thaws",
    "packs_even",
]


class Result(BaseModel):
    """A frozen part of a result."""

    model_config = ConfigDict(frozen=True)


class Event(Result):
    """Something that happened: what, why, and what would have prevented it."""

    t_s: float
    at: datetime
    kind: EventKind
    what: str
    why: str = ""
    remedy: str = ""
    loads: tuple[str, ...] = ()
    part: str = ""


class LoadShare(Result):
    """What one load got and did not get."""

    name: str
    served_wh: float
    unserved_wh: float
    without_power_s: float
    #: When it lost power for longer than it may be without.
    failed_at_s: float | None
    dark_spells: int = 0
    #: Shortest time after which it ran again when it had stopped for want of power, s.
    least_gap_s: float | None = None


class Ledger(Result):
    """Energy in and out over the run, in Wh. `residual` is relative and should be nil.

    What came in: `from_battery_wh` (out of all cells, less what was put in), sun, engines, the grid,
    vehicles and external batteries. Where it went: loads, warmth of cords, losses of inverters and of
    charging, idle draw, sleep, self-discharge, overhead of passing through.
    """

    stored_start_wh: float
    stored_end_wh: float
    from_battery_wh: float
    loads_wh: float
    inverter_loss_wh: float
    idle_wh: float
    sleep_wh: float
    self_discharge_wh: float
    cord_wh: float
    sun_wh: float = 0.0
    engine_wh: float = 0.0
    grid_wh: float = 0.0
    vehicle_wh: float = 0.0
    external_wh: float = 0.0
    charging_loss_wh: float = 0.0
    overhead_wh: float = 0.0
    residual: float
    closes: bool


class Flow(Result):
    """Greatest flow through one element against its rating; `feed` is the way that it belongs to."""

    key: str
    feed: str = ""
    name: str
    flow: float
    rating: float
    unit: Literal["A", "VA"]
    share: float
    at_s: float | None = None


class LegPeaks(Result):
    """The greatest current of each conductor of a lead over the run, A, each at its own moment."""

    a_a: float
    b_a: float
    neutral_a: float
    #: The same for each state of its source.
    states: tuple["StatePeaks", ...] = ()


class StatePeaks(Result):
    """Greatest currents of a lead while its source gives of its own, is charged too, or passes through."""

    #: Charged while it gives; by which lead what it gives is passed through, if it is.
    charged: bool
    through: str | None
    a_a: float
    b_a: float
    neutral_a: float


class InDoubt(Result):
    """How the outage goes with all that is doubtful on one side: what was taken, and what comes of it."""

    words: str
    status: Status
    until: datetime | None = None
    until_s: float | None = None
    left_percent: float | None = None


class Verdict(Result):
    """The answer in words and figures.

    `until` is when something that must run was lost for good, or for longer than it bears. `least` and
    `most` are runs with all doubts against it and for it, `how_sure` what follows from them, in words.
    """

    status: Status
    headline: str
    sentence: str
    until: datetime | None = None
    until_s: float | None = None
    dark_at: datetime | None = None
    dark_at_s: float | None = None
    first_lost: str | None = None
    unreached: tuple[str, ...] = ()
    left_out: tuple[str, ...] = ()
    assumed: tuple[str, ...] = ()
    pinch: Flow | None = None
    start_pinch: Flow | None = None
    lean_w: float | None = None
    lean_wh: float | None = None
    lowest_percent: float | None = None
    stranded_wh: float | None = None
    mean_w: float | None = None
    uncertainty: float | None = None
    unsure_from: datetime | None = None
    unsure_to: datetime | None = None
    least: InDoubt | None = None
    most: InDoubt | None = None
    how_sure: str = ""
    missing: tuple[str, ...] = ()


class Series(Result):
    """Change points: each row holds from its time to the next one. Stored energy is linear between."""

    t_s: tuple[float, ...] = ()
    a_w: tuple[float, ...] = ()
    b_w: tuple[float, ...] = ()
    a_va: tuple[float, ...] = ()
    b_va: tuple[float, ...] = ()
    a_a: tuple[float, ...] = ()
    b_a: tuple[float, ...] = ()
    neutral_a: tuple[float, ...] = ()
    cells_w: tuple[float, ...] = ()
    stored_wh: tuple[float, ...] = ()
    charge_percent: tuple[float, ...] = ()
    account: tuple[float, ...] = ()


class LoadSeries(Result):
    """Change points of one load's draw."""

    t_s: tuple[float, ...]
    watts: tuple[float, ...]


class TemperatureSeries(Result):
    """Indoor temperature at its change points, °C; nearly straight between.

    `limit_c` is what pipes want; `under_at_s` when it is colder for the first time.
    """

    t_s: tuple[float, ...]
    c: tuple[float, ...]
    limit_c: float | None = None
    under_at_s: float | None = None


class CompartmentShare(Result):
    """One cold compartment over the run, °C: its contents count; its air is what a thermometer reads."""

    name: str
    load: str
    start_c: float
    highest_c: float
    end_c: float
    limit_c: float
    #: How long its contents were over the limit, and when they first were.
    over_s: float
    first_over_s: float | None
    #: Of what is kept frozen: when it begins to thaw, and when all of it is thawed.
    thaws_at_s: float | None = None
    thawed_at_s: float | None = None
    #: From when on what spoils is to be thrown away.
    spoils_at_s: float | None = None
    t_s: tuple[float, ...] = ()
    contents_c: tuple[float, ...] = ()
    air_c: tuple[float, ...] = ()


class Reading(Result):
    """Charge of a head unit or of one pack as its own display shows it."""

    name: str
    cell_wh: float
    start_percent: float
    end_percent: float
    lowest_percent: float
    t_s: tuple[float, ...] = ()
    percent: tuple[float, ...] = ()


class BatteryShare(Result):
    """One station's cells over the run: what they held, what came in and went out, in Wh at the cells.

    Stored energy is straight between points: while charging tapers, points stand close enough for that.
    """

    name: str
    cell_wh: float
    start_percent: float
    end_percent: float
    lowest_percent: float
    stored_start_wh: float
    stored_end_wh: float
    given_wh: float
    charged_wh: float
    stranded_wh: float
    t_s: tuple[float, ...] = ()
    stored_wh: tuple[float, ...] = ()
    draw_w: tuple[float, ...] = ()
    offered_w: tuple[float, ...] = ()
    #: Hours that its own display shows as remaining: whole per cents by the smoothed draw; none while it
    #: gains more than it gives, or gives nothing.
    shown_h: tuple[float | None, ...] = ()
    #: By "head" and pack; empty where head unit and packs stand alike all the time.
    readings: dict[str, Reading] = Field(default_factory=dict)


class Stretch(Result):
    """From when to when something went on, s."""

    begins_s: float
    ends_s: float


class SourceShare(Result):
    """One output over the run: AC energy given, time on, and its legs as change points.

    `leg_limit_va` is that of its own leg, or of the feed that it gives through, if that is one.
    Of an engine: litres, when it ran, starts, hours under its healthy minimum; litres left are null
    where the fuel on hand is not known. The stretches in `ran` are together `on_s`.
    """

    name: str
    kind: Literal["station", "generator", "vehicle", "grid"]
    given_wh: float
    on_s: float
    trips: int = 0
    over_s: float = 0.0
    leg_limit_va: float | None = None
    total_va: float | None = None
    burned_l: float | None = None
    left_l: float | None = None
    #: Of the litres burned, those of its second fuel.
    second_l: float | None = None
    starts: int | None = None
    #: Hours of a vehicle's engine, where it is said with how many watts it tops up.
    engine_h: float | None = None
    light_s: float | None = None
    ran: tuple[Stretch, ...] = ()
    t_s: tuple[float, ...] = ()
    a_w: tuple[float, ...] = ()
    b_w: tuple[float, ...] = ()
    a_va: tuple[float, ...] = ()
    b_va: tuple[float, ...] = ()
    a_a: tuple[float, ...] = ()
    b_a: tuple[float, ...] = ()


class SunShare(Result):
    """The arrays of one input: offered, taken, clipped by the input, and lost for want of room, in Wh."""

    name: str
    station: str
    offered_wh: float
    taken_wh: float
    clipped_wh: float
    curtailed_wh: float
    t_s: tuple[float, ...] = ()
    offered_w: tuple[float, ...] = ()
    taken_w: tuple[float, ...] = ()


class LeadShare(Result):
    """A lead into an input, or an external battery: what was taken, Wh before its loss."""

    name: str
    kind: Literal["wall", "vehicle", "battery"]
    station: str
    taken_wh: float
    left_wh: float | None = None
    t_s: tuple[float, ...] = ()
    watts: tuple[float, ...] = ()


class RuleShare(Result):
    """A line of the strategy over the run: how often it acted, and why it never can, where that is so."""

    words: str
    acted: int
    #: When it acted, s: at most the first 500 moments; none where it holds all the time.
    at_s: tuple[float, ...] = ()
    #: What it kept off, in words, and from when to when, s: at most the first 500 spans.
    keeps_off: str = ""
    off: tuple[Stretch, ...] = ()
    never: str = ""
    #: It holds all the time; `acted` is at how many stations.
    lasting: bool = False


class WayShare(Result):
    """A lead that feeds something: what flows through it on each leg, as change points, VA."""

    name: str
    t_s: tuple[float, ...] = ()
    a_va: tuple[float, ...] = ()
    b_va: tuple[float, ...] = ()


class Unused(Result):
    """A part that the plan owns and the run does not use, with why."""

    name: str
    why: str


class RunResult(Result):
    """Everything a run yields. Derived from the plan alone; same plan, same bytes.

    Devices stand by their ids in the plan; `sources`, where parts of several kinds stand together, by
    `stations/…`, `links/…`, `generators/…`, `vehicles/…` and `grid`, `compartments` by load and compartment.
    An array stands for all that are joined to its input. What each key holds is in docs/result.md.
    """

    verdict: Verdict
    start: datetime
    length_s: float
    leg_limit_va: float = 0.0
    capacity_wh: float = 0.0
    intervals: int = 0
    events: tuple[Event, ...] = ()
    ledger: Ledger | None = None
    flows: tuple[Flow, ...] = ()
    #: By lead that feeds something.
    peaks: dict[str, LegPeaks] = {}
    loads: dict[str, LoadShare] = {}
    series: Series = Series()
    load_series: dict[str, LoadSeries] = {}
    indoor: dict[str, TemperatureSeries] = {}
    compartments: dict[str, CompartmentShare] = {}
    batteries: dict[str, BatteryShare] = {}
    sources: dict[str, SourceShare] = {}
    suns: dict[str, SunShare] = {}
    leads: dict[str, LeadShare] = {}
    externals: dict[str, LeadShare] = {}
    ways: dict[str, WayShare] = {}
    #: One for each line of the strategy, in their order.
    rules: tuple[RuleShare, ...] = ()
    unused: tuple[Unused, ...] = ()
