"""A cycling load on a timer: within its hours only, and nothing is made up for the others."""

import pytest
from builders import circuit, cycling, house, load, refusals

from weary_cedar.core.outage import run_outage
from weary_cedar.core.panel_schedule import mean_watts
from weary_cedar.core.plan import read_plan

HOUR_S = 3600.0
SPEC = cycling(300.0, 0.5, 1_800.0, phase=0.0, hours={"begins": "10:00:00", "ends": "16:00:00"})


def test_it_runs_in_its_hours_and_owes_nothing() -> None:
    """Six hours a day at half of 300 W are 900 Wh; two days from midnight."""
    document = house({"a": circuit([1])}, {"a": load("a", SPEC)})
    plan = read_plan(document)
    result = run_outage(plan)
    assert result.loads["a"].served_wh == pytest.approx(2 * 900.0)
    assert result.loads["a"].unserved_wh == 0.0
    drawn = result.load_series["a"]
    on = [t / HOUR_S % 24 for t, watts in zip(drawn.t_s, drawn.watts, strict=True) if watts > 0]
    assert (min(on), max(on)) == (10.0, 15.5)
    assert mean_watts(plan, plan.loads["a"]) == pytest.approx(900.0 / 24)
    assert result.verdict.status == "lasts"


def test_dark_outside_of_its_hours_is_no_loss_and_inside_is_one() -> None:
    document = house({"a": circuit([1])}, {"a": load("a", SPEC)})
    document["outage"] |= {"length_s": 24 * HOUR_S}
    cord = {"kind": "cord_unplugged", "for_s": 3 * HOUR_S}
    document["outage"]["incidents"] = {"out": {**cord, "at_s": 4 * HOUR_S}}
    assert run_outage(read_plan(document)).loads["a"].served_wh == pytest.approx(900.0)
    document["outage"]["incidents"] = {"out": {**cord, "at_s": 11 * HOUR_S}}
    result = run_outage(read_plan(document))
    assert result.loads["a"].without_power_s == pytest.approx(3 * HOUR_S)
    assert result.verdict.status == "does_not_last"
    # What was owed within its hours is made up there: on all the time for 1.5 h of the 2 h that are left.
    assert result.loads["a"].served_wh == pytest.approx(150 + 300 * 1.5 + 300 * 0.25, rel=0.15)


def test_hours_of_nothing_are_refused() -> None:
    spec = {**SPEC, "hours": {"begins": "05:00:00", "ends": "05:00:00"}}
    wrong = refusals(house({"a": circuit([1])}, {"a": load("a", spec)}))
    assert "another time" in wrong["/loads/a/behaviour/hours/ends"]


def test_a_timer_over_midnight() -> None:
    spec = {**SPEC, "hours": {"begins": "22:00:00", "ends": "02:00:00"}}
    document = house({"a": circuit([1])}, {"a": load("a", spec)}, outage={"length_s": 24 * HOUR_S})
    assert run_outage(read_plan(document)).loads["a"].served_wh == pytest.approx(4 * 150.0)
