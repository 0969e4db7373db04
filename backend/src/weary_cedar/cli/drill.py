"""The drill: which exercises fit, an exercise played from a file, a question asked and answered."""

import json
from pathlib import Path
from typing import Annotated

import typer
from pydantic import BaseModel

from weary_cedar.cli.terminal import AsJson, PlanFile, app, plan_from, refuse, say, text_of
from weary_cedar.core.checks import findings_of
from weary_cedar.core.drill.exercise import CAUTION
from weary_cedar.core.drill.played import Drill, Played, read_drill_steps
from weary_cedar.core.drill.questions import Answered, Question, fitting, judge_answer, question
from weary_cedar.core.outage import run_outage
from weary_cedar.core.runbook.sheets import sheets_of


class DrillList(BaseModel):
    """Exercises and kinds of questions that fit, and why the others do not."""

    exercises: list[dict[str, str]]
    not_here: dict[str, str]
    questions: list[str]
    questions_not_here: dict[str, str]


@app.command("drill")
def do_drill(
    plan_file: PlanFile,
    exercise: Annotated[str | None, typer.Argument(help="Its key, as --list tells it.")] = None,
    steps_file: Annotated[
        Path | None, typer.Argument(metavar="STEPS.json", help="What was done: acts, or what was chosen.")
    ] = None,
    listed: Annotated[
        bool, typer.Option("--list", help="What fits this plan, and why not the rest.")
    ] = False,
    ask: Annotated[str | None, typer.Option("--ask", metavar="KIND", help="One question of a kind.")] = None,
    answer: Annotated[
        float | None, typer.Option("--answer", help="To it: a figure, or a choice from 0.")
    ] = None,
    seed: Annotated[int, typer.Option("--seed", min=0, max=1_000_000_000, help="Same seed, the same.")] = 1,
    as_json: AsJson = False,
) -> None:
    """Practise. Exit code 0: passed, right or listed; 1: not; 2: bad input."""
    plan = plan_from(plan_file)
    run = run_outage(plan)
    if ask is not None:
        asked = question(plan, run, ask, seed)
        told = None if answer is None else judge_answer(asked, answer)
        _told_question(asked, told, as_json)
        raise SystemExit(0 if told is None or told.right else 1)
    drill = Drill.of(plan, sheets_of(plan, findings_of(plan, run), run))
    if listed or exercise is None:
        _told_list(drill, fitting(plan, run), as_json)
        return
    if steps_file is None:
        refuse("STEPS.json: got nothing; give a file with acts, or with what was chosen", [])
        return
    found = drill.play(exercise, read_drill_steps(text_of(steps_file, "a file of steps")), seed)
    _told_play(found, as_json)
    raise SystemExit(0 if found.score.passed else 1)


def _told_list(drill: Drill, kinds: dict[str, str], as_json: bool) -> None:
    found = DrillList(
        exercises=[
            {"key": one.key, "kind": one.kind, "form": one.form, "title": one.title}
            for one in drill.listing.exercises
        ],
        not_here=drill.listing.not_here,
        questions=[kind for kind, why in kinds.items() if not why],
        questions_not_here={kind: why for kind, why in kinds.items() if why},
    )
    if as_json:
        print(found.model_dump_json(indent=1))
        return
    say(CAUTION)
    say(*(f"    {one['key']}: {one['title']}" for one in found.exercises))
    say(*(f"    no {kind}: {why}" for kind, why in found.not_here.items()))
    say(f"Questions: {', '.join(found.questions)}")
    say(*(f"    no {kind}: {why}" for kind, why in found.questions_not_here.items()))


def _told_question(asked: Question, told: Answered | None, as_json: bool) -> None:
    if as_json:
        found = {"question": asked.model_dump(mode="json"), "answered": told and told.model_dump(mode="json")}
        print(json.dumps(found, indent=1))
        return
    say(asked.ask, *(f"    {index}: {words}" for index, words in enumerate(asked.choices)))
    if told is not None:
        say(told.words, *filter(None, [told.slip]), *(f"    {line}" for line in told.working))


def _told_play(found: Played, as_json: bool) -> None:
    if as_json:
        print(found.score.model_dump_json(indent=1))
        return
    say(CAUTION, found.score.sentence)
    hazard = found.score.hazard
    if hazard is not None and hazard.prevents:
        say(f"What prevents it: {hazard.prevents}")
    say(*(f"    could not be done: {words}" for words in found.score.impossible))
    say(*(f"    not read: {words}" for words in found.score.missed))
