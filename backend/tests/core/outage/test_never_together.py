"""Loads that never run at the same time: the next one waits, and none is forgotten."""

from itertools import pairwise

import pytest
from builders import Json, circuit, cycling, house, job, load, refusals

from weary_cedar.core.checks import findings_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.plan import read_plan

DAY_S = 86_400.0


def document(loads: dict[str, Json], *together: str, on: bool = True) -> Json:
    spaces = {key: circuit([1 + 2 * n], order=1 + 10 * n) for n, key in enumerate(loads)}
    made_of = {key: load(key, spec, tolerance_s=DAY_S) for key, spec in loads.items()}
    made = house(spaces, made_of, outage={"length_s": DAY_S})
    made["strategy"] = {"rules": [{"kind": "together", "load_ids": list(together), "on": on}]}
    return made


def overlap_s(result: RunResult, one: str, other: str) -> float:
    """How long two loads drew at the same time, s."""
    times = sorted({t for key in (one, other) for t in result.load_series[key].t_s} | {DAY_S})
    both = 0.0
    for begins, ends in pairwise(times):
        draws = []
        for key in (one, other):
            series = result.load_series[key]
            draws.append([w for t, w in zip(series.t_s, series.watts, strict=True) if t <= begins][-1])
        both += ends - begins if min(draws) > 0 else 0.0
    return both


def test_a_job_waits_until_the_one_before_is_done() -> None:
    jobs = {"dish": job("12:00:00", "13:00:00", (1_200, 60)), "dryer": job("12:00:00", "18:00:00", (900, 30))}
    free = run_outage(read_plan(document(jobs, "dish", "dryer", on=False)))
    assert overlap_s(free, "dish", "dryer") == 1_800
    ruled = run_outage(read_plan(document(jobs, "dish", "dryer")))
    assert overlap_s(ruled, "dish", "dryer") == 0
    begins = next(t for t, w in zip(*_series(ruled, "dryer"), strict=True) if w > 0)
    assert begins == 13 * 3600
    assert ruled.loads["dryer"].served_wh == pytest.approx(450)
    assert ruled.rules[0].acted == 1


def test_three_that_cycle_never_meet_and_none_is_starved() -> None:
    """A quarter of the time each: together three quarters, so that all of it fits one after the other."""
    loads = {key: cycling(200.0, 0.25, 1_700.0 + 150.0 * n) for n, key in enumerate("abc")}
    result = run_outage(read_plan(document(loads, "a", "b", "c")))
    for one, other in (("a", "b"), ("a", "c"), ("b", "c")):
        assert overlap_s(result, one, other) == 0
    for key in "abc":
        assert result.loads[key].served_wh == pytest.approx(200 * 0.25 * 24, rel=0.05)
    assert result.rules[0].acted > 5
    assert result.ledger is not None
    assert result.ledger.closes


def test_a_rule_without_two_fed_loads_can_never_act() -> None:
    made = document({"a": cycling(100.0, 0.3, 2_000.0), "b": cycling(100.0, 0.3, 2_000.0)}, "a", "b")
    made["circuits"]["b"]["mark"] = "off"
    plan = read_plan(made)
    assert "fewer than two" in run_outage(plan).rules[0].never
    found = [finding for finding in findings_of(plan) if finding.check_id == "rule-never"]
    assert [finding.element.id for finding in found] == ["a"]


def test_it_names_loads_that_there_are() -> None:
    made = document({"a": cycling(100.0, 0.3, 2_000.0), "b": cycling(100.0, 0.3, 2_000.0)}, "a", "gone")
    assert refusals(made) == {"/strategy/rules/0/load_ids/1": "should be a load of this plan"}


def _series(result: RunResult, key: str) -> tuple[tuple[float, ...], tuple[float, ...]]:
    drawn = result.load_series[key]
    return drawn.t_s, drawn.watts
