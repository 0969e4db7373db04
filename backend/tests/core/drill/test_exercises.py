"""Exercises: every one can be passed, and failed in each of its ways; over the demos and houses at random."""

import json
from datetime import date, timedelta
from pathlib import Path

import pytest
from any_house import any_house
from command_line import cedar
from drills import by_hints, drill, of_demo

from weary_cedar.core.drill.chosen import search
from weary_cedar.core.drill.exercise import FIRSTS, ORDERS, SEARCHES, SURPRISED, Exercise, sheet_of
from weary_cedar.core.drill.order import LOOK, OrderPlay
from weary_cedar.core.drill.played import Drill, DrillSteps, read_drill_steps
from weary_cedar.core.drill.readiness import Practised, readiness
from weary_cedar.core.errors import InvalidPlan, NotFound
from weary_cedar.core.plan import read_plan
from weary_cedar.core.runbook.steps import Move
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.edits import canonical


def by_sheet(found: Drill, exercise: Exercise) -> OrderPlay:
    """An exercise as its sheet says, everything read."""
    sheet = sheet_of(exercise, found.sheets)
    play = OrderPlay(found.plan, exercise, sheet)
    for step in sheet.steps:
        for act in step.acts:
            play.do(act)
        play.do(Move(what=LOOK, to="all"))
        if play.hint() is None:
            break
    return play


DEMO_EXERCISES = [(name, one.key) for name in DEMOS for one in of_demo(name).listing.exercises]


@pytest.mark.parametrize(("name", "key"), DEMO_EXERCISES)
def test_every_exercise_is_passed_as_its_sheet_says_and_by_its_hints(name: str, key: str) -> None:
    found = of_demo(name)
    exercise = found.exercise(key)
    sheet = sheet_of(exercise, found.sheets)
    if exercise.form == "first":
        right = DrillSteps(chosen=tuple(sheet.first[exercise.number].do))
        assert found.play(key, right).score.passed
        assert not found.play(key, DrillSteps(chosen=right.chosen[:-1])).score.passed
        more = found.play(key, DrillSteps(chosen=(*right.chosen, "Pull the cord"))).score
        assert more.hazard is not None
        assert "it ends there" in more.hazard.why
    elif exercise.form == "search":
        for seed in range(6):
            way = search(sheet, seed)
            chosen = tuple(moment.choices[moment.right] for moment in way)
            assert found.play(key, DrillSteps(chosen=chosen), seed).score.passed
            assert found.play(key, DrillSteps(chosen=chosen[:-1]), seed).moment is not None
            for place, moment in enumerate(way):
                for wrong in set(moment.choices) - {moment.choices[moment.right]}:
                    score = found.play(key, DrillSteps(chosen=(*chosen[:place], wrong)), seed).score
                    assert score.hazard is not None
                    assert moment.choices[moment.right] in score.sentence
    else:
        hinted = by_hints(found, exercise).score()
        assert hinted.passed, hinted.sentence
        if exercise.kind not in SURPRISED:
            told = by_sheet(found, exercise).score()
            assert told.passed, told.sentence


@pytest.mark.parametrize("name", DEMOS)
def test_kinds_that_do_not_fit_say_why(name: str) -> None:
    listing = of_demo(name).listing
    kinds = {one.kind for one in listing.exercises}
    assert kinds | set(listing.not_here) == {*ORDERS, *SEARCHES, FIRSTS}
    assert not kinds & set(listing.not_here)
    assert all(listing.not_here.values())
    assert len(listing.exercises) >= 16


@pytest.mark.parametrize("seed", range(0, 24, 2))
def test_houses_at_random_are_practised_without_harm(seed: int) -> None:
    """By hints alone nothing dangerous is done, whatever the house."""
    plan = read_plan(any_house(seed))
    found = drill(plan)
    for exercise in found.listing.exercises:
        if exercise.form != "order":
            continue
        score = by_hints(found, exercise).score()
        assert score.hazard is None, (exercise.key, score.sentence)
        assert score.passed, (exercise.key, score.sentence)


def play(key: str, *acts: tuple[str, str]) -> OrderPlay:
    found = of_demo("foothill")
    exercise = found.exercise(key)
    made = OrderPlay(found.plan, exercise, sheet_of(exercise, found.sheets))
    for what, to in acts:
        made.do(Move(what=what, to=to))
    return made


def test_a_dangerous_act_stops_it_and_says_what_prevents_it() -> None:
    """The source’s end first: its blades would be live at the other end."""
    made = play("change-over/inlet", ("source_end/inlet", "in"), ("output/station/station", "on"))
    assert made.hazard is not None
    assert made.hazard.prevents == "Turn off every branch breaker of Main panel"
    assert made.score().sentence.startswith(f"Stopped at act {made.hazard.number}, “")
    before = made.done
    made.do(Move(what="main/main", to="off"))
    assert made.done == before


def test_what_a_mechanism_forbids_is_told_and_does_not_stop_it() -> None:
    made = play("change-over/inlet", ("feed_breaker/inlet", "on"))
    assert made.hazard is None
    assert "The interlock holds the feed breaker off" in made.stand().impossible
    assert made.score().impossible
    assert play("change-over/inlet", ("main/main", "off")).stand().impossible == ""


