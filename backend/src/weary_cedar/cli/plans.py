"""Commands about a plan: run, check, print, replay, and the forms of what they print."""

import json
import sys
from datetime import datetime
from pathlib import Path
from typing import Annotated

import typer
from pydantic import BaseModel

from weary_cedar.cli.changed import print_changed
from weary_cedar.cli.terminal import (
    DOES_NOT_LAST,
    LASTS,
    AsJson,
    PlanFile,
    app,
    plan_from,
    refuse,
    say,
    text_of,
    written,
)
from weary_cedar.core.advice.may_start import MayStart
from weary_cedar.core.advice.schedule import Schedule
from weary_cedar.core.advice.size import Size
from weary_cedar.core.advice.suggest import Suggestions
from weary_cedar.core.advice.why import Why
from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.checks.editions import clauses, code_words
from weary_cedar.core.checks.explained import catalogue_page, explained, in_words
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import four_figures, told_figure
from weary_cedar.core.commands import USAGES, do, typed
from weary_cedar.core.decide.chance import Chance
from weary_cedar.core.decide.for_ever import ForEver
from weary_cedar.core.decide.heat_choice import HeatChoices
from weary_cedar.core.decide.how_sure import judged
from weary_cedar.core.decide.ways_in import WaysIn
from weary_cedar.core.drill.played import DrillSteps
from weary_cedar.core.drill.questions import Answered, Question
from weary_cedar.core.drill.score import Score
from weary_cedar.core.drill.whole import AfterTalk, WholeDrill, WholePlay
from weary_cedar.core.handles.arrangements import arrangements
from weary_cedar.core.handles.dangers import Looked
from weary_cedar.core.lead_conductors import Conductor, LeadState, lead_conductors
from weary_cedar.core.log.afterwards import Afterwards
from weary_cedar.core.log.forecast import SessionForecast
from weary_cedar.core.log.learn import Lesson
from weary_cedar.core.log.meters import MeterBooks
from weary_cedar.core.log.pushed import PushedReadings
from weary_cedar.core.log.session import Session
from weary_cedar.core.network import network_of
from weary_cedar.core.one_line import one_line
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import plan_schema
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.runbook.replay import replay
from weary_cedar.core.runbook.sheet import told
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.core.runbook.steps import read_steps, steps_schema
from weary_cedar.core.sums import SUMS, work_out
from weary_cedar.core.sums_of_plan import filled
from weary_cedar.formats.bundle_pdf import bundle_pdf
from weary_cedar.formats.one_line_drawing import one_line_pdf, one_line_svg
from weary_cedar.formats.paper import Edition
from weary_cedar.formats.pocket import pocket_html
from weary_cedar.formats.series_csv import write_series
from weary_cedar.formats.sheets_pdf import sheets_pdf
from weary_cedar.formats.sign_pdf import signs_pdf
from weary_cedar.formats.sum_figures import read_figures


@app.command()
def run(
    plan_file: PlanFile,
    as_json: AsJson = False,
    csv_dir: Annotated[
        Path | None, typer.Option("--csv", metavar="DIR", help="Write the series as CSV.")
    ] = None,
) -> None:
    """Run a plan's outage. Exit code 0: it lasts, 1: it does not, 2: bad input or nothing to judge."""
    plan = plan_from(plan_file)
    result = judged(plan)
    if csv_dir is not None:
        try:
            write_series(result, csv_dir)
        except OSError as error:
            refuse(f"{csv_dir}: {error.strerror}; give a folder that can be written", [])
    if as_json:
        print(result.model_dump_json(indent=1, ensure_ascii=True))
    else:
        say(*_in_words(result))
    for finding in findings_of(plan, result):
        if finding.level == "stop":
            say(f"STOP, do not energise: {finding.title}: {finding.element.name}", to=sys.stderr)
    if result.verdict.status == "cannot_judge":
        refuse(f"{result.verdict.headline}: {result.verdict.sentence}", [])
    raise SystemExit(LASTS if result.verdict.status == "lasts" else DOES_NOT_LAST)


