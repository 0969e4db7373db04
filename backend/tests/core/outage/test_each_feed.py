"""What each feed says of itself: its changeover, how circuits come back, how its neutral stands."""

from typing import Any

import pytest
from builders import Json, circuit, cycling, house, load, refusals, steady
from check_plans import merged
from whole_houses import CHAIN, HOUSE, KIT, SMALL, WALL, cords, engine

from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan, upgraded
from weary_cedar.core.plan.merge import apply_patch


def run(document: Json) -> RunResult:
    return run_outage(read_plan(document))


def two_panels(**feed: Any) -> Json:
    """A station on each of two panels; `feed` says something of the second one's inlet."""
    document = upgraded(
        house(
            {"a": circuit([1]), "b": circuit([1], panel_id="barn"), "c": circuit([3], panel_id="barn")},
            {key: load(key, steady(100.0)) for key in ("a", "b", "c")},
            outage={"length_s": 7_200.0, "changeover_after_s": 600.0, "restore_interval_s": 20.0},
        )
    )
    document["panels"]["barn"] = {"name": "Barn", "spaces": 8}
    document["stations"]["other"] = {**document["stations"]["unit"], "name": "other"}
    document["feeds"]["barn"] = {**document["feeds"]["feed"], "panel_id": "barn", **feed}
    lead = document["leads"]["feed"]
    source = {**lead["source"], "id": "other"}
    document["leads"]["barn"] = {**lead, "source": source, "to": {**lead["to"], "feed_id": "barn"}}
    return document


def first_powered_s(result: RunResult, load_id: str) -> float:
    course = result.load_series[load_id]
    return next(t for t, watts in zip(course.t_s, course.watts, strict=True) if watts > 0)


@pytest.mark.parametrize(
    ("feed", "powered"),
    [
        ({}, {"a": 600.0, "b": 600.0, "c": 620.0}),
        ({"changeover_after_s": 1_800.0}, {"a": 600.0, "b": 1_800.0, "c": 1_820.0}),
        ({"changeover_after_s": 60.0}, {"a": 600.0, "b": 60.0, "c": 80.0}),
        ({"restore": "all_at_once"}, {"a": 600.0, "b": 600.0, "c": 600.0}),
        ({"restore_interval_s": 90.0}, {"a": 600.0, "b": 600.0, "c": 690.0}),
    ],
)
def test_each_feed_has_its_own_changeover_and_restoring(feed: Json, powered: dict[str, float]) -> None:
    result = run(two_panels(**feed))
    assert {key: first_powered_s(result, key) for key in powered} == powered
    assert result.ledger is not None
    assert result.ledger.closes
    waited = sum(share.without_power_s for share in result.loads.values())
    assert waited == pytest.approx(sum(powered.values()))


def test_a_kit_may_have_outlets_of_its_own() -> None:
    document = apply_patch(HOUSE, KIT)
    plan = read_plan(document)
    assert plan.outlet(plan.hookups["in"]).kind == "L14-30"
    assert run(apply_patch(document, {"outage": {"length_s": 21_600.0}})).verdict.status == "lasts"
    assert "/leads/in/source/outlet" in refusals(
        apply_patch(document, {"links": {"pair": {"receptacles": None}}})
    )


@pytest.mark.parametrize(
    ("patch", "field"),
    [
        ({"generators": {"set": engine(leg_w=8_000.0)}}, "/generators/set/leg_w"),
        ({"loads": {"fridge": {"start": {"seen_on": [{"id": "gone"}]}}}}, "/loads/fridge/start/seen_on/0/id"),
        ({"circuits": {"fridge": {"length_m": 900.0}}}, "/circuits/fridge/length_m"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_named(patch: Json, field: str) -> None:
    assert field in refusals(apply_patch(HOUSE, merged(SMALL, patch)))


def test_a_leg_of_an_engine_may_carry_all_of_it() -> None:
    from weary_cedar.core.network.feed_limits import feed_limits

    patch = merged(
        {"generators": {"set": engine(leg_w=5_000.0)}},
        {"leads": {"c": cords("fridge", kind="generator", id="set", outlet="l14")}},
    )
    plan = read_plan(apply_patch(HOUSE, patch))
    limits = feed_limits(plan, plan.hookups["c"])
    assert limits.elements[0].rating_a == pytest.approx(5_000 / 120)


TO_FAR: Json = {"end": "input", "station_id": "far", "input_id": "wall", "setting_w": 500.0}
GUARDED: Json = {"out": {"kind": "5-20", "rating_a": 20.0, "gfci": "yes"}}


def states(patch: Json, lead_id: str = "c") -> dict[str, tuple[str, str]]:
    plan = read_plan(apply_patch(HOUSE, merged(CHAIN, patch)))
    return {state.words: (state.neutral, state.gfci) for state in neutral_states(plan, plan.hookups[lead_id])}


def test_a_neutral_is_followed_through_the_chain() -> None:
    """Own battery, the first station's battery, and the engine behind both: each with what is on the way."""
    behind: Json = {
        "generators": {"set": engine(output="120", neutral="bonded", receptacles=GUARDED)},
        "stations": {"far": {"ac_inputs": WALL}},
        "leads": {"set": {"source": {"kind": "generator", "id": "set", "outlet": "out"},
                          "to": TO_FAR}},
    }  # fmt: skip
    assert states(behind) == {
        "on battery": ("floating", "no"),
        "passing far through, far on battery": ("floating", "no"),
        "passing far through, passing set through": ("bonded", "yes"),
    }
    own = merged(behind, {"stations": {"small": {"neutral_in_bypass": "bonded"}}})
    assert states(own)["passing far through"] == ("bonded", "no")
    unknown = merged(behind, {"stations": {"far": {"neutral_in_bypass": "unknown"}}})
    assert ("unknown", "no") in states(unknown).values()
    assert set(states({"stations": {"small": {"ac_inputs": {"wall": {"passes_through": False}}}}})) == {""}


@pytest.mark.parametrize(("bypass", "locks"), [("passes", False), ("floating", True), ("unknown", False)])
def test_flame_sensing_goes_by_what_is_passed_through(bypass: str, locks: bool) -> None:
    """A burner on a station that floats on its battery, and passes a bonded one through all the time."""
    patch = merged(
        CHAIN,
        {"stations": {"far": {"neutral": "bonded"}, "small": {"neutral_in_bypass": bypass}}},
        {"leads": {"c": cords("furnace")}, "circuits": {"furnace": {"mark": "keep"}}},
        {"loads": {"furnace": {"behaviour": cycling(450.0, 0.3, 1_200.0, phase=0.5)}}},
        {"outage": {"length_s": 7_200.0}},
    )
    events = run(apply_patch(HOUSE, patch)).events
    assert any(event.kind == "locked_out" for event in events) == locks
