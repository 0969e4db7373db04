"""Whole plans, good and bad: all their stops and cautions, nothing more and nothing less."""

from typing import Any

import pytest
from check_plans import (
    BRIDGED,
    CORDS,
    HUT_PANEL,
    NO_DRYER,
    PLANS,
    SWITCH,
    Json,
    array,
    bank,
    circuits,
    feed,
    hut,
    lead,
    loads,
    merged,
    recharge,
    second,
    station,
    vehicle,
)

from weary_cedar.core.checks import findings_of
from weary_cedar.core.feed_path import feed_paths
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch

HUT_CORDS = {"neutral-none", "uk-cord-many", "blind-spot", "pv-isc"}
CASES: dict[str, tuple[str, Json, set[str], set[str]]] = {
    "the foothill house": ("foothill", {}, set(), set()),
    "the duplex": ("canal", {}, set(), {"leg-lean", "blind-spot", "night-short"}),
    "the hut": ("hut", {}, set(), {*HUT_CORDS, "night-short"}),
    "a plug into a receptacle": ("foothill", feed(kind="receptacle_backfeed", breaker_spaces=[]),
        {"feed-male-plug"}, set()),
    "wired in with nothing between": ("foothill", feed(kind="no_transfer"), {"feed-no-transfer"}, set()),
    "a bonded station on the house": ("foothill", station(neutral="bonded"), set(), {"neutral-double-bond"}),
    "a bonded station on a switched neutral": ("foothill", merged(station(neutral="bonded"),
        feed(kind="transfer_panel", breaker_spaces=[], neutral_switched="yes",
             survey={"service-rated": "yes"})), set(), set()),
    "a floating station on a switched neutral": ("foothill", feed(neutral_switched="yes"),
        {"neutral-floating-switched"}, set()),
    "a six-circuit switch that fits": ("foothill", merged(SWITCH, circuits(**{
        key: {"mark": "off"} for key in PLANS["foothill"]["circuits"] if key not in
        ("fridge", "furnace", "freezer", "hall")})), set(), set()),
    "half of a shared neutral on a switch": ("foothill", merged(SWITCH, feed(circuit_ids=["counter-left"])),
        {"multiwire-split"}, {"blind-spot"}),
    "one hot on both legs, all closed": ("foothill", BRIDGED, {"bridged-multiwire", "bridged-240", "leg-over"}, set()),
    "one hot on both legs, as it must be": ("foothill", merged(BRIDGED, circuits(well={"mark": "off"},
        counter_right={"mark": "off"})), set(), set()),
    "a second inlet": ("foothill", second(), {"two-inlet-interlock", "volt-freq-mismatch"},
        {"gen-load", "joint-misfit"}),
    "a dryer outlet for the inlet": ("foothill", feed(inlet="10-30"), {"ground-missing"}, {"joint-misfit"}),
    "a 120 V outlet for both legs": ("foothill", merged(station(receptacles={"l14-30": {"kind": "TT-30"}}),
        lead(adapters=[{"source_end": "TT-30", "load_end": "L14-30", "rating_a": 30.0}])), {"volt-freq-mismatch"}, set()),
    "a cord of three conductors": ("foothill", lead(cords=[{"length_m": 9.0, "awg": 10, "conductors": 3}]),
        {"cord-conductors"}, set()),
    "cords to refrigerator and furnace": ("foothill", merged(CORDS, station(receptacles={"l14-30": {"kind": "5-15",
        "rating_a": 15.0}})), set(), {"furnace-cord", "neutral-none", "blind-spot"}),
    "ten modules too many": ("foothill", array(series=14), {"pv-voltage"}, set()),
    "a roof string borrowed": ("foothill", array(kind="roof"), {"pv-roof-divert"}, set()),
    "charging at 7,078 W from the dryer circuit": ("foothill", merged(NO_DRYER, recharge(setting_w=7078.0)),
        set(), {"charge-circuit", "neutral-parallel"}),
    "charging itself": ("foothill", recharge(from_id="garage", when="always", setting_w=1000.0),
        {"loop-self-charge"}, set()),
    "a generator in the garage": ("foothill", {"generators": {"inverter-2k": {"place_id": "garage-bench"}},
        "places": {"garage-bench": {"co_alarm": "yes"}}}, {"gen-outdoors"}, set()),
    "a hybrid in the garage": ("foothill", vehicle(kind="hybrid", may_start_engine="yes", place_id="garage-bench"),
        {"vehicle-start"}, set()),
    "a bank without a fuse": ("foothill", bank(fuse_a=None, fused="no"), {"dc-fuse"}, set()),
    "a bank as it should be": ("foothill", bank(), set(), set()),
    "the hut's board by a two-pole changeover": ("hut", HUT_PANEL, set(),
        {"pv-isc", "night-short"}),
    "the hut's board on the supplier's earth": ("hut", hut(survey={"own-electrode": "no"}), {"uk-earth-island"},
        {"pv-isc", "night-short"}),
    "a furnace unvented": ("foothill", loads(furnace={"survey": {"flue": "no"}}), {"heater-unvented"}, set()),
    "an American station in the hut": ("hut", {"stations": {"near": {"output": "120"}}}, {"volt-freq-mismatch"},
        HUT_CORDS),
}  # fmt: skip


@pytest.mark.parametrize("name", CASES)
def test_all_and_nothing_more(name: str) -> None:
    plan, patch, stops, cautions = CASES[name]
    found = findings_of(read_plan(apply_patch(PLANS[plan], patch)))
    assert {f.check_id for f in found if f.level == "stop"} == stops
    assert {f.check_id for f in found if f.level == "caution"} == cautions


@pytest.mark.parametrize("name", [name for name, (_, _, stops, _) in CASES.items() if stops])
def test_a_dangerous_plan_never_looks_fine(name: str) -> None:
    """Its path is drawn, its run may be done, and its stops stand first."""
    plan, patch, _, _ = CASES[name]
    document: Any = read_plan(apply_patch(PLANS[plan], patch))
    refused = {"no_transfer", "receptacle_backfeed"}
    assert all((path.neutral_cell == "refused") == (path.kind in refused) for path in feed_paths(document))
    found = findings_of(document, run_outage(document))
    assert found[0].level == "stop"
    assert not found[0].answerable


def test_answers_stand_only_where_they_may() -> None:
    answer = {"reason": "inspected, local approval", "by": "licence 123"}
    patch = merged(feed(survey={"sign": "no"}), {"check_answers": {"feed-sign@feeds/inlet": answer}})
    document = apply_patch(PLANS["foothill"], patch)
    finding = next(f for f in findings_of(read_plan(document)) if f.check_id == "feed-sign")
    assert finding.answered == "inspected, local approval (licence 123)"
    for key in ("feed-male-plug@feeds/inlet", "neutral-open@leads/inlet", "magic@feeds/inlet", "feed-sign"):
        bad = apply_patch(PLANS["foothill"], {"check_answers": {key: answer}})
        with pytest.raises(Exception, match="check_answers"):
            read_plan(bad)
