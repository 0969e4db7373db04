"""Two units joined by their maker’s kit, before they feed. Common practice, and as the maker says."""

from weary_cedar.core.network import Network, Way
from weary_cedar.core.network.carrying import NOTHING, running
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import Expected, Order

#: Across two units that run in step, V: common practice.
ACROSS_LOW_V, ACROSS_HIGH_V = 220.0, 250.0


def linked(network: Network, way: Way, order: Order, at_source: str) -> None:
    """Units before they are joined: other cords out, the fuller one on the busier leg, cable and kit.

    Args:
        network: of the plan.
        way: fed by a linked pair.
        order: that is written.
        at_source: where that is done.
    """
    plan, link = network.plan, network.plan.links[way.hookup.source_id]
    off = [(f"output/link/{way.hookup.source_id}", "off")]
    order.put(off, "Turn both outputs off", at_source, "No display shows an output", "Join nothing")
    order.step(
        "Pull every other cord out of both units, of their AC inputs and front outlets", at_source,
        "Nothing is in but batteries and modules", "Leave it unlinked: two outputs must not meet",
    )  # fmt: skip
    if link.kind == "two_legs":
        names = [plan.stations[unit].name for unit in (link.leg_a, link.leg_b)]
        on = NOTHING
        for branch in way.branches:
            on = on.plus(running(network, way, branch))
        busier, name = ("A", names[0]) if on.a >= on.b else ("B", names[1])
        order.step(
            f"Set the fuller unit on leg {busier}, the busier one ({on.a:,.0f} VA on A, {on.b:,.0f} on B)",
            at_source, f"By this plan that is {name}; its display shows the higher charge",
            "Change the units over now, not under load", why="The first that is empty stops both.",
        )  # fmt: skip
    order.step(
        "Join them: the link cable first, then the kit", at_source, "Both displays show that they are linked",
        "Do not turn them on: out of step they destroy each other",
        why="As the maker says; cables of another kit do not do.",
    )  # fmt: skip


def leg_to_leg(plan: Plan, link_id: str, order: Order, at_source: str) -> None:
    """Whether two units that are on run in step."""
    if plan.links[link_id].kind != "two_legs":
        return
    across = Expected(
        where="leg to leg at the kit", low=ACROSS_LOW_V, high=ACROSS_HIGH_V, unit="V",
        if_low="near nothing or wandering they are not in step: both outputs off, stop",
    )  # fmt: skip
    order.step(
        "Read the volts from leg to leg at the kit, for half a minute", at_source, "As below, and steady",
        "Both outputs off; link them anew, once; then stop", readings=[across],
    )  # fmt: skip
