"""Sheets by which a house comes under power: changing over, swapping sources."""

from weary_cedar.core.network import Network, Way
from weary_cedar.core.runbook.house import COMPRESSOR_S
from weary_cedar.core.runbook.places import IN_HOUSE, OUTDOORS, WARM_S
from weary_cedar.core.runbook.sheet import Order, Sheet
from weary_cedar.core.runbook.writer import Writer

HALF_DEAD = (
    "Is the utility half dead or flickering, not off? Then the main goes off first, and then the branches."
)


def change_over(network: Network, way: Way) -> Sheet:
    """From the utility to a source, as its kind of feed asks for it."""
    order = Order(network.plan)
    writer = Writer(network, way, order, leave_on=True)
    kind, traits = way.hookup.kind, way.hookup.traits
    writer.before()
    if kind == "cords":
        writer.rest_first(IN_HOUSE)
    elif traits.single:
        writer.switch_off()
    elif traits.moves == "handles":
        writer.all_off()
    else:
        writer.branches_off(writer.back_on.left_on)
        writer.main_off()
    writer.prove_dead()
    writer.cord_in()
    if writer.output_after:
        writer.feed_on()
    writer.source_on()
    if traits.single:
        writer.look_at_volts()
        writer.switch_over()
    else:
        if traits.joins_panel:
            writer.feed_on()
        writer.look_at_volts()
    if kind == "cords":
        writer.circuits_on()
    if traits.as_one:
        order.step("Touch every plug after fifteen minutes", IN_HOUSE, "No warmer than the hand",
                   "Warm: off, then a better cord or less load")  # fmt: skip
    else:
        last_looks(writer)
    if traits.interlocked:
        writer.notes.append(HALF_DEAD)
    return Sheet(
        key=f"change-over/{way.lead_id}", kind="change_over",
        title=f"Change over: {network.plan.lead_name(way.lead_id)}",
        stay_off=writer.labels(writer.back_on.stay_off), notes=writer.notes, begins=order.begins,
        leave_off=writer.leave_off(), steps=order.steps,
    )  # fmt: skip


def last_looks(writer: Writer) -> None:
    """Circuits one at a time, what shows each leg first, then what protects them."""
    writer.circuits_on()
    split = writer.plan.site.split_phase
    device = "ground-fault and arc-fault device" if split else "residual-current device"
    writer.order.step(f"Press the test button of each {device}", IN_HOUSE,
                      "Each trips and resets", "Leave that circuit off")  # fmt: skip


def swap(network: Network, way: Way, other: Way, begins: dict[str, str]) -> Sheet:
    """From one source to another through the same feed: dark in between, never both."""
    order = Order(network.plan, begins)
    old, new = Writer(network, way, order), Writer(network, other, order)
    new.lock_off(besides=old.source)
    if other.hookup.source_kind == "generator":
        order.put([(f"engine/{other.hookup.source_id}", "on")], "Start the engine, its breaker off", OUTDOORS,
                  "It runs evenly; the carbon-monoxide alarm in the house is on",
                  "Stay on the source that feeds")  # fmt: skip
        order.step("Let it warm up", OUTDOORS, "It runs evenly", "Do not load it", wait_s=WARM_S)
    old.all_off()
    old.source_off()
    new.lock_off()
    old.cord_out()
    new.cord_in()
    new.source_on()
    if way.hookup.traits.single:
        new.look_at_volts()
        new.switch_over(COMPRESSOR_S)
    else:
        if way.hookup.traits.moves != "handles":
            new.feed_on()
        new.look_at_volts()
        new.circuits_on(after_a_run=True)
    names = [network.plan.lead_name(lead.lead_id) for lead in (way, other)]
    return Sheet(
        key=f"swap/{way.lead_id}/{other.lead_id}", kind="swap", title=f"Swap: {names[0]} for {names[1]}",
        stay_off=new.labels(new.back_on.stay_off), notes=new.notes, begins=begins, steps=order.steps,
    )  # fmt: skip