def test_volts_that_were_not_read_are_missed() -> None:
    found = of_demo("foothill")
    exercise = found.exercise("change-over/inlet")
    sheet = sheet_of(exercise, found.sheets)
    made = OrderPlay(found.plan, exercise, sheet)
    for act in sheet.acts:
        made.do(act)
    score = made.score()
    assert not score.passed
    assert "Read the volts" in score.missed
    made.do(Move(what=LOOK, to="all"))
    assert "Read the volts" in made.score().missed


def test_an_open_neutral_stops_whoever_goes_on() -> None:
    found = of_demo("foothill")
    exercise = found.exercise("open-neutral/inlet")
    sheet = sheet_of(exercise, found.sheets)
    made = OrderPlay(found.plan, exercise, sheet)
    for step in sheet.steps:
        for act in step.acts:
            made.do(act)
        made.do(Move(what=LOOK, to="all"))
        volts = {reading.where: reading.value for reading in made.readings}
        if volts.get("leg A to neutral", 0.0) > 140:
            break
    assert (volts["leg A to neutral"], volts["leg B to neutral"]) == (151.0, 89.0)
    assert not made.score().passed
    off = made.hint()
    assert off == Move(what="output/station/station", to="off")
    going_on = next(act for act in sheet.acts if act.what.startswith("breaker/") and act.to == "on"
                    and made.house.at[act.what] == "off")  # fmt: skip
    made.do(going_on)
    assert made.hazard is not None
    assert "burns" in made.hazard.why


def test_displays_show_what_flows() -> None:
    made = by_sheet(of_demo("foothill"), of_demo("foothill").exercise("change-over/inlet"))
    stand = made.stand()
    assert stand.draws["inlet"].a_va > 0
    assert "fridge" in stand.live
    assert "fridge" not in stand.utility


def test_steps_that_are_wrong_are_named() -> None:
    with pytest.raises(InvalidPlan, match="/acts/0/what"):
        read_drill_steps('{"acts": [{"to": "on"}]}')
    with pytest.raises(NotFound, match="no two sources"):
        of_demo("foothill").exercise("swap/inlet")
    with pytest.raises(NotFound, match="change-over/inlet"):
        of_demo("foothill").exercise("change-over/none")


# ---------------------------------------------------------------- readiness


def test_ready_is_each_passed_within_ninety_days_without_hints() -> None:
    exercises = of_demo("hut").listing.exercises
    today = date(2026, 11, 1)
    rows = [Practised(exercise=one.key, on=today - timedelta(days=80), passed=True) for one in exercises]
    assert "Never practised" in readiness(exercises, [], today).sentence
    assert readiness(exercises, rows, today).ready
    assert not readiness(exercises, rows, today + timedelta(days=11)).ready
    assert not readiness(exercises, rows[1:], today).ready
    hinted = [row.model_copy(update={"hints": 1}) for row in rows]
    assert not readiness(exercises, hinted, today).ready
    assert not readiness([], [], today).ready


def test_days_double_after_a_pass_and_start_again_after_a_failure() -> None:
    one = of_demo("hut").listing.exercises[0]
    start = date(2026, 1, 1)

    def due(*passed: bool) -> int:
        rows = [
            Practised(exercise=one.key, on=start, passed=was, wrong="" if was else "too soon")
            for was in passed
        ]
        found = readiness([one], rows, start).exercises[0].due
        assert found is not None
        return (found - start).days

    assert [due(*[True] * count) for count in range(1, 9)] == [1, 2, 4, 8, 16, 32, 64, 64]
    assert due(True, True, True, False) == 1
    assert due(True, True, False, True) == 1
    failed = [
        Practised(exercise=one.key, on=start, passed=False, wrong=words)
        for words in ("a", "b", "b", "c", "d", "d")
    ]
    assert readiness([one], failed, start).weakest == ("b", "d", "a")


def test_on_the_command_line(tmp_path: Path) -> None:
    plan, steps = tmp_path / "plan.json", tmp_path / "steps.json"
    plan.write_text(json.dumps(canonical(demo_plan("hut"))))
    listed = json.loads(cedar("drill", str(plan), "--list", "--json").stdout)
    assert {"key", "kind", "form", "title"} == set(listed["exercises"][0])
    assert listed["not_here"]["open-neutral"] == "the house has no two legs"
    found = of_demo("hut")
    acts = [act for step in by_acts(found, "return/cords") for act in step]
    steps.write_text(json.dumps({"acts": acts}))
    passed = cedar("drill", str(plan), "return/cords", str(steps))
    assert passed.returncode == 0, passed.stdout
    steps.write_text(json.dumps({"acts": acts[:1]}))
    assert cedar("drill", str(plan), "return/cords", str(steps), "--json").returncode == 1
    assert cedar("drill", str(plan), "return/cords").returncode == 2
    assert cedar("drill", str(plan), "none", str(steps)).returncode == 2
    right = cedar("drill", str(plan), "--ask", "display", "--seed", "2", "--json")
    choice = json.loads(right.stdout)["question"]["right"]
    assert (
        cedar("drill", str(plan), "--ask", "display", "--seed", "2", "--answer", str(choice)).returncode == 0
    )
    assert cedar("drill", str(plan), "--ask", "none").returncode == 2


def by_acts(found: Drill, key: str) -> list[list[dict[str, object]]]:
    sheet = sheet_of(found.exercise(key), found.sheets)
    look: dict[str, object] = {"what": LOOK, "to": "all"}
    return [[*(act.model_dump(mode="json") for act in step.acts), look] for step in sheet.steps]
