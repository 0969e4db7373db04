"""What holds of every run with several sources, and what each device refuses, loses or delays."""

import copy
import json
import math
from itertools import pairwise
from typing import Any

import pytest
from builders import Json, circuit, cycling, house, load, steady
from outside.test_by_the_second import PLANS

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import DEMOS, demo_plan

HOUR_S = 3600.0
DEMO_PLANS: dict[str, Json] = {n: demo_plan(n).model_dump(mode="json", exclude_none=True) for n in DEMOS}


def run(document: Json) -> RunResult:
    return run_outage(read_plan(document))


def told(result: RunResult, kind: str) -> list[float]:
    return [event.t_s for event in result.events if event.kind == kind]


def turned(document: Any) -> Any:
    """The same with the keys of every object the other way round."""
    if isinstance(document, dict):
        return {key: turned(value) for key, value in reversed(document.items())}
    return [turned(item) for item in document] if isinstance(document, list) else document


@pytest.mark.parametrize("name", [*DEMOS, *list(PLANS)[3:9:2]])
def test_order_of_keys_and_a_second_run_change_no_byte(name: str) -> None:
    document = DEMO_PLANS.get(name) or PLANS[name]
    first = run(document).model_dump_json()
    assert run(turned(document)).model_dump_json() == first
    assert run(copy.deepcopy(document)).model_dump_json() == first


@pytest.mark.parametrize(
    "name", ["swap to the engine through one inlet and back", "engine for charging, taper on it"]
)
def test_swapped_legs_mirror_the_result(name: str) -> None:
    document = copy.deepcopy(PLANS[name])
    plain = run(document)
    document["panels"]["main"]["first_leg"] = "B"
    mirrored = run(document)
    assert mirrored.series.a_w == pytest.approx(plain.series.b_w)
    assert mirrored.series.stored_wh == pytest.approx(plain.series.stored_wh)
    assert mirrored.verdict.until_s == plain.verdict.until_s


@pytest.mark.parametrize(
    "name", ["linked pair, the first empty stops both", "chain, always in", "over the cap: the input trips"]
)
def test_more_battery_never_lasts_shorter(name: str) -> None:
    document = copy.deepcopy(PLANS[name])
    before = -1.0
    for factor in (0.5, 1.0, 1.7):
        for key, unit in document["stations"].items():
            unit["nameplate_wh"] = factor * PLANS[name]["stations"][key]["nameplate_wh"]
        until = run(document).verdict.until_s
        lasts = float("inf") if until is None else until
        assert lasts >= before
        before = lasts


# ---------------------------------------------------------------- engines and vehicles


def engine_at_night(**generator: Any) -> RunResult:
    document = copy.deepcopy(PLANS["engine for charging, taper on it"])
    document["outage"]["occupancy"] = {"wakes": "11:00:00", "sleeps": "12:00:00"}
    document["generators"]["set"].update(generator)
    return run(document)


