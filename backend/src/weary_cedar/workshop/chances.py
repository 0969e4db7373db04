"""The chance that a plan lasts, worked out step by step, so that each step can be shown and the rest left."""

from dataclasses import dataclass

from weary_cedar.core.checks import stops_of
from weary_cedar.core.decide.chance import (
    Chance,
    Tried,
    Varying,
    not_worked_out,
    tally,
    try_outages,
    why_not,
)
from weary_cedar.workshop.derivation import opened


@dataclass(frozen=True)
class Remembered:
    """Outages that were tried, and how many were to be."""

    tried: tuple[Tried, ...] = ()
    done: int = 0


def more(document: str, known: Remembered, upto: int, varying: Varying) -> tuple[Remembered, bytes]:
    """Try outages of a plan until there are so many, beside those that were tried before.

    Returns:
        All that were tried now, and what they say as JSON; nothing of a plan that must not be energised.
    """
    found = opened(document)
    stops = stops_of(found.findings)
    why = f"this must not be energised: {stops[0]}" if stops else why_not(found.plan)
    if why:
        return Remembered(), not_worked_out(why).model_dump_json().encode()
    if upto > known.done:
        more_tried = try_outages(found.plan, range(known.done, upto), varying)
        known = Remembered((*known.tried, *more_tried), upto)
    said: Chance = tally(found.plan, known.tried, known.done, varying)
    return known, said.model_dump_json().encode()
