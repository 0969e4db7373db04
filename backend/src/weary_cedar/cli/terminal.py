"""What every command shares: the program, how plans are read, how lines are printed, how it ends."""

import os
import signal
import sys
import tempfile
import traceback
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, Final, TextIO

import typer

from weary_cedar.core.errors import Problem, TookTooLong, WearyCedarError
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.formats.terminal import for_terminal

LASTS, DOES_NOT_LAST, BAD_INPUT, CRASH = 0, 1, 2, 70
#: As a program that is ended by a closed pipe: 128 + SIGPIPE.
NOBODY_READS = 141
#: Longest that a command works on a plan, s.
MOST_S: Final = 120.0

PlanFile = Annotated[Path, typer.Argument(metavar="PLAN.json", help="A plan file, or - for standard input.")]
AsJson = Annotated[bool, typer.Option("--json", help="The answer as JSON.")]

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
        with deadline(MOST_S), reader():
            app()
    except WearyCedarError as error:
        refuse(error.detail, [str(problem) for problem in error.problems])
    except Exception as error:
        crash(error)


@contextmanager
def reader() -> Iterator[None]:
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
def deadline(seconds: float) -> Iterator[None]:
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


def crash(error: Exception) -> None:
    """One line on standard error; the rest in a file."""
    with tempfile.NamedTemporaryFile(
        "w", prefix="weary-cedar-", suffix=".log", delete=False, encoding="utf-8"
    ) as file:
        file.write("".join(traceback.format_exception(error)))
    words = f"{type(error).__name__}: {error}".replace("\n", " ")[:160]
    say(f"A fault of this program ({words}); the log is {file.name}", to=sys.stderr)
    raise SystemExit(CRASH)


def say(*lines: str, to: TextIO | None = None) -> None:
    """Print lines for a terminal: names never steer it, nor begin lines of their own."""
    for line in lines:
        print(for_terminal(line), file=to or sys.stdout)


def refuse(detail: str, lines: list[str]) -> None:
    """End with what is wrong on standard error, and the exit code of bad input."""
    say(detail, to=sys.stderr)
    for line in lines:
        if line not in detail:
            say(f"  {line}", to=sys.stderr)
    raise SystemExit(BAD_INPUT)


def plan_from(file: Path) -> Plan:
    """The plan of a file."""
    return read_plan(text_of(file, "a plan file"))


def text_of(file: Path, what: str) -> bytes:
    """What a file holds, or standard input; a file that cannot be read is refused by name."""
    try:
        return sys.stdin.buffer.read() if str(file) == "-" else file.read_bytes()
    except OSError as error:
        refuse(f"{file}: {error.strerror}; give {what} that can be read", [])
        raise


def written(file: Path, content: bytes) -> None:
    """Write a file; one that cannot be written is refused by name."""
    try:
        file.write_bytes(content)
    except OSError as error:
        refuse(f"{file}: {error.strerror}; give a file that can be written", [])
