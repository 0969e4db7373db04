"""Limits that hold while something charges, is linked, is empty, is filled anew, or is too much."""

import copy
from typing import Any

import pytest
from builders import Json, steady
from outside.test_by_the_second import MODULE, SUN_INPUT, array, engine, feed, plan, recharge, rule, station

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.carriers import EngineCarrier
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.generator import Generator, SecondFuel
from weary_cedar.core.supply.engine import Engine


def run(document: Json) -> RunResult:
    return run_outage(read_plan(document))


def moments(result: RunResult, kind: str) -> list[float]:
    return [event.t_s for event in result.events if event.kind == kind]


def with_watts(document: Json, **watts: float) -> Json:
    """The same plan with steady loads."""
    made = copy.deepcopy(document)
    for key, each in watts.items():
        made["loads"][key]["behaviour"] = steady(each)
    return made


def pair(kind: str, **second: Any) -> Json:
    """Two stations that are linked, the second otherwise."""
    small = {"output": "120", "rated_va": 1200.0}
    stations = {"left": station(1_000.0, **small), "right": station(2_000.0, **small) | second}
    link = {"name": "pair", "kind": kind, "leg_a": "left", "leg_b": "right"}
    return plan(stations=stations, links={"pair": link}, feeds={"feed": feed("pair")})


def test_what_is_left_of_a_parallel_group_is_judged_by_its_own_rating() -> None:
    """1,700 W on two of 1,200 VA; when the emptier one is empty the other is over its rating and trips."""
    result = run(with_watts(pair("parallel"), a=800.0, b=900.0, x=0.0))
    emptied = moments(result, "empty")[0]
    assert moments(result, "trip")[0] >= emptied
    assert moments(result, "trip")[0] - emptied < 120.0


def test_a_pair_comes_back_by_the_levels_of_both() -> None:
    document = pair("two_legs", cutoff_percent=20.0, restart_percent=60.0)
    result = run(with_watts(document, a=100.0, b=300.0, x=0.0))
    assert moments(result, "empty")
    assert not moments(result, "restarted"), "not by the level of the other one, in the second it stopped"


def test_charging_yields_before_a_start_trips_the_engine() -> None:
    """2,400 W: 1,000 W charge and 400 W run; a start of 1,300 VA is carried, as charging yields to it."""
    document = plan(
        stations={"near": station(3_000.0)},
        generators={"set": engine(starting_w=2_400.0)},
        feeds={"feed": feed("set")},
        recharges={"r": recharge("near", "generator", "set", 1_000.0)},
        outage={"start_charge_percent": {"near": 20.0}},
    )
    document = with_watts(document, a=200.0, b=200.0, x=0.0)
    document["loads"]["x"]["behaviour"] = {
        "kind": "job", "earliest": "02:00:00", "latest": "03:00:00",
        "steps": [{"watts": 300.0, "minutes": 5.0}],
    }  # fmt: skip
    document["loads"]["x"]["start"] = {"va": 1_500.0, "seconds": 0.5}
    result = run(document)
    assert result.ledger is not None
    assert result.leads["r"].taken_wh > 1_000.0
    assert not moments(result, "trip")


def test_a_leg_of_an_engine_keeps_its_own_rating_when_it_is_filled_again() -> None:
    second = SecondFuel(fuel="propane", rated_share=0.8)
    generator = Generator(name="g", rated_w=3000.0, leg_w=2000.0, output="120/240", second_fuel=second)
    carrier = EngineCarrier(Engine("g", generator))
    carrier.rate()
    assert (carrier.total_va, carrier.leg_va) == (3000.0, 2000.0)
    carrier.engine.on_second = True
    carrier.rate()
    assert (carrier.total_va, carrier.leg_va) == pytest.approx((2400.0, 1600.0))


def test_a_string_over_its_input_gives_nothing_and_says_so() -> None:
    entry = {"sun": {"low_v": 12.0, "high_v": 60.0, "most_a": 15.0, "most_w": 500.0}}
    array = {"name": "roof", "module": MODULE, "series": 3, "station_id": "near", "input_id": "sun"}
    document = plan(stations={"near": station(3_000.0, dc_inputs=entry)}, arrays={"roof": array})
    result = run(document)
    assert result.suns == {}
    (why,) = [item.why for item in result.unused if item.name == "roof"]
    assert "over the 60 V of its input: it gives nothing" in why