def test_an_engine_waits_for_someone_unless_it_starts_by_itself() -> None:
    assert all(t % 86_400 // HOUR_S == 11 for t in told(engine_at_night(), "engine_on"))
    assert told(engine_at_night(auto_start=True), "engine_on")[0] == pytest.approx(37_392.2, abs=0.1)


def test_quiet_hours_come_before_the_least_run() -> None:
    quiet = {"begins": "10:40:00", "ends": "15:00:00"}
    result = engine_at_night(auto_start=True, quiet=quiet)
    assert told(result, "engine_off")[0] == 10 * HOUR_S + 2_400
    assert all(not 10.6 < t % 86_400 / HOUR_S < 15 for t in told(result, "engine_on"))


def test_fuel_that_is_not_known_is_said_to_be_endless() -> None:
    result = engine_at_night()
    assert any("never ends" in words for words in result.verdict.assumed)
    assert result.sources["generators/set"].left_l is None


def test_a_charger_that_refuses_the_engine_is_named() -> None:
    document = copy.deepcopy(PLANS["engine for charging, taper on it"])
    document["stations"]["near"]["refuses"] = ["inverter"]
    result = run(document)
    assert "refuses inverter generators" in result.unused[0].why
    assert result.ledger is not None
    assert result.ledger.engine_wh == 0


def test_a_vehicle_turns_itself_off_until_someone_is_there() -> None:
    document = copy.deepcopy(PLANS["vehicle by its outlet"])
    del document["vehicles"]["car"]["told_to_stay"]
    document["outage"]["occupancy"] = {"wakes": "06:00:00", "sleeps": "06:30:00"}
    document["outage"]["start_charge_percent"] = {"near": 10.0}
    result = run(document)
    assert told(result, "plug")[0] == 6 * HOUR_S
    assert told(result, "vehicle_off")[0] == 7 * HOUR_S


def test_a_kit_that_is_not_known_to_take_charge_takes_none() -> None:
    document = copy.deepcopy(DEMO_PLANS["canal"])
    document["links"]["pair"]["ac_charging"] = "unknown"
    result = run(document)
    assert "it is not known whether it does" in " ".join(result.verdict.assumed)
    assert told(result, "empty")[0] < 10 * HOUR_S


# ---------------------------------------------------------------- feeds, incidents, acts


def test_a_small_inlet_never_trips_the_station_but_its_breaker_trips_in_its_own_time() -> None:
    """25 A on a 15 A breaker: 1.67 × rating, some minutes by its curve, long before the inverter minds."""
    document = house({"a": circuit([1])}, {"a": load("a", steady(3_000))}, {"nameplate_wh": 90_000.0})
    document["feeds"]["feed"] |= {"inlet_a": 20.0, "breaker_a": 15.0}
    document["strategy"] = {"shedding": "none"}
    document["outage"]["length_s"] = 7_200.0
    result = run(document)
    assert result.sources["stations/unit"].trips == 0
    assert told(result, "trip") == []
    first = told(result, "breaker_trip")[0]
    assert 120 < first < 3_600
    assert "feed breaker" in next(e.what for e in result.events if e.kind == "breaker_trip")
    assert result.verdict.status == "does_not_last"


def test_an_incident_hits_the_part_that_it_names() -> None:
    document = house({"a": circuit([1]), "b": circuit([3])}, {k: load(k, steady(50)) for k in "ab"})
    cord = {**document["feeds"]["feed"], "kind": "cords", "breaker_spaces": [], "circuit_ids": ["a"]}
    document["feeds"]["cord"] = cord
    document["outage"]["incidents"] = {
        "i": {"kind": "cord_unplugged", "at_s": 600.0, "for_s": 60.0, "feed_id": "cord"}
    }
    loads = run(document).loads
    assert (loads["a"].without_power_s, loads["b"].without_power_s) == (60.0, 0.0)


def test_acts_switch_parts_off_and_on() -> None:
    document = house({"a": circuit([1]), "b": circuit([3])}, {k: load(k, steady(50)) for k in "ab"})
    document["outage"]["acts"] = {
        "off": {"at_s": 1_000.0, "room": "circuits", "part_id": "a", "turn": "off"},
        "on": {"at_s": 4_600.0, "room": "circuits", "part_id": "a", "turn": "on"},
        "gone": {"at_s": 8_000.0, "room": "stations", "part_id": "unit", "turn": "off"},
        "back": {"at_s": 9_000.0, "room": "stations", "part_id": "unit", "turn": "on"},
    }
    result = run(document)
    loads, drawn = result.loads, result.load_series["a"]
    # chosen off is not lost power: neither the circuit nor the station
    assert loads["a"].without_power_s == pytest.approx(loads["b"].without_power_s, abs=5.0)
    assert loads["a"].without_power_s < 5.0
    watts = dict(zip(drawn.t_s, drawn.watts, strict=True))
    assert [watts[t] for t in (1_000.0, 4_600.0, 8_000.0)] == [0.0, 50.0, 0.0]


def test_flame_sensing_locks_out_on_a_floating_source_by_cord_only() -> None:
    document = copy.deepcopy(DEMO_PLANS["hut"])
    result = run(document)
    assert told(result, "locked_out") == [990.0]
    assert result.verdict.first_lost == "boiler"
    document["stations"]["near"]["neutral"] = "bonded"
    assert told(run(document), "locked_out") > [100_000.0], "only while it passes the floating one through"
    document["stations"]["far"]["neutral"] = "bonded"
    assert told(run(document), "locked_out") == []


def test_cold_cells_take_no_charge_and_say_so() -> None:
    document = copy.deepcopy(PLANS["sun with taper and too much of it"])
    document["places"] = {"yard": {"name": "yard", "kind": "outdoors"}}
    document["stations"]["near"]["place_id"] = "yard"
    document["outage"]["weather"] = {"low_c": -15.0, "high_c": -5.0}
    frozen = run(document)
    assert told(frozen, "cold")
    assert (
        frozen.batteries["near"].charged_wh
        < run(PLANS["sun with taper and too much of it"]).batteries["near"].charged_wh
    )
    document["stations"]["near"]["self_heated"] = True
    assert told(run(document), "cold") == []


def test_a_phase_is_tied_to_the_load_itself() -> None:
    """Another load does not shift the cycles of those that were there."""
    one = house({"b": circuit([1], order=1)}, {"fridge": load("b", cycling(100.0, 0.5, 1_200.0))})
    two = copy.deepcopy(one)
    two["circuits"]["a"] = circuit([3])
    two["loads"]["a-lamp"] = load("a", steady(5))
    assert run(one).load_series["fridge"] == run(two).load_series["fridge"]


def test_a_plan_that_goes_dark_again_and_again_says_so() -> None:
    document = house({"a": circuit([1]), "b": circuit([5])}, {k: load(k, steady(1_900)) for k in "ab"})
    document["stations"]["unit"]["nameplate_wh"] = 500_000.0
    document["strategy"] = {"shedding": "none", "reset_after_s": 300.0}
    document["outage"]["length_s"] = 4 * HOUR_S
    verdict = run(document).verdict
    assert verdict.status == "does_not_last"
    assert "dark" in verdict.sentence
    assert "times" in verdict.sentence


def test_a_run_is_json_whatever_it_holds() -> None:
    """No infinity gets out: what has no limit is null."""
    for document in (*PLANS.values(), *DEMO_PLANS.values()):
        text = run(document).model_dump_json()
        assert "Infinity" not in text
        assert "NaN" not in text
        json.loads(text)


def test_one_day_traced_by_hand() -> None:
    """The day of docs/method.md: 600 Wh at eight, bent from 10:28, full at 10:45, 400 Wh at midnight."""
    taper = {"knee_percent": 95.0, "end_percent": 35.0, "reference_w": 200.0}
    sun_input = {"low_v": 0.0, "high_v": 500.0, "most_a": 100.0, "most_w": 900.0, "efficiency": 1.0}
    unit = {"nameplate_wh": 1_000.0, "taper": taper, "dc_inputs": {"s": sun_input}}
    document = house(
        {"a": circuit([1])}, {"a": load("a", steady(50))}, unit, outage={"length_s": 24 * HOUR_S}
    )
    module = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.6, "imp_a": 12.9}
    seen = {"t_s": [0.0, 8 * HOUR_S, 12 * HOUR_S], "watts": [0.0, 200.0, 0.0]}
    document["arrays"] = {
        "s": {"name": "s", "module": module, "station_id": "unit", "input_id": "s", "seen": seen}
    }
    battery = run(document).batteries["unit"]
    points = list(zip([t / HOUR_S for t in battery.t_s], battery.stored_wh, strict=True))
    bent, full = 10 + 6 / 13, 10 + 6 / 13 + 0.7621400520468967 / 2.6
    expected = [(0, 1_000), (8, 600), (bent, 969.2307692), (full, 1_000), (12, 1_000), (24, 400)]
    corners = [(hour, wh) for hour, wh in points if not bent + 1e-6 < hour < full - 1e-6]
    for (hour, wh), (known_h, known_wh) in zip(corners, expected, strict=True):
        assert (hour, wh) == pytest.approx((known_h, known_wh), rel=1e-6)
    #: Along the bend dE/dt = 150 W · e^(-2.6 h): what is said of the charge between two points is true, too.
    for (one_h, one), (two_h, two) in pairwise(points):
        middle_h = (one_h + two_h) / 2
        if bent <= middle_h <= full:
            true = 969.2307692 + 150 * (1 - math.exp(-2.6 * (middle_h - bent))) / 2.6
            assert (one + two) / 2 == pytest.approx(true, abs=0.1)


