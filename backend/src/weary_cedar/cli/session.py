"""Commands about a session: a line of the log, the forecast, what it teaches."""

import json
import sys
from datetime import datetime
from pathlib import Path
from typing import Annotated, Literal
from uuid import uuid4
from zoneinfo import ZoneInfo

import typer

from weary_cedar.cli.terminal import AsJson, PlanFile, app, plan_from, refuse, say, text_of, written
from weary_cedar.core.log.afterwards import afterwards
from weary_cedar.core.log.forecast import OUTAGES, forecast
from weary_cedar.core.log.learn import learn
from weary_cedar.core.log.meters import meter_books
from weary_cedar.core.log.present import present
from weary_cedar.core.log.said import understood
from weary_cedar.core.log.session import Session, SessionRow, begun, read_session
from weary_cedar.core.plan import Plan, read_plan

SessionFile = Annotated[Path, typer.Argument(metavar="SESSION.json", help="A session file.")]
MOMENTS = ["%Y-%m-%dT%H:%M", "%Y-%m-%dT%H:%M:%S"]
Now = Annotated[
    datetime | None, typer.Option("--now", formats=MOMENTS,
                                  help="By the clock of the site.")
]  # fmt: skip


SessionOption = Annotated[
    Path | None, typer.Option("--session", metavar="SESSION.json", help="From its last row on, as it stands.")
]


def standing(plan_file: Path, session_file: Path | None, now: datetime | None) -> tuple[Plan, float]:
    """A plan, or the rest of its outage as it stands in a session; and when now is in it, s."""
    plan = plan_from(plan_file)
    if session_file is None:
        return plan, 0.0
    found = present(plan, session_from(session_file), now)
    return found.plan, found.now_s


def session_from(file: Path) -> Session:
    """A session out of a file."""
    return read_session(text_of(file, "a session file"))


@app.command("log")
def do_log(
    files_and_lines: Annotated[
        list[str],
        typer.Argument(
            metavar="[PLAN.json] SESSION.json LINE …",
            help='The plan may be left out once the session has it; lines as people say them: "main 64".',
        ),
    ],
    now: Now = None,
    begins: Annotated[
        datetime | None,
        typer.Option("--begins", formats=["%Y-%m-%dT%H:%M"], help="Of a new session; else that of the plan."),
    ] = None,
    kind: Annotated[Literal["outage", "test"], typer.Option("--kind", help="Of a new session.")] = "outage",
    corrects: Annotated[
        str, typer.Option("--corrects", metavar="ID", help="The row that it stands for.")
    ] = "",
    dry: Annotated[bool, typer.Option("--dry", help="Only say what is understood.")] = False,
    as_json: AsJson = False,
) -> None:
    """Add lines to a session. Exit code 0: all is understood, 1: something is asked, nothing added."""
    plan, session_file, session, lines = _plan_and_session(files_and_lines, begins, kind)
    clock = now or datetime.now(ZoneInfo(plan.site.time_zone)).replace(tzinfo=None, microsecond=0)
    if corrects and corrects not in {row.id for row in session.rows}:
        refuse(f"--corrects: got {corrects}; should be the id of a row of this session", [])
    found = [(line, understood(plan, line, clock)) for line in lines]
    rows = [
        SessionRow(
            id=uuid4().hex[:12], at=said.at, entered=clock, text=line, corrects=corrects, **row.model_dump()
        )
        for line, said in found
        for row in said.rows
    ]
    questions = [question for _, said in found for question in said.questions]
    if not questions and not dry:
        text = session.with_rows(rows).model_dump_json(indent=1)
        written(session_file, (text + "\n").encode())
    if as_json:
        told = {"rows": [row.model_dump(mode="json") for row in rows], "questions": questions}
        print(json.dumps(told, indent=1))
    else:
        say(*(f"{row.at:%a %H:%M}  {row.told}" for row in rows))
    say(*questions, to=sys.stderr)
    raise SystemExit(1 if questions else 0)


def _plan_and_session(
    given: list[str], begins: datetime | None, kind: Literal["outage", "test"]
) -> tuple[Plan, Path, Session, list[str]]:
    """The plan, the file and the session that lines are for, and the lines.

    A session that exists and holds its plan needs no plan file before it.
    """
    first, rest = Path(given[0]), given[1:]
    content = text_of(first, "a plan file, or a session file that has its plan")
    if b'"session_version"' in content:
        session = read_session(content)
        if session.plan is None:
            refuse(f"{first}: it has no plan of its own; give PLAN.json before it", [])
        return read_plan(json.dumps(session.plan)), first, session, _lines(rest)
    if not rest:
        refuse("SESSION.json: got nothing; give the session file after the plan", [])
    plan, file = read_plan(content), Path(rest[0])
    if file.exists():
        return plan, file, session_from(file), _lines(rest[1:])
    session = begun(plan, plan.name, begins or plan.outage.start_local, kind)
    document = plan.model_dump(mode="json", exclude_unset=True)
    return plan, file, session.model_copy(update={"plan": document}), _lines(rest[1:])


