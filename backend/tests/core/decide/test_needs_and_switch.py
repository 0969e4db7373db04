"""Needs and transfer switch: by hand."""

import math

import pytest
from builders import circuit, cycling, house, job, load, steady

from weary_cedar.core.decide.needs import leg_watts, need_list
from weary_cedar.core.decide.transfer_switch import best_circuits, interlock_outlook, with_switch
from weary_cedar.core.network import network_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.supply.station_energy import runtime_uncertainty
from weary_cedar.demo import demo_plan

CIRCUITS = {
    "a": circuit([1], "keep", 1),
    "b": circuit([3], "room", 5),
    "pump": circuit([5, 7], "keep", 2),
    "m1": circuit([9], "room", 6, multiwire_partner="m2"),
    "m2": circuit([11], "room", 7, multiwire_partner="m1"),
    "dark": circuit([6], "off"),
}
LOADS = {
    "a": load("a", cycling(200, 0.5, 1200), origin="measured"),
    "b": load("b", job("07:00:00", "08:00:00", (2400, 60))),
    "pump": load("pump", steady(10), origin="library"),
    "m1": load("m1", steady(40)),
    "dark": load("dark", steady(5000)),
}


def test_needs_by_hand() -> None:
    station = {"nameplate_wh": 5000.0, "idle_w": 50.0}
    found = need_list(read_plan(house(CIRCUITS, LOADS, station=station)))
    assert [need.load_id for need in found.needs] == ["dark", "a", "b", "m1", "pump"]
    assert found.wh_day == pytest.approx(2400 + 2400 + 960 + 240)
    told = found.how_long
    assert told.hours == pytest.approx(5000 / 300)
    a = next(need for need in found.needs if need.load_id == "a")
    assert a.wh_day == pytest.approx(2400)
    assert a.alone_h == pytest.approx(5000 / 150)
    assert a.costs_h == pytest.approx(5000 / 200 - 5000 / 300)
    assert a.share == pytest.approx(0.4)
    assert found.measure_next == "b"
    doubt_w = ((0.05 * 100) ** 2 + (0.5 * 100) ** 2 + (0.5 * 40) ** 2 + (0.35 * 10) ** 2) ** 0.5
    unit = read_plan(house(CIRCUITS, LOADS, station)).stations["unit"]
    loads, stations = doubt_w / 250, runtime_uncertainty(unit, 250)
    assert told.doubt == pytest.approx(math.hypot(loads, stations))
    assert told.low_h == pytest.approx(5000 / (50 + 250 * (1 + told.doubt)))
    assert told.high_h == pytest.approx(5000 / (50 + 250 * (1 - told.doubt)))
    assert {need.load_id for need in found.needs if need.hog} == {"dark"}
    dark = next(need for need in found.needs if need.load_id == "dark")
    assert (dark.costs_h, dark.share) == (None, 0.0)


@pytest.mark.parametrize(
    ("handles", "chosen"),
    [
        (1, ("a",)),
        (3, ("a", "pump")),
        (4, ("a", "pump", "b")),
        (5, ("a", "pump", "b")),
        (6, ("a", "pump", "b", "m1", "m2")),
    ],
)
def test_keep_then_room_and_pairs_together(handles: int, chosen: tuple[str, ...]) -> None:
    plan = read_plan(house(CIRCUITS, LOADS))
    choice = best_circuits(plan, "main", handles)
    assert choice.chosen == chosen
    assert set(choice.blind_spots) == {"a", "b", "pump", "m1", "m2"} - set(chosen)
    copy = with_switch(plan, choice)
    copy = read_plan(copy.model_dump(mode="json", exclude_none=True))
    assert set(network_of(copy).carried) == set(chosen)
    result = run_outage(copy)
    assert set(result.verdict.unreached) == {"a", "pump"} - set(chosen)
    assert (result.verdict.status == "does_not_last") or not result.verdict.unreached


def test_interlock_with_nobody_shedding() -> None:
    circuits = {"a": circuit([1]), "b": circuit([5])}
    loads = {"a": load("a", steady(2000)), "b": load("b", job("06:00:00", "07:00:00", (1500, 1)))}
    document = house(circuits, loads, station={"nameplate_wh": 1e6}, outage={"length_s": 3 * 86_400.0})
    outlook = interlock_outlook(read_plan(document))
    assert outlook is not None
    assert (outlook.overloads, outlook.trips, outlook.overloads_per_day) == (3, 0, 1.0)


def test_a_linked_pair_lasts_as_long_as_its_busier_unit() -> None:
    """3,400 Wh at 97 % on each leg with its own idle draw: all that is wanted is on leg A."""
    plan = demo_plan("canal")
    needs = need_list(plan)
    watts = needs.wh_day / 24
    assert needs.how_long.hours == pytest.approx(3400 * 0.97 / (watts / 0.9 + 30))
    outage = plan.outage.model_copy(update={"start_charge_percent": {"left": 50.0}})
    fewer = need_list(plan.model_copy(update={"outage": outage}))
    assert fewer.how_long.hours == pytest.approx(3400 * 0.47 / (watts / 0.9 + 30))
    other = {
        key: c.model_copy(update={"spaces": (3,)}) for key, c in plan.circuits.items() if key == "aquarium"
    }
    moved = need_list(plan.model_copy(update={"circuits": {**plan.circuits, **other}}))
    tank = sum(need.wh_day for need in needs.needs if need.circuit_id == "aquarium") / 24
    assert moved.how_long.hours == pytest.approx(3400 * 0.97 / (max(tank, watts - tank) / 0.9 + 30))


def test_a_240_v_load_drains_both_units() -> None:
    plan = demo_plan("canal")
    wide = plan.circuits["aquarium"].model_copy(update={"spaces": (1, 3)})
    both = plan.model_copy(update={"circuits": {**plan.circuits, "aquarium": wide}})
    key = next(key for key, load in both.loads.items() if load.circuit_id == "aquarium")
    assert leg_watts(network_of(both), key, 300.0) == (150.0, 150.0)
    assert leg_watts(network_of(plan), key, 300.0) == (300.0, 0.0)
