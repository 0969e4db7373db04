"""Heat by which way, which way into the house, and whether it holds for ever: figures that are run."""

import json
from pathlib import Path

import pytest
from builders import Json, circuit, cycling, house, load, steady
from command_line import cedar

from weary_cedar.core.decide.changes import patched
from weary_cedar.core.decide.for_ever import DAYS, for_ever
from weary_cedar.core.decide.heat_choice import heat_choices
from weary_cedar.core.decide.ways_in import ways_in
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical


def test_a_boiler_heats_for_little_and_a_water_heater_does_not() -> None:
    plan = demo_plan("foothill")
    found = {choice.load_id: choice for choice in heat_choices(plan, run_outage(plan)).choices}
    furnace = found["furnace"]
    assert furnace.which == "station"
    assert furnace.propane_l_day is None
    spec = plan.loads["furnace"].behaviour
    assert furnace.heat_kwh_day == pytest.approx(furnace.kwh_day * spec.output_w / spec.run_w)  # type: ignore[union-attr]


BARE: Json = {
    "schema_version": 2, "name": "Bare", "site": {"name": "Bare", "time_zone": "UTC"},
    "outage": {"start_local": "2026-01-12T00:00:00"},
}  # fmt: skip


def tank(watts: float, wh: float = 5120.0) -> Plan:
    document = house(
        {"one": circuit([1]), "two": circuit([5, 7], "room")},
        {
            "cold": load("one", steady(40)),
            "tank": load("two", cycling(watts, 0.2, 3600), role="hot", name="water heater"),
        },
        station={"nameplate_wh": wh},
        outage={"ac_on_at_start": True},
        strategy={"shedding": "none"},
    )
    return read_plan(document)


def test_what_brings_the_outage_down_goes_by_gas() -> None:
    """2,000 W for a fifth of the time are 9.6 kWh a day: 20 h of what is stored, against 128 h without."""
    plan = tank(2_000.0)
    found = heat_choices(plan, run_outage(plan)).choices[0]
    assert found.purpose == "water"
    assert found.which == "gas"
    assert found.kwh_day == pytest.approx(9.6, rel=0.02)
    assert "without it the plan lasts" in found.sentence
    assert found.propane_l_day == pytest.approx(9.6 * 0.95 / (0.75 * 7.1), rel=0.03)
    small = tank(100.0)
    assert heat_choices(small, run_outage(small)).choices[0].which == "station"


def test_nothing_that_heats_is_said() -> None:
    plan = read_plan(house({"one": circuit([1])}, {"lamp": load("one", steady(10))}))
    assert heat_choices(plan, run_outage(plan)).why_not == "nothing that heats hangs on a feed"


def test_ways_into_the_demo_house() -> None:
    found = ways_in(demo_plan("foothill"))
    by_name = {way.name: way for way in found.ways}
    own = by_name["Inlet and interlock, every circuit"]
    assert own.own
    assert own.dark == ()
    assert own.verdict.startswith("Lasts")
    cords = by_name["Cords to appliances"]
    assert {"gas furnace blower", "well pump"} <= set(cords.dark[: cords.dark_must])
    assert cords.money_high < own.money_low
    assert "No permit" in cords.permit
    sizes = [by_name[f"Transfer switch, {size} places"] for size in (6, 8, 10)]
    assert [way.dark_wh_day for way in sizes] == sorted((w.dark_wh_day for w in sizes), reverse=True)
    assert sizes[0].dark_must == 2
    assert sizes[1].dark_must == 0
    assert own.name.lower() in found.sentence
    assert "licensed electrician" in found.defers


def test_ways_of_a_house_without_a_panel_and_of_an_empty_plan() -> None:
    hut = ways_in(demo_plan("hut"))
    assert next(way for way in hut.ways if way.own).way == "cords"
    bare = ways_in(read_plan(BARE))
    assert bare.why_not
    assert bare.ways == ()


def test_a_day_over_and_over_against_its_own_balance() -> None:
    """Without sun 240 Wh a day of 5,120 Wh go: it lasts the days that are run, and not for ever."""
    plan = read_plan(house({"one": circuit([1])}, {"lamp": load("one", steady(10))}))
    found = for_ever(plan)
    (day,) = found.days
    assert not day.holds
    assert day.fails_s is None
    assert day.falls_percent == pytest.approx(100 * 240 / 5120, rel=0.01)
    assert f"lasts {DAYS} days" in found.sentence
    gone = for_ever(read_plan(house({"one": circuit([1])}, {"lamp": load("one", steady(100))})))
    assert gone.days[0].fails_s == pytest.approx(51.2 * 3600, rel=0.01)


def test_down_to_which_sky_it_holds() -> None:
    plan = patched(
        demo_plan("foothill"),
        {"generators": None, "leads": {"from-generator": None}, "strategy": {"rules": []},
         "circuits": {"office": {"mark": "off"}}},
    )  # fmt: skip
    found = for_ever(plan)
    held = [day.holds for day in found.days]
    assert held == sorted(held, reverse=True), "a worse sky never holds where a better one does not"
    assert next(day.name for day in found.days) == "clear"
    with_engine = for_ever(demo_plan("foothill"))
    assert all(day.holds for day in with_engine.days)
    litres = [day.litres_day for day in with_engine.days]
    assert litres == sorted(litres)
    assert "while fuel is brought" in with_engine.sentence
    assert "is enough for" in with_engine.sentence


def test_on_the_command_line(tmp_path: Path) -> None:
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(canonical(demo_plan("foothill"))))
    form = json.loads(cedar("schema", "--decisions").stdout)
    for command in ("heat", "ways-in", "for-ever"):
        assert cedar(command, str(file)).returncode == 0
        told = json.loads(cedar(command, str(file), "--json").stdout)
        assert set(told) == set(form[command]["properties"])
    file.write_text(json.dumps(BARE))
    assert {cedar(command, str(file)).returncode for command in ("heat", "ways-in", "for-ever")} == {1}


def test_nothing_that_must_not_be_looks_fine(tmp_path: Path) -> None:
    plan = patched(demo_plan("foothill"), {"feeds": {"inlet": {"kind": "no_transfer"}}})
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(canonical(plan)))
    for command in ("heat", "ways-in", "for-ever"):
        told = cedar(command, str(file))
        assert told.returncode == 1
        assert "must not be energised" in told.stdout.lower()
    found = json.loads(cedar("ways-in", str(file), "--json").stdout)
    assert all(way["verdict"].startswith("Must not be energised") for way in found["ways"])
