"""What flows along a lead, and what protects its parts: asked by every check of a conductor."""

import math

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Level
from weary_cedar.core.checks.onward import asked_w, inlets
from weary_cedar.core.network.path import Element, Path

#: A part of 15 A that is plugged in is usual on an outlet of 20 A: so much is carried by it for sure, A.
#: NFPA 70 (2023) 210.21(B)(3) and 210.23(A)(1), from memory.
PART_A, ON_A, PART_CARRIES_A = 15.0, 20.0, 12.0


def below_its_device(facts: Facts, path: Path, part: Element, protected_a: float) -> Level | None:
    """How bad it is that an element may carry less than what protects it; a 15 A strip on 20 A is usual."""
    usual = part.kind in ("plug", "inlet", "adapter") and protected_a <= ON_A
    if not usual or part.rating_a is None or part.rating_a < PART_A:
        return "stop"
    if part.kind == "plug":
        return None
    return "caution" if carried_a(facts, path) <= PART_CARRIES_A else "stop"


def carried_a(facts: Facts, path: Path) -> float:
    """The greatest current of a lead, A: of the run and of one without shedding; by cord all that is on.

    Of a lead that charges: by what it is set to and passes through, or what the run sent through.
    """
    hookup = facts.plan.hookups.get(path.key)
    if hookup is None:
        inlet = next((inlet for inlet in inlets(facts) if inlet.key == path.key), None)
        share = facts.run.leads.get(path.key)
        asked = 0.0 if inlet is None else asked_w(facts, inlet)
        return 0.0 if inlet is None else max([asked, *(share.watts if share else ())]) / inlet.entry.volts
    if hookup.kind == "cords":
        asked_a = sum(facts.amps(load) for load in facts.wanted(hookup).values())
        return min(path.protected_a or math.inf, asked_a)
    return facts.greatest_flow("cord", path.key)
