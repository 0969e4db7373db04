"""Gear library, comparison and the path of a feed."""

from typing import Any

import pytest

from weary_cedar.core.decide.compare import compare, linked_pair, mean_load_w
from weary_cedar.core.feed_path import feed_paths
from weary_cedar.core.gear import gear_library, station_of_class
from weary_cedar.core.plan import Station
from weary_cedar.demo import DEMOS, demo_plan


def test_library_is_whole() -> None:
    library = gear_library()
    parts: list[Any] = [*library.stations, *library.generators, *library.modules, *library.vehicles]
    assert len(parts) >= 25
    assert len({part.class_id for part in parts}) == len(parts)
    assert all("from memory" in part.source for part in parts)
    for item in library.stations:
        assert item.station.receptacles
        assert item.station.ac_inputs
        assert item.station.dc_inputs


def test_comparison_by_hand() -> None:
    """5,000 Wh at 100 W: 100/0.8 + 25 = 150 W at the cells."""
    station = Station(
        name="x",
        rated_va=4000.0,
        nameplate_wh=5000.0,
        inverter_efficiency=0.8,
        idle_w=25.0,
        price=3000.0,
        cycle_life=1000,
    )
    (found,) = compare([station], 100.0)
    assert found.runtime_h == pytest.approx(5000 / 150)
    assert found.delivered_wh == pytest.approx(5000 * 100 / 150)
    assert found.idle_share == pytest.approx(25 / 150)
    assert found.price_per_kwh == pytest.approx(3000 / (5 * 100 / 150))
    assert found.price_per_kwh_life == pytest.approx(3000 / (5 * 100 / 150) / 1000)
    assert (found.leg_va, found.recharge_h) == (2000.0, None)
    (idle,) = compare([station], 0.0)
    assert (idle.delivered_wh, idle.price_per_kwh) == (0.0, None)


@pytest.mark.parametrize("name", DEMOS)
def test_paths_go_from_source_to_panel(name: str) -> None:
    plan = demo_plan(name)
    assert mean_load_w(plan) > 0
    for path in feed_paths(plan):
        keys = [element.key for element in path.elements]
        assert keys[:3] == ["source", "receptacle", "cord-0"]
        assert path.pinch in keys
        assert path.neutral_cell == "right"
        pinch = next(element for element in path.elements if element.key == path.pinch)
        shares = [(e.most_a or 1) / e.rating_a for e in path.elements if e.rating_a]
        assert (pinch.most_a or 1) / (pinch.rating_a or 1) == max(shares)


def test_two_linked_and_a_generator_beside() -> None:
    """At 300 W: 300/η + idle through the charger at 0.88, and 0.1 L/h a kW + 0.5 L/kWh (from memory)."""
    unit = station_of_class("mid-3000")
    pair = linked_pair(unit)
    assert (pair.total_cell_wh, pair.leg_limit_va, pair.idle_w) == (
        2 * unit.total_cell_wh,
        3000.0,
        2 * unit.idle_w,
    )
    generator = next(g.generator for g in gear_library().generators if g.class_id == "inverter-1800")
    alone, linked = compare([unit, pair], 300.0, generator)
    hours = 24 * (300 / unit.inverter_efficiency + unit.idle_w) / (0.88 * 1800)
    assert alone.generator_h_day == pytest.approx(hours)
    assert alone.fuel_l_day == pytest.approx(hours * (0.18 + 0.9))
    assert linked.output == "120/240"
    window = 2 * unit.total_cell_wh * (1 - unit.cutoff_percent / 100)
    assert linked.runtime_h == pytest.approx(window / (300 / unit.inverter_efficiency + 2 * unit.idle_w))


def test_the_matrix_is_the_rule_and_marks_this_feed() -> None:
    (path,) = feed_paths(demo_plan())
    rows = {row.source: row for row in path.neutral_matrix}
    assert [row.here for row in path.neutral_matrix] == [0, None, None, None]
    assert rows["floating"].cells == ("right", "stop: no bond", "normal; flame sensing may lock out")
    assert rows["bonded, plain outlet"].cells == ("caution: two bonds", "right", "right")
    assert rows["bonded, ground-fault outlet"].cells[0].startswith("stop: two bonds")
    assert rows["changes, or not known"].cells == (
        "cannot judge: not known",
        "cannot judge: not known",
        "note: not known, but only cords are fed",
    )
