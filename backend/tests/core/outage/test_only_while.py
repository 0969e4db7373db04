"""Loads that run only while an engine runs, or while the sun gives enough."""

import pytest
from builders import Json
from core.outage.test_surplus import HOUR_S, spans, sunny

from weary_cedar.core.errors import InvalidPlan
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan, rule_words
from weary_cedar.core.plan.strategy import WhileRule

BY_SUN: Json = {"kind": "while", "load_ids": ["warm"], "sun_above_w": 700.0}
ENGINE: Json = {
    "name": "engine", "rated_w": 2_000.0, "fuel": "petrol", "auto_start": True,
    "receptacles": {"front": {"kind": "5-20", "rating_a": 20.0}},
}  # fmt: skip
RUNS: Json = {
    "kind": "engine", "generator_id": "engine", "on_below_percent": None, "purpose": "charging",
    "hours": {"begins": "18:00", "ends": "20:00"}, "least_s": 0.0,
}  # fmt: skip
BY_ENGINE: Json = {"kind": "while", "load_ids": ["warm"], "generator_id": "engine"}


def alone(*rules: Json) -> Json:
    """The sunny house without what would empty its station before the day."""
    made = sunny(*rules)
    made["circuits"]["more"]["mark"] = "off"
    return made


def with_engine(*rules: Json) -> Json:
    """The same with an engine that charges from 18 to 20 h."""
    made = alone(RUNS, *rules)
    made["generators"] = {"engine": ENGINE}
    made["stations"]["unit"]["ac_inputs"] = {"wall": {"most_w": 500.0, "cap_a": 15.0}}
    made["recharges"] = {
        "charge": {"station_id": "unit", "input_id": "wall", "kind": "generator", "from_id": "engine",
                   "setting_w": 500.0},
    }  # fmt: skip
    return made


def test_by_the_sun_from_its_watts_on_and_off_a_tenth_below() -> None:
    """800 W from 8 to 16 h: on at 8 h; at 12 h 640 W are more than a tenth below 700, so it goes off."""
    made = alone(BY_SUN)
    made["arrays"]["sun"]["seen"] = {"t_s": [8 * HOUR_S, 12 * HOUR_S], "watts": [800.0, 620.0]}
    result = run_outage(read_plan(made))
    assert spans(result, "warm")[:3] == [(0.0, 0.0), (8.0, 500.0), (12.0, 0.0)]
    assert result.rules[0].acted == 1
    made["arrays"]["sun"]["seen"]["watts"] = [800.0, 640.0]
    assert spans(run_outage(read_plan(made)), "warm")[:2] == [(0.0, 0.0), (8.0, 500.0)]
    assert (12.0, 0.0) not in spans(run_outage(read_plan(made)), "warm"), "not under 630 W yet"


def test_what_the_sun_lets_on_stays_on_for_ten_minutes() -> None:
    made = alone(BY_SUN)
    made["arrays"]["sun"]["seen"] = {"t_s": [8 * HOUR_S, 8 * HOUR_S + 180.0], "watts": [800.0, 0.0]}
    drawn = spans(run_outage(read_plan(made)), "warm")
    assert drawn[:2] == [(0.0, 0.0), (8.0, 500.0)]
    assert drawn[2][0] == pytest.approx(8 + 1 / 6)
    assert drawn[2][1] == 0.0


def test_by_the_engine_as_long_as_it_runs_and_waiting_is_not_going_without() -> None:
    result = run_outage(read_plan(with_engine(BY_ENGINE)))
    on, off = [t for t, watts in spans(result, "warm")[1:3]]
    assert 18.0 <= on < 18.1
    assert 20.0 <= off < 20.1
    assert result.rules[1].acted == 1
    assert result.verdict.status == "lasts"


@pytest.mark.parametrize(
    "rule",
    [
        BY_SUN,
        {"kind": "surplus", "load_ids": ["warm"], "above_percent": 90.0},
        {"kind": "hand_cycle", "load_ids": ["warm"]},
    ],
)
def test_what_must_run_and_a_rule_keeps_off_never_goes_unsaid(rule: Json) -> None:
    made = alone(rule)
    made["circuits"]["warm"]["mark"] = "keep"
    made["loads"]["warm"]["behaviour"]["watts"] = 150.0
    verdict = run_outage(read_plan(made)).verdict
    assert "left off by choice: warm, " in verdict.sentence, verdict.sentence


@pytest.mark.parametrize(
    ("rule", "never"),
    [
        ({**BY_SUN, "load_ids": ["warm"]}, "no sun reaches a station"),
        ({**BY_ENGINE}, ""),
    ],
)
def test_a_rule_that_can_never_act_says_why(rule: Json, never: str) -> None:
    made = with_engine(rule)
    made["arrays"] = {}
    made["generators"]["engine"]["on_hand_l"] = 0.0
    assert run_outage(read_plan(made)).rules[1].never == never


def test_it_names_an_engine_or_the_sun_and_says_itself_in_words() -> None:
    plan: Plan = read_plan(with_engine({**BY_ENGINE, "sun_above_w": 700.0}))
    assert rule_words(plan, plan.strategy.rules[1]) == (
        "Only while engine runs or the sun gives more than 700 W: warm"
    )
    assert isinstance(plan.strategy.rules[1], WhileRule)
    for wrong, field in (
        ({"kind": "while", "load_ids": ["warm"]}, "/strategy/rules/1/generator_id"),
        ({**BY_ENGINE, "generator_id": "none"}, "/strategy/rules/1/generator_id"),
        ({**BY_ENGINE, "load_ids": ["nothing"]}, "/strategy/rules/1/load_ids/0"),
    ):
        with pytest.raises(InvalidPlan) as refused:
            read_plan(with_engine(wrong))
        assert field in {problem.field for problem in refused.value.problems}
