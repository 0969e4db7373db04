"""What every printed page of a plan has: its paper, its head, and words that stay within it."""

import io
from collections.abc import Callable

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from weary_cedar.core.plan import Plan

MARGIN = 40.0


def document(plan: Plan, title: str, draw: Callable[[Canvas, float, float], None]) -> bytes:
    """Pages that a function draws: letter paper for a split-phase house, else A4. Same plan, same bytes."""
    out = io.BytesIO()
    width, height = LETTER if plan.site.split_phase else A4
    canvas = Canvas(out, pagesize=(width, height), invariant=1)
    canvas.setTitle(title)
    canvas.setAuthor("Weary Cedar")
    canvas.setLineWidth(0.5)
    draw(canvas, width, height)
    canvas.save()
    return out.getvalue()


def head(canvas: Canvas, width: float, height: float, title: str, plan: Plan) -> float:
    """Head of a page; where what comes under it begins."""
    canvas.setFont("Helvetica-Bold", 15)
    canvas.drawString(MARGIN, height - MARGIN, fit(title, "Helvetica-Bold", 15, width - 2 * MARGIN))
    canvas.setFont("Helvetica", 9)
    canvas.drawString(MARGIN, height - MARGIN - 14, fit(plan.name, "Helvetica", 9, width - 2 * MARGIN))
    canvas.line(MARGIN, height - MARGIN - 22, width - MARGIN, height - MARGIN - 22)
    return height - MARGIN - 40


def fit(text: str, font: str, size: float, room: float) -> str:
    """A text as much of which as has room."""
    if stringWidth(text, font, size) <= room:
        return text
    while text and stringWidth(text + "...", font, size) > room:
        text = text[:-1]
    return text.rstrip() + "..."
