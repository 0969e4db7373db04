"""The sign at the inlet on paper."""

from weary_cedar.core.inlet_sign import InletSign, inlet_signs
from weary_cedar.core.plan import Plan
from weary_cedar.formats.faces import BOLD
from weary_cedar.formats.paper import MARGIN, Edition, Paper, document


def signs_pdf(plan: Plan, edition: Edition) -> bytes:
    """A sign for every inlet, each on a page of its own; one that must not be hung yet says why.

    Args:
        plan: the plan.
        edition: revision and day.

    Returns:
        A PDF; letter paper for a split-phase house, else A4.
    """

    def draw(paper: Paper) -> None:
        signs = inlet_signs(plan)
        for sign in signs:
            sign_on(paper, sign)
        if not signs:
            paper.page("Sign at the inlet")
            paper.words("This plan has no inlet: there is no sign to be hung.")

    return document(plan, f"{plan.name}: sign at the inlet", draw, edition)


def sign_on(paper: Paper, sign: InletSign) -> None:
    """One sign, large enough to be read at arm’s length."""
    paper.page(sign.title)
    if sign.missing:
        paper.words("NOT TO BE HUNG YET:", font=BOLD, size=16)
        for words in sign.missing:
            paper.words(words, font=BOLD, size=12)
        paper.gap(8)
    top = paper.y + 14
    paper.gap(18)
    paper.words("WARNING", font=BOLD, size=26, left=MARGIN + 12)
    paper.words(sign.warning, font=BOLD, size=17, left=MARGIN + 12)
    paper.gap(8)
    for words in sign.lines:
        paper.words(words, size=13, left=MARGIN + 12)
        paper.gap(4)
    canvas = paper.canvas
    canvas.setLineWidth(2)
    canvas.rect(MARGIN, paper.y, paper.room, top - paper.y)
    canvas.setLineWidth(0.5)
