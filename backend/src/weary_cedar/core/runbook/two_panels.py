"""Two panels that are fed apart, each through an inlet of its own. Common practice of the trade."""

from weary_cedar.core.network import Network, Way
from weary_cedar.core.runbook.energising import last_looks
from weary_cedar.core.runbook.going_back import put_back, steady
from weary_cedar.core.runbook.places import AT_METER, AT_PANEL
from weary_cedar.core.runbook.sheet import Expected, Order, Sheet
from weary_cedar.core.runbook.writer import Writer


def over_both(network: Network, one: Way, other: Way) -> Sheet:
    """From the utility to a source each, one panel after the other, the feeder between them open.

    Args:
        network: of the plan.
        one: way to the panel that comes first.
        other: way to the other.

    Returns:
        The sheet: the second is measured dead while the first has power, which finds crossed feeders.
    """
    plan, order = network.plan, Order(network.plan)
    both = [Writer(network, way, order, alone=True) for way in (one, other)]
    names = [plan.panels[way.hookup.panel_id].name for way in (one, other)]
    both[0].before()
    both[1].lock_off()
    for writer in both:
        Writer(network, writer.way, order).branches_off()
    for writer in both:
        writer.main_off()
    order.step("Hang a tag on both mains and on the feeder between the panels", AT_PANEL,
               "All three are off, a tag says why", "Stop here",
               why="The feeder closes only when both panels are back on the utility.")  # fmt: skip
    both[0].prove_dead()
    for number, writer in enumerate(both):
        writer.cord_in()
        writer.source_on()
        writer.feed_on()
        writer.look_at_volts()
        if number == 0:
            _dead(order, names[1], both[1].dead())
        else:
            order.step(f"Read {names[0]} again", AT_METER, "As it was before the other came on",
                       "Anything else: both outputs off; the panels are joined somewhere",
                       readings=both[0].volts())  # fmt: skip
    for writer in both:
        last_looks(writer)
    return Sheet(
        key=f"change-over/{one.lead_id}/{other.lead_id}", kind="change_over",
        title=f"Change over both panels: {names[0]} and {names[1]}", steps=order.steps,
        stay_off=[label for writer in both for label in writer.labels(writer.back_on.stay_off)],
        notes=[words for writer in both for words in writer.notes],
    )  # fmt: skip


def _dead(order: Order, name: str, dead: list[Expected]) -> None:
    crossed = "crossed feeders: output off, stop, an electrician looks"
    readings = [reading.model_copy(update={"if_high": crossed}) for reading in dead]
    order.step(f"Measure {name}: it must be dead", AT_METER, "Nothing on either leg", f"Volts: {crossed}",
               readings=readings,
               why="It finds feeders that are crossed before two sources meet.")  # fmt: skip


def back_from_both(network: Network, one: Way, other: Way, begins: dict[str, str]) -> Sheet:
    """Both panels back to the utility, the feeder between them once both are.

    Args:
        network: of the plan.
        one: way to a panel.
        other: way to the other.
        begins: how the house stands after the change-over of both.
    """
    plan, order = network.plan, Order(network.plan, begins)
    both = [Writer(network, way, order, alone=True) for way in (one, other)]
    steady(order)
    for writer in both:
        writer.all_off()
        writer.source_off()
        writer.cord_out()
    for writer in both:
        writer.main_on()
    put_back(order, both)
    names = [plan.panels[way.hookup.panel_id].name for way in (one, other)]
    return Sheet(
        key=f"return/{one.lead_id}/{other.lead_id}", kind="return", begins=begins, steps=order.steps,
        title=f"Both panels back to the utility: {names[0]} and {names[1]}",
    )  # fmt: skip
