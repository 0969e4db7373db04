"""How plans begin."""

from datetime import datetime
from typing import Any, get_args

import pytest

from weary_cedar.core import beginning
from weary_cedar.core.answers import Answers, Reach, climates, plan_from_answers
from weary_cedar.core.checks import findings_of
from weary_cedar.core.errors import InvalidInput, InvalidPlan
from weary_cedar.core.gear import station_classes
from weary_cedar.core.library import appliances
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.tables import source, table
from weary_cedar.workshop.beginnings import bare_house
from weary_cedar.workshop.breaker_tables import GivenTable, with_table

START = datetime(2026, 11, 2, 18, 0)


@pytest.mark.parametrize("chosen", [[room] for room in beginning.rooms()] + [beginning.rooms()])
def test_every_room_makes_a_whole_plan(chosen: list[str]) -> None:
    plan = beginning.plan_from_rooms("House", START, chosen)
    plan = read_plan(plan.model_dump(mode="json", exclude_none=True))
    assert len(plan.feeds) + len(plan.stations) == 0, "what nobody owns is in no plan"
    assert {load.circuit_id for load in plan.loads.values()} == set(plan.circuits)
    assert run_outage(plan).verdict.status == "cannot_judge"


@pytest.mark.parametrize("chosen", [[], ["ballroom"]])
def test_unknown_rooms_are_refused(chosen: list[str]) -> None:
    with pytest.raises(InvalidInput, match="kitchen"):
        beginning.plan_from_rooms("House", START, chosen)


NEEDS = [
    {"appliance_id": key, "mark": mark}
    for key, mark in [
        ("refrigerator", "keep"),
        ("router", "keep"),
        ("gas-furnace", "keep"),
        ("microwave", "room"),
        ("kettle", "room"),
        ("well-pump-half", "keep"),
        ("television", "room"),
        ("dryer-electric", "off"),
    ]
]
REACHES = get_args(Reach)
CLASSES = ("mini-300", "mid-2000", "large-3600", "split-7000", "euro-2500", "built-3000", None)
WHOLE: dict[str, Any] = {
    "climate_id": "dry-hills",
    "station": {"class_id": "split-6000", "packs": 1},
    "modules": {"class_id": "rigid-400", "count": 4},
    "engine_class": "inverter-1800",
    "reach": "interlock_inlet",
    "needs": NEEDS,
}


def answered(text: str = "", **said: Any) -> Plan:
    """The plan out of some answers, read again as a file would be."""
    answers = Answers.model_validate(said)
    house = bare_house(answers.house_system, START)
    plan = plan_from_answers(
        "House", START, answers, with_table(house, GivenTable(text=text)) if text else house
    )
    return read_plan(plan.model_dump(mode="json", exclude_none=True))


def test_nothing_said_is_nothing_added() -> None:
    plan = answered()
    rooms = ("circuits", "loads", "stations", "generators", "arrays", "vehicles", "feeds", "leads", "links")
    assert not any(getattr(plan, room) for room in rooms)
    assert run_outage(plan).verdict.status == "cannot_judge"


def test_all_answers_make_a_house_in_which_sun_and_engine_count() -> None:
    plan = answered(**WHOLE)
    run = run_outage(plan)
    assert run.verdict.status in ("lasts", "does_not_last")
    assert sum(share.taken_wh for share in run.suns.values()) > 0
    assert (plan.arrays["modules"].series, plan.arrays["modules"].parallel) != (1, 1)
    assert plan.stations["station"].total_cell_wh == pytest.approx(2 * 5_000)
    charging = plan.recharges["charging"]
    assert (charging.input_id, charging.setting_w) == ("wall-120", 1_440.0), "80 % of 1,800 W"
    assert plan.feeds["feed"].breaker_spaces == (2, 4)
    assert plan.site.design_low_c == -9
    dry = answered(**{**WHOLE, "modules": None, "station": {"class_id": "split-6000"}})
    assert run_outage(dry).sources["generators/engine"].starts, "without sun it is started"
    assert all(finding.level != "stop" for finding in findings_of(plan))


@pytest.mark.parametrize("reach", REACHES)
@pytest.mark.parametrize("class_id", CLASSES)
def test_every_station_reaches_the_house_in_every_way(class_id: str | None, reach: str) -> None:
    """Whatever is said is a whole plan, checked and run; without gear the feed waits."""
    station = {"class_id": class_id} if class_id else None
    european = class_id is not None and class_id.startswith("euro")
    plan = answered(
        climate_id="alps" if european else "plains",
        station=station,
        reach=reach,
        needs=NEEDS,
        engine_class=None,
    )
    findings_of(plan)
    assert bool(plan.leads) == (station is not None)
    assert plan.site.split_phase != european
    if reach == "cords" and station:
        by_cord = set(plan.hookups["cords"].load_ids)
        assert {"refrigerator", "router"} <= by_cord
        assert not {"gas-furnace", "well-pump-half"} & by_cord, "wired in"
        assert ("dryer-electric" in by_cord) == european, "two poles where there are two legs"


