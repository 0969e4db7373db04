"""The sheets of a plan on paper: a box to tick, a line for each reading; legible in black and white."""

from collections.abc import Iterator, Sequence

from reportlab.lib.utils import simpleSplit
from reportlab.pdfgen.canvas import Canvas

from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import CAUTIONS, Sheet, Step, told_reading, told_wait
from weary_cedar.formats.paper import MARGIN, document, head

SIZE, LINE = 9.0, 12.0
BOX = 11.0
#: Left of the words: number and box.
INDENT = 46.0

Line = tuple[str, float, str]


def sheets_pdf(plan: Plan, sheets: Sequence[Sheet]) -> bytes:
    """Sheets on paper, each begun on a page of its own. Same plan, same bytes.

    Args:
        plan: the plan that they are of.
        sheets: in the order in which they are printed; one that is held back says by what.

    Returns:
        A PDF; letter paper for a split-phase house, else A4.
    """

    def draw(canvas: Canvas, width: float, height: float) -> None:
        for number, sheet in enumerate(sheets):
            if number > 0:
                canvas.showPage()
            _Page(canvas, plan, width, height, sheet).draw()

    return document(plan, f"{plan.name}: sheets", draw)


class _Page:
    """One sheet over as many pages as it takes."""

    def __init__(self, canvas: Canvas, plan: Plan, width: float, height: float, sheet: Sheet) -> None:
        self.canvas, self.plan, self.sheet = canvas, plan, sheet
        self.width, self.height = width, height
        self.room = width - 2 * MARGIN
        self.y = head(canvas, width, height, sheet.title, plan)

    def draw(self) -> None:
        """Cautions, then every step."""
        for words in CAUTIONS:
            self._words(("Helvetica", 7.5, words), MARGIN)
        self.y -= LINE / 2
        for words in self.sheet.held_by:
            self._words(("Helvetica-Bold", SIZE, f"HELD BACK, do not energise: {words}"), MARGIN)
        for label in self.sheet.stay_off:
            self._words(("Helvetica-Bold", SIZE, f"STAYS OFF, there is no room for it: {label}"), MARGIN)
        for number, step in enumerate(self.sheet.steps, 1):
            self._step(number, step)

    def _step(self, number: int, step: Step) -> None:
        lines = [line for text in _lines(step) for line in self._split(text, MARGIN + INDENT)]
        if self.y - len(lines) * LINE < MARGIN:
            self._next_page()
        self.canvas.setFont("Helvetica-Bold", SIZE)
        self.canvas.drawRightString(MARGIN + 18, self.y, str(number))
        self.canvas.rect(MARGIN + 26, self.y - 2, BOX, BOX)
        for font, size, words in lines:
            self.canvas.setFont(font, size)
            self.canvas.drawString(MARGIN + INDENT, self.y, words)
            self.y -= LINE
        self.y -= LINE / 3

    def _words(self, text: Line, left: float) -> None:
        for font, size, words in self._split(text, left):
            if self.y < MARGIN + LINE:
                self._next_page()
            self.canvas.setFont(font, size)
            self.canvas.drawString(left, self.y, words)
            self.y -= size + 3

    def _split(self, text: Line, left: float) -> list[Line]:
        font, size, words = text
        return [(font, size, line) for line in simpleSplit(words, font, size, self.width - MARGIN - left)]

    def _next_page(self) -> None:
        self.canvas.showPage()
        self.y = head(self.canvas, self.width, self.height, f"{self.sheet.title}, continued", self.plan)


def _lines(step: Step) -> Iterator[Line]:
    yield "Helvetica-Bold", SIZE, f"{step.action}, {step.where}{told_wait(step)}"
    yield "Helvetica", SIZE, f"See: {step.see}"
    for reading in step.readings:
        yield "Helvetica", SIZE, f"{told_reading(reading)}        read: ____________"
    yield "Helvetica-Oblique", SIZE, f"If not: {step.if_not}"
