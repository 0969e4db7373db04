"""The sheets of a plan, and what holds back those by which something is energised."""

from collections.abc import Iterator, Sequence

from weary_cedar.core.checks import Finding
from weary_cedar.core.network import network_of
from weary_cedar.core.plan import Hookup, Plan, ToInput
from weary_cedar.core.runbook.energising import change_over, charge, swap
from weary_cedar.core.runbook.going_back import back, make_safe, recover
from weary_cedar.core.runbook.sheet import Sheet, Step

#: What is not known and holds a sheet back all the same: a neutral, and checks that could not be made.
HOLDING = ("neutral-unknown", "checks")


def sheets_of(plan: Plan, findings: Sequence[Finding]) -> list[Sheet]:
    """Every sheet of a plan.

    Args:
        plan: the plan.
        findings: of its checks; a stop that nobody has answered, and a neutral that is not known, hold
            back every sheet by which something is energised.

    Returns:
        For each lead that feeds: change over, return, recover, make safe; for two leads at one feed: the
        swap; for each lead that charges: how. One that is held back says by which findings.

    Source: the order of steps, common practice of the trade; local code, and the instructions of panel
    and source, come first.
    """
    held = _held(findings)
    return [
        sheet.model_copy(update={"held_by": held, "steps": [], "stay_off": []}) if held else sheet
        for sheet in _energising(plan)
    ] + list(_always(plan, held))


def _held(findings: Sequence[Finding]) -> list[str]:
    holding = [f for f in findings if not f.answered and (f.level == "stop" or f.check_id in HOLDING)]
    return list(dict.fromkeys(f"{f.title.strip()}: {f.element.name}" for f in holding))


def _after(sheet: Sheet) -> dict[str, str]:
    """How the house stands after a sheet, where that is not as on the utility."""
    return sheet.begins | {act.what: act.to for act in sheet.acts}


def _energising(plan: Plan) -> Iterator[Sheet]:
    network = network_of(plan)
    for way in network.running:
        over = change_over(network, way)
        yield over
        for other in network.running:
            same = way.hookup.feed_id is not None and other.hookup.feed_id == way.hookup.feed_id
            if other is not way and same:
                yield swap(network, way, other, _after(over))
    for key, lead in plan.leads.items():
        if isinstance(lead.to, ToInput) and lead.source.kind != "circuit":
            yield charge(plan, key)


def _always(plan: Plan, held: list[str]) -> Iterator[Sheet]:
    network = network_of(plan)
    for way in network.running:
        fed = _after(change_over(network, way))
        yield back(network, way, fed)
        yield _left_off(recover(network, way, fed), held)
        yield make_safe(network, way, fed)
    for way in network.ways:
        if way.why_not:
            yield make_safe(network, way, _hooked_up(way.hookup))


def _left_off(sheet: Sheet, held: list[str]) -> Sheet:
    """A sheet that goes as far as everything is off, where findings forbid to energise again."""
    if not held:
        return sheet
    on = next((n for n, step in enumerate(sheet.steps) if any(act.to == "on" for act in step.acts)), 0)
    left = Step(
        action=f"Leave it off: {'; '.join(held)}", where="at the source", see="Nothing is live",
        if_not="Turn it off again", why="This must be put right before anything is energised.",
    )  # fmt: skip
    return sheet.model_copy(update={"steps": [*sheet.steps[:on], left]})


def _hooked_up(hookup: Hookup) -> dict[str, str]:
    """How a house stands that was fed in a way that must not be: nothing else is known of it."""
    plugged = {f"source_end/{hookup.lead_id}": "in", f"load_end/{hookup.lead_id}": "in"}
    source = f"{hookup.source_kind}/{hookup.source_id}"
    running = {f"engine/{hookup.source_id}": "on"} if hookup.source_kind == "generator" else {}
    return {**plugged, **running, f"output/{source}": "on"}
