"""Sums filled from a plan, and results that go back into it."""

import pytest
from check_plans import PLANS, Json, external, vehicle

from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.errors import NotFound
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.sums import SUMS, work_out
from weary_cedar.core.sums_of_plan import READERS, WRITERS, Back, backs, filled, part_names
from weary_cedar.core.supply.sun import array_day
from weary_cedar.demo import DEMOS, demo_plan


def plan_of(name: str, patch: Json | None = None) -> Plan:
    return read_plan(apply_patch(PLANS[name], patch or {}))


@pytest.mark.parametrize("name", SUMS)
@pytest.mark.parametrize("plan", DEMOS)
def test_what_a_plan_knows_is_what_a_sum_takes(plan: str, name: str) -> None:
    known = filled(demo_plan(plan), name)
    assert set(known) <= {item.key for item in SUMS[name].given}
    assert work_out(name, known)


@pytest.mark.parametrize(
    ("plan", "name", "about", "expected"),
    [
        (
            "foothill",
            "runtime",
            None,
            {"energy": 11_600, "idle": 55, "efficiency": 92, "cutoff": 3, "charge": 100},
        ),
        ("canal", "runtime", "right", {"energy": 3400, "idle": 30, "efficiency": 90}),
        ("foothill", "cord", None, {"length": 9, "awg": 10, "volts": 120}),
        ("hut", "cord", None, {"length": 15, "awg": 14, "volts": 230}),
        ("foothill", "string", None, {"voc": 37.1, "series": 4, "beta": -0.27, "coldest": -9, "limit": 450}),
        ("foothill", "generator", None, {"rated": 1800, "no_load": 0.18, "slope": 0.5, "tank": 4}),
        ("foothill", "charging", None, {"wall": 5000, "knee": 95, "end": 35, "taper": 4400, "charger": 88}),
        ("foothill", "motor", "well", {"volts": 240, "rated": 6000}),
        ("canal", "vehicle", None, {"tank": 42, "per_l": 1.6, "battery": 8000}),
        ("hut", "external", None, {"energy": 600, "count": 1}),
        ("foothill", "cost", None, {"price": 3900, "cycles": 3000}),
        ("foothill", "generator", None, {"charge": 1500}),
        ("foothill", "packs", None, {"days": 4, "pack": 5800}),
        ("hut", "legs", None, {}),
    ],
)
def test_filled(plan: str, name: str, about: str | None, expected: dict[str, float]) -> None:
    known = filled(demo_plan(plan), name, about)
    assert {key: known[key] for key in expected} == pytest.approx(expected)


def test_the_charge_at_the_start_is_that_of_head_and_packs() -> None:
    patch = {
        "outage": {
            "start_charge_percent": {"station": 80.0},
            "pack_charge_percent": {"station": {"pack": 40.0}},
        }
    }
    pack = next(iter(PLANS["foothill"]["stations"]["station"]["packs"]))
    patch["outage"]["pack_charge_percent"] = {"station": {pack: 40.0}}
    assert filled(plan_of("foothill", patch), "runtime")["charge"] == pytest.approx(60)


def test_no_such_sum_or_part() -> None:
    for name, about in (("magic", None), ("runtime", "gone"), ("legs", "x")):
        with pytest.raises(NotFound, match="There is no"):
            filled(demo_plan(), name, about)
    assert part_names(demo_plan(), None) == {}
    assert part_names(demo_plan(), "leads") == {
        "inlet": "6 kW station to Main panel",
        "from-generator": "station from the generator",
    }


def back(plan: Plan, name: str, figures: dict[str, float], about: str | None = None) -> list[Back]:
    return backs(plan, name, work_out(name, {**filled(plan, name, about), **figures}), about)


