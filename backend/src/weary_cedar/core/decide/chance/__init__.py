"""How likely it is that a plan lasts: many outages in which all that is in doubt is drawn anew."""

from weary_cedar.core.decide.chance.as_plan import as_plan
from weary_cedar.core.decide.chance.drawn import Drawn, Varying, drawn
from weary_cedar.core.decide.chance.tally import (
    BATCHES,
    MOST_OUTAGES,
    Chance,
    Tried,
    chance_of,
    not_worked_out,
    tally,
    try_outages,
    why_not,
)

__all__ = [
    "BATCHES", "MOST_OUTAGES", "Chance", "Drawn", "Tried", "Varying", "as_plan", "chance_of", "drawn",
    "not_worked_out", "tally", "try_outages", "why_not",
]  # fmt: skip
