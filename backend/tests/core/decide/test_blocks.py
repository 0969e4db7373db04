"""Blocks of the strip: what a plan says about hours, moved, made longer, added and taken away."""

import itertools
from typing import Any

import pytest
from builders import circuit, house, job, load, steady
from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.decide.block_deeds import BlockDeed, done
from weary_cedar.core.decide.blocks import Block, blocks_of, lanes_of
from weary_cedar.core.errors import InvalidInput, InvalidPlan, NotFound
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import DEMOS, demo_plan

PLANS = {name: demo_plan(name) for name in DEMOS}
HOUR = 3600.0


def block(plan: Plan, start: str) -> Block:
    """The first block whose key begins so."""
    return next(item for item in blocks_of(plan) if item.key.startswith(start))


def moved(plan: Plan, start: str, by_s: float = 0.0, longer_s: float = 0.0) -> Plan:
    old = block(plan, start)
    for_s = None if old.for_s is None else old.for_s + longer_s
    return done(plan, BlockDeed(deed="move", key=old.key, at_s=old.at_s + by_s, for_s=for_s))


@pytest.mark.parametrize("name", DEMOS)
def test_moving_a_block_by_nothing_changes_nothing(name: str) -> None:
    plan = PLANS[name]
    for old in blocks_of(plan):
        again = done(plan, BlockDeed(deed="move", key=old.key, at_s=old.at_s, for_s=old.for_s))
        assert [item.at_s for item in blocks_of(again)] == [item.at_s for item in blocks_of(plan)], old


@settings(max_examples=60, deadline=None)
@given(
    name=st.sampled_from(sorted(DEMOS)),
    pick=st.integers(0, 400),
    by_s=st.floats(-3e5, 3e5),
    for_s=st.floats(-1e4, 2e5),
)
def test_whatever_is_dragged_stays_a_plan_or_says_why(
    name: str, pick: int, by_s: float, for_s: float
) -> None:
    """A block lands within the outage on a quarter hour of the clock, or is refused in words."""
    plan = PLANS[name]
    found = list(blocks_of(plan))
    old = found[pick % len(found)]
    try:
        after = done(plan, BlockDeed(deed="move", key=old.key, at_s=old.at_s + by_s, for_s=for_s))
    except InvalidPlan as error:
        after, words = plan, [problem.right for problem in error.problems]
    else:
        words = []
    assert all(words)
    for item in blocks_of(after):
        if item.part != old.part or item.lane == "sky" or words or abs(by_s) < 1.0:
            continue
        local = after.site.instant(after.outage.start_local, max(0.0, item.at_s))
        assert item.at_s < 0 or (local.minute % 15, local.second) == (0, 0)
        assert item.at_s <= after.outage.length_s
        assert item.for_s is None or item.for_s >= 900.0


def test_a_window_moves_and_grows_by_quarter_hours() -> None:
    plan = PLANS["orchard"]
    later = moved(plan, "/outage/grid/day-0", 1000.0, 1000.0)
    window, old = later.outage.grid["day-0"], plan.outage.grid["day-0"]
    assert (window.at_s, window.for_s) == (old.at_s + 900.0, old.for_s + 900.0)
    with pytest.raises(InvalidPlan, match="after the window before it"):
        moved(plan, "/outage/grid/day-0", 0.0, 30 * HOUR)


def test_hours_of_every_day_move_on_every_day() -> None:
    plan = PLANS["foothill"]
    later = moved(plan, "/generators/inverter-2k/quiet", HOUR)
    quiet, old = later.generators["inverter-2k"].quiet, plan.generators["inverter-2k"].quiet
    assert quiet is not None
    assert old is not None
    assert quiet.begins.hour == (old.begins.hour + 1) % 24
    assert quiet.ends.hour == (old.ends.hour + 1) % 24
    longer = moved(plan, "/outage/occupancy@", 0.0, HOUR).outage.occupancy
    assert longer.sleeps == plan.outage.occupancy.sleeps
    assert longer.wakes.hour == plan.outage.occupancy.wakes.hour + 1


