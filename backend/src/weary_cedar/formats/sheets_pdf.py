"""The sheets of a plan on paper: a box to tick, a line for each reading; legible in black and white."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from urllib.parse import quote

from reportlab.lib.utils import simpleSplit

from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import CAUTIONS, Sheet, Step, told_reading, told_wait
from weary_cedar.formats.paper import BOLD, MARGIN, PLAIN, SLANTED, Edition, Paper, document

SIZE, LINE = 9.0, 12.0
BOX = 11.0
#: Left of the words: number and box.
INDENT = 46.0


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
    for words in CAUTIONS:
        paper.words(words, size=7.5)
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
    for number, step in enumerate(sheet.steps, 1):
        _step(paper, number, step)
    for words in sheet.next:
        paper.words(f"Next: {words}")


def _step(paper: Paper, number: int, step: Step) -> None:
    room = paper.width - 2 * MARGIN - INDENT
    lines = [(font, line) for font, words in _lines(step) for line in simpleSplit(words, font, SIZE, room)]
    paper.needs(len(lines) * LINE)
    canvas = paper.canvas
    canvas.setFont(BOLD, SIZE)
    canvas.drawRightString(MARGIN + 18, paper.y, str(number))
    canvas.rect(MARGIN + 26, paper.y - 2, BOX, BOX)
    for font, line in lines:
        canvas.setFont(font, SIZE)
        canvas.drawString(MARGIN + INDENT, paper.y, line)
        paper.gap(LINE)
    paper.gap(LINE / 3)


def _lines(step: Step) -> Iterator[tuple[str, str]]:
    yield BOLD, f"{step.action}, {step.where}{told_wait(step)}"
    yield PLAIN, f"See: {step.see}"
    for reading in step.readings:
        yield PLAIN, f"{told_reading(reading)}; read: ____________"
    yield SLANTED, f"If not: {step.if_not}"
