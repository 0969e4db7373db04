"""The result of a run, as typed data: verdict, events, ledger, series as change points."""

from datetime import datetime
from typing import Literal

from pydantic import BaseModel, ConfigDict

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


class LoadShare(Result):
    """What one load got and did not get."""

    name: str
    served_wh: float
    unserved_wh: float
    without_power_s: float
    failed_at_s: float | None


class Ledger(Result):
    """Energy in and out of the cells over the run, in Wh. `residual` is relative and should be nil."""

    stored_start_wh: float
    stored_end_wh: float
    from_battery_wh: float
    loads_wh: float
    inverter_loss_wh: float
    idle_wh: float
    sleep_wh: float
    self_discharge_wh: float
    cord_wh: float
    residual: float
    closes: bool


class Flow(Result):
    """Greatest flow through one element against its rating."""

    key: str
    name: str
    flow: float
    rating: float
    unit: Literal["A", "VA"]
    share: float
    at_s: float | None = None


class Verdict(Result):
    """The answer in words and figures."""

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
    """Indoor temperature at its change points, °C; nearly straight between."""

    t_s: tuple[float, ...]
    c: tuple[float, ...]


class RunResult(Result):
    """Everything a run yields. Derived from the plan alone; same plan, same bytes."""

    verdict: Verdict
    start: datetime
    length_s: float
    leg_limit_va: float = 0.0
    capacity_wh: float = 0.0
    intervals: int = 0
    events: tuple[Event, ...] = ()
    ledger: Ledger | None = None
    flows: tuple[Flow, ...] = ()
    loads: dict[str, LoadShare] = {}
    series: Series = Series()
    load_series: dict[str, LoadSeries] = {}
    indoor: dict[str, TemperatureSeries] = {}