def test_days_of_sky_change_places_and_kinds() -> None:
    plan = PLANS["foothill"]
    sky = plan.outage.weather.sky
    assert sky[2] == "haze"
    swapped = moved(plan, "/outage/weather/sky/2", 86_400.0).outage.weather.sky
    assert (swapped[2], swapped[3]) == (sky[3], sky[2])
    last = max((item for item in blocks_of(plan) if item.lane == "sky"), key=lambda item: item.at_s)
    rain = done(plan, BlockDeed(deed="choose", key=last.key, value="rain")).outage.weather.sky
    assert rain[-1] == "rain"
    with pytest.raises(InvalidInput, match="clear, haze"):
        done(plan, BlockDeed(deed="choose", key=last.key, value="fog"))


def test_clocks_that_are_set_on_the_way_do_not_shift_blocks() -> None:
    """Central Europe sets its clocks back on 25 October 2026: hours of a day stay what the clock says."""
    made = house({"a": circuit([1])}, {"a": load("a", job("08:00", "09:00", (100, 60)))})
    change: dict[str, Any] = {
        "site": {"time_zone": "Europe/Berlin"},
        "outage": {"start_local": "2026-10-24T12:00:00", "length_s": 3 * 86_400},
    }
    plan = read_plan(apply_patch(made, change))
    begins = [item.at_s for item in blocks_of(plan) if item.lane == "jobs"]
    assert begins == [21 * HOUR, 45 * HOUR, 69 * HOUR]
    later = moved(plan, "/loads/a/behaviour@2", HOUR)
    assert [item.at_s for item in blocks_of(later) if item.lane == "jobs"] == [
        22 * HOUR,
        46 * HOUR,
        70 * HOUR,
    ]


def test_what_is_off_and_what_has_no_sun_has_no_blocks() -> None:
    made = house({"a": {**circuit([1]), "mark": "off"}}, {"a": load("a", job("08:00", "09:00", (100, 60)))})
    assert not any(lane.blocks for lane in lanes_of(read_plan(made)))


def test_blocks_are_added_and_taken_away() -> None:
    plan = read_plan(house({"a": circuit([1])}, {"a": load("a", steady(10))}))
    for lane in lanes_of(plan):
        if not lane.add:
            continue
        more = done(plan, BlockDeed(deed="add", key=lane.lane, at_s=20_000.0))
        new = [item for item in blocks_of(more) if item.part not in {b.part for b in blocks_of(plan)}]
        assert {item.lane for item in new} == {lane.lane}
        back = done(more, BlockDeed(deed="remove", key=new[0].key))
        assert [item.key for item in blocks_of(back)] == [item.key for item in blocks_of(plan)]
    with pytest.raises(InvalidInput, match="can only be moved"):
        done(PLANS["hut"], BlockDeed(deed="remove", key="/outage/occupancy@1"))
    with pytest.raises(InvalidInput, match="utility, engine, vehicles, heat, people, acts, incidents"):
        done(plan, BlockDeed(deed="add", key="jobs"))
    with pytest.raises(NotFound, match="a block of this plan"):
        done(plan, BlockDeed(deed="move", key="/outage/grid/none"))


def added(plan: Plan, lane: str, at_s: float) -> tuple[Plan, Block]:
    after = done(plan, BlockDeed(deed="add", key=lane, at_s=at_s))
    known = {item.part for item in blocks_of(plan)}
    return after, next(item for item in blocks_of(after) if item.part not in known)


