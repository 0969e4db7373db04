"""The same work without a browser."""

import json
import os
import signal
import sys
import tempfile
import traceback
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from functools import partial
from pathlib import Path
from time import monotonic
from typing import Annotated, Literal, TextIO

import typer
from pydantic import BaseModel

from weary_cedar.core.advice.may_start import MayStart, asked_of, may_start
from weary_cedar.core.advice.suggest import Suggestions, suggest
from weary_cedar.core.advice.why import Why, why
from weary_cedar.core.checks import Finding, findings_of, stops_of
from weary_cedar.core.checks.editions import clauses, code_words
from weary_cedar.core.checks.explained import catalogue_page, explained, in_words
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import four_figures, told_figure
from weary_cedar.core.decide.chance import MOST_OUTAGES, Chance, Varying, chance_of, not_worked_out
from weary_cedar.core.decide.chance.drawn import LONGEST_S, SHORTEST_S
from weary_cedar.core.decide.how_sure import judged
from weary_cedar.core.errors import Problem, TookTooLong, WearyCedarError
from weary_cedar.core.handles.arrangements import arrangements
from weary_cedar.core.handles.dangers import Looked
from weary_cedar.core.network import network_of
from weary_cedar.core.one_line import one_line
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Plan, plan_schema, read_plan
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
from weary_cedar.formats.quantity import read_quantity
from weary_cedar.formats.series_csv import write_series
from weary_cedar.formats.sheets_pdf import sheets_pdf
from weary_cedar.formats.sign_pdf import signs_pdf
from weary_cedar.formats.sum_figures import read_figures
from weary_cedar.formats.terminal import for_terminal

LASTS, DOES_NOT_LAST, BAD_INPUT, CRASH = 0, 1, 2, 70
#: As a program that is ended by a closed pipe: 128 + SIGPIPE.
NOBODY_READS = 141
#: Longest that a command works on a plan, s.
MOST_S = 120.0

MeterUnit = Literal["W", "kW", "kWh"]

app = typer.Typer(
    name="weary-cedar",
    help="Plan how portable power stations carry a house through an outage.",
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
)


def main() -> None:
    """Run the command line; problems with input go to standard error with exit code 2, a crash is 70."""
    try:
        with _deadline(MOST_S), _reader():
            app()
    except WearyCedarError as error:
        _refuse(error.detail, [str(problem) for problem in error.problems])
    except Exception as error:
        _crash(error)


@contextmanager
def _reader() -> Iterator[None]:
    """End at once where nobody reads the output any more."""

    def gone(_sign: int, _frame: object) -> None:
        os._exit(NOBODY_READS)

    before = signal.signal(signal.SIGPIPE, gone)
    try:
        yield
    finally:
        sys.stdout.flush()
        signal.signal(signal.SIGPIPE, before)


