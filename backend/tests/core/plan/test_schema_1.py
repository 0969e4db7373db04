"""Documents of version 1: they open unchanged in meaning, and their faults are told by their own fields."""

import copy
import json
from pathlib import Path
from typing import Any

import pytest
from builders import Json, circuit, house, load, refusals, steady

from weary_cedar.core.checks import findings_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.plan.upgrade import Upgraded, upgraded
from weary_cedar.store.edits import canonical

FROZEN = Path(__file__).parents[2] / "frozen" / "schema_1.json"
OLD: dict[str, Json] = {name: item["plan"] for name, item in json.loads(FROZEN.read_text("utf-8")).items()}


def farm() -> Json:
    """A house with everything that moved: one inlet in turn, cords, chargers, and what names them."""
    old = house(
        {"a": circuit([1]), "b": circuit([3])}, {"x": load("a", steady(50)), "y": load("b", steady(9))}
    )
    wall = {"wall": {"most_w": 1500.0}}
    old["stations"]["unit"] |= {"ac_inputs": wall}
    old["stations"]["two"] = copy.deepcopy(old["stations"]["unit"]) | {"output": "120"}
    outlets = {"out": {"kind": "L14-30", "rating_a": 30.0}}
    set_ = {"name": "set", "rated_w": 4000.0, "output": "120/240", "receptacles": outlets}
    old["generators"] = {"set": set_}
    own = old["feeds"]["feed"]
    own["survey"] = {"retainer": "yes", "one-outlet": "no"}
    old["feeds"]["engine"] = {**own, "source_id": "set", "survey": {"retainer": "unknown", "sign": "no"}}
    old["feeds"]["cord"] = {
        **own, "kind": "cords", "source_id": "two", "breaker_spaces": [], "circuit_ids": ["b"],
        "inlet": "5-15", "inlet_a": 15.0, "breaker_a": 15.0, "bonding_plug": "yes",
    }  # fmt: skip
    chain = {"name": "chain", "station_id": "two", "input_id": "wall", "setting_w": 500.0}
    old["recharges"] = {
        "feed": {**chain, "kind": "station", "from_id": "unit"},
        "fuel": {**chain, "name": "fuel", "kind": "generator", "from_id": "set", "when": "strategy"},
    }
    old["strategy"] = {"rules": [{"kind": "plug", "recharge_id": "feed"}]}
    old["outage"]["incidents"] = {
        "i": {"kind": "cord_unplugged", "at_s": 9.0, "for_s": 9.0, "feed_id": "cord"}
    }
    old["outage"]["acts"] = {"t": {"at_s": 9.0, "room": "recharges", "part_id": "feed", "turn": "off"}}
    said = {"reason": "looked at it", "by": "me"}
    old["check_answers"] = {"feed-sign@feeds/engine": said, "wire-breaker@feeds/feed": said}
    return old


def test_what_was_one_noun_becomes_feed_and_lead() -> None:
    plan = read_plan(farm())
    assert set(plan.feeds) == {"engine"}, (
        "two cords into one inlet: one feed, named by the first of their ids"
    )
    assert {key: lead.to.end for key, lead in plan.leads.items()} == {
        "feed": "feed", "engine": "feed", "cord": "loads", "feed-charge": "input", "fuel": "input",
    }  # fmt: skip
    assert plan.leads["engine"].source.kind == "generator"
    assert plan.leads["feed"].source.outlet == "out"
    assert plan.feeds["engine"].survey == {"retainer": "unknown", "sign": "no"}, "the worse of two answers"
    assert plan.leads["feed"].survey == {"one-outlet": "no"}
    assert plan.hookups["cord"].circuit_ids == ("b",)
    assert plan.hookups["cord"].bonding_plug == "yes"
    assert plan.recharges["fuel"].plugged == "strategy"


def test_everything_that_named_them_goes_along() -> None:
    plan = read_plan(farm())
    (rule,) = plan.strategy.rules
    assert getattr(rule, "lead_id", None) == "feed-charge", "its id was taken by the lead of a feed"
    assert plan.outage.incidents["i"].lead_id == "cord"
    assert (plan.outage.acts["t"].room, plan.outage.acts["t"].part_id) == ("leads", "feed-charge")
    assert set(plan.check_answers) == {"feed-sign@feeds/engine", "wire-breaker@feeds/engine"}


@pytest.mark.parametrize(
    ("patch", "field"),
    [
        ({"feeds": {"cord": {"receptacle_id": "gone"}}}, "/feeds/cord/receptacle_id"),
        ({"feeds": {"feed": {"source_id": "gone"}}}, "/feeds/feed/source_id"),
        ({"feeds": {"feed": {"cords": [{"length_m": "far", "awg": 10}]}}}, "/feeds/feed/cords/0/length_m"),
        ({"feeds": {"cord": {"inlet_a": -1.0}}}, "/feeds/cord/inlet_a"),
        ({"feeds": {"cord": 7}}, "/feeds/cord"),
        ({"recharges": {"feed": {"from_id": "gone"}}}, "/recharges/feed/from_id"),
        ({"recharges": {"fuel": {"setting_w": 0.0}}}, "/recharges/fuel/setting_w"),
        ({"recharges": {"fuel": []}}, "/recharges/fuel"),
        ({"recharges": 3}, "/recharges"),
        ({"strategy": {"rules": [{"kind": "plug", "recharge_id": "gone"}]}}, "/strategy/rules/0/recharge_id"),
        ({"outage": {"incidents": {"i": {"feed_id": "gone"}}}}, "/outage/incidents/i/feed_id"),
    ],
)
def test_faults_are_told_by_the_fields_that_were_written(patch: Json, field: str) -> None:
    assert field in refusals(apply_patch(farm(), patch))


def test_a_document_goes_up_once_and_stays() -> None:
    """Every frozen plan: what was read is left as it is; what is written again is read the same."""
    for name, old in OLD.items():
        before = json.dumps(old)
        first = read_plan(old)
        assert json.dumps(old) == before
        written = canonical(first)
        assert written["schema_version"] == 2
        assert upgraded(written) is written
        assert read_plan(written) == first, name


@pytest.mark.parametrize("name", ["foothill", "canal", "hut", *(f"random {n}" for n in range(0, 300, 60))])
def test_verdict_and_findings_do_not_depend_on_the_version(name: str) -> None:
    old = read_plan(OLD[name])
    new = read_plan(canonical(old))
    assert run_outage(old).model_dump_json() == run_outage(new).model_dump_json()
    assert findings_of(old) == findings_of(new)


def test_what_is_no_plan_at_all_is_told_not_crashed() -> None:
    values: list[Any] = [None, 3, "x", [], {"a": None}, {"a": []}, {"a": {"survey": 4, "kind": "cords"}}]
    for room in ("feeds", "recharges", "strategy", "outage", "check_answers", "generators"):
        for value in values:
            document = {**farm(), room: value}
            assert Upgraded(document).document["schema_version"] == 2
            assert refusals(document) or value == {"a": None} or room == "generators" or not value