def test_an_outlet_that_is_dark_while_charging_is_dark() -> None:
    near = station(3_000.0)
    near["receptacles"]["out"]["live_while_charging"] = "no"
    document = plan(
        stations={"near": near},
        generators={"set": engine(auto_start=True)},
        recharges={"r": recharge("near", "generator", "set", 1_000.0)},
        strategy=rule("engine", generator_id="set", on_below_percent=30.0, off_above_percent=80.0),
        outage={"start_charge_percent": {"near": 20.0}},
    )
    result = run(document)
    begins, ends = moments(result, "engine_on")[0], moments(result, "engine_off")[0]
    drawn = [
        w
        for t, w in zip(result.load_series["b"].t_s, result.load_series["b"].watts, strict=True)
        if begins < t < ends
    ]
    assert not any(drawn)


def test_a_linked_unit_charges_while_its_kit_is_off() -> None:
    document = pair("two_legs")
    document["links"]["pair"]["ac_charging"] = "refused"
    document["stations"]["left"]["ac_inputs"]["ac"]["volts"] = 120
    document["generators"] = {"set": engine(auto_start=True)}
    document["recharges"] = {"r": recharge("left", "generator", "set", 500.0)}
    document["strategy"] = {"shedding": "none", **rule("engine", generator_id="set", purpose="charging")}
    result = run(with_watts(document, a=300.0, b=90.0, x=0.0))
    emptied = moments(result, "empty")[0]
    charged = [t for t, w in zip(result.leads["r"].t_s, result.leads["r"].watts, strict=True) if w > 0]
    assert charged
    assert min(charged) >= emptied


def test_an_engine_is_not_started_for_what_takes_no_charge_yet() -> None:
    """Its rule says 97 %, the full station takes charge again at 95 % only."""
    document = plan(
        stations={"near": station(3_000.0)},
        generators={"set": engine(auto_start=True)},
        recharges={"r": recharge("near", "generator", "set", 500.0)},
        strategy=rule(
            "engine", generator_id="set", on_below_percent=97.0, off_above_percent=99.0, purpose="charging"
        ),
    )
    result = run(document)
    battery = result.batteries["near"]
    at_start = next(
        wh
        for t, wh in zip(battery.t_s, battery.stored_wh, strict=True)
        if t >= moments(result, "engine_on")[0]
    )
    assert at_start == pytest.approx(0.95 * 3_000.0, rel=1e-3)


def test_an_input_that_tripped_is_told_and_told_again_when_it_is_reset() -> None:
    near = station(3_000.0, ac_inputs={"ac": {"volts": 240, "most_w": 500.0, "cap_a": 4.0}})
    document = plan(
        stations={"near": near, "far": station(5_000.0)},
        recharges={"r": recharge("near", "station", "far", 400.0)},
    )
    result = run(document)
    assert moments(result, "input_trip")
    resets = [event for event in result.events if event.kind == "reset" and event.part == "r"]
    assert len(resets) >= 1
    assert not [item for item in result.unused if "never needed" in item.why]


def test_what_sleeps_at_nothing_is_fed_by_the_sun_first() -> None:
    """Empty to 0 %, 3 W asleep, sun of 2 W and then of 103 W: 100 W go in."""
    made = plan(
        stations={"unit": station(1_000.0, cutoff_percent=0.0, sleep_w=3.0, dc_inputs={"sun": SUN_INPUT})},
        feeds={"feed": feed("unit")},
        arrays={"a": {**array("unit", "sun"), "seen": {"t_s": [0.0, 3600.0], "watts": [2.0, 103.0]}}},
    )
    made["outage"].update(start_charge_percent={"unit": 0.0}, length_s=2 * 3600.0)
    made["stations"]["unit"].update(self_discharge_percent_per_week=0.0)
    made["stations"]["unit"]["dc_inputs"]["sun"] = {**SUN_INPUT, "efficiency": 1.0}
    result = run(made)
    assert result.batteries["unit"].stored_end_wh == pytest.approx(100.0)
    assert result.ledger is not None
    assert result.ledger.sleep_wh == pytest.approx(5.0)