@pytest.mark.parametrize(
    ("name", "figures", "about", "where", "value"),
    [
        ("readings", {"first": 64, "second": 68}, None, ("outage", "start_charge_percent", "station"), 64.0),
        ("string", {"series": 2}, None, ("arrays", "ground", "series"), 10),
        ("motor", {"hp": 1.0, "running": 0}, "well", ("loads", "well", "start", "va"), 6 * 8 * 240.0),
        ("packs", {"daily": 20_000, "days": 2}, None, ("stations", "station", "packs"), None),
    ],
)
def test_results_go_back(
    name: str, figures: dict[str, float], about: str | None, where: tuple[str, ...], value: float | None
) -> None:
    plan = demo_plan()
    (way,) = back(plan, name, figures, about)
    patched = apply_patch(PLANS["foothill"], way.patch)
    assert read_plan(patched) != plan
    for key in where:
        patched = patched[key]
    assert value is None or patched == pytest.approx(value)


def test_a_discharge_test_gives_the_cells_of_the_head_unit() -> None:
    """11,000 Wh at 437 W, efficiency 0.92, idle 55 W, 97 %: less the pack's 5,800 Wh."""
    (way,) = back(demo_plan(), "discharge", {"delivered": 11_000, "load": 437})
    cells = 11_000 * (437 / 0.92 + 55) / 437 / 0.97
    assert way.patch["stations"]["station"]["cell_wh"] == pytest.approx(cells - 5800, abs=1)
    assert way.patch["stations"]["station"]["capacity_origin"] == "measured"
    assert way.words == "measured energy of the cells of 6 kW station"
    assert back(demo_plan(), "discharge", {"delivered": 10.0}) == []


def test_nothing_goes_back_without_a_part_or_beyond_its_range() -> None:
    assert back(demo_plan("canal"), "string", {}) == []
    assert back(demo_plan(), "packs", {"daily": 1e6, "days": 60}) == []
    assert back(demo_plan(), "string", {"voc": 500.0}) == []


def test_every_reader_and_writer_belongs_to_a_sum() -> None:
    keys = {f"{item.name}.{given.key}" for item in SUMS.values() for given in item.given}
    assert all(key in keys or any(k.endswith(f".{key}") for k in keys) for key in READERS)
    labels = {
        f"{item.name}.{found.label}"
        for item in SUMS.values()
        for found in item.work({g.key: g.default for g in item.given})
    }
    assert set(WRITERS) <= labels


def test_a_vehicle_and_a_battery_by_their_own_figures() -> None:
    plan = plan_of("foothill", vehicle(tank_l=40.0, kwh_per_l=2.0))
    known = filled(plan, "vehicle")
    assert (known["tank"], known["per_l"]) == (40.0, 2.0)
    assert "battery" not in known
    assert filled(plan_of("foothill", external()), "external")["energy"] == 180.0


def test_legs_are_those_of_what_is_kept() -> None:
    plan = demo_plan()
    kept = {"A": 0.0, "B": 0.0, "both": 0.0}
    for load in plan.loads.values():
        if plan.circuits[str(load.circuit_id)].mark == "keep":
            legs = plan.circuit_legs(str(load.circuit_id))
            kept["both" if len(legs) == 2 else legs[0]] += on_watts(load)
    known = filled(plan, "legs")
    assert (known["a"], known["b"], known["across"]) == pytest.approx((kept["A"], kept["B"], kept["both"]))
    assert filled(plan, "open-neutral")["a"] == pytest.approx(kept["A"])


def test_sun_of_a_clear_day_saves_packs() -> None:
    """At the cells: what the layout table says of the day, through the input's efficiency."""
    plan = demo_plan()
    array = plan.arrays["ground"]
    entry = plan.dc_input_of(array)
    assert entry is not None
    sun = array_day(plan.site, array, plan.outage.start_local.date(), plan.outage.weather.high_c)
    taken = sum(min(4 * 400 * s.share, entry.most_w) * s.length_s / 3600 for s in sun)
    known = filled(plan, "packs")
    assert known["sun"] == pytest.approx(taken * entry.efficiency, rel=1e-6)
    with_sun, without = (
        work_out("packs", {**known, "sun": sun_wh})[1].value for sun_wh in (known["sun"], 0.0)
    )
    assert with_sun < without
    assert "sun" not in filled(demo_plan("canal"), "packs")
