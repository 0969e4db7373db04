"""The drill: which exercises fit, an exercise played from a file, a question asked and answered."""

import json
import sys
from pathlib import Path
from typing import Annotated

import typer
from pydantic import BaseModel

from weary_cedar.cli.terminal import AsJson, PlanFile, app, plan_from, refuse, say, text_of
from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.drill.exercise import CAUTION
from weary_cedar.core.drill.played import Drill, Played, read_drill_steps
from weary_cedar.core.drill.questions import Answered, Question, fitting, judge_answer, question
from weary_cedar.core.drill.whole import CAUTION as CAUTION_OF_AN_OUTAGE
from weary_cedar.core.drill.whole import AfterTalk, Stop, WholeDrill, after_talk, play_whole, read_whole_steps
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan
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
    whole: Annotated[
        bool, typer.Option("--whole", help="A whole outage; EXERCISE is a file with what was chosen, if any.")
    ] = False,
    seed: Annotated[int, typer.Option("--seed", min=0, max=1_000_000_000, help="Same seed, the same.")] = 1,
    as_json: AsJson = False,
) -> None:
    """Practise. Exit code 0: passed, right or listed; 1: not; 2: bad input."""
    plan = plan_from(plan_file)
    if whole:
        _whole(plan, exercise, seed, as_json)
        return
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


def _whole(plan: Plan, file: str | None, seed: int, as_json: bool) -> None:
    """A whole outage up to its next stop; once it is over, what each choice was worth."""
    given = (
        WholeDrill(seed=seed) if file is None else read_whole_steps(text_of(Path(file), "a file of choices"))
    )
    steps = given if "seed" in given.model_fields_set else given.model_copy(update={"seed": seed})
    play = play_whole(plan, steps)
    for words in stops_of(findings_of(plan)):
        say(f"STOP, do not energise: {words}", to=sys.stderr)
    talk = after_talk(plan, steps) if play.stop is None else None
    if as_json:
        print((talk or play).model_dump_json(indent=1))
    else:
        say(
            CAUTION_OF_AN_OUTAGE,
            *(_told_stop(play.stop) if play.stop else []),
            *(_told_talk(talk) if talk else []),
        )
    raise SystemExit(0 if talk is None or talk.passed else 1)


def _told_stop(stop: Stop) -> list[str]:
    charges = [f"    {item.name}: {item.percent} %" for item in stop.charges]
    return [
        f"{stop.at:%a %d %b %H:%M}: {stop.why}",
        *(f"    {words}" for words in (*stop.happened, *stop.fuel)),
        *charges,
        *(f"  {item.key}: {item.words}" for item in stop.choices),
    ]


def _told_talk(talk: AfterTalk) -> list[str]:
    rows = [
        f"    {item.at:%a %H:%M} {item.why}: {item.words} ({item.won_h:+.0f} h; best: {item.best})"
        for item in talk.choices
    ]
    return [talk.sentence, f"    {talk.played.sentence}", *rows]


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
