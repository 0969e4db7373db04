"""The whole hook-up as one drawing: columns, bores, the pinch, and the place of the one neutral bond."""

import pytest
from check_plans import CORDS, PLANS, SUB, Json, circuits, feed, lead, merged, recharge, second, station

from weary_cedar.core.hookup_drawing import DrawnPart, DrawnStroke, HookupDrawing, hookup_drawing
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import DEMOS, demo_plan


def drawn(patch: Json | None = None, plan: str = "foothill") -> HookupDrawing:
    return hookup_drawing(read_plan(apply_patch(PLANS[plan], patch or {})))


def part(drawing: HookupDrawing, key: str) -> DrawnPart:
    return next(item for item in drawing.parts if item.key == key)


def stroke(drawing: HookupDrawing, key: str) -> DrawnStroke:
    return next(item for item in drawing.strokes if item.key == key)


@pytest.mark.parametrize("name", DEMOS)
def test_every_lead_is_drawn_between_parts_that_are_there_from_left_to_right(name: str) -> None:
    plan = demo_plan(name)
    drawing = hookup_drawing(plan)
    columns = {item.key: item.column for item in drawing.parts}
    assert {item.id for item in drawing.strokes if item.room == "leads"} == set(plan.leads)
    assert min(columns.values()) == 0
    for item in drawing.strokes:
        runs_back = item.begins.startswith("panels/") and item.room == "leads"
        assert runs_back or columns[item.begins] < columns[item.ends], item.key
    assert drawing.main in {item.key for item in drawing.strokes}


def test_bores_are_what_the_least_of_each_lead_carries() -> None:
    thin = lead(cords=[{"length_m": 9.0, "awg": 12}])
    assert stroke(drawn(), "leads/inlet").rating_va == 30.0 * 240.0
    assert stroke(drawn(thin), "leads/inlet").rating_va == 25.0 * 240.0, "AWG 12 carries 25 A"
    one_hot = drawn(merged(feed(kind="bridged"), circuits(well={"mark": "off"})))
    assert stroke(one_hot, "leads/inlet").rating_va == 30.0 * 120.0
    charged = drawn({"leads": {"from-generator": {"cords": [{"length_m": 5.0, "awg": 18}]}}})
    assert stroke(charged, "leads/from-generator").rating_va == 10.0 * 120.0, "AWG 18 carries 10 A"


def test_the_pinch_of_the_run_is_on_its_lead() -> None:
    assert [item.key for item in drawn().strokes if item.pinch] == ["leads/inlet"]


@pytest.mark.parametrize(
    ("patch", "bonded"),
    [
        ({}, {"panels/main"}),
        (feed(neutral_switched="yes"), set()),
        (merged(feed(neutral_switched="yes"), station(neutral="bonded")), {"stations/station"}),
        (station(neutral="bonded"), set()),
        (station(neutral="unknown"), set()),
        (CORDS, set()),
        (merged(CORDS, lead(bonding_plug="yes")), {"stations/station"}),
        (SUB, {"panels/main"}),
        (feed(kind="no_transfer"), set()),
    ],
)
def test_the_bond_is_where_the_transfer_leaves_it_and_nowhere_if_that_is_not_known(
    patch: Json, bonded: set[str]
) -> None:
    assert {item.key for item in drawn(patch).parts if item.bond} == bonded


def test_what_is_refused_or_cannot_run_is_drawn_as_such() -> None:
    assert stroke(drawn(feed(kind="no_transfer")), "leads/inlet").level == "refused"
    assert stroke(drawn(second()), "leads/two").level == "cannot_judge", "120 V into both legs"


def test_a_charger_on_a_circuit_runs_back_and_a_feeder_runs_on() -> None:
    drawing = drawn(merged(SUB, recharge(from_id="garage", when="grid")))
    wall = stroke(drawing, "leads/wall")
    assert (wall.begins, wall.ends) == ("panels/main", "stations/station")
    feeder = stroke(drawing, "circuits/dryer")
    assert (feeder.begins, feeder.ends, feeder.rating_va) == ("panels/main", "panels/sub", 30.0 * 240.0)
    assert part(drawing, "panels/sub").column > part(drawing, "panels/main").column


def test_arrays_on_one_input_are_one() -> None:
    more = {"arrays": {"more": {**PLANS["foothill"]["arrays"]["ground"], "name": "more"}}}
    drawing = drawn(more)
    suns = [item for item in drawing.parts if item.room == "arrays"]
    assert [item.name for item in suns] == ["ground panels and more"]
    assert suns[0].words == "3,200 W of modules"


def test_appliances_are_named_as_the_line_has_room_for_and_the_rest_is_counted() -> None:
    (appliances,) = [part for part in hookup_drawing(demo_plan("hut")).parts if part.name == "appliances"]
    assert appliances.words == "Gas boiler and 4 more"
