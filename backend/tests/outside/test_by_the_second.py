"""Several sources at once, exact run against the one-second run: 0.1 % of energy, 2 s of time.

The one-second run is the same model written a second time, in steps: it checks the closed forms and the
events of the run, not the model; that is checked against other programs in the files beside this one.
"""

from typing import Any

import pytest
from builders import Json, circuit, cycling, job, load, steady

from outside.by_the_second import BySecond
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3600.0
#: Daylight as it was seen, from six to eighteen.
DAY = [0, 0, 0, 0, 0, 0, 90, 260, 520, 770, 930, 1010, 1040, 1000, 900, 720, 480, 230, 60, 0, 0, 0, 0, 0]
MODULE: Json = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.6, "imp_a": 12.9}
SUN_INPUT: Json = {"low_v": 12.0, "high_v": 500.0, "most_a": 100.0, "most_w": 900.0}


def seen(scale: float = 1.0, days: int = 3) -> Json:
    hours = [(HOUR_S * (24 * d + h), scale * w) for d in range(days) for h, w in enumerate(DAY)]
    return {"t_s": [t for t, _ in hours], "watts": [w for _, w in hours]}


def array(station: str, input_id: str, scale: float = 1.0) -> Json:
    return {
        "name": "sun",
        "module": MODULE,
        "series": 3,
        "station_id": station,
        "input_id": input_id,
        "seen": seen(scale),
    }


def station(wh: float, **more: Any) -> Json:
    return {
        "name": more.pop("name", "unit"),
        "rated_va": 3600.0,
        "nameplate_wh": wh,
        "idle_w": 30.0,
        "cutoff_percent": 2.0,
        "receptacles": {"out": {"kind": "L14-30", "rating_a": 30.0}},
        "ac_inputs": {"ac": {"volts": 240, "most_w": 1500.0, "cap_a": 15.0}},
        **more,
    }


def feed(source: str, panel: str = "main", **more: Any) -> Json:
    spaces = [2, 4] if more.get("kind", "interlock_inlet") == "interlock_inlet" else []
    return {
        "kind": "interlock_inlet",
        "source_id": source,
        "receptacle_id": "out",
        "cords": [{"length_m": 0.0, "awg": 10}],
        "inlet_a": 30.0,
        "panel_id": panel,
        "breaker_a": 30.0,
        "breaker_spaces": spaces,
        **more,
    }


def recharge(station_id: str, kind: str, from_id: str, watts: float = 1000.0, **more: Any) -> Json:
    made = {"name": from_id, "station_id": station_id, "input_id": "ac", "kind": kind, "from_id": from_id}
    return {**made, "setting_w": watts, **more}


def engine(**more: Any) -> Json:
    return {
        "name": "set",
        "rated_w": 2400.0,
        "output": "120/240",
        "fuel": "petrol",
        "no_load_l_per_h": 0.2,
        "l_per_kwh": 0.45,
        "receptacles": {"out": {"kind": "L14-30", "rating_a": 30.0}},
        **more,
    }


def plan(days: float = 0.85, **rooms: Any) -> Json:
    """Three loads on one panel, someone always awake."""
    circuits = {"a": circuit([1], order=1), "b": circuit([3], order=2), "x": circuit([5, 7], "room", order=3)}
    loads = {
        "a": load("a", cycling(140.0, 0.4, 2_400.0, phase=0.1)),
        "b": load("b", steady(90.0)),
        "x": load("x", job("11:00:00", "14:00:00", (1_200.0, 40.0), (300.0, 20.0))),
    }
    made = {
        "schema_version": 1,
        "name": "Second by second",
        "site": {"name": "Second by second"},
        "panels": {"main": {"name": "Main", "spaces": 24}},
        "circuits": circuits,
        "loads": loads,
        "outage": {
            "start_local": "2026-06-01T00:00:00",
            "length_s": days * 86_400.0,
            "changeover_after_s": 600.0,
            "restore": "all_at_once",
            "occupancy": {"wakes": "00:00:00", "sleeps": "00:00:00"},
            **rooms.pop("outage", {}),
        },
        "strategy": {"shedding": "none", **rooms.pop("strategy", {})},
        "feeds": {"feed": feed("near")},
    }
    return made | rooms


