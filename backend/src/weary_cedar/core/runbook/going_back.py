"""Sheets that are always there: back to the utility, after a trip, something is wrong."""

from collections.abc import Callable, Sequence

from weary_cedar.core.network import Network, Way
from weary_cedar.core.plan import Circuit, Plan
from weary_cedar.core.runbook.house import COMPRESSOR_S
from weary_cedar.core.runbook.places import AT_PANEL, IN_HOUSE, OUTDOORS
from weary_cedar.core.runbook.sheet import First, Order, Sheet
from weary_cedar.core.runbook.writer import Writer

#: The utility must have been steady so long, and a source rests so long after a trip, s. Common practice.
STEADY_S, REST_S = 600.0, 60.0
AGAINST_PRESSURE = "What has a compressor comes last, five minutes after it lost its power."


def back(network: Network, way: Way, begins: dict[str, str]) -> Sheet:
    """Back to the utility, from how the house stands after the change-over."""
    order = Order(network.plan, begins)
    writer = Writer(network, way, order)
    steady(order)
    writer.all_off()
    writer.source_off()
    writer.cord_out()
    utility_again(writer)
    _as_before(order)
    return Sheet(key=f"return/{way.lead_id}", kind="return", begins=begins, steps=order.steps,
                 title=f"Back to the utility: {network.plan.lead_name(way.lead_id)}")  # fmt: skip


def steady(order: Order) -> None:
    """The utility is waited for, and nothing hot is on when it is back."""
    order.step("Wait until the utility was steady for ten minutes", IN_HOUSE,
               "A neighbour’s light, or the meter, is even", "It flickers: stay on the source",
               wait_s=STEADY_S)  # fmt: skip
    order.step("Turn off what heats", IN_HOUSE, "Nothing hot is on", "Do that first")


def _as_before(order: Order) -> None:
    for key, position in list(order.at.items()):
        if key.startswith("lockout/") and position == "locked":
            order.put([(key, "free")], f"Unlock: {order.name(key)}", "at its disconnect",
                      "It works as before", "Leave it off")  # fmt: skip
    order.step("Recharge from a named circuit, within 80 % of its breaker", IN_HOUSE, "The station charges",
               "Set a lower charge rate")  # fmt: skip


def put_back(order: Order, writers: Sequence[Writer]) -> None:
    """Circuits of panels that are on the utility again, the feeder between them first; then all else."""
    _branches_on(order, writers)
    _as_before(order)


def _branches_on(order: Order, writers: Sequence[Writer]) -> None:
    """Feeders while nothing hangs on them yet, then all other circuits in their turn."""
    circuits = {key: circuit for writer in writers for key, circuit in writer.circuits().items()}
    feeders = {panel.fed_from for panel in order.plan.panels.values()}
    for key in [key for key in circuits if key in feeders]:
        _branch_on(order, key, circuits[key])
    apart = [(key,) for key in circuits if key not in feeders]
    _in_turn(writers, apart, lambda group, wait_s: _branch_on(order, group[0], circuits[group[0]], wait_s))


def _branch_on(order: Order, key: str, circuit: Circuit, wait_s: float = 0.0) -> None:
    at = f"at {order.plan.panels[circuit.panel_id].name}"
    order.put([(f"breaker/{key}", "on")], f"Turn on {circuit.label}", at, "It holds",
              "It trips: leave it off", wait_s=wait_s, why=AGAINST_PRESSURE if wait_s else "",
              list_head="Turn on one at a time", line=circuit.label)  # fmt: skip


def utility_again(writer: Writer) -> None:
    """What hung on the source hangs on the utility again, everything on."""
    order, hookup, plan = writer.order, writer.hookup, writer.plan
    at_once = COMPRESSOR_S if writer.has_compressor else 0.0
    if hookup.kind == "cords":
        order.put([(f"home_plug/{writer.way.lead_id}", "in")], "Plug the appliances in at home again",
                  IN_HOUSE, "They run", "Look at that circuit’s breaker", wait_s=at_once,
                  why=AGAINST_PRESSURE if at_once else "")  # fmt: skip
        return
    if hookup.traits.moves == "handles":
        pairs = [
            (key, *(other for other in hookup.circuit_ids if plan.partner_of(key) == other))
            for key in hookup.circuit_ids
        ]

        def moved(pair: tuple[str, ...], wait_s: float) -> None:
            labels = " and ".join(writer.labels(pair))
            order.put([(f"handle/{hookup.feed_id}/{one}", "utility") for one in pair],
                      f"Back to the utility: {labels}", "at the transfer switch",
                      "It runs", "Leave it off", wait_s=wait_s,
                      why=AGAINST_PRESSURE if wait_s else "",
                      list_head="Back to the utility, one at a time", line=labels)  # fmt: skip

        _in_turn([writer], pairs, moved)
        return
    writer.main_on(at_once if hookup.traits.single else 0.0)
    if not hookup.traits.single:
        _branches_on(order, [writer])


