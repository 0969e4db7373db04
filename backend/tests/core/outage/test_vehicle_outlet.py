"""A vehicle's outlet that feeds appliances, or a switch of its own, like any other source of one hot."""

import pytest
from builders import Json, circuit, house, load, refusals, steady

from weary_cedar.core.checks import findings_of
from weary_cedar.core.feed_path import feed_paths
from weary_cedar.core.hookup_drawing import hookup_drawing
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan, upgraded

HOUR_S = 3600.0


def document(watts: float = 400.0, **vehicle: object) -> Json:
    """A van with 10 kWh to give; the refrigerator hangs on it by a cord, nothing else is fed."""
    made = house({"kitchen": circuit([1])}, {"fridge": load("kitchen", steady(watts))})
    made["outage"] |= {"length_s": 48 * HOUR_S}
    made["feeds"] = {}
    made["vehicles"] = {
        "van": {"name": "van", "most_w": 1_500.0, "usable_kwh": 10.0, "told_to_stay": "yes", **vehicle}
    }
    made = upgraded(made)
    made["leads"] = {
        "cord": {
            "source": {"kind": "vehicle", "id": "van"},
            "cords": [{"length_m": 0.0, "awg": 14}],
            "to": {"end": "loads", "load_ids": ["fridge"]},
        }
    }
    return made


def run(made: Json) -> RunResult:
    result = run_outage(read_plan(made))
    assert result.ledger is not None
    assert result.ledger.closes
    return result


def test_it_feeds_until_its_battery_is_used_up() -> None:
    result = run(document())
    assert result.verdict.until_s == pytest.approx(25 * HOUR_S)
    assert result.sources["vehicles/van"].given_wh == pytest.approx(10_000.0)
    assert result.ledger is not None
    assert result.ledger.vehicle_wh == pytest.approx(10_000.0)


def test_it_turns_itself_off_until_someone_turns_it_on_again() -> None:
    """On for half an hour at a time; nobody awake from 22 to 6 h, dark from 22:30 on."""
    made = document(told_to_stay="no", ready_timeout_s=1_800.0)
    made["outage"] |= {
        "start_local": "2026-01-12T20:00:00",
        "length_s": 12 * HOUR_S,
        "occupancy": {"wakes": "06:00:00", "sleeps": "22:15:00"},
    }
    result = run(made)
    assert result.loads["fridge"].without_power_s == pytest.approx(7.5 * HOUR_S)
    assert [e.t_s for e in result.events if e.kind == "vehicle_off"] == [pytest.approx(2.5 * HOUR_S)]


def test_it_gives_nothing_while_it_is_driven() -> None:
    """Every day from 8 to 17 h it is at work; from midnight on it gives 15 h of 24: 12 kWh of two days."""
    made = document(usable_kwh=50.0, away=[{"begins": "08:00", "ends": "17:00"}])
    made["outage"] |= {"start_local": "2026-01-12T00:00:00"}
    result = run(made)
    assert result.loads["fridge"].without_power_s == pytest.approx(18 * HOUR_S)
    assert result.sources["vehicles/van"].given_wh == pytest.approx(400.0 * 30)
    told = [(event.t_s / HOUR_S, event.what) for event in result.events if event.part == "van"]
    assert told[:2] == [(8.0, "van is driven away and gives nothing"), (17.0, "van is back")]
    twice = document(usable_kwh=50.0, away=[{"begins": "08:00", "ends": "17:00"}] * 2)
    twice["outage"] |= {"start_local": "2026-01-12T00:00:00"}
    assert run(twice).loads["fridge"].without_power_s == pytest.approx(18 * HOUR_S)


def test_what_it_charges_waits_for_it() -> None:
    """A 12 V socket of 120 W into a station that is never full: 13 h of the first day."""
    made = house({"a": circuit([1])}, {"a": load("a", steady(100.0))})
    made["stations"]["unit"]["dc_inputs"] = {
        "car": {"low_v": 11.0, "high_v": 30.0, "most_a": 10.0, "most_w": 120.0}
    }
    made["vehicles"] = {
        "car": {
            "name": "car", "outlet": "socket_12v", "most_w": 120.0, "usable_kwh": 50.0,
            "told_to_stay": "yes", "away": [{"begins": "07:00", "ends": "18:00"}],
        }
    }  # fmt: skip
    made["outage"] |= {
        "start_local": "2026-01-12T00:00:00",
        "length_s": 24 * HOUR_S,
        "start_charge_percent": {"unit": 50.0},
    }
    made = upgraded(made)
    made["leads"]["socket"] = {
        "source": {"kind": "vehicle", "id": "car"},
        "to": {"end": "input", "station_id": "unit", "input_id": "car", "setting_w": 120.0, "when": "always"},
    }
    result = run(made)
    assert result.ledger is not None
    assert result.ledger.vehicle_wh == pytest.approx(120.0 * 13, rel=1e-6)


