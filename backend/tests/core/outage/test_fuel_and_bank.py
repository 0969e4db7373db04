"""Engines that go on with a second fuel, and banks whose weakest battery opens. Figures by hand."""

import copy
from typing import Any

import pytest
from builders import Json, circuit, house, job, load, steady

from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.plan import read_plan

SET: Json = {
    "name": "set", "rated_w": 2000.0, "output": "120/240", "auto_start": True,
    "tank_l": 4.0, "on_hand_l": 4.0, "no_load_l_per_h": 0.2, "l_per_kwh": 0.5, "refuel_pause_s": 600.0,
    "receptacles": {"out": {"kind": "L14-30", "rating_a": 30.0}},
}  # fmt: skip


def on_engine(watts: float, **more: Any) -> RunResult:
    """A lasting load on an engine alone, for a day."""
    document = house({"a": circuit([1])}, {"a": load("a", steady(watts))}, outage={"length_s": 86_400.0})
    document["generators"] = {"set": {**copy.deepcopy(SET), **more}}
    document["feeds"]["feed"]["source_id"] = "set"
    document["stations"] = {}
    return run_outage(read_plan(document))


def test_an_engine_goes_on_with_its_second_fuel_after_a_pause() -> None:
    """4 L at 0.2 L/h + 0.5 L/kWh · 0.8 kW last 6 h 40; then propane by class: 0.27 L/h + 0.68 L/kWh."""
    result = on_engine(800.0, second_fuel={"fuel": "propane", "on_hand_l": 40.0})
    source = result.sources["generators/set"]
    dry = next(event for event in result.events if event.kind == "engine_dry")
    filled = next(event for event in result.events if event.kind == "refuelled")
    assert dry.t_s == pytest.approx(4.0 / 0.6 * 3600, abs=1)
    assert filled.t_s == pytest.approx(dry.t_s + 600, abs=1)
    assert "on propane now, at 90 % of its rating" in filled.why
    rest_h = 24 - filled.t_s / 3600
    assert source.second_l == pytest.approx((0.135 * 2 + 0.68 * 0.8) * rest_h, rel=0.01)
    assert source.burned_l == pytest.approx(4.0 + (source.second_l or 0.0))
    assert source.left_l == pytest.approx(40.0 - (source.second_l or 0.0))


def test_a_bottle_of_the_second_fuel_is_changed_by_its_own_size() -> None:
    """Bottles of 6 L beside a tank of 4: from dry to dry 6 L are burned, not 4."""
    result = on_engine(800.0, second_fuel={"fuel": "propane", "tank_l": 6.0, "on_hand_l": 40.0})
    dry = [event.t_s for event in result.events if event.kind == "engine_dry"]
    filled = [event.t_s for event in result.events if event.kind == "refuelled"]
    litres = (0.135 * 2 + 0.68 * 0.8) * (dry[2] - filled[1]) / 3600
    assert litres == pytest.approx(6.0, rel=0.01)


def test_without_a_second_fuel_it_is_dark_when_the_first_is_gone() -> None:
    result = on_engine(800.0)
    assert result.verdict.status == "does_not_last"
    assert result.sources["generators/set"].second_l is None


def test_on_its_second_fuel_it_carries_less() -> None:
    """950 W on leg A are 95 % of the petrol leg, and 106 % of the propane leg of 900 W."""
    result = on_engine(950.0, second_fuel={"fuel": "propane", "on_hand_l": 400.0, "rated_share": 0.9})
    over = [event for event in result.events if event.kind in ("shed", "over_limit", "trip")]
    dry = next(event for event in result.events if event.kind == "engine_dry")
    assert over
    assert all(event.t_s > dry.t_s for event in over)


def on_bank(bms_a: float | None, watts: float, parallel: int = 1) -> RunResult:
    """A heater for an hour on a built-up 24 V station."""
    bank = {"nominal_v": 24.0, "lowest_v": 20.0, "bms_a": bms_a, "parallel": parallel}
    document = house(
        {"a": circuit([1])},
        {"a": load("a", job("06:00:00", "06:30:00", (watts, 60)))},
        station={"bank": bank},
        outage={"length_s": 86_400.0},
    )
    return run_outage(read_plan(document))


def test_the_weakest_battery_opens_when_more_than_its_limit_is_drawn() -> None:
    """100 A at 24 V are 2,400 W: 2,500 W open it after five seconds, two side by side carry it."""
    result = on_bank(100.0, 2_500.0)
    trip = next(event for event in result.events if event.kind == "trip")
    assert trip.t_s == pytest.approx(6 * 3600 + 5, abs=1)
    assert "weakest battery lets out no more" in trip.why
    for carried in (on_bank(100.0, 2_300.0), on_bank(100.0, 2_500.0, 2), on_bank(None, 2_500.0)):
        assert not any(event.kind == "trip" for event in carried.events)
