"""The chance that a plan lasts, worked out step by step, so that each step can be shown and the rest left."""

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

#: Outages that were tried, and how many were to be.
Remembered = tuple[tuple[Tried, ...], int]


def more(
    document: str, tried: tuple[Tried, ...], done: int, upto: int, varying: Varying
) -> tuple[Remembered, bytes]:
    """Try outages of a plan until there are so many, beside those that were tried before.

    Returns:
        All that were tried now, and what they say as JSON; nothing of a plan that must not be energised.
    """
    found = opened(document)
    stops = stops_of(found.findings)
    why = f"this must not be energised: {stops[0]}" if stops else why_not(found.plan)
    if why:
        return ((), 0), not_worked_out(why).model_dump_json().encode()
    if upto > done:
        tried += tuple(try_outages(found.plan, range(done, upto), varying))
        done = upto
    said: Chance = tally(found.plan, tried, done, varying)
    return (tried, done), said.model_dump_json().encode()
