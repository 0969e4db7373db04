"""Drills of the demos and of any house, shared by their tests."""

from functools import cache

from weary_cedar.core.checks import findings_of
from weary_cedar.core.drill.exercise import Exercise, sheet_of
from weary_cedar.core.drill.order import OrderPlay
from weary_cedar.core.drill.played import Drill
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.demo import demo_plan


def drill(plan: Plan) -> Drill:
    return Drill.of(plan, sheets_of(plan, findings_of(plan)))


@cache
def of_demo(name: str) -> Drill:
    return drill(demo_plan(name))


def by_hints(found: Drill, exercise: Exercise) -> OrderPlay:
    """An exercise by its hints alone."""
    play = OrderPlay(found.plan, exercise, sheet_of(exercise, found.sheets))
    for _ in range(400):
        act = play.hint()
        if act is None or play.hazard is not None:
            break
        play.do(act)
    return play
