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
from weary_cedar.core.log.forecast import OUTAGES, forecast
from weary_cedar.core.log.learn import learn
from weary_cedar.core.log.said import understood
from weary_cedar.core.log.session import Session, SessionRow, begun, read_session

SessionFile = Annotated[Path, typer.Argument(metavar="SESSION.json", help="A session file.")]
Now = Annotated[
    datetime | None, typer.Option("--now", formats=["%Y-%m-%dT%H:%M", "%Y-%m-%dT%H:%M:%S"],
                                  help="By the clock of the site.")
]  # fmt: skip


def _session_from(file: Path) -> Session:
    return read_session(text_of(file, "a session file"))


@app.command("log")
def do_log(
    plan_file: PlanFile,
    session_file: SessionFile,
    lines: Annotated[list[str], typer.Argument(metavar="LINE …", help='As people say it: "main 64".')],
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
    plan = plan_from(plan_file)
    if session_file.exists():
        session = _session_from(session_file)
    else:
        session = begun(plan, plan.name, begins or plan.outage.start_local, kind)
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


@app.command("forecast")
def do_forecast(
    plan_file: PlanFile,
    session_file: SessionFile,
    now: Now = None,
    outages: Annotated[int, typer.Option("--outages", min=1, max=300, help="Tried from here on.")] = OUTAGES,
    as_json: AsJson = False,
) -> None:
    """Until when does it last from here? Exit code 0: to the end, 1: not so long, 2: bad input."""
    found = forecast(plan_from(plan_file), _session_from(session_file), now, outages)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence, *filter(None, (found.night, found.display)), *found.alarms, *found.notes)
    raise SystemExit(0 if found.until is None and not found.why_not else 1)


@app.command("learn")
def do_learn(plan_file: PlanFile, session_file: SessionFile, as_json: AsJson = False) -> None:
    """What does a session teach? Exit code 0: something, 1: too little was read, 2: bad input."""
    found = learn(plan_from(plan_file), _session_from(session_file))
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