def test_more_than_its_watts_opens_its_outlet() -> None:
    made = document(1_900.0)
    made["strategy"]["shedding"] = "none"
    result = run(made)
    trip = next(event for event in result.events if event.kind == "trip")
    assert "van" in trip.what
    assert trip.t_s < 10.0


def test_it_may_take_turns_with_a_station_behind_a_switch() -> None:
    """The station feeds a furnace switch until it is empty; then someone moves the plug to the van."""
    made = document()
    made["feeds"] = {
        "switch": {
            "kind": "appliance_switch",
            "inlet": "5-15",
            "inlet_a": 15.0,
            "breaker_a": 15.0,
            "panel_id": "main",
            "circuit_ids": ["kitchen"],
            "neutral_switched": "yes",
        }
    }
    made["stations"]["unit"].update(output="120", nameplate_wh=2_000.0)
    made["stations"]["unit"]["receptacles"]["out"] = {"kind": "5-20", "rating_a": 20.0}
    cord = [{"length_m": 0.0, "awg": 14}]
    end = {"end": "feed", "feed_id": "switch"}
    made["leads"] = {
        "van": {"source": {"kind": "vehicle", "id": "van"}, "cords": cord, "to": end},
        "unit": {"source": {"kind": "station", "id": "unit", "outlet": "out"}, "cords": cord, "to": end},
    }
    made["strategy"]["swap_s"] = 600.0
    result = run(made)
    swap = next(event for event in result.events if event.kind == "swap")
    assert swap.t_s == pytest.approx(5 * HOUR_S + 600.0, abs=1.0)
    assert result.sources["vehicles/van"].given_wh == pytest.approx(10_000.0)


def test_checks_paths_and_drawing_know_it() -> None:
    plan = read_plan(document(2_000.0))
    found = {f.check_id for f in findings_of(plan) if f.level in ("stop", "caution")}
    assert {"leg-over", "total-over"} <= found
    assert feed_paths(plan)[0].elements[0].name == "van"
    strokes = {stroke.key: stroke for stroke in hookup_drawing(plan).strokes}
    assert strokes["leads/cord"].begins == "vehicles/van"


def test_only_an_ac_outlet_feeds_appliances() -> None:
    assert "AC outlet" in refusals(document(outlet="socket_12v"))["/leads/cord/source/id"]
    named = document()
    named["leads"]["cord"]["source"]["outlet"] = "ac"
    assert "one outlet" in refusals(named)["/leads/cord/source/outlet"]
    home = document()
    home["leads"]["cord"]["source"] = {"kind": "circuit", "id": "kitchen"}
    assert "a source of its own" in refusals(home)["/leads/cord/source/kind"]


def test_an_engine_tops_its_battery_up_between_two_charges() -> None:
    """2 kWh from 100 to 20 %, then 1.2 kWh a start; 20 h at 400 W, at 0.8 to the outlet, are 10 kWh."""
    topping: Json = {"kind": "hybrid", "may_start_engine": "yes", "tank_l": 30.0, "kwh_per_l": 2.5}
    made = document(usable_kwh=2.0, inverter_efficiency=0.8, **topping)
    made["outage"]["length_s"] = 20 * HOUR_S
    result = run(made)
    assert result.verdict.status == "lasts"
    van = result.sources["vehicles/van"]
    assert van.given_wh == pytest.approx(8_000.0)
    assert van.burned_l == pytest.approx((10.0 - 1.6) / 2.5)
    assert van.starts == 7
    made["vehicles"]["van"]["may_start_engine"] = "no"
    assert run(made).verdict.until_s == pytest.approx(4 * HOUR_S)
    assert (
        "its engine starts" in refusals(document(tops_up_to_percent=10.0))["/vehicles/van/tops_up_to_percent"]
    )