def rule(kind: str, **more: Any) -> Json:
    return {"rules": [{"kind": kind, **more}]}


NEAR = {"near": station(3_000.0)}
CHAIN = {"near": station(2_000.0), "far": station(4_000.0), "last": station(2_500.0)}
DC = {"dc": {**SUN_INPUT, "kind": "socket_12v"}}
SWAP: Json = {"b-engine": feed("set")}
GRID = {"one": {"at_s": 20_000.0, "for_s": 9_000.0}, "two": {"at_s": 90_000.0, "for_s": 12_000.0}}

LONG = [{"length_m": 40.0, "awg": 14}]
IDEAL: Json = {"idle_w": 0.0, "sleep_w": 0.0, "self_discharge_percent_per_week": 0.0, "inverter_efficiency": 1.0,
               "cutoff_percent": 10.0}  # fmt: skip

PLANS: dict[str, Json] = {
    "sun with taper and too much of it": plan(
        stations={"near": station(3_000.0, dc_inputs={"one": SUN_INPUT}, taper={"knee_percent": 80.0, "reference_w": 700.0})},
        arrays={"s": array("near", "one")},
    ),
    "two arrays on two inputs, one clipped, one ceiling for both": plan(
        stations={"near": station(6_000.0, dc_inputs={"one": SUN_INPUT, "two": {**SUN_INPUT, "most_w": 300.0}}, max_charge_w=800.0)},
        arrays={"s": array("near", "one"), "r": array("near", "two", 0.7)},
        outage={"start_charge_percent": {"near": 40.0}},
    ),
    "empty at night, back by itself with the sun": plan(
        stations={"near": station(2_500.0, dc_inputs={"one": SUN_INPUT}, auto_restart="yes", restart_percent=20.0)},
        arrays={"s": array("near", "one")},
        outage={"start_charge_percent": {"near": 50.0}},
    ),
    "engine for charging, taper on it": plan(
        stations=NEAR,
        generators={"set": engine()},
        recharges={"r": recharge("near", "generator", "set", 1_400.0)},
        strategy=rule("engine", generator_id="set", on_below_percent=35.0, off_above_percent=98.0, purpose="charging"),
    ),
    "small tank, refilled": plan(
        stations={"near": station(6_000.0)},
        generators={"set": engine(tank_l=1.2, on_hand_l=9.0)},
        recharges={"r": recharge("near", "generator", "set", 1_000.0)},
        strategy=rule("engine", generator_id="set", on_below_percent=40.0, off_above_percent=90.0, purpose="charging"),
        outage={"start_charge_percent": {"near": 60.0}},
    ),
    "two engines, one for each of two stations": plan(
        stations={"near": station(3_000.0), "far": station(2_500.0)},
        panels={"main": {"name": "Main", "spaces": 24}, "shed": {"name": "Shed", "spaces": 12}},
        circuits={"a": circuit([1]), "b": circuit([3]), "x": {**circuit([5, 7]), "panel_id": "shed"}},
        feeds={"feed": feed("near"), "g": feed("far", "shed")},
        generators={"set": engine()},
        recharges={"r": recharge("near", "generator", "set", 1_200.0), "q": recharge("far", "generator", "set", 900.0)},
        strategy=rule("engine", generator_id="set", on_below_percent=30.0, off_above_percent=85.0, purpose="charging"),
    ),
    "swap to the engine through one inlet and back": plan(
        stations=NEAR,
        feeds={"feed": feed("near"), **SWAP},
        generators={"set": engine()},
        recharges={"r": recharge("near", "generator", "set", 1_000.0)},
        strategy={"swap_s": 420.0, **rule("engine", generator_id="set", on_below_percent=25.0, off_above_percent=80.0)},
    ),
    "chain, always in": plan(
        stations={"near": station(2_000.0), "far": station(4_000.0)},
        recharges={"r": recharge("near", "station", "far", 600.0)},
    ),
    "chain of three that taper into each other": plan(
        stations=CHAIN,
        recharges={"r": recharge("near", "station", "far", 800.0), "q": recharge("far", "station", "last", 700.0)},
        outage={"start_charge_percent": {"near": 70.0, "far": 80.0}},
    ),
    "chain by charge": plan(
        stations={"near": station(2_000.0), "far": station(4_000.0)},
        recharges={"r": recharge("near", "station", "far", 600.0, when="strategy")},
        strategy=rule("plug", recharge_id="r", in_below_percent=45.0, out_above_percent=97.0),
    ),
    "chain by an engine, with cords that grow warm": plan(
        days=0.6,
        stations={"near": station(1_500.0), "far": station(3_000.0)},
        generators={"set": engine(rated_w=6_000.0)},
        recharges={"r": recharge("near", "station", "far", 500.0, cords=LONG),
                   "q": recharge("far", "generator", "set", 1_300.0, cords=[*LONG, {"length_m": 15.0, "awg": 12}])},
        strategy=rule("engine", generator_id="set", on_below_percent=60.0, off_above_percent=97.0, purpose="charging"),
        outage={"start_charge_percent": {"near": 80.0, "far": 70.0}},
    ),
    "by the utility, with a cord that grows warm": plan(
        days=0.6,
        stations=NEAR,
        recharges={"r": recharge("near", "circuit", "a", 1_100.0, cords=LONG)},
        outage={"grid": {"one": {"at_s": 9_000.0, "for_s": 15_000.0}}, "start_charge_percent": {"near": 60.0}},
    ),
    "marks that meet: a shed with a start, an engine's level with an end": plan(
        days=0.4,
        stations={"near": station(1_000.0, **IDEAL)},
        loads={"a": load("a", steady(60.0)), "b": load("b", steady(40.0)),
               "x": load("x", job("04:00:00", "04:00:00", (100.0, 60.0))),
               "y": load("b", job("04:30:00", "04:30:00", (100.0, 60.0)))},
        generators={"set": engine()},
        recharges={"r": recharge("near", "generator", "set", 500.0)},
        strategy={"room_off_below_percent": 50.0,
                  **rule("engine", generator_id="set", on_below_percent=30.0, off_above_percent=90.0, purpose="charging")},
        outage={"changeover_after_s": 0.0},
    ),
    "in parallel, round figures: shed, empty and back": plan(
        days=0.6,
        stations={"left": station(1_000.0, rated_va=3_000.0, **IDEAL), "right": station(1_000.0, rated_va=3_000.0, **IDEAL)},
        links={"both": {"name": "both", "kind": "parallel", "leg_a": "left", "leg_b": "right"}},
        loads={"a": load("a", steady(120.0)), "b": load("b", steady(80.0)),
               "x": load("x", job("04:00:00", "06:00:00", (300.0, 90.0)))},
        feeds={"feed": feed("both")},
        strategy={"room_off_below_percent": 20.0},
        outage={"changeover_after_s": 0.0},
    ),
    "over the cap: the input trips": plan(
        stations={
            "near": station(3_000.0, ac_inputs={"ac": {"volts": 240, "most_w": 500.0, "cap_a": 4.0}}),
            "far": station(5_000.0),
        },
        recharges={"r": recharge("near", "station", "far", 400.0)},
    ),
    "over the cap: the battery assists": plan(
        stations={
            "near": station(3_000.0, ac_inputs={"ac": {"volts": 240, "most_w": 500.0, "cap_a": 4.0, "over_cap": "assist"}}),
            "far": station(5_000.0),
        },
        recharges={"r": recharge("near", "station", "far", 400.0)},
    ),
    "linked pair, the first empty stops both": plan(
        stations={"left": station(2_000.0, output="120"), "right": station(2_600.0, output="120")},
        links={"pair": {"name": "pair", "leg_a": "left", "leg_b": "right", "ac_charging": "refused"}},
        feeds={"feed": feed("pair")},
    ),
    "two in parallel, the emptier drops out": plan(
        stations={"left": station(2_000.0, rated_va=3_600.0), "right": station(3_000.0, rated_va=2_400.0)},
        links={"both": {"name": "both", "kind": "parallel", "leg_a": "left", "leg_b": "right"}},
        feeds={"feed": feed("both")},
    ),
    "vehicle by its outlet": plan(
        days=1.25,
        stations=NEAR,
        vehicles={"car": {"name": "car", "usable_kwh": 4.0, "told_to_stay": "yes"}},
        recharges={"r": recharge("near", "vehicle", "car", 900.0)},
    ),
    "vehicle by its socket, and an external battery": plan(
        stations={"near": station(2_500.0, dc_inputs={**DC, "ext": SUN_INPUT})},
        vehicles={"car": {"name": "car", "outlet": "socket_12v", "most_w": 110.0, "usable_kwh": 2.0, "told_to_stay": "yes"}},
        recharges={"r": recharge("near", "vehicle", "car", 150.0, input_id="dc")},
        externals={"old": {"name": "old", "wh": 700.0, "lowest_v": 20.0, "highest_v": 29.0, "gives_w": 200.0,
                           "station_id": "near", "input_id": "ext"}},
    ),
    "rolling outage, recharged from a circuit": plan(
        days=1.25,
        stations=NEAR,
        recharges={"r": recharge("near", "circuit", "a", 1_100.0)},
        outage={"grid": GRID, "start_charge_percent": {"near": 80.0}},
    ),
    "sun and engine, room circuits off when low": plan(
        days=1.25,
        stations={"near": station(3_500.0, dc_inputs={"one": SUN_INPUT})},
        arrays={"s": array("near", "one", 0.6)},
        generators={"set": engine()},
        recharges={"r": recharge("near", "generator", "set", 700.0)},
        strategy={"room_off_below_percent": 60.0,
                  **rule("engine", generator_id="set", on_below_percent=30.0, off_above_percent=80.0, purpose="charging")},
    ),
}  # fmt: skip


