"""Gear library, comparison and the path of a feed."""

from typing import Any

import pytest
from check_plans import PLANS, Json, feed, lead, merged, station, survey

from weary_cedar.core.decide.compare import compare, linked_pair, mean_load_w
from weary_cedar.core.feed_path import feed_paths
from weary_cedar.core.gear import gear_library, station_of_class
from weary_cedar.core.network.feed_limits import feed_limits
from weary_cedar.core.network.wires import one_way_ohms
from weary_cedar.core.plan import Generator, Station, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import DEMOS, demo_plan


def test_library_is_whole() -> None:
    library = gear_library()
    parts: list[Any] = [*library.stations, *library.generators, *library.modules, *library.vehicles]
    parts += [*library.externals, *library.leads]
    assert len(parts) >= 40
    assert len({part.class_id for part in parts}) == len(parts)
    typical = [part for part in parts if part not in library.leads]
    assert all("from memory" in part.source for part in typical)
    built = next(item.station for item in library.stations if item.class_id == "built-3000")
    assert built.bank is not None
    assert built.bank.lowest_v < built.bank.nominal_v < (built.bank.charge_v or 0)
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


def test_recharging_with_taper_and_limits() -> None:
    """10,240 Wh, knee 80 %, end 35 %: 5 h to 80 % and 2 h more at 1,638 W in the cells (practice)."""
    wall = 1638 / 0.88
    own = {
        "name": "x",
        "rated_va": 3000.0,
        "nameplate_wh": 10_240.0,
        "taper": {"knee_percent": 80.0},
        "ac_inputs": {"wall": {"most_w": wall}},
    }
    station = Station.model_validate(own)
    assert station.most_charge_w == pytest.approx(1638)
    (found,) = compare([station], 100.0)
    assert found.recharge_h == pytest.approx(7.0, abs=0.05)
    assert found.recharge_sun_h is None
    limited = Station.model_validate({**own, "max_charge_w": 819.0})
    assert compare([limited], 100.0)[0].recharge_h == pytest.approx(14.0, abs=0.1)
    bank = {"nominal_v": 48.0, "lowest_v": 44.0, "charge_v": 56.0, "charge_a": 10.0}
    assert Station.model_validate({**own, "bank": bank}).most_charge_w == 560.0


def test_price_and_weight_of_station_and_packs() -> None:
    pack = {"name": "p", "nameplate_wh": 5000.0, "count": 2, "price": 1000.0, "weight_kg": 40.0}
    own = {"name": "x", "rated_va": 4000.0, "nameplate_wh": 5000.0, "price": 3000.0, "weight_kg": 45.0}
    (found,) = compare([Station.model_validate({**own, "packs": {"p": pack}})], 1e5)
    assert (found.weight_kg, found.moves_with_you) == (125.0, True)
    assert found.price_per_kwh == pytest.approx(5000 / (found.delivered_wh / 1000))
    heavy = Station.model_validate({**own, "packs": {"p": {**pack, "weight_kg": 60.0, "price": None}}})
    (other,) = compare([heavy], 1e5)
    assert (other.price_per_kwh, other.moves_with_you) == (None, False)


def test_fuel_in_the_house_lasts() -> None:
    unit = station_of_class("mid-3000")
    engine = {"name": "g", "rated_w": 1800.0, "on_hand_l": 20.0}
    (found,) = compare([unit], 300.0, Generator.model_validate(engine))
    assert found.fuel_days == pytest.approx(20 / (found.fuel_l_day or 0))
    (piped,) = compare([unit], 300.0, Generator.model_validate({**engine, "fuel": "natural_gas"}))
    assert (piped.fuel_l_day, piped.fuel_days) == (None, None)
    assert piped.generator_h_day == found.generator_h_day


def test_a_path_follows_the_wire_and_the_adapters() -> None:
    adapter = {"source_end": "L14-30", "load_end": "L14-30", "rating_a": 30.0, "overcurrent_a": 20.0}
    patch = merged(
        lead(adapters=[{**adapter, "sits_at": "source"}, adapter]),
        feed(wire={"length_m": 3.0, "awg": 8, "metal": "aluminium"}),
    )
    plan = read_plan(apply_patch(PLANS["foothill"], patch))
    (path,) = feed_paths(plan)
    assert [element.key for element in path.elements] == [
        "source", "receptacle", "adapter-0", "cord-0", "adapter-1", "inlet", "wire", "transfer", "panel",
    ]  # fmt: skip
    rated = {element.key: element.rating_a for element in path.elements}
    assert (rated["adapter-0"], rated["wire"]) == (20.0, 35.0)  # the column of 60 °C: nothing is marked
    limits = feed_limits(plan, plan.hookups["inlet"])
    assert limits.leg_element.key == "adapter"
    assert limits.leg_va == 20.0 * 120.0