def _in_words(result: RunResult) -> list[str]:
    verdict = result.verdict
    lines = [f"{verdict.headline}: {verdict.sentence}"]
    if verdict.how_sure:
        lines.append(f"How sure: {verdict.how_sure}")
    for flow, words in ((verdict.pinch, "Pinch"), (verdict.start_pinch, "Start pinch")):
        if flow:
            lines.append(
                f"{words}: {flow.name}, {flow.flow:,.1f} of {flow.rating:,.1f} {flow.unit} ({flow.share:.0%})"
            )
    if verdict.lean_w is not None and verdict.lean_wh is not None:
        lines.append(f"Lean: {verdict.lean_w:.0%} at the worst moment, {verdict.lean_wh:.0%} of the energy")
    if result.ledger:
        closed = "closes" if result.ledger.closes else "DOES NOT CLOSE"
        lines.append(
            f"Ledger {closed}: {result.ledger.from_battery_wh:,.0f} Wh from the cells, "
            f"{result.ledger.loads_wh:,.0f} Wh to loads"
        )
    lines += _by_device(result)
    lines += [
        f"{event.at:%a %d %b %H:%M:%S}  {event.what}" + (f" ({event.why})" if event.why else "")
        for event in result.events
    ]
    return lines


def _by_device(result: RunResult) -> list[str]:
    """What sun, engines, vehicles and the utility gave; what was not used, and what was taken for granted."""
    lines = [
        f"{sun.name}: {sun.taken_wh:,.0f} Wh taken of {sun.offered_wh:,.0f} Wh"
        for sun in result.suns.values()
    ]
    for source in result.sources.values():
        if source.kind != "station":
            fuel = "" if source.burned_l is None else f", {source.burned_l:.1f} L"
            lines.append(f"{source.name}: {source.given_wh:,.0f} Wh in {source.on_s / 3600:.1f} h{fuel}")
    for kept in result.compartments.values():
        over = f", over its limit for {kept.over_s / 3600:.1f} h" if kept.over_s > 0 else ""
        lines.append(f"{kept.name}: warmest {kept.highest_c:.1f} °C{over}")
    for number, rule in enumerate(result.rules, start=1):
        times = "once" if rule.acted == 1 else f"{rule.acted} times"
        told = "holds all the time" if rule.lasting else f"acted {times}"
        told = f"can never act: {rule.never}" if rule.never else told
        lines.append(f"Rule {number}: {rule.words}: {told}")
    lines += [f"Not used: {part.name}: {part.why}" for part in result.unused]
    lines += [f"Taken for granted: {words}" for words in result.verdict.assumed]
    return lines


@app.command()
def check(
    plan_file: Annotated[
        Path | None, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ] = None,
    as_json: AsJson = False,
    explain: Annotated[
        str | None, typer.Option(metavar="ID", help="Say what a check looks for instead; `all` for a page.")
    ] = None,
) -> None:
    """Check a plan: what must not be allowed. Exit code 0: no stop, 1: a stop, 2: bad input."""
    if explain is not None:
        say(*(catalogue_page().splitlines() if explain == "all" else in_words(explained(explain))))
        return
    if plan_file is None:
        raise typer.BadParameter("a plan file, - for standard input, or --explain with the id of a check")
    plan = plan_from(plan_file)
    found = findings_of(plan)
    if as_json:
        print(json.dumps([finding.model_dump(mode="json") for finding in found], indent=1))
    else:
        say(*([line for finding in found for line in _finding_in_words(finding)] or ["Nothing found"]))
        say(*_looked_in_words(arrangements(network_of(plan))))
    raise SystemExit(1 if any(finding.level == "stop" for finding in found) else 0)