def test_a_plate_a_car_an_engine_alone_and_a_climate_of_ones_own() -> None:
    plate = {
        "output": "120/240",
        "rated_va": 4_000.0,
        "nameplate_wh": 3_000.0,
        "outlet": "L14-30",
        "charge_w": 2_000.0,
    }
    plan = answered(station=plate, car_class="hybrid-1500", latitude=60.0, coldest_c=-30.0, units="metric")
    assert plan.stations["station"].ac_inputs["wall-240"].most_w == 2_000
    assert set(plan.vehicles) == {"car"}
    assert plan.leads == {}
    assert (plan.site.latitude, plan.site.design_low_c, plan.site.units.temperature) == (60.0, -30.0, "c")
    alone = answered(engine_class="inverter-7000", reach="interlock_inlet", needs=NEEDS)
    assert alone.leads["lead"].source.kind == "generator"
    typed = answered("1 fridge 20 A\n2 furnace 15 A", **WHOLE)
    taken = {space for item in typed.circuits.values() for space in item.spaces}
    assert not taken & set(typed.feeds["feed"].breaker_spaces)
    south = answered(climate_id="south-temperate")
    assert south.outage.weather.high_c > answered(climate_id="alps").outage.weather.high_c


@pytest.mark.parametrize(
    ("said", "field"),
    [
        ({"climate_id": "moon"}, "/answers/climate_id"),
        ({"station": {"class_id": "huge"}}, "/answers/station/class_id"),
        ({"station": {"rated_va": 2_000.0}}, "/answers/station/nameplate_wh"),
        ({"station": {"class_id": "mini-300", "packs": 2}}, "/answers/station/pack_wh"),
        ({"modules": {"class_id": "x", "count": 2}}, "/answers/modules/class_id"),
        ({"engine_class": "x"}, "/answers/engine_class"),
        ({"car_class": "x"}, "/answers/car_class"),
        ({"needs": [{"appliance_id": "x"}]}, "/needs"),
    ],
)
def test_an_answer_that_cannot_be_is_named(said: dict[str, Any], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        answered(**said)
    assert refused.value.problems[0].field == field


def test_a_time_zone_that_there_is_not_is_named() -> None:
    with pytest.raises(InvalidPlan, match="IANA"):
        answered(time_zone="Mars/Base")


def test_a_full_panel_has_no_place_for_a_feed() -> None:
    with pytest.raises(InvalidInput, match="panel is full"):
        answered("\n".join(f"{n} c{n} 20 A" for n in range(1, 25)), **{**WHOLE, "needs": []})


def test_library_tables_are_whole() -> None:
    assert len(appliances()) >= 60
    assert all(item.load.origin == "library" and item.wh_day >= 0 for item in appliances())
    assert all(item.station.leg_limit_va <= item.station.rated_va for item in station_classes())
    assert {item.system for item in climates()} == {"split_phase_120_240", "single_phase_230"}
    assert len(beginning.room_list()) == len(beginning.rooms())
    for name in (
        "climates",
        "appliances",
        "fuels",
        "heaters",
        "heater_steps",
        "rooms",
        "stations",
        "motor_full_load",
    ):
        for row in table(name):
            assert source(row["source_id"])["title"], (name, row)


def test_two_units_linked_by_their_kit_feed_both_legs() -> None:
    pair = {"class_id": "large-3600", "units": "linked", "kit_outlet": "L14-30"}
    plan = answered(**{**WHOLE, "station": pair, "engine_class": None})
    assert (plan.links["pair"].leg_a, plan.links["pair"].leg_b) == ("station", "station-2")
    source = plan.leads["lead"].source
    assert (source.kind, source.id, source.outlet) == ("link", "pair", "outlet")
    assert {array.station_id for array in plan.arrays.values()} == {"station", "station-2"}
    assert all(finding.level != "stop" for finding in findings_of(plan))
    apart = answered(**{**WHOLE, "station": {**pair, "units": "two"}})
    assert (set(apart.stations), apart.links) == ({"station", "station-2"}, {})
    for wrong, field in (({"kit_outlet": "odd"}, "kit_outlet"), ({"class_id": "split-6000"}, "units")):
        with pytest.raises(InvalidInput) as refused:
            answered(station={**pair, **wrong})
        assert refused.value.problems[0].field == f"/answers/station/{field}"