@contextmanager
def _deadline(seconds: float) -> Iterator[None]:
    """Stop what takes longer, in words. A server has deadlines of its own."""

    def late(_sign: int, _frame: object) -> None:
        problem = Problem("/outage/length_s", "this plan", "a shorter outage or fewer loads")
        raise TookTooLong(f"It was stopped after {seconds:.0f} s, unfinished.", (problem,))

    before = signal.signal(signal.SIGALRM, late)
    signal.setitimer(signal.ITIMER_REAL, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(signal.SIGALRM, before)


def _crash(error: Exception) -> None:
    """One line on standard error; the rest in a file."""
    with tempfile.NamedTemporaryFile(
        "w", prefix="weary-cedar-", suffix=".log", delete=False, encoding="utf-8"
    ) as file:
        file.write("".join(traceback.format_exception(error)))
    words = f"{type(error).__name__}: {error}".replace("\n", " ")[:160]
    _say(f"A fault of this program ({words}); the log is {file.name}", to=sys.stderr)
    raise SystemExit(CRASH)


def _say(*lines: str, to: TextIO | None = None) -> None:
    """Print lines for a terminal: names never steer it, nor begin lines of their own."""
    for line in lines:
        print(for_terminal(line), file=to or sys.stdout)


def _refuse(detail: str, lines: list[str]) -> None:
    _say(detail, to=sys.stderr)
    for line in lines:
        if line not in detail:
            _say(f"  {line}", to=sys.stderr)
    raise SystemExit(BAD_INPUT)


def _plan_from(file: Path) -> Plan:
    return read_plan(_text_of(file, "a plan file"))


def _text_of(file: Path, what: str) -> bytes:
    try:
        return sys.stdin.buffer.read() if str(file) == "-" else file.read_bytes()
    except OSError as error:
        _refuse(f"{file}: {error.strerror}; give {what} that can be read", [])
        raise


@app.command()
def run(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    as_json: Annotated[bool, typer.Option("--json", help="Print the whole result as JSON.")] = False,
    csv_dir: Annotated[
        Path | None, typer.Option("--csv", metavar="DIR", help="Write the series as CSV.")
    ] = None,
) -> None:
    """Run a plan's outage. Exit code 0: it lasts, 1: it does not, 2: bad input or nothing to judge."""
    plan = _plan_from(plan_file)
    result = judged(plan)
    if csv_dir is not None:
        try:
            write_series(result, csv_dir)
        except OSError as error:
            _refuse(f"{csv_dir}: {error.strerror}; give a folder that can be written", [])
    if as_json:
        print(result.model_dump_json(indent=1, ensure_ascii=True))
    else:
        _say(*_in_words(result))
    for finding in findings_of(plan, result):
        if finding.level == "stop":
            _say(f"STOP, do not energise: {finding.title}: {finding.element.name}", to=sys.stderr)
    if result.verdict.status == "cannot_judge":
        _refuse(f"{result.verdict.headline}: {result.verdict.sentence}", [])
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
    as_json: Annotated[bool, typer.Option("--json", help="Print the findings as JSON.")] = False,
    explain: Annotated[
        str | None, typer.Option(metavar="ID", help="Say what a check looks for instead; `all` for a page.")
    ] = None,
) -> None:
    """Check a plan: what must not be allowed. Exit code 0: no stop, 1: a stop, 2: bad input."""
    if explain is not None:
        _say(*(catalogue_page().splitlines() if explain == "all" else in_words(explained(explain))))
        return
    if plan_file is None:
        raise typer.BadParameter("a plan file, - for standard input, or --explain with the id of a check")
    plan = _plan_from(plan_file)
    found = findings_of(plan)
    if as_json:
        print(json.dumps([finding.model_dump(mode="json") for finding in found], indent=1))
    else:
        _say(*([line for finding in found for line in _finding_in_words(finding)] or ["Nothing found"]))
        _say(*_looked_in_words(arrangements(network_of(plan))))
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
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    as_json: Annotated[bool, typer.Option("--json", help="As JSON, acts as `replay` reads them.")] = False,
) -> None:
    """Look at every arrangement of handles. Exit code 0: nothing meets, 1: something can, or not known."""
    looked = arrangements(network_of(_plan_from(plan_file)))
    if as_json:
        print(looked.model_dump_json(indent=1))
    else:
        _say(*_looked_in_words(looked))
    raise SystemExit(0 if looked.sound else 1)


def _looked_in_words(looked: Looked) -> list[str]:
    return [looked.words] + [
        f"    {danger.why}; the shortest way: {danger.words}" for danger in looked.dangers
    ]


