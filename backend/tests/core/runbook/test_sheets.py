"""Every sheet passes the state machine; a stop or an unknown neutral holds back what energises."""

import pytest
from builders import Json
from check_plans import merged
from hypothesis import given, settings
from hypothesis import strategies as st
from whole_houses import (
    CHANGEOVER,
    FLAT,
    FLAT_UNIT,
    HOUSE,
    KIT,
    ONE_HOT,
    SIX,
    SUB,
    TT_LEAD,
    UNIT,
    engine,
    inlet,
    lead,
)

from weary_cedar.core.checks import findings_of
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.runbook.replay import replay
from weary_cedar.core.runbook.sheet import Sheet
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.merge import apply_patch

ENERGISE = ("change_over", "swap", "charge")
TWO_SOURCES: Json = merged(
    UNIT, {"generators": {"set": engine()}, "leads": {"swap": lead("generator", "set")}}
)
PLANS: dict[str, Plan] = {name: demo_plan(name) for name in DEMOS} | {
    name: read_plan(apply_patch(base, patch))
    for name, (base, patch) in {
        "interlock": (HOUSE, UNIT),
        "an engine and a station": (HOUSE, TWO_SOURCES),
        "a linked pair": (HOUSE, KIT),
        "one hot on six handles": (HOUSE, merged(ONE_HOT, {"feeds": {"inlet": {**SIX, "inlet": "TT-30"}}, "leads": {"in": TT_LEAD}})),
        "a sub-panel": (HOUSE, merged(UNIT, SUB)),
        "a furnace": (HOUSE, merged(UNIT, {"feeds": {"inlet": inlet(kind="appliance_switch", breaker_spaces=[], circuit_ids=["furnace"])}})),
        "230 V": (FLAT, merged(FLAT_UNIT, CHANGEOVER)),
    }.items()
}  # fmt: skip


def sheets(plan: Plan) -> list[Sheet]:
    return sheets_of(plan, findings_of(plan))


@pytest.mark.parametrize("name", PLANS)
def test_every_sheet_passes_the_state_machine(name: str) -> None:
    plan = PLANS[name]
    found = sheets_of(plan, [])
    assert {"change_over", "return", "recover", "make_safe"} <= {sheet.kind for sheet in found}
    for sheet in found:
        assert sheet.acts, sheet.key
        assert replay(plan, sheet.acts, sheet.begins).safe, sheet.key
        for step in sheet.steps:
            assert step.action
            assert step.where
            assert step.see
            assert step.if_not


@settings(max_examples=40, deadline=None)
@given(
    st.sampled_from(["interlock", "an engine and a station", "a sub-panel", "foothill", "orchard"]),
    st.lists(st.sampled_from(["keep", "room", "off"]), min_size=30, max_size=30),
    st.sampled_from([2_000.0, 3_600.0, 7_200.0]),
)
def test_sheets_of_plans_with_any_marks_and_sizes_pass(name: str, marks: list[str], rated: float) -> None:
    """What finds no room is named, and stays off."""
    document = PLANS[name].model_dump(mode="json", exclude_none=True)
    for mark, circuit in zip(marks, document["circuits"].values(), strict=False):
        circuit["mark"] = mark
    for station in document["stations"].values():
        station["rated_va"] = rated
    plan = read_plan(document)
    for sheet in sheets_of(plan, []):
        found = replay(plan, sheet.acts, sheet.begins)
        assert found.safe, (sheet.key, found)


def test_the_order_of_an_interlock() -> None:
    """Main off before the interlock, far end before the source, feed breaker before the first circuit."""
    over = sheets(PLANS["interlock"])[0]
    moved = [f"{act.what} {act.to}" for act in over.acts]
    wanted = [
        "breaker/fridge off", "main/main off", "interlock/inlet source", "load_end/in in", "source_end/in in",
        "output/station/unit on", "feed_breaker/inlet on", "breaker/fridge on",
    ]  # fmt: skip
    assert [item for item in moved if item in wanted] == wanted
    volts = next(step for step in over.steps if step.action == "Read the volts")
    assert [(r.where, r.low, r.high) for r in volts.readings] == [
        ("leg A to neutral", 114, 126), ("leg B to neutral", 114, 126), ("leg to leg", 228, 252),
        ("neutral to ground", 0, 3),
    ]  # fmt: skip
    assert next(s for s in over.steps if s.action == "Turn on Office").readings[1].low == pytest.approx(22.0)


def test_a_swap_is_dark_in_between_and_waits_for_compressors() -> None:
    swap = next(sheet for sheet in sheets(PLANS["an engine and a station"]) if sheet.key == "swap/in/swap")
    moved = [f"{act.what} {act.to}" for act in swap.acts]
    assert (
        moved.index("output/station/unit off")
        < moved.index("source_end/in out")
        < moved.index("load_end/swap in")
    )
    assert moved.index("engine/set on") < moved.index("output/generator/set on")
    fridge = next(act for act in swap.acts if act.what == "breaker/fridge" and act.to == "on")
    assert fridge.wait_s >= 300


def test_a_stop_holds_back_what_energises_and_nothing_else() -> None:
    document = PLANS["interlock"].model_dump(mode="json", exclude_none=True)
    plan = read_plan(
        apply_patch(
            document, {"leads": {"in": {"bonding_plug": "yes"}}, "stations": {"unit": {"neutral": "unknown"}}}
        )
    )
    found = sheets(plan)
    for sheet in found:
        if sheet.kind in ENERGISE:
            assert sheet.held_by
            assert not sheet.steps
        else:
            assert not sheet.held_by
            assert sheet.steps
    again = next(sheet for sheet in found if sheet.kind == "recover")
    assert not [act for act in again.acts if act.to == "on"]
    assert again.steps[-1].action.startswith("Leave it off: ")
    unknown = read_plan(apply_patch(document, {"stations": {"unit": {"neutral": "unknown"}}}))
    held = next(sheet for sheet in sheets(unknown) if sheet.kind == "change_over").held_by
    assert any("neutral" in words for words in held)


def test_a_bonding_plug_stays_where_the_switch_takes_the_neutral_along() -> None:
    document = PLANS["interlock"].model_dump(mode="json", exclude_none=True)
    plug: Json = {"leads": {"in": {"bonding_plug": "yes"}}}
    moved = [act.what for act in sheets_of(read_plan(apply_patch(document, plug)), [])[0].acts]
    assert "bonding_plug/in" in moved
    switched = merged(
        plug,
        {"feeds": {"inlet": {"kind": "transfer_panel", "breaker_spaces": [], "neutral_switched": "yes"}}},
    )
    plan = read_plan(apply_patch(document, switched))
    over = sheets_of(plan, [])[0]
    assert "bonding_plug/in" not in [act.what for act in over.acts]
    assert replay(plan, over.acts, over.begins).safe


def test_a_way_that_is_refused_can_still_be_made_safe() -> None:
    document = PLANS["interlock"].model_dump(mode="json", exclude_none=True)
    plan = read_plan(
        apply_patch(document, {"feeds": {"inlet": {"kind": "receptacle_backfeed", "breaker_spaces": []}}})
    )
    found = sheets(plan)
    assert [sheet.kind for sheet in found] == ["make_safe"]
    assert found[0].acts[0].what == "output/station/unit"
