"""The outage that the plan is for."""

from collections.abc import Callable
from datetime import time
from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Bounds,
    Celsius,
    Id,
    LocalMoment,
    LocalTime,
    Name,
    Noun,
    Percent,
    Ref,
    Seconds,
)
from weary_cedar.core.plan.feed import RestoreInterval, Restoring

Span = Annotated[float, Bounds(1, 31 * 86_400, "shorter than a second makes no sense here")]


class AwayWindow(Noun):
    """Hours of every day with nobody at home."""

    leaves: LocalTime
    returns: LocalTime


class GoneSpan(Noun):
    """Days with nobody there: when they begin after the start, and how long they last."""

    at_s: Seconds
    for_s: Span


class Occupancy(Noun):
    """When someone is there and awake to do things by hand. Equal times: always awake."""

    wakes: LocalTime = time(6, 30)
    sleeps: LocalTime = time(22, 30)
    away: Annotated[tuple[AwayWindow, ...], Field(max_length=24)] = ()
    gone: Annotated[tuple[GoneSpan, ...], Field(max_length=24)] = Field(
        default=(), description="longer stretches with nobody there"
    )


class Incident(Noun):
    """Something that goes wrong at a time, for a time."""

    kind: Literal["cord_unplugged", "door_open"]
    at_s: Seconds
    for_s: Span
    load_id: Annotated[Id | None, Ref("loads")] = None
    lead_id: Annotated[Id | None, Ref("leads")] = Field(
        default=None, description="whose cord it is; that of every feed if absent"
    )


class GridWindow(Noun):
    """A stretch of a rolling outage in which the utility is back."""

    at_s: Seconds
    for_s: Span


#: Rooms of what someone can switch, plug in or turn away.
ActRoom = Literal[
    "circuits", "loads", "stations", "links", "generators", "vehicles", "externals", "arrays", "leads"
]


class Act(Noun):
    """Something that someone does, or did, at a moment: a part is switched off, or on again.

    Of a station it is its output; of a station, link, generator or vehicle also one outlet or one input.
    """

    at_s: Seconds
    room: ActRoom
    part_id: Id
    outlet_id: Id | None = Field(default=None, description="of that part: what hangs on it loses power")
    input_id: Id | None = Field(
        default=None, description="of that station, or of its pack: nothing comes in by it"
    )
    pack_id: Id | None = Field(
        default=None,
        description="pack of that station that is unplugged, or plugged in; where the first act with it is "
        "“on”, it is not there before; with an input, the pack whose input it is",
    )
    turn: Literal["off", "on"]


#: What the sky does to the sun for a whole day.
Sky = Literal["clear", "haze", "smoke", "broken_cloud", "overcast", "rain", "snow_on_panels"]


Irradiance = Annotated[float, Bounds(0, 2_000, "the sun gives 1,361 W/m² outside of the air")]
IrradianceHours = Annotated[tuple[Irradiance, ...], Field(min_length=1, max_length=1_000)]


class HourlySun(Noun):
    """The sun as a weather file has it, one value an hour from the start; nothing after the last one."""

    name: Name
    ghi_w_m2: IrradianceHours = Field(description="global, on the horizontal")
    dni_w_m2: IrradianceHours = Field(description="direct, square to the sun")
    dhi_w_m2: IrradianceHours = Field(description="diffuse, on the horizontal")


class Weather(Noun):
    """Outdoor temperature: hourly values from the start, or one day curve that repeats."""

    hourly_c: Annotated[tuple[Celsius, ...], Field(max_length=1_000)] = Field(
        default=(), description="one value an hour from the start of the outage; the last one stays"
    )
    low_c: Celsius = 5.0
    high_c: Celsius = 15.0
    coldest_at: LocalTime = time(6, 0)
    hourly_sun: HourlySun | None = Field(
        default=None, description="counts instead of a clear sky and the kinds of days"
    )
    sky: Annotated[tuple[Sky, ...], Field(max_length=40)] = Field(
        default=(),
        description="day by day, the last one stays; the usual mix of the season if none is said",
    )

    @property
    def lowest_c(self) -> float:
        """Coldest air outdoors, °C."""
        return min(self.hourly_c, default=self.low_c)

    @property
    def highest_c(self) -> float:
        """Hottest air outdoors, °C."""
        return max(self.hourly_c, default=self.high_c)


class Outage(Noun):
    """Start, length and circumstances."""

    start_local: LocalMoment
    length_s: Annotated[
        float, Bounds(600, 31 * 86_400, "under ten minutes nothing is planned, nor over a month")
    ] = 3 * 86_400.0
    start_charge_percent: Annotated[dict[Id, Percent], Ref("stations|vehicles|externals")] = Field(
        default_factory=dict, description="by station, vehicle or external battery; 100 where absent"
    )
    pack_charge_percent: Annotated[dict[Id, dict[Id, Percent]], Ref("stations")] = Field(
        default_factory=dict, description="by station and pack; that of its station where absent"
    )
    ac_on_at_start: bool = False
    changeover_after_s: Seconds = 900.0
    restore: Restoring = "one_at_a_time"
    restore_interval_s: RestoreInterval = 20.0
    occupancy: Occupancy = Occupancy()
    weather: Weather = Weather()
    incidents: Annotated[dict[Id, Incident], Field(max_length=200)] = Field(default_factory=dict)
    grid: Annotated[dict[Id, GridWindow], Field(max_length=300)] = Field(
        default_factory=dict, description="when the utility is back in a rolling outage; never if absent"
    )
    acts: Annotated[dict[Id, Act], Field(max_length=500)] = Field(default_factory=dict)

    def pack_acts(self, station_id: str) -> dict[str, Act]:
        """Packs of a station that come or go, each with the first act with it."""
        first: dict[str, Act] = {}
        for act in sorted(self.acts.values(), key=lambda act: act.at_s):
            packed = act.pack_id is not None and act.input_id is None
            if act.room == "stations" and act.part_id == station_id and packed:
                first.setdefault(str(act.pack_id), act)
        return first

    def off_spans(self, of: Callable[[Act], bool]) -> list[tuple[float, float]]:
        """From when to when acts keep something off, s; of two acts at one moment the later one counts.

        Args:
            of: whether an act is about it.
        """
        spans: list[tuple[float, float]] = []
        since: float | None = None
        for act in sorted(self.acts.values(), key=lambda act: act.at_s):
            if not of(act):
                continue
            if act.turn == "off" and since is None:
                since = act.at_s
            elif act.turn == "on" and since is not None:
                spans.append((since, act.at_s))
                since = None
        return spans if since is None else [*spans, (since, self.length_s)]
