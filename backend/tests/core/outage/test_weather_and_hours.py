"""Outdoor temperature, hours of people, legs by time of day: by hand."""

from datetime import datetime, time
from typing import Any

import pytest
from builders import circuit, house, job, load, steady

from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.outage.hourly import lean_by_hour, on_endless_source
from weary_cedar.core.outage.weather import OutdoorTemperature, day_curve_c, mean_outdoor_c
from weary_cedar.core.plan import AwayWindow, Occupancy, Outage, Site, Weather, read_plan


def calendar(
    start: str = "2026-01-12T00:00:00", hours: float = 48, zone: str = "UTC", **more: Any
) -> Calendar:
    outage = Outage(start_local=datetime.fromisoformat(start), length_s=hours * 3600, **more)
    return Calendar(Site(name="x", time_zone=zone), outage)


def test_day_curve() -> None:
    assert [round(day_curve_c(0, 10, h), 6) for h in (0, 6, 12, 18, 24)] == [0, 5, 10, 5, 0]


def test_samples_are_held_from_hour_to_hour() -> None:
    outdoors = OutdoorTemperature(Weather(hourly_c=(1.0, 2.0, 3.0)), calendar(hours=5))
    assert [outdoors.at(t) for t in (0, 3599.9, 3600, 7200, 17_000)] == [1, 1, 2, 3, 3]
    assert outdoors.next_change(0) == 3600
    assert outdoors.next_change(3600) == 7200
    assert mean_outdoor_c(Weather(hourly_c=(1.0, 2.0, 6.0))) == 3


def test_day_curve_is_coldest_at_its_hour() -> None:
    weather = Weather(low_c=-4.0, high_c=8.0, coldest_at=time(6, 0))
    outdoors = OutdoorTemperature(weather, calendar("2026-01-12T15:00:00", 30))
    values = {hour: outdoors.at(hour * 3600.0 + 1) for hour in range(30)}
    assert min(values, key=lambda hour: values[hour]) in (14, 15)
    assert min(values.values()) == pytest.approx(-4, abs=0.1)
    assert max(values.values()) == pytest.approx(8, abs=0.1)
    assert mean_outdoor_c(weather) == 2


def test_windows_follow_the_wall_clock_through_the_change_to_winter_time() -> None:
    """In 2026 New York sets its clocks back on 1 November: that day has 25 hours."""
    spring = calendar("2026-10-31T12:00:00", 48, "America/New_York")
    assert spring.windows(time(22, 0), time(6, 0)) == [
        (36_000, 36_000 + 9 * 3600),
        (126_000, 154_800),
    ]


def test_presence_without_hours_away() -> None:
    away = AwayWindow(leaves=time(9, 0), returns=time(17, 0))
    hours = Occupancy(wakes=time(7, 0), sleeps=time(23, 0), away=(away,))
    outage = Outage(start_local=datetime(2026, 1, 12), length_s=48 * 3600.0, occupancy=hours)
    presence = Presence(Calendar(Site(name="x"), outage), outage)
    asked = {0: 7, 7: 7, 8.9: 8.9, 9: 17, 20: 20, 23: 31, 33: 41}
    assert {t: presence.next(t * 3600) / 3600 for t in asked} == asked
    assert presence.next(60 * 3600) == float("inf")


def by_hour(**outage: Any) -> Any:
    circuits = {"a": circuit([1]), "b": circuit([3])}
    loads = {"a": load("a", steady(300)), "b": load("b", job("06:30:00", "07:00:00", (900, 60)))}
    given = {"length_s": 48 * 3600.0, **outage}
    return read_plan(house(circuits, loads, station={"nameplate_wh": 100.0}, outage=given))


def test_legs_by_time_of_day() -> None:
    """900 W on B from 06:30 to 07:30: half of two hours; A always 300 W."""
    hours = lean_by_hour(run_outage(on_endless_source(by_hour())))
    assert [round(h.a_mean_w) for h in hours] == [300] * 24
    assert {h.hour: round(h.b_mean_w) for h in hours if h.b_mean_w > 0} == {6: 450, 7: 450}
    assert hours[6].b_most_w == 900
    assert hours[6].lean_wh == pytest.approx(1 - 300 / 450)
    assert hours[3].lean_wh == 1


def test_an_endless_source_asks_nothing_of_the_plan() -> None:
    plan = by_hour(changeover_after_s=7200.0, start_charge_percent={"unit": 1.0})
    result = run_outage(on_endless_source(plan))
    assert result.ledger is not None
    assert result.ledger.loads_wh == pytest.approx(300 * 48 + 2 * 900)
    assert not [e for e in result.events if e.kind in ("empty", "trip", "shed")]
    assert (
        lean_by_hour(run_outage(by_hour(length_s=600.0)).model_copy(update={"series": type(result.series)()}))
        == []
    )
