"""What would have prevented an event: every remedy is run again here and does what it says."""

import pytest
from builders import circuit, house, job, load, steady

from weary_cedar.core.decide.remedies import PREVENTABLE, remedies
from weary_cedar.core.errors import NotFound
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical


def numbered(plan: Plan, kind: str) -> list[int]:
    return [number for number, event in enumerate(run_outage(plan).events) if event.kind == kind]


@pytest.mark.parametrize(("name", "kind"), [("foothill", "shed"), ("canal", "empty"), ("canal", "keep_lost")])
def test_a_remedy_does_what_it_says(name: str, kind: str) -> None:
    plan = demo_plan(name)
    run = run_outage(plan)
    number = numbered(plan, kind)[0]
    event = run.events[number]
    found = remedies(plan, run, number)
    assert found
    for remedy in found:
        after = run_outage(read_plan(apply_patch(canonical(plan), remedy.patch)))
        again = [e for e in after.events if (e.kind, e.part) == (event.kind, event.part)]
        again = [e for e in again if e.part or set(e.loads) & set(event.loads)]
        if "does not happen" in remedy.outcome:
            assert not again
        else:
            assert again[0].t_s >= event.t_s + 3600.0
        assert after.verdict.sentence == remedy.verdict
        assert (after.verdict.until_s or after.length_s) >= (run.verdict.until_s or run.length_s) - 1.0


def test_two_things_at_once_are_put_apart() -> None:
    """A kettle and an oven of 4 kW each on 6 kW: one is shed; never together, it is not."""
    made = house(
        {"a": circuit([9, 11], breaker_a=40), "b": circuit([10, 12], "room", breaker_a=40)},
        {
            "oven": load("a", job("12:00", "13:00", (4000, 60)), name="oven"),
            "kettle": load("b", job("12:10", "14:00", (4000, 10)), name="kettle"),
        },
    )
    plan = read_plan(made)
    run = run_outage(plan)
    shed = [number for number, event in enumerate(run.events) if event.kind in ("shed", "over_limit", "trip")]
    assert shed
    words = [remedy.words for remedy in remedies(plan, run, shed[0])]
    assert any("together" in word and "oven" in word and "kettle" in word for word in words)


def test_what_nothing_prevents_has_no_remedy() -> None:
    plan = read_plan(house({"a": circuit([1])}, {"a": load("a", steady(900.0))}))
    run = run_outage(plan)
    empty = numbered(plan, "empty")
    assert empty
    assert remedies(plan, run, empty[0]) == []
    quiet = next(number for number, event in enumerate(run.events) if event.kind not in PREVENTABLE)
    assert remedies(plan, run, quiet) == []
    with pytest.raises(NotFound, match="an event of this run"):
        remedies(plan, run, len(run.events))
