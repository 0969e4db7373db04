"""What counts as lost: power for longer than a load bears, food that thaws; never what someone chose."""

import pytest
from builders import Json, circuit, house, load, steady

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3600.0


def run(plan: Json) -> RunResult:
    return run_outage(read_plan(plan))


def freezer(station: Json, **compartment: float) -> Json:
    """15 kg at -18 °C on an ideal station."""
    box = {"name": "freezer", "contents_kg": 15.0, "loss_w_per_k": 0.8, "set_c": -18.0, "start_c": -18.0}
    spec = {"kind": "refrigerating", "on_w": 80.0, "compartments": {"box": box | compartment}}
    plan = house({"a": circuit([1])}, {"a": load("a", spec, tolerance_s=200 * HOUR_S)}, station)
    plan["outage"]["length_s"] = 120 * HOUR_S
    return plan


def test_a_freezer_that_thaws_does_not_last_though_it_is_under_40_f() -> None:
    result = run(freezer({"nameplate_wh": 250.0}))
    share = result.compartments["a/box"]
    assert share.thaws_at_s is not None
    assert share.thawed_at_s is not None
    assert share.thaws_at_s < share.thawed_at_s == result.verdict.until_s
    assert result.verdict.status == "does_not_last"
    assert "the food in a is lost" in result.verdict.sentence
    thaws = next(event for event in result.events if event.kind == "food_thaws")
    assert thaws.t_s == share.thaws_at_s
    assert "All of it is thawed by" in thaws.why
    # plateau by hand: 15 kg of three quarters water at 334 kJ/kg, 0.8 W/K in a room of 21 °C
    plateau_s = 15 * 334_000 * 0.75 / (0.8 * 21.0)
    assert share.thawed_at_s - share.thaws_at_s == pytest.approx(plateau_s)


def test_a_freezer_that_is_fed_keeps_its_food() -> None:
    result = run(freezer({"nameplate_wh": 20_000.0}))
    assert result.verdict.status == "lasts"
    assert result.compartments["a/box"].thaws_at_s is None


def two_loads(**outage: object) -> Json:
    plan = house(
        {"a": circuit([1]), "b": circuit([3])}, {k: load(k, steady(50), tolerance_s=600.0) for k in "ab"}
    )
    plan["outage"] |= {"length_s": 10 * HOUR_S, **outage}
    return plan


def test_interrupted_is_told_with_its_minutes_and_is_not_the_first_to_go() -> None:
    result = run(two_loads(incidents={"cord": {"kind": "cord_unplugged", "at_s": 7200.0, "for_s": 1500.0}}))
    assert result.verdict.until_s == 7200.0
    assert "has no power for 25 min, and bears 10 min; then it comes back" in result.verdict.sentence
    waits = run(two_loads(changeover_after_s=480.0))
    assert waits.verdict.status == "lasts"
    assert waits.verdict.sentence.endswith("dark 8 min until it is changed over")


def test_what_someone_chose_to_leave_off_is_not_lost() -> None:
    acts = {"off": {"at_s": 3600.0, "room": "stations", "part_id": "unit", "turn": "off"}}
    result = run(two_loads(acts=acts, changeover_after_s=3600.0))
    assert result.loads["a"].served_wh == 0.0, "not switched on by the change-over of the same second"
    off = run(two_loads(acts={"off": {"at_s": 3600.0, "room": "leads", "part_id": "feed", "turn": "off"}}))
    assert (off.verdict.status, off.loads["a"].served_wh) == ("lasts", 50.0)
    assert off.verdict.sentence.endswith("; left off by choice: a and 1 more, 9 h")
    rule = {"kind": "shed", "circuit_ids": ["b"], "off_below_percent": 95.0, "back_above_percent": 99.0}
    plan = two_loads()
    plan["strategy"] = {"rules": [rule]}
    shed = run(plan)
    assert shed.verdict.status == "lasts"
    assert shed.loads["b"].served_wh < shed.loads["a"].served_wh


def test_of_what_matters_alike_the_least_that_is_enough_is_given_up() -> None:
    """Three small loads and one that makes the room alone; comfort goes before food."""
    watts = {"kettle": 1500.0, "lamp": 100.0, "radio": 100.0, "cooler": 1700.0}
    circuits = {key: circuit([1 + 4 * number]) for number, key in enumerate(watts)}
    loads = {key: load(key, steady(w), tolerance_s=90_000.0) for key, w in watts.items()}
    loads["cooler"]["role"] = "food"
    plan = house(circuits, loads, {"nameplate_wh": 90_000.0})
    plan["outage"] |= {"length_s": HOUR_S, "restore": "all_at_once"}
    result = run(plan)
    shed = [event.loads for event in result.events if event.kind == "shed"]
    assert shed == [("kettle",)]


def test_an_engine_that_only_a_hand_stops_is_stopped_before_nobody_is_there() -> None:
    plan = house({"a": circuit([1])}, {"a": load("a", steady(300))}, {"nameplate_wh": 4000.0})
    plan["schema_version"] = 2
    plan["stations"]["unit"]["ac_inputs"] = {"ac": {"volts": 120, "most_w": 400.0}}
    outlet = {"out": {"kind": "5-20", "rating_a": 20.0}}
    plan["generators"] = {"g": {"name": "g", "rated_w": 2000.0, "receptacles": outlet, "tank_l": 50.0}}
    feed = plan["feeds"]["feed"]
    cords = feed.pop("cords")
    source = {"kind": "station", "id": feed.pop("source_id"), "outlet": feed.pop("receptacle_id")}
    to = {"end": "input", "station_id": "unit", "input_id": "ac", "setting_w": 400.0}
    plan["leads"] = {
        "house": {"source": source, "cords": cords, "to": {"end": "feed", "feed_id": "feed"}},
        "charge": {"source": {"kind": "generator", "id": "g", "outlet": "out"}, "cords": cords, "to": to},
    }
    plan["outage"] |= {
        "start_local": "2026-01-12T18:00:00", "length_s": 30 * HOUR_S,
        "start_charge_percent": {"unit": 50.0}, "occupancy": {"wakes": "07:00:00", "sleeps": "22:00:00"},
    }  # fmt: skip
    rule = {"kind": "engine", "generator_id": "g", "on_below_percent": 45.0, "off_above_percent": 90.0}
    plan["strategy"] = {"rules": [rule]}
    stopped = run(plan)
    off = next(event for event in stopped.events if event.kind == "engine_off")
    assert (off.t_s, off.why) == (4 * HOUR_S, "Nobody is there and awake after this to stop it")
    assert not [event for event in stopped.events if event.kind == "left_running"]
    plan["strategy"]["rules"][0]["left_running"] = True
    left = run(plan)
    told = next(event for event in left.events if event.kind == "left_running")
    assert told.t_s == 4 * HOUR_S
    assert "for 9.0 h" in told.what
    assert next((e.t_s for e in left.events if e.kind == "engine_off"), 1e9) > 4 * HOUR_S