def _finding_in_words(finding: Finding) -> list[str]:
    level = "cannot judge" if finding.level == "cannot_judge" else finding.level
    parts = [f"{level.upper()}  {finding.title}: {finding.element.name} [{finding.check_id}]"]
    parts += [f"    {told_figure(figure)}" for figure in finding.figures]
    if finding.detail:
        parts.append(f"    {finding.detail}")
    if finding.missing and finding.missing not in finding.title:
        parts.append(f"    missing: {finding.missing}")
    parts.append(f"    {finding.why} {finding.remedy} ({finding.source})")
    if finding.amendment:
        parts.append(f"    local rule: {finding.amendment}")
    return parts


@app.command("arrangements")
def do_arrangements(
    plan_file: PlanFile,
    as_json: AsJson = False,
) -> None:
    """Look at every arrangement of handles. Exit code 0: nothing meets, 1: something can, or not known."""
    looked = arrangements(network_of(plan_from(plan_file)))
    if as_json:
        print(looked.model_dump_json(indent=1))
    else:
        say(*_looked_in_words(looked))
    raise SystemExit(0 if looked.sound else 1)


def _looked_in_words(looked: Looked) -> list[str]:
    return [looked.words] + [
        f"    {danger.why}; the shortest way: {danger.words}" for danger in looked.dangers
    ]


@app.command("conductors")
def do_conductors(plan_file: PlanFile, as_json: AsJson = False) -> None:
    """Every conductor of every lead: what it may carry, what protects it, what flows, what is lost."""
    found = lead_conductors(plan_from(plan_file))
    if as_json:
        print(json.dumps([lead.model_dump(mode="json") for lead in found], indent=1))
        return
    for lead in found:
        say(
            lead.name
            if lead.drop_v is None
            else f"{lead.name}: loses {lead.drop_v:.2f} V of {lead.volts:g} V"
        )
        say(*(f"  {words}" for words in lead.words))
        if lead.farthest is not None:
            say(f"  with {lead.farthest}: {lead.farthest_v:.2f} V")
        for state in lead.states:
            say(f"  {state.words}: {', '.join(_of_state(state))}")
        carries = "leg A" if any(row.b_a is not None for row in lead.conductors) else "carries"
        for row in lead.conductors:
            say(f"  {row.name}: {', '.join(_of_conductor(row, carries))}")


def _of_state(state: LeadState) -> list[str]:
    legs = (
        (("leg A", state.a_a), ("leg B", state.b_a)) if state.b_a is not None else (("carries", state.a_a),)
    )
    amps = (*legs, ("neutral", state.neutral_a))
    told = [f"{words} {value:.4g} A" for words, value in amps if value is not None]
    return [*told, *([f"loses {state.drop_v:.2f} V"] if state.drop_v is not None else [])]


def _of_conductor(row: Conductor, carries: str) -> list[str]:
    amps = (("may carry", row.rating_a), ("protected at", row.protected_a), (carries, row.a_a))
    told = [f"{words} {value:.4g} A" for words, value in (*amps, ("leg B", row.b_a)) if value is not None]
    told += [f"neutral {row.neutral_a:.4g} A"] if row.neutral_a is not None else []
    told += [f"loses {row.drop_v:.2f} V"] if row.drop_v is not None else []
    return [*told, *row.wrong, *row.not_known]


@app.command("clauses")
def do_clauses(
    plan_file: PlanFile,
    as_json: AsJson = False,
) -> None:
    """List what is cited from memory, in the edition of the plan's code: for a person with the book."""
    plan = plan_from(plan_file)
    found = clauses(plan.site)
    if as_json:
        print(json.dumps([clause.model_dump(mode="json") for clause in found], indent=1))
        return
    say(f"{len(found)} clauses; the house goes by {code_words(plan.site)}")
    say(*(line for clause in found for line in clause.lines))