def marks(result: RunResult) -> list[tuple[float, str]]:
    """Events of the run that the one-second run tells too."""
    words = {"empty": "empty {}", "engine_on": "on {}", "engine_off": "off {}", "engine_dry": "dry {}"}
    words |= {"restarted": "restarted {}", "input_trip": "input {}"}
    return [(e.t_s, words[e.kind].format(e.part)) for e in result.events if e.kind in words]


@pytest.mark.parametrize("name", PLANS)
def test_agrees_with_the_one_second_run(name: str) -> None:
    document = PLANS[name]
    exact, steps = run_outage(read_plan(document)), BySecond(document).run()
    assert exact.ledger is not None
    assert exact.ledger.closes
    assert exact.ledger.residual < 1e-9
    scale = max(1.0, exact.ledger.loads_wh)
    for key, share in exact.loads.items():
        assert share.served_wh == pytest.approx(steps.served[key], rel=1e-3, abs=1e-3 * scale), key
    for key, battery in exact.batteries.items():
        assert battery.stored_end_wh == pytest.approx(steps.cells[key].wh, rel=1e-3, abs=1e-3 * scale), key
    ledger = exact.ledger
    sums = {"sun": ledger.sun_wh, "engine": ledger.engine_wh, "grid": ledger.grid_wh, "cord": ledger.cord_wh}
    for found, told in sums.items():
        assert told == pytest.approx(steps.total.get(found, 0.0), rel=1e-3, abs=1e-3 * scale), found
    mine, theirs = marks(exact), [m for m in steps.marks if m[1].split()[0] not in ("in", "out")]
    for word in {word for _, word in (*mine, *theirs)}:
        at = [t for t, w in mine if w == word]
        assert at == pytest.approx([t for t, w in theirs if w == word], abs=2.0, rel=2e-4), word


def test_the_plans_do_what_they_are_for() -> None:
    """Every behaviour happens: a referee of plans in which nothing happens would not say much."""
    kinds: set[str] = set()
    for document in PLANS.values():
        result = run_outage(read_plan(document))
        kinds |= {event.kind for event in result.events}
    assert kinds >= {
        "engine_on",
        "engine_off",
        "engine_dry",
        "refuelled",
        "empty",
        "restarted",
        "plug",
        "swap",
    }
    assert kinds >= {"input_trip", "grid", "full", "room_shed", "source_empty"}
