"""May it be started: against the run in which it is, and by hand on a house of two loads."""

import pytest
from any_house import any_house
from builders import Json, circuit, house, load, steady

from weary_cedar.core.advice.may_start import MayStart, asked_of, may_start
from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3_600.0


def two(**station: object) -> Json:
    """Leg A: 1,500 W that may go, and 900 W that must run; 3,000 VA a leg; six hours in the cells."""
    loads = {"spare": load("spare", steady(1_500.0)), "fridge": load("fridge", steady(900.0))}
    circuits = {"spare": circuit([1], "room"), "fridge": circuit([5], "keep"), "free": circuit([9], "room")}
    made = house(circuits, loads, station={"nameplate_wh": 40_000.0, **station})
    made["outage"]["length_s"] = 12 * HOUR_S
    return made


def ask(document: Json, at_h: float = 2.0, **what: object) -> MayStart:
    plan = read_plan(document)
    return may_start(plan, run_outage(plan), at_h * HOUR_S, asked_of(plan, **what))  # type: ignore[arg-type]


def test_yes_with_what_its_leg_carries_then_and_what_it_takes() -> None:
    found = ask(two(), watts=500.0, circuit_id="free", lasts_s=1_800.0)
    assert found.answer == "yes"
    assert found.leg_va == pytest.approx(2_900.0)
    assert found.limit_va == 3_000.0
    assert found.sentence == "Yes: the leg of space 9 then carries 2,900 of 3,000 VA; it takes 250 Wh."
    assert found.as_before


def test_it_may_when_what_is_least_needed_is_off_and_that_is_enough() -> None:
    found = ask(two(), watts=1_000.0, circuit_id="free")
    assert (found.answer, found.turn_off) == ("if_off", ("spare",))
    assert found.sentence.startswith(
        "Yes, if you first turn off space 1: the leg of space 9 then carries 1,900 of 3,000"
    )
    assert "would carry 3,400 VA with it, 2,400 VA of that without, and gives 3,000 VA" in found.why


def test_nobody_is_asked_to_turn_off_what_life_hangs_on() -> None:
    made = two()
    made["loads"]["spare"]["role"] = "life_support"
    made["loads"]["fridge"]["role"] = "life_support"
    assert ask(made, watts=1_000.0, circuit_id="free").answer == "no"


def test_no_where_it_alone_is_more_than_the_leg_and_dark_where_nothing_gives() -> None:
    found = ask(two(), watts=3_200.0, circuit_id="free")
    assert found.answer == "no"
    assert found.sentence.endswith("and gives 3,000 VA; by itself it is more than that.")
    dark = ask(two(nameplate_wh=3_000.0), at_h=8.0, watts=100.0, circuit_id="free")
    assert dark.answer == "dark"
    assert not dark.sentence.startswith("Yes")


def test_later_once_a_job_is_done() -> None:
    job = {
        "kind": "job",
        "steps": [{"minutes": 60, "watts": 1_500.0}],
        "earliest": "01:30",
        "latest": "01:30",
    }
    made = two()
    made["loads"]["spare"] |= {"behaviour": job, "role": "life_support"}
    made["loads"]["fridge"]["role"] = "life_support"
    found = ask(made, at_h=2.0, watts=1_000.0, circuit_id="free")
    assert found.answer == "later"
    assert found.later_s is not None
    assert found.later_s >= 2.5 * HOUR_S
    assert "Yes on " in found.sentence


def test_its_price_is_said_where_it_costs_the_outage() -> None:
    found = ask(two(nameplate_wh=29_500.0), watts=500.0, circuit_id="free", lasts_s=6 * HOUR_S)
    assert found.answer == "yes"
    assert not found.as_before
    assert "and then: does not last" in found.sentence


def test_what_has_no_power_says_why_and_the_longest_outage_ends_where_it_ends() -> None:
    off = two()
    off["circuits"]["free"]["mark"] = "off"
    assert ask(off, watts=5.0, circuit_id="free").sentence == (
        "No: in this plan space 9 has no power, its breaker is off."
    )
    bare = two()
    bare |= {"feeds": {}, "stations": {}}
    held = ask(bare, watts=5.0, circuit_id="free")
    assert held.answer == "held"
    assert held.sentence.startswith("Not judged, for there is nothing to run yet: ")
    long = two(nameplate_wh=9e5)
    long["loads"] = {}
    long["outage"]["length_s"] = 31 * 86_400.0
    assert ask(long, at_h=31 * 24 - 0.01, watts=5.0, circuit_id="free").answer == "yes"


def test_nothing_is_judged_where_the_plan_must_not_be_energised() -> None:
    plan = read_plan(two())
    asked = asked_of(plan, watts=100.0, circuit_id="free")
    found = may_start(plan, run_outage(plan), 0.0, asked, ["No fault path: feed"])
    assert found.answer == "held"
    assert "No fault path" in found.sentence


@pytest.mark.parametrize(
    ("what", "field"),
    [
        ({"load_id": "none"}, "/load_id"),
        ({}, "/watts"),
        ({"watts": 5.0, "circuit_id": "x"}, "/circuit_id"),
        ({"watts": 1e6}, "/watts"),
        ({"watts": 5.0, "start_va": 1e6}, "/start_va"),
        ({"load_id": "fridge", "lasts_s": -5.0}, "/lasts_s"),
    ],
)
def test_what_is_not_there_is_named(what: Json, field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        asked_of(read_plan(two()), **what)
    assert refused.value.problems[0].field == field
    with pytest.raises(InvalidInput) as refused:
        ask(two(), at_h=99.0, watts=5.0)
    assert refused.value.problems[0].field == "/at_s"


@pytest.mark.parametrize("number", range(0, 60, 4))
def test_a_yes_is_a_run_in_which_nothing_more_goes_wrong(number: int) -> None:
    """Any house, any of its loads once more: what the answer says is what the run with it in does."""
    plan = read_plan(any_house(number))
    run = run_outage(plan)
    if run.ledger is None or not plan.loads:
        return
    at_s = (number % 7 + 1) / 9 * run.length_s
    asked = asked_of(plan, load_id=sorted(plan.loads)[number % len(plan.loads)])
    found = may_start(plan, run, at_s, asked)
    assert found.sentence.startswith(
        {"yes": "Yes: ", "if_off": "Yes, if", "later": "Not now"}.get(found.answer, "No")
    )
    assert (found.answer == "if_off") == bool(found.turn_off)
    assert (found.answer == "later") == (found.later_s is not None)
    if found.leg_va is not None and found.limit_va is not None and found.answer == "yes":
        assert found.leg_va <= found.limit_va * 1.001
