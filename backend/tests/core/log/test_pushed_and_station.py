"""Readings that devices send, and the simulated station that sends them."""

from datetime import datetime, timedelta
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.log.pushed import PushedReading, rows_of
from weary_cedar.core.log.session import SessionRow, begun
from weary_cedar.demo import demo_plan
from weary_cedar.stand_ins.station import SimulatedStation
from weary_cedar.stand_ins.station_server import Clock

PLAN = demo_plan()
NOW = datetime(2026, 10, 14, 21, 40)
READING: dict[str, Any] = {"part": "stations/station", "what": "charge", "value": 64, "unit": "%"}


def rows(*readings: dict[str, Any]) -> list[SessionRow]:
    found = [PushedReading.model_validate({**READING, **told}) for told in readings]
    return rows_of(PLAN, found, NOW, "script", iter("abcdefgh").__next__)


@pytest.mark.parametrize(
    ("told", "value"),
    [
        ({}, 64),
        ({"what": "out_w", "unit": "kW", "value": 1.2}, 1200),
        ({"what": "wh", "unit": "kWh", "value": 3}, 3000),
        ({"what": "fuel_l", "unit": "gal", "value": 2, "part": "generators/engine"}, 7.571),
        ({"what": "temperature_c", "unit": "°F", "value": 20, "part": "loads/freezer"}, -6.667),
        ({"what": "shown_h", "unit": "min", "value": 90}, 1.5),
        ({"what": "volts", "unit": "V", "value": 119.5}, 119.5),
    ],
)
def test_units_become_si(told: dict[str, Any], value: float) -> None:
    room, _, key = str(told.get("part", READING["part"])).partition("/")
    if key not in getattr(PLAN, room):
        told = {**told, "part": f"{room}/{next(iter(getattr(PLAN, room)))}"}
    row = rows(told)[0]
    assert row.value == pytest.approx(value, rel=1e-3)
    assert (row.by, row.at, row.id) == ("script", NOW, "a")


@pytest.mark.parametrize(
    ("told", "field"),
    [
        ({"part": "stations/none"}, "part"), ({"part": "walls/a"}, "part"), ({"part": ""}, "part"),
        ({"pack": "none"}, "pack"), ({"unit": "W"}, "unit"), ({"value": 640}, "value"),
        ({"what": "dark"}, "what"), ({"what": "volts", "unit": "V", "value": -3}, "value"),
    ],
)  # fmt: skip
def test_what_is_wrong_is_named_and_then_none_counts(told: dict[str, Any], field: str) -> None:
    with pytest.raises(InvalidInput) as wrong:
        rows({}, told)
    assert [problem.field for problem in wrong.value.problems] == [f"/readings/1/{field}"]


def test_a_simulated_station_is_the_same_for_its_seed_and_off_from_the_plan() -> None:
    session = begun(PLAN, "Test", datetime(2026, 10, 13, 18, 0))
    one, same, other = (SimulatedStation(PLAN, "station", session, seed) for seed in (3, 3, 4))
    t = 20 * 3600.0
    assert one.shown(t) == same.shown(t)
    assert one.shown(t) != other.shown(t)
    assert one.true_plan.stations["station"].total_cell_wh != PLAN.stations["station"].total_cell_wh
    assert one.shown(t)["at"] == "2026-10-14T14:00:00"
    assert all(isinstance(value, int) for value in one.shown(t)["charge_percent"].values())


def test_it_goes_on_with_what_was_switched() -> None:
    session = begun(PLAN, "Test", datetime(2026, 10, 13, 18, 0))
    station = SimulatedStation(PLAN, "station", session, drops=False)
    t = 30 * 3600.0
    before = station.shown(t)["out_w"]
    off = [
        SessionRow(
            id=key, at=session.begins + timedelta(hours=2), entered=session.begins, kind="act", told="off",
            part=f"loads/{key}", turn="off",
        )
        for key in PLAN.loads
    ]  # fmt: skip
    station.goes_on(session.with_rows(off))
    assert station.shown(t)["out_w"] < before


@given(st.integers(0, 200))
def test_the_link_is_lost_for_some_minutes_and_comes_back(seed: int) -> None:
    session = begun(PLAN, "Test", datetime(2026, 10, 13, 18, 0))
    station = SimulatedStation.__new__(SimulatedStation)
    station.seed, station.drops, station.session = seed, True, session
    lost = [not station.linked(60.0 * minute) for minute in range(72 * 60)]
    assert 0 <= sum(lost) <= 0.05 * len(lost)
    assert not all(lost)


def test_a_clock_goes_faster() -> None:
    real = [0.0]
    clock = Clock(600.0, 100.0, lambda: real[0])
    assert clock.t == 100.0
    real[0] = 2.0
    assert clock.t == 1300.0
