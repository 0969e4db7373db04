"""What every printed page of a plan has: its paper, head and foot, and words that stay within it."""

import io
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfgen.canvas import Canvas

from weary_cedar.core.plan import Plan
from weary_cedar.formats.faces import BOLD, PLAIN, Align, fit, in_lines, write
from weary_cedar.formats.qr import code_rows

MARGIN = 40.0
#: Where words end, above the foot of a page.
LOWEST = MARGIN + 16
#: Size of the words at the head of a page, pt.
HEAD = 15.0
#: Side of a code that a phone reads from a hand's breadth.
CODE = 64.0
NO_CODE = "No code: the app answers on its own machine only; for a phone take the pocket file along."
SAFETY = (
    "A planning aid, no approval. Local code and the instructions of panel, switch and source come first."
)


@dataclass(frozen=True)
class Edition:
    """Which state of a plan is printed: its revision, the day, and what its code says."""

    revision: int | None = None
    made: date | None = None
    #: Address that opens the page from another device; empty where there is none.
    code: str = ""

    @property
    def words(self) -> str:
        """Revision and day, as far as they are known."""
        revision = f"revision {self.revision}" if self.revision is not None else "a plan file"
        return revision if self.made is None else f"{revision}, printed {self.made:%Y-%m-%d}"


class Paper:
    """Pages that are filled from the top; a new one is begun where there is no room left."""

    def __init__(self, plan: Plan, canvas: Canvas, size: tuple[float, float], edition: Edition) -> None:
        self.plan, self.canvas, self.edition = plan, canvas, edition
        self.width, self.height = size
        self.title = ""
        self.number = 0
        self.y = 0.0

    @property
    def room(self) -> float:
        """Width between the margins."""
        return self.width - 2 * MARGIN

    def page(self, title: str, *, code: bool = False) -> None:
        """Begin a page; its head says what it is."""
        self.bare()
        self.title = title
        drawn = code and bool(self.edition.code)
        room = self.room - (CODE if drawn else 0.0)
        heads = in_lines(title, BOLD, HEAD, room)
        for number, line in enumerate(heads):
            self.write(MARGIN, self.height - MARGIN - HEAD * 1.15 * number, line, BOLD, HEAD)
        lower = self.height - MARGIN - HEAD * 1.15 * (len(heads) - 1)
        self.write(MARGIN, lower - 14, fit(self.plan.name, PLAIN, 9, room))
        below = lower - 22
        self.canvas.line(MARGIN, below, MARGIN + room, below)
        self.y = below - 18
        if drawn:
            self._code()
        elif code:
            self.write(MARGIN, self.y + 6, NO_CODE, size=7)
            self.y -= 12

    def bare(self) -> None:
        """Begin a page without a head."""
        if self.number > 0:
            self.canvas.showPage()
            self.canvas.setLineWidth(0.5)
        self.number += 1
        self.y = self.height - MARGIN
        self.write(MARGIN, MARGIN - 14, f"{self.edition.words}. {SAFETY}", size=7)
        self.write(self.width - MARGIN, MARGIN - 14, f"page {self.number}", size=7, align="right")

    def _code(self) -> None:
        rows = code_rows(self.edition.code)
        side = CODE / len(rows)
        left, top = self.width - MARGIN - CODE + 8, self.height - MARGIN + 22
        for row, modules in enumerate(rows):
            for column, dark in enumerate(modules):
                if dark:
                    self.canvas.rect(
                        left + column * side, top - (row + 1) * side, side, side, stroke=0, fill=1
                    )
        for line in in_lines(f"Code: {self.edition.code}", PLAIN, 7, self.room - CODE - 8):
            self.write(MARGIN, self.y + 6, line, size=7)
            self.y -= 9
        self.y -= 4

    def needs(self, height: float) -> None:
        """Go on on another page where less than that is left."""
        if self.y - height < LOWEST:
            self.page(f"{self.title.removesuffix(', continued')}, continued")

    def words(self, text: str, *, font: str = PLAIN, size: float = 9.0, left: float = MARGIN) -> None:
        """A text in as many lines as it takes."""
        for line in in_lines(text, font, size, self.width - MARGIN - left):
            self.needs(size + 3)
            self.write(left, self.y, line, font, size)
            self.y -= size + 3

    def write(
        self, x: float, y: float, text: str, font: str = PLAIN, size: float = 9.0, align: Align = "left"
    ) -> None:
        """A text at a point of the page."""
        write(self.canvas, x, y, text, font, size, align)

    def gap(self, height: float) -> None:
        """Leave some room."""
        self.y -= height

    def heading(self, text: str) -> None:
        """Words above a part of a page."""
        self.needs(40)
        self.gap(6)
        self.words(text, font=BOLD, size=11)


def document(plan: Plan, title: str, draw: Callable[[Paper], None], edition: Edition) -> bytes:
    """Pages that a function fills: letter paper for a split-phase house, else A4. Same given, same bytes."""
    out = io.BytesIO()
    size = LETTER if plan.site.split_phase else A4
    canvas = Canvas(out, pagesize=size, invariant=1)
    canvas.setTitle(title)
    canvas.setAuthor("Weary Cedar")
    canvas.setLineWidth(0.5)
    draw(Paper(plan, canvas, size, edition))
    canvas.save()
    return out.getvalue()