def test_an_engine_alone_feeds_the_house_and_its_fuel_is_told() -> None:
    document = copy.deepcopy(PLANS[list(PLANS)[4]])
    document |= {"stations": {}, "recharges": {}, "strategy": {"shedding": "none"}}
    document["feeds"] = {"f": {**document["feeds"]["feed"], "source_id": "set"}}
    document["outage"] = {**document["outage"], "start_charge_percent": {}}
    result = run(document)
    assert result.verdict.status == "lasts"
    assert "0.9 gal left" in result.verdict.sentence
    assert told(result, "refuelled")
    assert set(result.series.charge_percent) == {0.0}


def test_a_charger_on_its_own_stations_circuit_is_named_as_not_used() -> None:
    document = copy.deepcopy(PLANS["rolling outage, recharged from a circuit"])
    document["recharges"]["r"]["when"] = "always"
    document["outage"]["grid"] = {}
    (unused,) = run(document).unused
    assert "does not come from the station itself" in unused.why


def test_a_socket_gives_nothing_while_its_vehicle_is_off() -> None:
    document = copy.deepcopy(PLANS["vehicle by its socket, and an external battery"])
    document["externals"] = {}
    document["vehicles"]["car"] |= {"told_to_stay": "no", "ready_timeout_s": 1_800.0}
    document["recharges"]["r"]["when"] = "always"
    document["outage"]["occupancy"] = {"wakes": "12:00:00", "sleeps": "12:10:00"}
    result = run(document)
    assert told(result, "vehicle_off")[0] == 600.0 + 1_800.0
    assert result.leads["r"].taken_wh == pytest.approx(110.0 * 1_800 / 3_600 * 2, rel=0.05)