def _lines(given: list[str]) -> list[str]:
    if not given:
        refuse('LINE: got nothing; give what is read or was done, such as "main 64"', [])
    return given


@app.command("forecast")
def do_forecast(
    plan_file: PlanFile,
    session_file: SessionFile,
    now: Now = None,
    outages: Annotated[int, typer.Option("--outages", min=1, max=300, help="Tried from here on.")] = OUTAGES,
    as_json: AsJson = False,
) -> None:
    """Until when does it last from here? Exit code 0: to the end, 1: not so long, 2: bad input."""
    found = forecast(plan_from(plan_file), session_from(session_file), now, outages)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence, *filter(None, (found.night, found.display)), *found.alarms)
        say(*(f"{item.at:%a %H:%M}  {item.words}" for item in found.due))
        say(*(item.sentence for item in found.food), *found.notes)
    raise SystemExit(0 if found.until is None and not found.why_not else 1)


@app.command("learn")
def do_learn(plan_file: PlanFile, session_file: SessionFile, as_json: AsJson = False) -> None:
    """What does a session teach? Exit code 0: something, 1: too little was read, 2: bad input."""
    found = learn(plan_from(plan_file), session_from(session_file))
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence)
        for item in found.figures:
            sure = "" if item.learnt else " (hardly learnt)"
            say(f"    {item.words}: {item.before:,.4g} -> {item.after:,.4g} {item.unit}"
                f" ({item.low:,.4g} to {item.high:,.4g}){sure}")  # fmt: skip
        say(
            *(
                f"    does not fit: {item.told}, expected {item.expected:g}: {item.slip}"
                for item in found.misfits
            )
        )
        say(*([f"Next: {found.next}."] if found.next else []))
    raise SystemExit(1 if found.why_not else 0)


@app.command("meters")
def do_meters(
    plan_file: PlanFile,
    session_file: SessionFile,
    begins: Annotated[
        datetime | None, typer.Option("--from", formats=MOMENTS, help="Of the stretch.")
    ] = None,
    ends: Annotated[datetime | None, typer.Option("--to", formats=MOMENTS, help="Of the stretch.")] = None,
    as_json: AsJson = False,
) -> None:
    """Set meters against each other. Exit code 0: they agree, 1: not, or too few, 2: bad input."""
    found = meter_books(plan_from(plan_file), session_from(session_file), begins, ends)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence)
        for item in found.meters:
            say(f"    {item.words}: {item.read_wh:,.0f} Wh, {item.off_percent:+.1f} % of what fits all")
        say(*(f"    {item.words}: {item.lost_wh:,.0f} Wh lost, {item.expected_wh:,.0f} by the run"
              for item in found.sections))  # fmt: skip
    raise SystemExit(1 if found.why_not or found.wrong else 0)


@app.command("afterwards")
def do_afterwards(
    plan_file: PlanFile,
    session_file: SessionFile,
    pdf: Annotated[Path | None, typer.Option("--pdf", help="Write the report of two pages there.")] = None,
    as_json: AsJson = False,
) -> None:
    """What was foretold against what was. Exit code 0: told, 1: nothing to compare yet, 2: bad input."""
    plan, session = plan_from(plan_file), session_from(session_file)
    found = afterwards(plan, session)
    if pdf is not None:
        from weary_cedar.formats.paper import Edition
        from weary_cedar.formats.session_pdf import session_pdf

        written(pdf, session_pdf(plan, session, found, learn(plan, session), Edition(0, found.ends.date())))
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence)
        for item in (*found.figures, *found.loads):
            values = (item.planned, item.as_it_went, item.read)
            told = ", ".join("-" if value is None else f"{value:,.4g}" for value in values)
            say(f"    {item.words}: {told} {item.unit}")
        say(*found.surprises, *found.blind_spots, *(item.words for item in found.follows))
    raise SystemExit(1 if found.why_not else 0)


@app.command("rows")
def do_rows(
    session_file: SessionFile,
    read: Annotated[Path | None, typer.Option("--read", help="A CSV whose rows are added.")] = None,
) -> None:
    """The rows of a session as CSV; or those of a CSV into it. Exit code 0: done, 2: bad input."""
    from weary_cedar.formats.session_csv import read_rows, write_rows

    session = session_from(session_file)
    if read is None:
        print(write_rows(session), end="")
        return
    more = session.with_rows(read_rows(text_of(read, "a CSV of rows").decode("utf-8", "replace")))
    written(session_file, (more.model_dump_json(indent=1) + "\n").encode())
    say(f"{len(more.rows) - len(session.rows)} new rows")
