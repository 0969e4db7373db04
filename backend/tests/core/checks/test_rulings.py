"""What the rows cannot show: both figures of a bond, legs that nobody said, what the run does alike."""

import json

import pytest
from check_plans import CORDS, PLANS, Json, lead, loads, merged, station
from check_rulings import pump

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch


def plan_of(patch: Json, plan: str = "foothill") -> Plan:
    return read_plan(json.dumps(apply_patch(PLANS[plan], patch)))


def found(check_id: str, patch: Json) -> list[Finding]:
    return [finding for finding in findings_of(plan_of(patch)) if finding.check_id == check_id]


def test_a_bond_too_many_sends_its_share_over_the_ground() -> None:
    """By resistances: cords of one gauge share alike; a 50 A run has a thinner ground (table 250.122)."""
    hit = found("neutral-double-bond", station(neutral="bonded"))[0]
    neutral, ground = hit.figures
    assert ground.value == pytest.approx(neutral.value / 2)
    thick: Json = {
        "feeds": {"inlet": {"inlet_a": 50.0, "breaker_a": 50.0, "wire": {"awg": 6, "length_m": 30.0}}}
    }
    hit = found(
        "neutral-double-bond",
        merged(station(neutral="bonded"), thick, lead(cords=[{"length_m": 0.01, "awg": 6}])),
    )[0]
    assert hit.figures[1].value / hit.figures[0].value == pytest.approx(0.3951 / (0.3951 + 0.9989), rel=2e-3)


#: Two cords from outlets of one hot each; of the second it is said on which leg it is, or not.
def two_outlets(leg: str | None) -> Json:
    small = {"kind": "5-20", "rating_a": 20.0}
    other = {
        **PLANS["foothill"]["leads"]["inlet"],
        "source": {"kind": "station", "id": "station", "outlet": "two"},
    }
    return merged(
        CORDS,
        station(leg_va=2_400.0, receptacles={"one": {**small, "leg": "B"}, "two": {**small, "leg": leg}}),
        {"leads": {"more": {**other, "to": {"end": "loads", "load_ids": ["internet"], "plug": "5-15", "plug_a": 15.0}}}},
        lead(source={"outlet": "one"}),
        loads(fridge={"behaviour": {"on_w": 900.0}}, internet={"behaviour": {"watts": 1_400.0}}),
    )  # fmt: skip


def test_an_outlet_without_a_leg_counts_for_both() -> None:
    assert not [f for f in found("leg-over", two_outlets("A")) if "of 2 leads" in f.figures[0].name]
    assert [f for f in found("leg-over", two_outlets("B")) if "leg B of 2 leads" in f.figures[0].name]
    unsaid = [f for f in found("leg-over", two_outlets(None)) if "leg B of 2 leads" in f.figures[0].name]
    assert "is not said, so each counts for both" in unsaid[0].detail


def test_a_start_that_nobody_said_is_in_the_list_of_what_was_assumed() -> None:
    words = run_outage(plan_of(pump(700.0))).verdict.assumed
    assert any(line.startswith("no start is said of sump pump") for line in words)
    said = run_outage(plan_of(pump(700.0, start={"va": 2_000.0, "seconds": 0.5}))).verdict.assumed
    assert not any("no start is said" in line for line in said)


def test_that_a_plan_cannot_be_run_is_found_out_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Every check that asks the run is told so; none runs it again."""
    asked: list[Plan] = []

    def too_long(plan: Plan) -> None:
        asked.append(plan)
        raise RunTooLong("it changes too often", ())

    monkeypatch.setattr("weary_cedar.core.checks.facts.run_outage", too_long)
    faults: list[Exception] = []
    found = findings_of(plan_of({}), faults=faults)
    assert len(asked) == 1
    assert len(faults) > 5
    assert any("this check failed (RunTooLong" in finding.missing for finding in found)