@app.command("start")
def do_start(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    at: Annotated[str, typer.Option("--at", help="The moment after the cut, such as 36 h.")],
    load_id: Annotated[str | None, typer.Option("--load", help="A load of the plan, by its id.")] = None,
    power: Annotated[str | None, typer.Option("--watts", help="Of another one, such as 1100 W.")] = None,
    starting: Annotated[str | None, typer.Option("--start", help="What that takes to start, in VA.")] = None,
    lasts: Annotated[str | None, typer.Option("--for", help="How long it runs, such as 10 min.")] = None,
    circuit_id: Annotated[str | None, typer.Option("--circuit", help="Where that is plugged in.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="The answer as JSON.")] = False,
) -> None:
    """May it be started at a moment of the outage? Exit code 0: yes as it is, 1: not so, 2: bad input."""
    plan = _plan_from(plan_file)
    run = run_outage(plan)

    def read(text: str | None, field: str, *kinds: str) -> float | None:
        return None if text is None else read_quantity(text, field, *kinds).value

    asked = asked_of(
        plan,
        load_id=load_id,
        watts=read(power, "--watts", "power"),
        start_va=read(starting, "--start", "apparent"),
        lasts_s=read(lasts, "--for", "time"),
        circuit_id=circuit_id,
    )
    stops = stops_of(findings_of(plan, run))
    answer = may_start(plan, run, read(at, "--at", "time") or 0.0, asked, stops)
    if as_json:
        print(answer.model_dump_json(indent=1))
    else:
        _say(answer.sentence)
    raise SystemExit(0 if answer.answer == "yes" else 1)


@app.command("chance")
def do_chance(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    outages: Annotated[
        int, typer.Option("--outages", min=1, max=MOST_OUTAGES, help="At most so many; fewer where enough.")
    ] = 200,
    seed: Annotated[int, typer.Option("--seed", min=0, max=1_000_000_000, help="Of the dice.")] = 1,
    any_hour: Annotated[bool, typer.Option("--any-hour", help="It may begin at any hour.")] = False,
    one_in_ten: Annotated[
        str | None, typer.Option("--one-in-ten", help="One outage in ten lasts so long, such as 7 d.")
    ] = None,
    no_start: Annotated[
        float, typer.Option("--no-start", min=0, max=1, help="How often an engine does not come on.")
    ] = 0.02,
    forgets: Annotated[
        float, typer.Option("--forgets", min=0, max=1, help="How often someone forgets, or comes late.")
    ] = 0.05,
    wanted: Annotated[
        float, typer.Option("--wanted", min=0, max=1, help="The chance below which the exit code is 1.")
    ] = 0.9,
    as_json: Annotated[bool, typer.Option("--json", help="The answer as JSON.")] = False,
) -> None:
    """How likely is it that the plan lasts? Exit code 0: as likely as wanted, 1: less so, 2: bad input."""
    plan = _plan_from(plan_file)
    longest_s = None if one_in_ten is None else read_quantity(one_in_ten, "--one-in-ten", "time").value
    if longest_s is not None and not SHORTEST_S <= longest_s <= LONGEST_S:
        _refuse(f"--one-in-ten: got {one_in_ten}; should be from 1 h to 14 d", [])
    begins: Literal["any_hour", "as_said"] = "any_hour" if any_hour else "as_said"
    varying = Varying(seed=seed, no_start=no_start, forgets=forgets, begins=begins, one_in_ten_s=longest_s)
    stops = stops_of(findings_of(plan))
    why = f"this must not be energised: {stops[0]}" if stops else ""
    begun = monotonic()
    late = partial(_is_late, begun)
    found = not_worked_out(why) if stops else chance_of(plan, outages, varying, late)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        _say(*_chance_in_words(found))
    raise SystemExit(0 if found.outages and found.share >= wanted else 1)


def _is_late(begun: float) -> bool:
    """Whether half of the time that a command has is over: what was found by then is told."""
    return monotonic() - begun > MOST_S / 2


def _chance_in_words(found: Chance) -> list[str]:
    lines = [found.sentence[0].upper() + found.sentence[1:]]
    if found.outages:
        lines.append(f"{found.lasted} of {found.outages} outages that were run")
    lines += [*found.notes, *(f"    {100 * item.share:.0f} %: {item.words}" for item in found.first_failures)]
    lines += [f"What it hangs on: {item.words}, {100 * item.share:.0f} %" for item in found.doubts]
    if found.next:
        lines.append(f"Next: {found.next}")
    return lines


@app.command("why")
def do_why(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Where did the energy go until it failed? Exit code 0: it lasts, 1: it does not, 2: bad input."""
    plan = _plan_from(plan_file)
    run = run_outage(plan)
    found = why(plan, run)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        _say(found.sentence)
        rows = (
            ("Stored and got", found.came),
            ("Went", found.went),
            ("Offered and not taken", found.not_taken),
        )
        for name, bars in rows:
            _say(*([f"{name}:", *(f"    {bar.wh:10,.0f} Wh  {bar.words}" for bar in bars)] if bars else []))
    raise SystemExit(0 if run.verdict.status == "lasts" else 1)


@app.command("suggest")
def do_suggest(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    gear: Annotated[bool, typer.Option("--gear", help="With what is not owned yet, too.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON, each change as a merge patch.")] = False,
) -> None:
    """What would make it last? Exit code 0: it lasts, or something is enough, 1: nothing is, 2: bad input."""
    found = suggest(_plan_from(plan_file), gear=gear)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        _say(found.sentence)
        for item in (*found.singles, *found.with_gear):
            _say(f"    {item.words}: {item.outcome}")
        if found.together is not None:
            _say("Together:", *(f"    {words}" for words in found.together.words), found.together.verdict)
    enough = found.lasts or found.together is not None
    raise SystemExit(0 if enough or any(item.lasts for item in (*found.singles, *found.with_gear)) else 1)


@app.command("clauses")
def do_clauses(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """List what is cited from memory, in the edition of the plan's code: for a person with the book."""
    plan = _plan_from(plan_file)
    found = clauses(plan.site)
    if as_json:
        print(json.dumps([clause.model_dump(mode="json") for clause in found], indent=1))
        return
    _say(f"{len(found)} clauses; the house goes by {code_words(plan.site)}")
    _say(*(line for clause in found for line in clause.lines))


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
    known = filled(_plan_from(plan_file), name, about) if plan_file else {}
    for item in work_out(name, {**known, **read_figures(name, pairs)}):
        _say(f"{item.label}: {four_figures(item.value)} {item.unit}".rstrip())
    if SUMS[name].basis:
        _say(SUMS[name].basis)


@app.command()
def schema(
    result: Annotated[bool, typer.Option("--result", help="Of what `run --json` prints instead.")] = False,
    steps: Annotated[bool, typer.Option("--steps", help="Of what `replay` reads instead.")] = False,
    decisions: Annotated[
        bool, typer.Option("--decisions", help="Of what `start`, `chance` and `suggest` print instead.")
    ] = False,
) -> None:
    """Print the JSON Schema of a plan file."""
    if decisions:
        forms: dict[str, type[BaseModel]] = {
            "start": MayStart,
            "chance": Chance,
            "suggest": Suggestions,
            "why": Why,
        }
        told = {name: form.model_json_schema(mode="serialization") for name, form in forms.items()}
        print(json.dumps(told, indent=1))
        return
    of_result = RunResult.model_json_schema(mode="serialization") if result else None
    print(json.dumps(of_result or (steps_schema() if steps else plan_schema()), indent=1))


@app.command("sheets")
def print_sheets(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    sheet: Annotated[
        str | None, typer.Option("--sheet", metavar="NAME", help="One sheet, such as change-over/LEAD.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print the sheets as JSON.")] = False,
    pdf: Annotated[Path | None, typer.Option("--pdf", metavar="FILE", help="Write them as PDF.")] = None,
    pocket: Annotated[
        Path | None,
        typer.Option("--pocket", metavar="FILE.html", help="Write one page that needs no server."),
    ] = None,
) -> None:
    """Print the sheets of a plan, step by step. Exit code 1: a finding holds one back, 2: bad input."""
    plan = _plan_from(plan_file)
    found = sheets_of(plan, findings_of(plan))
    if sheet is not None and sheet not in [item.key for item in found]:
        names = ", ".join(item.key for item in found) or "none: nothing feeds anything in this plan"
        _refuse(f"--sheet: got {sheet}; should be one of {names}", [])
    wanted = [item for item in found if sheet in (None, item.key)]
    plan_id = free_id(plan.name, ())
    if pdf is not None:
        edition = Edition(made=datetime.now().astimezone().date())
        _written(pdf, sheets_pdf(plan, wanted, edition))
    if pocket is not None:
        _written(pocket, pocket_html(plan, plan_id, 0, wanted).encode())
    if as_json:
        print(json.dumps([item.model_dump(mode="json") for item in wanted], indent=1))
    elif pdf is None and pocket is None:
        for item in wanted:
            _say(*told(item))
    raise SystemExit(1 if any(item.held_by for item in wanted) else 0)


def _written(file: Path, content: bytes) -> None:
    try:
        file.write_bytes(content)
    except OSError as error:
        _refuse(f"{file}: {error.strerror}; give a file that can be written", [])


@app.command("print")
def print_paper(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    what: Annotated[str, typer.Argument(metavar="WHAT", help="bundle, one-line or signs.")],
    file: Annotated[
        Path, typer.Argument(metavar="FILE", help="A PDF; one-line writes SVG where it ends so.")
    ],
) -> None:
    """Print a paper of a plan. Exit code 1: a stop forbids to energise, 2: bad input."""
    plan = _plan_from(plan_file)
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
        _refuse(f"WHAT: got {what}; should be bundle, one-line or signs", [])
    _written(file, content)
    stops = [finding for finding in findings if finding.level == "stop" and not finding.answered]
    for finding in stops:
        _say(f"STOP, do not energise: {finding.title}: {finding.element.name}", to=sys.stderr)
    raise SystemExit(1 if stops else 0)


@app.command("replay")
def replay_steps(
    plan_file: Annotated[
        Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")
    ],
    steps_file: Annotated[Path, typer.Argument(metavar="STEPS.json", help="An order of acts.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print the answer as JSON.")] = False,
) -> None:
    """Judge an order of acts at the panel. Exit code 0: safe, 1: the first act that is not, 2: bad input."""
    plan, steps = _plan_from(plan_file), read_steps(_text_of(steps_file, "a steps file"))
    found = replay(plan, steps.acts, steps.begins, states=as_json)
    if as_json:
        print(found.model_dump_json(indent=1, ensure_ascii=True))
    elif found.safe:
        _say(f"Safe: {found.done} acts, none of them impossible or unsafe")
    else:
        _say(f"Act {found.step}, {found.act}: {found.kind}. {found.why}")
    for finding in findings_of(plan):
        if finding.level == "stop" and not finding.answered:
            _say(f"STOP, do not energise: {finding.title}: {finding.element.name}", to=sys.stderr)
    raise SystemExit(0 if found.safe else 1)


@app.command()
def openapi() -> None:
    """Print the OpenAPI description of the server."""
    from weary_cedar.api.app import describe

    print(json.dumps(describe(), indent=1, sort_keys=True))


stand_ins = typer.Typer(help="Simulated devices.", no_args_is_help=True)
app.add_typer(stand_ins, name="stand-in")


@stand_ins.callback()
def _stand_in() -> None:
    """Simulated devices, to try everything without the real ones."""


@stand_ins.command()
def meter(
    appliance: Annotated[str, typer.Option(help="Which made-up appliance.")] = "refrigerator",
    days: Annotated[float, typer.Option(help="Length of the series, d.")] = 2.0,
    step_s: Annotated[float, typer.Option("--step", help="Time between samples, s.")] = 30.0,
    seed: Annotated[int, typer.Option(help="Same seed, same series.")] = 1,
    european: Annotated[bool, typer.Option(help="Semicolons, decimal commas, day first.")] = False,
    unit: Annotated[MeterUnit, typer.Option(help="Of power, or kWh: a counter.")] = "W",
) -> None:
    """Write the series of a simulated plug-in meter as CSV."""
    from weary_cedar.stand_ins.meter import meter_csv, meter_series

    series = meter_series(appliance, days, step_s, seed)
    print(meter_csv(series, datetime(2026, 10, 10, 8, 0, 0), european=european, unit=unit), end="")


@stand_ins.command()
def forecast(
    latitude: Annotated[float, typer.Option(help="Of the place, degrees.")] = 45.0,
    longitude: Annotated[float, typer.Option(help="Of the place, degrees.")] = -120.0,
    first: Annotated[datetime, typer.Option(formats=["%Y-%m-%d"], help="First day.")] = datetime(2026, 1, 10),
    days: Annotated[int, typer.Option(min=1, max=32, help="How many.")] = 4,
) -> None:
    """Write what the simulated forecast says as JSON: it is made up, the same for the same place and day."""
    from weary_cedar.stand_ins.forecast import forecast as made_up

    print(json.dumps(vars(made_up(latitude, longitude, first.date(), days))))


@app.command()
def serve(
    port: Annotated[
        int, typer.Option(min=0, max=65_535, help="Port on 127.0.0.1; 0 takes a free one.")
    ] = 8642,
    data: Annotated[Path, typer.Option(help="Folder of the database.")] = Path("data"),
    reset_demo: Annotated[
        bool, typer.Option("--reset-demo", help="Set the database aside and begin anew.")
    ] = False,
) -> None:
    """Serve the app on this machine."""
    from weary_cedar.api.lanes import Lanes

    signal.setitimer(signal.ITIMER_REAL, 0)
    signal.signal(signal.SIGPIPE, signal.SIG_IGN)
    lanes = Lanes()
    lanes.warm()
    try:
        from weary_cedar.api.serve import serve_forever

        serve_forever(port, data, reset_demo, lanes)
    finally:
        lanes.stop()
