"""What would make it last: each kind of change helps in a plan made for it, and does what it says."""

import json
from pathlib import Path
from typing import Any

import pytest
from builders import circuit, house, job, load, steady
from command_line import cedar

from weary_cedar.core.advice.suggest import Suggestions, lasted_s, suggest
from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.decide.changes import REGISTRY, Seen, patched
from weary_cedar.core.network import Network
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.judged import judge
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical

DAY = 86_400.0
Json = dict[str, Any]
#: The demo house for eight days, which it does not last.
LONG: Json = {"outage": {"length_s": 8 * DAY}}
ENGINE: Json = canonical(demo_plan("foothill"))["strategy"]["rules"][0]
NO_SHEDDING: Json = {"strategy": {"shedding": "none"}, "stations": {"station": {"rated_va": 3600.0}}}


def foothill(*patches: Json) -> Plan:
    document = canonical(demo_plan("foothill"))
    for patch in patches:
        document = apply_patch(document, patch)
    return read_plan(document)


def canal(patch: Json) -> Plan:
    """The demo house on two linked units, without what no feed reaches."""
    document = apply_patch(canonical(demo_plan("canal")), {"circuits": {"internet": {"mark": "off"}}})
    return read_plan(apply_patch(document, patch))


def two_heaters(watts: float) -> Plan:
    """Two heaters at the same hour on a leg that carries one, beside what bears ten minutes in the dark."""
    document = house(
        {"one": circuit([1], "room"), "two": circuit([5], "room"), "cold": circuit([9])},
        {
            "first": load("one", job("18:00", "18:05", (watts, 60))),
            "second": load("two", job("18:20", "18:25", (watts, 60))),
            "cold": load("cold", steady(100), tolerance_s=600),
        },
        outage={"start_local": "2026-05-01T12:00:00", "length_s": DAY, "changeover_after_s": 0,
                "ac_on_at_start": True},
        strategy={"shedding": "none"},
    )  # fmt: skip
    return read_plan(document)


def fed(**rule: Any) -> Json:
    return {"strategy": {"rules": [{**ENGINE, **rule}]}}


PLANS: dict[str, Plan] = {
    "leave_off": foothill(LONG),
    "do_without": foothill(LONG),
    "only_in_hours": foothill(LONG, {"loads": {"fridge": {"role": "tool"}}}),
    "set_back": foothill(LONG, {"loads": {"furnace": {"behaviour": {"setback": None, "run_w": 900.0}}}}),
    "shed_below": foothill(LONG, {"strategy": {"room_off_below_percent": None}}),
    "spare_for_the_night": foothill(
        {"strategy": {"room_off_below_percent": None, "rules": []}},
        {"outage": {"start_charge_percent": {"station": 60.0}}},
        {"arrays": {"ground": {"soiling_percent": 70.0}}, "generators": {"inverter-2k": {"on_hand_l": 0.5}}},
    ),
    "on_spare_sun": foothill(LONG),
    "beside_the_engine": foothill(LONG),
    "cook_on_gas": foothill(LONG),
    "never_together": two_heaters(2_400.0),
    "engine_earlier": foothill(LONG, fed(on_below_percent=20)),
    "engine_at_any_hour": foothill(LONG, fed(hours={"begins": "12:00:00", "ends": "12:40:00"})),
    "plug_in_earlier": canal({}),
    "charge_faster": foothill(LONG, {"leads": {"from-generator": {"to": {"setting_w": 300.0}}}}),
    "charge_full_before": foothill({"outage": {"start_charge_percent": {"station": 10.0}}}),
    "turn_the_modules": foothill(LONG),
    "right_side_up": foothill(LONG, {"arrays": {"ground": {"face_factor": 0.5}}}),
    "tilt_better": foothill(LONG, {"arrays": {"ground": {"azimuth_deg": 60.0, "tilt_deg": 5.0}}}),
    "wipe_the_modules": foothill(LONG, {"arrays": {"ground": {"soiling_percent": 40.0}}}),
    "sooner": foothill({"outage": {"changeover_after_s": 7_200.0}}),
    "swap_legs": canal({"links": {"pair": {"leg_a": "right", "leg_b": "left"}}}),
    "keep_it_awake": foothill(
        {"stations": {"station": {"idle_cutout": {"threshold_w": 300.0, "after_s": 600.0}}}}
    ),
    "let_it_shed": two_heaters(1_700.0),
    "one_at_a_time": foothill({"outage": {"restore": "all_at_once"}}, NO_SHEDDING),
    "pack_more": foothill(LONG),
    "modules_more": foothill(LONG),
    "fuel_more": foothill(LONG, {"generators": {"inverter-2k": {"on_hand_l": 4.0}}}),
    "soft_start": foothill(NO_SHEDDING),
}  # fmt: skip
#: Kinds without a plan of their own here, and why.
ELSEWHERE = {"balance": "its moves are proven by `test_balance`"}