def test_an_outlet_that_is_always_plugged_in_gives() -> None:
    document = copy.deepcopy(PLANS["vehicle by its outlet"])
    document["recharges"]["r"]["when"] = "always"
    result = run(document)
    assert result.unused == ()
    assert result.sources["vehicles/car"].given_wh > 1_000


def test_an_engine_that_alone_feeds_a_panel_runs_though_it_also_charges() -> None:
    """The workshop's station is full; the barn has no other source than the engine."""
    document = copy.deepcopy(PLANS["two engines, one for each of two stations"])
    document["feeds"]["g"] = {**document["feeds"]["g"], "source_id": "set"}
    document["recharges"].pop("q")
    document["strategy"]["rules"][0]["purpose"] = "both"
    result = run(document)
    assert len(told(result, "engine_on")) == 1
    assert result.sources["generators/set"].on_s == pytest.approx(result.length_s - 600.0, abs=1.0)


def test_the_utility_that_is_back_before_the_change_over_feeds_the_house() -> None:
    document = copy.deepcopy(PLANS["rolling outage, recharged from a circuit"])
    document["outage"]["grid"] = {"soon": {"at_s": 300.0, "for_s": 4_000.0}}
    result = run(document)
    assert result.sources["grid"].given_wh > 50
    assert (result.verdict.until_s or 0) > 40_000


def test_a_station_that_lost_its_input_when_it_was_empty_gives_nothing() -> None:
    """Cells too cold to be charged run down by themselves while the wall passes; then the wall goes."""
    document = copy.deepcopy(PLANS["chain, always in"])
    document["places"] = {"yard": {"name": "yard", "kind": "outdoors"}}
    near = document["stations"]["near"]
    near |= {"place_id": "yard", "self_discharge_percent_per_week": 20.0}
    document["outage"] |= {
        "weather": {"low_c": -20.0, "high_c": -15.0},
        "start_charge_percent": {"near": 2.5},
    }
    document["outage"]["acts"] = {
        "cut": {"at_s": 40_000.0, "room": "stations", "part_id": "far", "turn": "off"}
    }
    result = run(document)
    assert told(result, "empty") == [40_000.0]
    assert result.loads["b"].without_power_s == pytest.approx(600.0 + result.length_s - 40_000.0)
    assert result.ledger is not None
    assert result.ledger.closes