def test_a_linked_pair_is_named_on_its_path() -> None:
    (path,) = feed_paths(demo_plan("canal"))
    assert path.elements[0].name == "linked pair"
    assert path.elements[0].rating_a == 25.0


@pytest.mark.parametrize("plan", ["foothill", "canal"])
def test_an_open_neutral_never_reads_as_one_bond(plan: str) -> None:
    key = next(iter(PLANS[plan]["feeds"]))
    (path,) = feed_paths(read_plan(apply_patch(PLANS[plan], {"feeds": {key: {"inlet": "6-50"}}})))
    assert (path.neutral_cell, path.neutral_matrix) == ("neutral-open", ())
    assert "the legs are in series" in path.neutral_words
    (made,) = feed_paths(read_plan(apply_patch(PLANS[plan], {"feeds": {key: {"inlet": "homemade"}}})))
    assert made.neutral_cell == "neutral-unknown"


def test_resistance_of_cords_and_wire() -> None:
    """50 ft of stranded AWG 10 and 20 ft of solid AWG 10 in aluminium at 1.64 times copper."""
    patch = merged(
        lead(cords=[{"length_m": 15.24, "awg": 10}]),
        feed(wire={"length_m": 6.096, "awg": 10, "metal": "aluminium"}),
    )
    plan = read_plan(apply_patch(PLANS["foothill"], patch))
    per_kft = 0.9989  # ASTM B258, solid copper at 20 °C
    assert one_way_ohms(plan.hookups["inlet"]) == pytest.approx(
        per_kft * (0.050 * 1.02 + 0.020 * 1.64), rel=1e-3
    )


@pytest.mark.parametrize("name", DEMOS)
def test_paths_go_from_source_to_panel(name: str) -> None:
    plan = demo_plan(name)
    assert mean_load_w(plan) > 0
    for path in feed_paths(plan):
        keys = [element.key for element in path.elements]
        assert keys[:3] == ["source", "receptacle", "cord-0"]
        assert path.pinch in keys
        assert path.neutral_cell == ("floats" if name == "hut" else "right")
        pinch = next(element for element in path.elements if element.key == path.pinch)
        shares = [(e.most_a or 1) / e.rating_a for e in path.elements if e.rating_a]
        assert (pinch.most_a or 1) / (pinch.rating_a or 1) == max(shares)


def test_two_linked_and_a_generator_beside() -> None:
    """At 300 W: 300/η + idle through the charger at 0.88, and 0.1 L/h a kW + 0.5 L/kWh (from memory)."""
    unit = station_of_class("mid-3000")
    pair = linked_pair(unit)
    assert (pair.total_cell_wh, pair.leg_limit_va, pair.idle_draw_w) == (
        2 * unit.total_cell_wh,
        3000.0,
        2 * unit.idle_draw_w,
    )
    generator = next(g.generator for g in gear_library().generators if g.class_id == "inverter-1800")
    alone, linked = compare([unit, pair], 300.0, generator)
    hours = 24 * (300 / unit.inverter_efficiency + unit.idle_draw_w) / (0.88 * 1800)
    assert alone.generator_h_day == pytest.approx(hours)
    assert alone.fuel_l_day == pytest.approx(hours * (0.18 + 0.9))
    assert linked.output == "120/240"
    assert linked.weight_kg == 2 * (unit.weight_kg or 0) > 50
    assert linked.moves_with_you  # each of them is carried by itself
    assert linked.recharge_sun_h == alone.recharge_sun_h
    assert linked.recharge_h == pytest.approx(2 * (alone.recharge_h or 0))
    window = 2 * unit.total_cell_wh * (1 - unit.cutoff_percent / 100)
    assert linked.runtime_h == pytest.approx(window / (300 / unit.inverter_efficiency + 2 * unit.idle_draw_w))


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


@pytest.mark.parametrize(
    ("patch", "row"),
    [
        (station(neutral="switchable"), "changes, or not known"),
        (merged(station(neutral="switchable"), survey("leads", "inlet", "neutral-set", "yes")), "floating"),
        (
            merged(
                station(neutral="switchable"),
                feed(neutral_switched="yes"),
                lead(survey={"neutral-set": "yes"}),
            ),
            "bonded, plain outlet",
        ),
        (lead(bonding_plug="yes"), "bonded, plain outlet"),
    ],
)
def test_the_matrix_marks_the_row_in_which_the_source_stands(patch: Json, row: str) -> None:
    (path,) = feed_paths(read_plan(apply_patch(PLANS["foothill"], patch)))
    assert [item.source for item in path.neutral_matrix if item.here is not None] == [row]