def _in_turn(
    writers: Sequence[Writer],
    groups: Sequence[tuple[str, ...]],
    one: Callable[[tuple[str, ...], float], None],
) -> None:
    """What comes back together: lamps on each leg, the volts read, the rest, compressors after their rest.

    Args:
        writers: of the ways that fed it.
        groups: circuits that come back together.
        one: puts a group on the utility after a wait, s.
    """
    shows = [show for writer in writers for show in writer.shows()]
    lamps = [group for group in groups if any(show.branch in group for show in shows)]
    rest = [group for group in groups if group not in lamps]
    cold = [group for group in rest if any(map(writers[0].cold, group))]
    for group in lamps:
        one(group, 0.0)
    for writer in writers:
        writer.on_utility_under_load()
    for group in rest:
        if group not in cold:
            one(group, 0.0)
    for number, group in enumerate(cold):
        one(group, 0.0 if number else COMPRESSOR_S)


def recover(network: Network, way: Way, begins: dict[str, str]) -> Sheet:
    """After a source has tripped: what to read, what to leave off, and when to stop."""
    order = Order(network.plan, begins)
    writer = Writer(network, way, order)
    traits = way.hookup.traits
    order.step("Do not reset yet: read the code, and note what was starting", writer.at_source,
               "A code or a lamp", "Take a picture of the display")  # fmt: skip
    writer.all_off()
    writer.source_off()
    at_once = traits.as_one and writer.has_compressor
    order.step("Let it rest; after an over-temperature until it is cool. Empty: charge it first",
               writer.at_source, "The fan stands still", "Do not turn it on",
               wait_s=COMPRESSOR_S if at_once else REST_S)  # fmt: skip
    writer.source_on()
    order.step("Look at it with nothing on", writer.at_source, "It stays on",
               "It trips again: cord out, stop; never a third reset")  # fmt: skip
    if traits.single:
        writer.switch_over()
    else:
        if traits.joins_panel:
            writer.feed_on()
        writer.circuits_on(after_a_run=True)
    order.step(
        "What trips stays off",
        IN_HOUSE if traits.as_one else AT_PANEL,
        "All others run",
        "Never a third reset",
    )
    return Sheet(key=f"recover/{way.lead_id}", kind="recover", begins=begins, steps=order.steps,
                 notes=writer.notes,
                 title=f"After a trip: {network.plan.lead_name(way.lead_id)}")  # fmt: skip


def firsts(plan: Plan) -> list[First]:
    """What is asked before anything is moved: people first. Each ends where it ends."""
    engines = [engine.name for engine in plan.generators.values()]
    engines += [car.name for car in plan.vehicles.values() if car.kind != "battery"]
    stop = [f"Stop {' and '.join(engines)} at once if it can be reached in fresh air"]
    out = "Everyone out, into fresh air; nobody goes back in"
    return [
        First(when="Someone is held by the current, or was shocked",
              do=["Do not touch them", "Output of the nearest source off, by its button; nothing else",
                  "Call the emergency number; help them once nothing is live"]),
        First(when="A carbon-monoxide alarm sounds, or heads ache",
              do=[*(stop if engines else []), out, "Call the emergency number from outside"]),
        First(when="Smoke, something hot or swollen, water at the panel or at a battery",
              do=["Unplug nothing, touch nothing", out, "Call the emergency number from outside"]),
    ]  # fmt: skip


def _others_off(order: Order, writer: Writer) -> None:
    """Every other source of the plan that gives, or can: off, nearest first."""
    for key in [key for key in order.at if key.startswith("output/") and key != f"output/{writer.source}"]:
        order.put([(key, "off")], f"Turn off: {order.name(key)}", "where it stands", "It shows no output",
                  "Go on; keep away from what it feeds")  # fmt: skip
    for key in [key for key in order.at if key.startswith("engine/")]:
        order.put([(key, "off")], f"Stop {order.name(key)} at once", OUTDOORS, "It stands still",
                  "Close its fuel valve")  # fmt: skip


def make_safe(network: Network, way: Way, begins: dict[str, str]) -> Sheet:
    """Something is wrong: people first, then the nearest source."""
    plan, order = network.plan, Order(network.plan, begins)
    writer = Writer(network, way, order)
    writer.source_off(at_once=True)
    _others_off(order, writer)
    writer.all_off()
    if plan.arrays:
        order.step("Solar input off; cover the modules, they are live in daylight", "at the modules",
                   "Nothing comes from the sun", "Leave them, keep away")  # fmt: skip
    order.step("Only if it is dry and cool: take the cord out", writer.at_source, "Dry and cool",
               "Leave it where it is")  # fmt: skip
    writer.cord_out()
    if way.hookup.traits.interlocked:
        order.step("Leave the main off and hang a tag on it", AT_PANEL, "A tag says why, and who",
                   "Stay there until someone is told")  # fmt: skip
    return Sheet(key=f"make-safe/{way.lead_id}", kind="make_safe", begins=begins, steps=order.steps,
                 first=firsts(plan),
                 title=f"Something is wrong: {network.plan.lead_name(way.lead_id)}")  # fmt: skip