@app.command("sum")
def do_sum(
    name: Annotated[str, typer.Argument(metavar="NAME", help=f"One of: {', '.join(SUMS)}.")],
    figures: Annotated[
        list[str] | None, typer.Argument(metavar="KEY=VALUE", help="Such as length=40ft awg=12 amps=8.")
    ] = None,
    plan_file: Annotated[
        Path | None, typer.Option("--plan", metavar="PLAN.json", help="Take what is left out from this plan.")
    ] = None,
    about: Annotated[
        str | None, typer.Option(metavar="ID", help="Which part of the plan; its first if absent.")
    ] = None,
) -> None:
    """Do a quick sum of the trade, with units as people write them."""
    pairs = dict(part.partition("=")[::2] for part in figures or [])
    known = filled(plan_from(plan_file), name, about) if plan_file else {}
    for item in work_out(name, {**known, **read_figures(name, pairs)}):
        say(f"{item.label}: {four_figures(item.value)} {item.unit}".rstrip())
    if SUMS[name].basis:
        say(SUMS[name].basis)


@app.command()
def schema(
    result: Annotated[bool, typer.Option("--result", help="Of what `run --json` prints instead.")] = False,
    steps: Annotated[bool, typer.Option("--steps", help="Of what `replay` reads instead.")] = False,
    decisions: Annotated[
        bool, typer.Option("--decisions", help="Of what the commands that decide print instead.")
    ] = False,
    session: Annotated[
        bool, typer.Option("--session", help="Of session files, and what is said of them.")
    ] = False,
    drill: Annotated[bool, typer.Option("--drill", help="Of what `drill` reads and prints.")] = False,
) -> None:
    """Print the JSON Schema of a plan file."""
    if drill:
        practised: dict[str, type[BaseModel]] = {
            "steps": DrillSteps, "score": Score, "question": Question, "answered": Answered,
            "whole": WholeDrill, "whole-play": WholePlay, "whole-talk": AfterTalk,
        }  # fmt: skip
        print(json.dumps({name: kind.model_json_schema() for name, kind in practised.items()}, indent=1))
        return
    if session:
        kinds: dict[str, type[BaseModel]] = {
            "session": Session, "forecast": SessionForecast, "learn": Lesson, "meters": MeterBooks,
            "afterwards": Afterwards, "readings": PushedReadings,
        }  # fmt: skip
        print(json.dumps({name: kind.model_json_schema() for name, kind in kinds.items()}, indent=1))
        return
    if decisions:
        forms: dict[str, type[BaseModel]] = {
            "start": MayStart,
            "chance": Chance,
            "suggest": Suggestions,
            "why": Why,
            "schedule": Schedule,
            "size": Size,
            "heat": HeatChoices,
            "ways-in": WaysIn,
            "for-ever": ForEver,
        }
        told = {name: form.model_json_schema(mode="serialization") for name, form in forms.items()}
        print(json.dumps(told, indent=1))
        return
    of_result = RunResult.model_json_schema(mode="serialization") if result else None
    print(json.dumps(of_result or (steps_schema() if steps else plan_schema()), indent=1))


@app.command("sheets")
def print_sheets(
    plan_file: PlanFile,
    sheet: Annotated[
        str | None, typer.Option("--sheet", metavar="NAME", help="One sheet, such as change-over/LEAD.")
    ] = None,
    as_json: AsJson = False,
    pdf: Annotated[Path | None, typer.Option("--pdf", metavar="FILE", help="Write them as PDF.")] = None,
    pocket: Annotated[
        Path | None,
        typer.Option("--pocket", metavar="FILE.html", help="Write one page that needs no server."),
    ] = None,
) -> None:
    """Print the sheets of a plan, step by step. Exit code 1: a finding holds one back, 2: bad input."""
    plan = plan_from(plan_file)
    found = sheets_of(plan, findings_of(plan))
    if sheet is not None and sheet not in [item.key for item in found]:
        names = ", ".join(item.key for item in found) or "none: nothing feeds anything in this plan"
        refuse(f"--sheet: got {sheet}; should be one of {names}", [])
    wanted = [item for item in found if sheet in (None, item.key)]
    plan_id = free_id(plan.name, ())
    if pdf is not None:
        edition = Edition(made=datetime.now().astimezone().date())
        written(pdf, sheets_pdf(plan, wanted, edition))
    if pocket is not None:
        written(pocket, pocket_html(plan, plan_id, 0, wanted).encode())
    if as_json:
        print(json.dumps([item.model_dump(mode="json") for item in wanted], indent=1))
    elif pdf is None and pocket is None:
        for item in wanted:
            say(*told(item))
    raise SystemExit(1 if any(item.held_by for item in wanted) else 0)


