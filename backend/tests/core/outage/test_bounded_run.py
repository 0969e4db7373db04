"""A run that changes too often is stopped by name; it says where it was and which load changes most."""

from typing import Any

import pytest
from builders import circuit, cycling, house, load, steady

from weary_cedar.core.checks import findings_of
from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.outage import RunResult, kernel, run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.ids import free_id

MONTH_S = 31 * 86_400.0


def many(count: int, period_s: float, length_s: float) -> Any:
    """So many small cycling loads, each on one of forty circuits."""
    circuits = {f"c{n}": circuit([n]) for n in range(1, 41)}
    loads = {
        f"l{n}": load(f"c{n % 40 + 1}", cycling(3.0, 0.4, period_s + n, phase=0.1)) for n in range(count)
    }
    document = house(circuits, loads, station={"cell_wh": 900_000.0}, outage={"length_s": length_s})
    document["panels"]["main"]["spaces"] = 42
    document["feeds"]["feed"]["breaker_spaces"] = [41]
    document["feeds"]["feed"]["kind"] = "transfer_panel"
    document["feeds"]["feed"]["breaker_spaces"] = []
    return document


def test_three_hundred_loads_for_a_month_are_refused_in_words(monkeypatch: pytest.MonkeyPatch) -> None:
    """The limit is lowered, so that the test is quick; what is said is the same."""
    monkeypatch.setattr(kernel, "MOST_MOMENTS", 5_000)
    with pytest.raises(RunTooLong, match="changes more than 5,000 times") as stopped:
        run_outage(read_plan(many(300, 600.0, MONTH_S)))
    behaviour, length = stopped.value.problems
    assert behaviour.field.startswith("/loads/l")
    assert "changes of" in behaviour.value
    assert length.field == "/outage/length_s"
    assert "an outage of at most about" in length.right


def test_forty_loads_for_a_month_answer() -> None:
    result = run_outage(read_plan(many(40, 2_400.0, MONTH_S)))
    assert result.verdict.status == "lasts"
    assert 50_000 < result.intervals < kernel.MOST_MOMENTS


def test_time_that_stands_still_is_named(monkeypatch: pytest.MonkeyPatch) -> None:
    """The limit is lowered, so that the first moment is one too many."""
    monkeypatch.setattr(kernel, "MOST_EVENTS_AT_ONCE", 0)
    document = house({"a": circuit([1])}, {"a": load("a", steady(100))})
    with pytest.raises(RunTooLong, match="does not get past Sun 01 Jan"):
        run_outage(read_plan(document | {"outage": {"start_local": "2023-01-01T12:00:00"}}))


def test_a_check_that_fails_is_said_not_to_be_judged(monkeypatch: pytest.MonkeyPatch) -> None:
    """The others stand; without someone to take the fault it is raised."""
    from weary_cedar.core.checks import registry

    plan = read_plan(house({"a": circuit([1])}, {"a": load("a", steady(100))}))
    whole = findings_of(plan, RunResult.model_validate(run_outage(plan)))
    check_id = next(iter(registry.CHECKS))

    def fails(_facts: object) -> Any:
        raise ZeroDivisionError("by nothing")

    monkeypatch.setitem(registry.CHECKS, check_id, fails)
    faults: list[Exception] = []
    found = findings_of(plan, faults=faults)
    assert [type(fault) for fault in faults] == [ZeroDivisionError]
    (said,) = [finding for finding in found if finding.check_id == check_id]
    assert (said.level, "by nothing" in said.missing) == ("cannot_judge", True)
    assert {f.key for f in whole if f.check_id != check_id} <= {f.key for f in found}
    with pytest.raises(ZeroDivisionError):
        findings_of(plan)


def test_ids_are_found_in_few_looks() -> None:
    class Counting(set[str]):
        looks = 0

        def __contains__(self, key: object) -> bool:
            Counting.looks += 1
            return super().__contains__(key)

    taken = Counting({"lights", *(f"lights-{n}" for n in range(2, 20_001))})
    assert free_id("Lights", taken) == "lights-20001"
    assert Counting.looks < 60