def test_hours_of_engines_vehicles_and_set_backs_are_added_and_moved() -> None:
    plan = PLANS["foothill"]
    gear: dict[str, Any] = {
        "vehicles": {key: {"name": key} for key in ("car", "van")},
        "strategy": {"rules": []},
    }
    gear["loads"] = {"furnace": {"behaviour": {"setback": None}}}
    plan = read_plan(apply_patch(plan.model_dump(mode="json", exclude_none=True), gear))
    ruled, block_ = added(plan, "engine", 4 * HOUR)
    assert (block_.lane, block_.for_s) == ("engine", 2 * HOUR)
    with pytest.raises(InvalidInput, match="each has its own already"):
        added(ruled, "engine", 4 * HOUR)
    driven, block_ = added(plan, "vehicles", 9 * HOUR)
    assert block_.of == "vehicles/car"
    other = done(driven, BlockDeed(deed="part", key=block_.key, value="vehicles/van"))
    assert [len(other.vehicles[key].away) for key in ("car", "van")] == [0, 1]
    warm, block_ = added(plan, "heat", 9 * HOUR)
    assert "set back to 59 °F" in block_.name
    with pytest.raises(InvalidInput, match="each has one already"):
        done(warm, BlockDeed(deed="add", key="heat"))
    with pytest.raises(InvalidInput, match="a plan with a vehicle"):
        done(PLANS["foothill"], BlockDeed(deed="add", key="vehicles"))


def test_an_act_and_an_incident_are_of_the_part_that_is_chosen() -> None:
    """Every part that is offered can be taken, and is the one that the block is of then."""
    for lane in ("acts", "incidents"):
        plan, block_ = added(PLANS["foothill"], lane, HOUR)
        offered = next(item for item in lanes_of(plan) if item.lane == lane).parts
        assert len(offered) > 3
        for choice in offered:
            after = done(plan, BlockDeed(deed="part", key=block_.key, value=choice.value))
            now = next(item for item in blocks_of(after) if item.key == block_.key)
            assert now.of == choice.value
            assert choice.name in now.name
        with pytest.raises(InvalidInput, match=r"Kitchen refrigerator|every feed"):
            done(plan, BlockDeed(deed="part", key=block_.key, value="stations/none"))
    with pytest.raises(InvalidInput, match="the part of this block is fixed"):
        done(PLANS["foothill"], BlockDeed(deed="part", key="/outage/occupancy@1", value="x/y"))


def test_a_window_lies_between_its_neighbours() -> None:
    found = [item for item in blocks_of(PLANS["orchard"]) if item.lane == "utility"]
    for before, after in itertools.pairwise(found):
        assert before.to_s == after.at_s
        assert after.from_s == before.at_s + (before.for_s or 0)
    assert (found[0].from_s, found[-1].to_s) == (0.0, PLANS["orchard"].outage.length_s)


def test_rules_at_hours_are_blocks() -> None:
    rules = [
        {"kind": "engine", "generator_id": "inverter-2k", "hours": {"begins": "09:00", "ends": "11:00"}},
        {"kind": "turn", "array_id": "ground", "at": "13:00"},
        {"kind": "reserve", "circuit_ids": ["fridge"], "bedtime": "22:00", "until": "06:00"},
        {"kind": "turn", "array_id": "ground", "at": "14:00", "on": False},
    ]
    document = PLANS["foothill"].model_dump(mode="json", exclude_none=True)
    plan = read_plan(apply_patch(document, {"strategy": {"rules": rules}}))
    parts = {item.part: item for item in blocks_of(plan) if item.part.startswith("/strategy")}
    assert list(parts) == ["/strategy/rules/0/hours", "/strategy/rules/1", "/strategy/rules/2"]
    assert parts["/strategy/rules/1"].for_s is None
    later = moved(plan, "/strategy/rules/1@", 1900.0)
    assert str(getattr(later.strategy.rules[1], "at")) == "13:30:00"  # noqa: B009
    gone = done(plan, BlockDeed(deed="remove", key="/strategy/rules/0/hours@1"))
    assert getattr(gone.strategy.rules[0], "hours") is None  # noqa: B009
    assert len(done(plan, BlockDeed(deed="remove", key="/strategy/rules/2@1")).strategy.rules) == 3
