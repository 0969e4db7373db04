"""Before an outage: what is at hand, and what was tried. Common practice of the trade."""

from collections.abc import Sequence

from weary_cedar.core.handles.elements import is_wired
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.places import AT_PANEL, IN_HOUSE, OUTDOORS
from weary_cedar.core.runbook.sheet import Order, Sheet

#: A charge from which a station counts as full, %.
FULL = 99.5


def before(plan: Plan, held: Sequence[str] = ()) -> Sheet:
    """Gear at hand and checked, long before it is needed.

    Args:
        plan: the plan.
        held: findings that forbid to energise, in words; it is not tried then.

    Returns:
        A step for every station, lead, engine and array; then alarms, light, meter, paper, and a try.
    """
    order = Order(plan)
    for key, station in plan.stations.items():
        percent = plan.outage.start_charge_percent.get(key, 100.0)
        wanted = "full" if percent >= FULL else f"at {percent:.0f} % or more"
        order.step(f"Charge {station.name}", f"at {station.name}", f"It is {wanted}, as the plan counts with",
                   "The plan holds for less: lower its charge there", why="Batteries lose some in a month.",
                   )  # fmt: skip
    for key, lead in plan.leads.items():
        hookup = plan.hookups.get(key)
        if hookup is not None and is_wired(hookup):
            continue
        cords = [
            f"{cord.name or 'cord'}, {plan.site.units.told_length(cord.length_m)}, {cord.size}"
            for cord in lead.cords
        ]
        parts = [*cords, *(part.name or f"{part.source_end} to {part.load_end}" for part in lead.adapters)]
        order.step(f"Lay out for {plan.lead_name(key)}: {'; '.join(parts) or 'its cord'}", IN_HOUSE,
                   "Whole, dry, pins bright, it reaches", "Another one, no thinner and no longer",
                   )  # fmt: skip
        if lead.bonding_plug == "no" and hookup is not None and hookup.feed_id is not None:
            order.step(f"Bonding plugs away from {plan.lead_name(key)}", IN_HOUSE, "None lies with the cords",
                       "Take it away, with a label: the house has its own bond")  # fmt: skip
    for engine in plan.generators.values():
        fuel = (
            "" if engine.on_hand_l is None else f", {plan.site.units.told_volume(engine.on_hand_l)} of fuel"
        )
        order.step(f"Run {engine.name} for a quarter hour{fuel}", OUTDOORS, "It starts and carries a load",
                   "Old fuel out, or a mechanic", why="An engine that stood for a year does not start.",
                   )  # fmt: skip
    for array in plan.arrays.values():
        if array.station_id is not None:
            order.step(f"Look at {array.name}", "at the modules", "Clean, leads whole, plugs of one make",
                       "Do not join plugs of two makes")  # fmt: skip
    order.step("Lay ready: light, meter, tags, gloves, this paper, a phone with the pocket file",
               AT_PANEL, "All of it within reach in the dark", "Get what is missing now")  # fmt: skip
    order.step("Press the test buttons of carbon-monoxide and smoke alarms", IN_HOUSE, "Each sounds",
               "New batteries, or a new alarm")  # fmt: skip
    if held:
        order.step(f"Do not try it: {'; '.join(held)}", AT_PANEL, "That is put right, and the plan says so",
                   "Leave everything off", why="A finding forbids to energise.")  # fmt: skip
        return _made(order)
    order.step("Try it once in daylight, by “Change over”, with someone beside you", AT_PANEL,
               "It went as written; the interlock was tried both ways",
               "Stop at the first step that does not show what it should",
               why="With the utility up the main’s line side stays live, and an interlock that fails joins "
               "two sources: prove the panel dead before anything is plugged in.")  # fmt: skip
    return _made(order)


def _made(order: Order) -> Sheet:
    return Sheet(key="before", kind="before", title="Before: at hand and checked", steps=order.steps)