@app.command("print")
def print_paper(
    plan_file: PlanFile,
    what: Annotated[str, typer.Argument(metavar="WHAT", help="bundle, one-line or signs.")],
    file: Annotated[
        Path, typer.Argument(metavar="FILE", help="A PDF; one-line writes SVG where it ends so.")
    ],
) -> None:
    """Print a paper of a plan. Exit code 1: a stop forbids to energise, 2: bad input."""
    plan = plan_from(plan_file)
    edition = Edition(made=datetime.now().astimezone().date())
    run = run_outage(plan)
    findings = findings_of(plan, facts=Facts(plan, run))
    if what == "bundle":
        sheets = sheets_of(plan, findings, run)
        content = bundle_pdf(plan, run, findings, sheets, edition)
    elif what == "one-line" and file.suffix == ".svg":
        content = one_line_svg(one_line(plan), plan.name, edition).encode()
    elif what == "one-line":
        content = one_line_pdf(plan, edition)
    elif what == "signs":
        content = signs_pdf(plan, edition)
    else:
        refuse(f"WHAT: got {what}; should be bundle, one-line or signs", [])
    written(file, content)
    stops = [finding for finding in findings if finding.level == "stop" and not finding.answered]
    for finding in stops:
        say(f"STOP, do not energise: {finding.title}: {finding.element.name}", to=sys.stderr)
    raise SystemExit(1 if stops else 0)


@app.command("replay")
def replay_steps(
    plan_file: PlanFile,
    steps_file: Annotated[Path, typer.Argument(metavar="STEPS.json", help="An order of acts.")],
    as_json: AsJson = False,
) -> None:
    """Judge an order of acts at the panel. Exit code 0: safe, 1: the first act that is not, 2: bad input."""
    plan, steps = plan_from(plan_file), read_steps(text_of(steps_file, "a steps file"))
    found = replay(plan, steps.acts, steps.begins, states=as_json)
    if as_json:
        print(found.model_dump_json(indent=1, ensure_ascii=True))
    elif found.safe:
        say(f"Safe: {found.done} acts, none of them impossible or unsafe")
    else:
        say(f"Act {found.step}, {found.act}: {found.kind}. {found.why}")
    for finding in findings_of(plan):
        if finding.level == "stop" and not finding.answered:
            say(f"STOP, do not energise: {finding.title}: {finding.element.name}", to=sys.stderr)
    raise SystemExit(0 if found.safe else 1)


@app.command()
def openapi() -> None:
    """Print the OpenAPI description of the server."""
    from weary_cedar.api.app import describe

    print(json.dumps(describe(), indent=1, sort_keys=True))


@app.command("do", epilog="Commands: " + "; ".join(USAGES))
def do_command(
    plan_file: PlanFile,
    words: Annotated[list[str], typer.Argument(metavar="COMMAND …", help="Such as: remove loads/fridge.")],
    out: Annotated[Path | None, typer.Option("--out", metavar="FILE", help="Where the plan goes.")] = None,
    as_json: AsJson = False,
) -> None:
    """Do something to a plan and print the plan after it. With --json: what changed, patch and plan."""
    plan = plan_from(plan_file)
    print_changed(plan, do(plan, typed(words)), out, as_json=as_json)
