"""The sheets of a plan on paper: a box to tick, a line for each reading; legible in black and white."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from urllib.parse import quote

from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import (
    CAUTIONS,
    Expected,
    Sheet,
    Step,
    folded,
    told_answer,
    told_reading,
    told_wait,
)
from weary_cedar.formats.faces import BOLD, PLAIN, SLANTED, fit, in_lines
from weary_cedar.formats.paper import MARGIN, Edition, Paper, document

SIZE, LINE, SMALL = 8.5, 10.5, 7.5
BOX = 9.0
#: Left of the words: number and box.
LEFT = MARGIN + 42.0
#: Of a line of a list: what share its name has.
NAMES = 0.28
BLANK = "________"


def sheets_pdf(plan: Plan, sheets: Sequence[Sheet], edition: Edition) -> bytes:
    """Sheets on paper, each begun on a page of its own.

    Args:
        plan: the plan that they are of.
        sheets: in the order in which they are printed; one that is held back says by what.
        edition: revision and day, and what the code on each sheet says.

    Returns:
        A PDF; letter paper for a split-phase house, else A4.
    """

    def draw(paper: Paper) -> None:
        for sheet in sheets:
            sheet_on(paper, sheet)

    return document(plan, f"{plan.name}: sheets", draw, edition)


def sheet_on(paper: Paper, sheet: Sheet) -> None:
    """One sheet on pages of its own."""
    edition = paper.edition
    if edition.code.startswith("http"):
        paper.edition = replace(edition, code=f"{edition.code}?sheet={quote(sheet.key, safe='')}")
    paper.page(sheet.title, code=True)
    paper.edition = edition
    _above(paper, sheet)
    for number, together in folded(sheet.steps):
        if len(together) > 1:
            _list(paper, number, together)
        else:
            _step(paper, number, together[0])
    for words in sheet.next:
        paper.words(f"Next: {words}")


def _above(paper: Paper, sheet: Sheet) -> None:
    """What is read before the first step."""
    for words in CAUTIONS:
        paper.words(words, size=SMALL)
    paper.gap(LINE / 2)
    for words in sheet.held_by:
        paper.words(f"HELD BACK, do not energise: {words}", font=BOLD)
    for label in sheet.stay_off:
        paper.words(f"STAYS OFF, there is no room for it: {label}", font=BOLD)
    if sheet.leave_off:
        paper.words(f"LEAVE OFF, marked so in the plan: {', '.join(sheet.leave_off)}", font=BOLD)
    for words in sheet.notes:
        paper.words(f"Note: {words}")
    if sheet.first:
        paper.words("FIRST: is it one of these? Then only that, and nothing after it.", font=BOLD)
    for first in sheet.first:
        paper.words(first.when, font=BOLD)
        for words in first.do:
            paper.words(f"– {words}")
        paper.gap(LINE / 2)


def _step(paper: Paper, number: int, step: Step) -> None:
    room = paper.width - MARGIN - LEFT
    lines = [(font, line) for font, words in _lines(step) for line in in_lines(words, font, SIZE, room)]
    paper.needs(len(lines) * LINE)
    _box(paper, number)
    for font, line in lines:
        paper.write(LEFT, paper.y, line, font, SIZE)
        paper.gap(LINE)
    paper.gap(LINE / 4)


def _box(paper: Paper, number: int) -> None:
    paper.write(MARGIN + 18, paper.y, str(number), BOLD, SIZE, "right")
    paper.canvas.rect(MARGIN + 26, paper.y - 2, BOX, BOX)


def _lines(step: Step) -> Iterator[tuple[str, str]]:
    yield BOLD, f"{step.action}, {step.where}{told_wait(step)}"
    yield PLAIN, f"See: {step.see}"
    readings = [f"{told_reading(reading)}; read: {BLANK}" for reading in step.readings]
    if readings:
        yield PLAIN, "   ".join(readings)
    for answer in step.answers:
        yield PLAIN, f"– {told_answer(answer)}"
    if not step.answers:
        yield SLANTED, f"If not: {step.if_not}"


def _short(reading: Expected) -> str:
    band = f"{reading.low:,.0f} to {reading.high:,.0f} {reading.unit}"
    return band if reading.usual is None else f"{band} ({reading.usual:,.0f})"


def _list(paper: Paper, number: int, steps: Sequence[Step]) -> None:
    """Steps that are done alike: what they share once, then a line with a box for each."""
    head, places = steps[0], [reading.where for reading in steps[0].readings]
    room = paper.width - MARGIN - LEFT
    usual = any(reading.usual is not None for step in steps for reading in step.readings)
    above = [
        (BOLD, f"{head.list_head}, {head.where}"),
        (PLAIN, f"See: {head.see}{'; in brackets what it is in the run' if usual else ''}"),
        (SLANTED, f"If not: {head.if_not}"),
    ]
    lines = [(font, line) for font, words in above for line in in_lines(words, font, SIZE, room)]
    paper.needs((len(lines) + 3) * LINE)
    for font, line in lines:
        paper.write(LEFT, paper.y, line, font, SIZE)
        paper.gap(LINE)
    column = room * (1 - NAMES) / max(1, len(places))
    for at, place in enumerate(places):
        x = LEFT + room * NAMES + at * column
        paper.write(x, paper.y, fit(place, PLAIN, SMALL, column - 4), PLAIN, SMALL)
    paper.gap(LINE if places else 0.0)
    for at, step in enumerate(steps):
        paper.needs(LINE)
        _box(paper, number + at)
        name = f"{step.line}{told_wait(step)}"
        paper.write(LEFT, paper.y, fit(name, PLAIN, SIZE, room * (NAMES if places else 1.0) - 4), PLAIN, SIZE)
        for number_of, reading in enumerate(step.readings):
            words = fit(f"{_short(reading)} ______", PLAIN, SMALL, column - 4)
            paper.write(LEFT + room * NAMES + number_of * column, paper.y, words, PLAIN, SMALL)
        paper.gap(LINE)
    paper.gap(LINE / 4)
