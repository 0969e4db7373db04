"""A card with one’s weakest points, to be hung at the panel."""

from weary_cedar.core.drill.exercise import CAUTION
from weary_cedar.core.drill.readiness import Readiness
from weary_cedar.core.plan import Plan
from weary_cedar.formats.paper import Edition, Paper, document

SIZE = 12.0


def drill_card(plan: Plan, found: Readiness, edition: Edition) -> bytes:
    """The card.

    Args:
        plan: the plan.
        found: how ready people are, with their weakest points.
        edition: revision and day.

    Returns:
        A PDF of one page.
    """

    def draw(paper: Paper) -> None:
        paper.page("Mind these")
        paper.words(CAUTION, size=9)
        paper.gap(10)
        for number, words in enumerate(found.weakest, 1):
            paper.words(f"{number}. {words}", size=SIZE)
            paper.gap(6)
        if not found.weakest:
            paper.words("Nothing went wrong so far.", size=SIZE)
        paper.gap(6)
        paper.words(found.sentence, size=9)
        for item in [one for one in found.exercises if not one.ready][:8]:
            paper.words(f"To practise: {item.exercise.title}", size=9)

    return document(plan, f"{plan.name}: weakest points", draw, edition)
