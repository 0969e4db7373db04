"""A heater on its leg and over its days: by hand."""

from typing import Any

import pytest
from builders import Json, circuit, house, load, steady

from weary_cedar.core.decide.heater import heater_days, sequence_wh, worst_moment
from weary_cedar.core.library import heaters
from weary_cedar.core.plan import Start, Thermostatic, read_part, read_plan

FURNACE: Json = {
    "loss_w_per_k": 200.0,
    "output_w": 12_000.0,
    "run_w": 600.0,
    "gain_w": 400.0,
    "before": [{"name": "igniter", "watts": 420.0, "seconds": 30.0}],
    "after": [{"name": "purge", "watts": 90.0, "seconds": 60.0}],
    "setback": {"begins": "22:00:00", "ends": "06:00:00", "set_c": 16.0},
}


def spec(**more: Any) -> Thermostatic:
    return read_part(Thermostatic, {**FURNACE, **more})


def test_days_against_outdoor_temperature() -> None:
    """At 0 °C: (200·20 − 400)/12,000 = 0.3 of the time, 4·3·0.3·0.7 cycles an hour of 5 Wh."""
    days = {item.outdoor_c: item for item in heater_days(spec(), standby_w=5.0)}
    assert sequence_wh(spec()) == pytest.approx(5.0)
    assert days[0].day.run_fraction == pytest.approx(0.3)
    assert days[0].day.electrical_wh == pytest.approx(24 * (0.3 * 600 + 2.52 * 5 + 5))
    assert days[0].setback_saving == pytest.approx(8 / 24 * 4 / 20)
    energies = [item.day.electrical_wh for item in days.values()]
    assert energies == sorted(energies, reverse=True)


def test_a_cooler_is_a_heater_mirrored() -> None:
    cooler = spec(mode="cool", set_c=24.0, output_w=3000.0, gain_w=0.0, setback=None)
    days = {item.outdoor_c: item for item in heater_days(cooler)}
    assert days[34].day.run_fraction == pytest.approx(200 * 10 / 3000)
    assert days[34].setback_saving == 0
    assert days[24].day.run_fraction == 0


@pytest.mark.parametrize(
    ("spaces", "legs", "others_w", "start_va"),
    [([1], ("A",), 700 + 450, 1700), ([3], ("B",), 300 + 450, 1700), ([13, 15], ("A", "B"), 1150, 850)],
)
def test_worst_moment_counts_what_is_kept_on_its_leg(
    spaces: list[int], legs: tuple[str, ...], others_w: float, start_va: float
) -> None:
    circuits = {
        "heat": circuit(spaces),
        "a": circuit([5]),
        "b": circuit([7]),
        "both": circuit([9, 11]),
        "room": circuit([17], "room"),
    }
    loads = {
        "heat": load("heat", steady(0)),
        "a": load("a", steady(700)),
        "b": load("b", steady(300)),
        "both": load("both", steady(900)),
        "room": load("room", steady(5000)),
    }
    worst = worst_moment(read_plan(house(circuits, loads)), "heat", spec(), Start(va=1700.0, seconds=1.0))
    assert (worst.legs, worst.others_w, worst.start_va) == (legs, others_w, start_va)
    assert worst.heater_w == 600 / len(legs)
    assert worst.limit_va == 3000
    assert worst.carried_va == pytest.approx(1.5 * 3000)


def test_library_of_heaters() -> None:
    for item in heaters():
        assert "from memory" in item.source
        assert item.behaviour.mode == "cool" or item.behaviour.before, item.heater_id
        assert item.start is not None
        assert item.start.va >= item.behaviour.run_w
