"""What is handed over with an installation: a test record to fill in, and what others do and ask.

Common practice of the trade; names of standards and articles are from memory. None of it is an approval.
"""

from collections.abc import Iterator

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import Hookup, Plan

MEMORY = "Citations are from memory; this is no approval."


class TriedLine(BaseModel):
    """One thing to be tested: how, and what it should show."""

    model_config = ConfigDict(frozen=True)

    what: str
    expected: str


def load_basis(plan: Plan) -> str:
    """How the loads were chosen that a source feeds.

    Source: NEC 702.4(B)(1), from memory.
    """
    by_itself = [feed for feed in plan.feeds.values() if feed.traits.by_itself]
    if by_itself:
        return "Automatic transfer: the source must carry everything that is connected (702.4(B)(2))."
    return "Manual, loads selected by the user (702.4(B)(1))."


def record_of_tests(plan: Plan, lead_id: str) -> list[TriedLine]:
    """What is measured and tried before a lead is relied upon.

    Args:
        plan: the plan.
        lead_id: of a lead that feeds something.

    Returns:
        Lines in the order in which they are done; panel dead before anything is plugged in.
    """
    hookup = plan.hookups[lead_id]
    return [TriedLine(what=what, expected=expected) for what, expected in _tests(plan, hookup)]


def _tests(plan: Plan, hookup: Hookup) -> Iterator[tuple[str, str]]:
    if hookup.feed_id is not None:
        yield "Panel proven dead behind the open main, before anything is plugged in", "0 V on every leg"
    if hookup.traits.interlocked:
        yield "Interlock: main on, try the feed breaker", "it cannot be turned on"
        yield "Interlock: feed breaker on, try the main", "it cannot be turned on"
    elif hookup.feed_id is not None:
        yield "Transfer: every position tried, in both directions", "it rests in each; never both"
    if plan.site.split_phase:
        yield "L1 to N", "114 to 126 V"
        if plan.outlet(hookup).leg is None and not hookup.traits.as_one:
            yield "L2 to N", "114 to 126 V"
            yield "L1 to L2", "228 to 252 V"
        yield "N to ground, unloaded and loaded", "under 3 V"
        yield "Frequency", "57 to 63 Hz"
        yield "Polarity at the farthest outlet", "hot on the narrow slot"
    else:
        yield "L to N", "207 to 253 V"
        yield "N to PE", "under 5 V"
        yield "Frequency", "47.5 to 52.5 Hz"
        yield "Residual-current device: trip time and current", "under 300 ms, at most 30 mA"
    yield "Ground continuity, source to the farthest outlet", "under 1 Ω"
    yield "Clamp on the ground wire, under load", "about 0 A"
    yield "Each ground-fault and arc-fault device, by its test button", "trips and resets"
    yield (
        "Thirty minutes loaded: outlet, plugs, inlet, feed breaker",
        "no more than 30 K over the air",
    )


def electricians_jobs(plan: Plan) -> list[str]:
    """What a licensed electrician has to do, or to look at, before the plan is used."""
    found = []
    for feed in plan.feeds.values():
        panel = plan.panels[feed.panel_id].name
        found.append(f"Permit and inspection for what is built in at {panel}, as local code asks for")
        if feed.traits.interlocked:
            found.append(f"Interlock kit listed for {panel}; feed breaker held down (408.36(D))")
        found.append(
            f"Inlet {feed.inlet} and its wire, with their overcurrent device of {feed.breaker_a:g} A"
        )
        if feed.wire is None:
            found.append("Say which wire is behind the inlet: the plan does not know it")
        found.append("Which way the neutral goes, and that there is one bond in every state (250.30, 702.7)")
        found.append("Signs at the inlet and at the service, directory of the panel (702.7, 408.4(A))")
    if any(circuit.multiwire_partner for circuit in plan.circuits.values()):
        found.append("Circuits that share a neutral: common trip, both on one supply (210.4)")
    if any(array.kind == "grid_tied" for array in plan.arrays.values()):
        found.append("How the array for the utility is kept off while a source feeds (705.40)")
    found.append("The test record, filled in and signed")
    return list(dict.fromkeys(found))


def authority_asks(plan: Plan) -> list[str]:
    """What whoever inspects it will ask for."""
    found = [
        "One-line diagram with ratings, conductors, overcurrent devices and bonding in each state",
        f"Basis of the loads: {load_basis(plan)}",
        "The worst set of loads at once on each leg, against source, feed and panel",
        "Listing marks: power station UL 2743, generator UL 2201, inverter UL 458 or UL 1741, transfer "
        "equipment UL 1008, interlock for this panel",
        "Labels: 702.7(C) at the inlet, 710.15(C) where one hot feeds both legs; 408.4(A) directory",
        "Where fuel, engine and batteries stand: distances, ventilation, alarms",
        "Findings that are open, and those that were answered, by whom and why",
    ]
    if not plan.site.split_phase:
        found[3] = "Conformity marks of station, changeover and residual-current devices for this country"
        found[4] = "Labels at inlet, changeover and board in the words of this country’s rules"
    return found
