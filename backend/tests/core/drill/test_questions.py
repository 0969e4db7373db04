"""Questions: answers checked against a computation of their own, slips that are recognised."""

from collections.abc import Callable, Mapping
from functools import cache

import pytest
from any_house import any_house

from weary_cedar.core.drill.questions import KINDS, Question, fitting, judge_answer, question
from weary_cedar.core.errors import NotFound
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import DEMOS, demo_plan

G = Mapping[str, float]
#: Each kind with a figure, from the figures that its question tells, by arithmetic of its own.
BY_HAND: dict[str, Callable[[G], float]] = {
    "night": lambda g: max(0.0, g["percent"] - (g["watts"] / g["eta"] + g["idle"]) * 9 * 100 / g["wh"]),
    "two-readings": lambda g: (g["second"] - g["cut"]) / ((g["first"] - g["second"]) / g["hours"]),
    "runtime": lambda g: g["wh"] / (g["watts"] / g["eta"] + g["idle"]),
    "delivered": lambda g: g["watts"] * g["wh"] / (g["watts"] / g["eta"] + g["idle"]),
    "mean-draw": lambda g: g["wh"] * g["fell"] / 100 / g["hours"],
    "which-pack": lambda g: g["head_wh"] * g["head"] / 100 + g["packs_wh"] * g["pack"] / 100,
    "idle-day": lambda g: g["idle"] * 2400 / g["wh"],
    "job": lambda g: g["watts"] * g["minutes"] / 60,
    "job-percent": lambda g: 100 * g["watts"] * g["minutes"] / (60 * g["eta"] * g["wh"]),
    "fridge-day": lambda g: g["watts"] * 0.24 * g["percent"],
    "charge-time": lambda g: (80 - g["percent"]) * g["wh"] / (100 * g["watts"] * g["eta"]),
    "amps": lambda g: g["watts"] / g["volts"],
    "two-poles": lambda g: g["watts"] / 240,
    "breaker": lambda g: 0.8 * g["rated"] * g["volts"],
    "inlet": lambda g: g["rated"] * g["volts"],
    "imbalance": lambda g: abs(g["a"] - g["b"]) / 120,
    "room": lambda g: g["limit"] - g["carried"],
    "start": lambda g: g["start"] + g["carried"],
    "dryer": lambda g: g["rated"] * 240,
    "litres": lambda g: g["idle"] * g["hours"] + g["per_kwh"] * g["watts"] / 1000 * g["hours"],
    "fuel-lasts": lambda g: g["on_hand"] / g["day"],
    "gallons": lambda g: g["gal"] * 3.785411784,
    "load-share": lambda g: 100 * g["watts"] / g["rated"],
    "cold-string": lambda g: g["series"] * g["volts"] * (1 + g["per_k"] / 100 * (g["coldest"] - 25)),
    "sun-day": lambda g: 0.8 * g["watts"] * g["hours"],
    "engine-charges": lambda g: g["points"] * g["wh"] / (100 * g["watts"] * g["eta"]),
    "drop": lambda g: 2 * g["length"] / 1000 * g["ohms"] * g["amps"],
    "cord-heat": lambda g: g["ohms"] * g["amps"] ** 2,
    "dc-amps": lambda g: g["watts"] / g["volts"] / 0.9,
    "compressor-wait": lambda g: 300 - g["gone"],
}


@cache
def of(name: str) -> tuple[Plan, RunResult]:
    plan = demo_plan(name)
    return plan, run_outage(plan)


def made(name: str, kind: str, seed: int) -> Question | None:
    try:
        return question(*of(name), kind, seed)
    except NotFound:
        return None


def test_there_are_enough_kinds_and_each_has_a_figure_or_choices() -> None:
    assert len(KINDS) >= 30
    choosing = {kind for kind in KINDS if (found := made("foothill", kind, 1)) and found.right is not None}
    assert set(KINDS) == choosing | set(BY_HAND)
    assert not choosing & set(BY_HAND)


@pytest.mark.parametrize("kind", list(KINDS))
def test_answers_are_those_of_a_computation_of_their_own(kind: str) -> None:
    """Ten of each kind, over the demos: more than three hundred."""
    for name in DEMOS:
        for seed in range(10):
            asked = made(name, kind, seed)
            if asked is None:
                continue
            assert asked.working
            assert asked == made(name, kind, seed)
            if asked.right is not None:
                assert len(set(asked.choices)) == len(asked.choices) >= 2
                assert judge_answer(asked, asked.right).right
                wrong = [slip.choice or 0 for slip in asked.slips]
                assert sorted([*wrong, asked.right]) == list(range(len(asked.choices)))
                for slip in asked.slips:
                    assert judge_answer(asked, slip.choice or 0).slip == slip.words
                continue
            assert asked.answer is not None
            assert asked.answer == pytest.approx(BY_HAND[kind](asked.given), rel=0.01, abs=0.05), asked.ask
            assert judge_answer(asked, asked.answer).right
            assert asked.slips, asked.ask
            for slip in asked.slips:
                told = judge_answer(asked, slip.value or 0.0)
                assert not told.right, (asked.ask, slip)
                assert told.slip == slip.words, (asked.ask, slip)


def test_figures_of_the_question_stand_in_its_words() -> None:
    asked = question(*of("foothill"), "runtime", 4)
    for key in ("wh", "watts", "idle"):
        assert f"{asked.given[key]:,.0f}" in asked.ask.replace(
            f"{asked.given[key]:.0f}", f"{asked.given[key]:,.0f}"
        )


def test_a_figure_of_no_slip_is_wrong_and_says_the_answer() -> None:
    asked = question(*of("foothill"), "breaker", 1)
    assert asked.answer is not None
    told = judge_answer(asked, asked.answer * 1.37)
    assert (told.right, told.slip) == (False, "")
    assert f"{asked.answer:,.0f}" in told.words


@pytest.mark.parametrize("seed", range(0, 20, 2))
def test_houses_at_random_are_asked_nothing_that_is_meaningless(seed: int) -> None:
    plan = read_plan(any_house(seed))
    run = run_outage(plan)
    for kind, why in fitting(plan, run).items():
        if why:
            continue
        asked = question(plan, run, kind, 3)
        assert asked.answer is None or 0 <= asked.answer < 1e7
        if kind in BY_HAND and asked.answer is not None:
            assert asked.answer == pytest.approx(BY_HAND[kind](asked.given), rel=0.02, abs=0.1), asked.ask


def test_an_empty_plan_is_asked_little_and_says_why() -> None:
    plan = read_plan({"schema_version": 2, "name": "Empty", "site": demo_plan().site.model_dump(mode="json"),
                      "outage": {"start_local": "2026-01-12T00:00:00", "length_s": 86400}})  # fmt: skip
    why = fitting(plan, run_outage(plan))
    assert why["night"] == "the plan has no station"
    assert why["litres"] == "the plan has no engine"