def gained_s(plan: Plan, kind: str) -> float:
    """What the best change of a kind gains, s."""

    def held_s(of: Plan) -> float:
        network = Network(of)
        judged = judge(network, network.plan)
        return judged.length_s + 1.0 if judged.lasts else lasted_s(judged)

    changes = REGISTRY[kind](Seen(plan, run_outage(plan)))
    return max((held_s(patched(plan, change.patch)) - held_s(plan) for change in changes), default=0.0)


@pytest.mark.parametrize("kind", REGISTRY)
def test_every_kind_helps_in_a_plan_made_for_it(kind: str) -> None:
    assert len(REGISTRY) >= 20
    if kind not in ELSEWHERE:
        assert gained_s(PLANS[kind], kind) > 1_500.0


def test_what_the_list_says_is_what_happens_when_it_is_applied() -> None:
    plan = foothill(LONG)
    found = suggest(plan, gear=True)
    assert found.singles
    assert found.with_gear
    document = canonical(plan)
    for item in (*found.singles, *found.with_gear):
        after = read_plan(apply_patch(document, item.patch))
        verdict = run_outage(after).verdict
        assert item.verdict == f"{verdict.headline}: {verdict.sentence}", item.words
        assert not stops_of(findings_of(after))
        assert item.lasts == (verdict.status == "lasts")
    assert {item.gear for item in found.singles} == {False}
    assert {item.gear for item in found.with_gear} == {True}


def test_where_none_is_enough_alone_a_smallest_set_is_found() -> None:
    plan = foothill(LONG)
    found = suggest(plan)
    assert not any(item.lasts for item in found.singles)
    assert found.together is not None
    assert found.together.lasts
    assert len(found.together.words) > 1
    assert not any("marked keep" in words for words in found.together.words), "gentle changes first"
    after = run_outage(read_plan(apply_patch(canonical(plan), found.together.patch)))
    assert after.verdict.status == "lasts"


def test_nothing_is_proposed_where_nothing_may_be() -> None:
    assert suggest(demo_plan("orchard")).lasts
    stopped = foothill(LONG, {"feeds": {"inlet": {"kind": "no_transfer"}}})
    found = suggest(stopped)
    assert (found.singles, found.together) == ((), None)
    assert found.sentence.startswith("First what must not be: ")
    unreached = suggest(demo_plan("canal"))
    assert "not reached by any feed" in unreached.sentence
    locked = suggest(demo_plan("hut"))
    assert "bonding plug" in locked.sentence, "what brings it down is told where no change helps"


def test_the_command_says_it(tmp_path: Path) -> None:
    path = tmp_path / "plan.json"
    path.write_text(json.dumps(canonical(foothill({"outage": {"changeover_after_s": 7_200.0}}))))
    told = cedar("suggest", str(path))
    assert told.returncode == 0, "one of them is enough"
    assert "Change over within 5 min" in told.stdout
    found = Suggestions.model_validate_json(cedar("suggest", str(path), "--json").stdout)
    assert found.singles[0].lasts
