"""Sheets by which a station is charged: from an engine, a car, another station, or the wall."""

from weary_cedar.core.network import Network, Way
from weary_cedar.core.plan import Lead, Plan, ToInput
from weary_cedar.core.runbook.charge_rate import breaker_w, charge_w
from weary_cedar.core.runbook.going_back import utility_again
from weary_cedar.core.runbook.house import COMPRESSOR_S
from weary_cedar.core.runbook.places import CAR_OUTDOORS, IN_HOUSE, OUTDOORS, WARM_S
from weary_cedar.core.runbook.sheet import Expected, Order, Sheet
from weary_cedar.core.runbook.writer import Writer

#: In a rolling outage the utility is waited for so long, s. Common practice.
STEADY_S = 120.0
#: A charger takes what it is set to within this, of it. Common practice.
TAKES = (0.8, 1.05)


def charge(plan: Plan, lead_id: str) -> Sheet:
    """A lead into an input: far end first, then the source without load.

    Args:
        plan: the plan.
        lead_id: of a lead that ends at an input.

    Returns:
        The sheet; from the wall it is for while the utility is there.
    """
    lead = plan.leads[lead_id]
    begins = {f"{end}/{lead_id}": "out" for end in ("source_end", "load_end")}
    order = Order(plan, begins if lead.source.kind == "circuit" else None)
    _plugged(plan, lead_id, order)
    title = f"Charge: {plan.lead_name(lead_id)}"
    return Sheet(key=f"charge/{lead_id}", kind="charge", title=title, begins=order.begins, steps=order.steps)


def _plugged(plan: Plan, lead_id: str, order: Order, *, fast: bool = False) -> None:
    lead = plan.leads[lead_id]
    assert isinstance(lead.to, ToInput)
    station = plan.stations[lead.to.station_id]
    at = f"at {station.name}"
    source, engine = f"{lead.source.kind}/{lead.source.id}", lead.source.kind == "generator"
    wall = lead.source.kind == "circuit"
    if lead.source.kind == "station":
        order.step(f"Turn off what {station.name} feeds", at, "Its display shows next to no watts",
                   "Wait with the cord: what it feeds would come on top of its charge",
                   why="What is charged and what it passes on come through one cord.")  # fmt: skip
    _out_of_its_kit(plan, lead.to.station_id, order)
    order.step("Set its charge rate to the lowest", at, "The display shows the rate",
               "Plug it in all the same where it cannot be set, and look at the source")  # fmt: skip
    off = (f"output/{source}", "off")
    if not wall:
        order.put([off], "Turn the output of what charges off", "at the source", "It shows no output",
                  "Do not plug anything")  # fmt: skip
    order.put([(f"load_end/{lead_id}", "in")], f"Plug the cord into {station.name}", at,
              "Pushed home", "Another cord is in it: take that out first")  # fmt: skip
    outlet = plan.circuits[lead.source.id].label if wall else "what charges"
    order.put([(f"source_end/{lead_id}", "in")], f"Plug the other end into {_an_outlet(outlet, wall)}",
              "at the source", "Pushed home" if wall else "Pushed home, its output off",
              "Another circuit is not what the plan counts with" if wall else "Its output is on: off first",
              )  # fmt: skip
    if engine:
        order.put([(f"engine/{lead.source.id}", "on")], "Start the engine, its breaker off", OUTDOORS,
                  "It runs evenly; the carbon-monoxide alarm is on", "Do not load it")  # fmt: skip
    car = plan.vehicles.get(lead.source.id) if lead.source.kind == "vehicle" else None
    if car is not None and car.kind != "battery":
        order.step(f"Look where {car.name} stands: its engine may start by itself", OUTDOORS, CAR_OUTDOORS,
                   "Move it out first, or charge nothing")  # fmt: skip
    if not wall:
        order.put([(f"output/{source}", "on")], "Turn its output on", "at the source",
                  "The station shows that it charges", "A lower rate, or another outlet",
                  wait_s=WARM_S if engine else 0.0)  # fmt: skip
    watts = charge_w(plan, lead, fast=fast)
    summed = station.display_inputs == "sum" and bool(station.dc_inputs)
    order.step(f"Raise the charge rate to {watts:,.0f} W", at, "The watts as below",
               "Lower it again", readings=[_taken(watts, summed=summed)], why=_most(plan, lead))  # fmt: skip
    order.step("Touch both plugs after fifteen minutes", at, "No warmer than the hand",
               "Warm: lower the rate; hot: take it out, it is not to be used again")  # fmt: skip
    if lead.source.kind == "station":
        order.step(f"Turn on again what {station.name} feeds, one at a time", at, "The source carries it",
                   "Lower the charge rate")  # fmt: skip


def _out_of_its_kit(plan: Plan, station_id: str, order: Order) -> None:
    """A unit whose kit takes no charge while it is on, or drops its outputs then: alone before."""
    for key, link in plan.links.items():
        if station_id not in (link.leg_a, link.leg_b) or link.ac_charging == "allowed":
            continue
        said = {"refused": "The kit takes no charge while it is on", "drops_output": "It would go dark"}
        why = f"{said.get(link.ac_charging, 'It is not known what the kit does while one unit is charged')}."
        off = (f"output/link/{key}", "off")
        step = "Turn both outputs off" if order.at[off[0]] == "on" else "Make sure that both outputs are off"
        seen = ("No display shows an output", "Charge nothing: turn them off first")
        if order.at[off[0]] == "on":
            order.put([off], step, f"at {link.name}", *seen, why=why)
        else:
            order.step(step, f"at {link.name}", *seen, why=why)
        name = plan.stations[station_id].name
        order.step(f"Take {name} out of the kit: its cable off at {name}", f"at {link.name}",
                   "It stands alone; what the kit fed at 240 V is dark meanwhile",
                   "Leave it in, and do not charge it", why=why)  # fmt: skip


def end_charge(plan: Plan, lead_id: str) -> Sheet:
    """A charge that is ended: the rate down, then dead from the source's end on; an engine cooled.

    Args:
        plan: the plan.
        lead_id: of a lead that ends at an input.
    """
    lead = plan.leads[lead_id]
    assert isinstance(lead.to, ToInput)
    station, source = plan.stations[lead.to.station_id], f"{lead.source.kind}/{lead.source.id}"
    begins = charge(plan, lead_id).after
    order = Order(plan, begins)
    at, engine = f"at {station.name}", lead.source.kind == "generator"
    order.step("Set its charge rate to the lowest, or its charger off", at, "The watts go down",
               "It cannot be set: go on, the next step ends it")  # fmt: skip
    if lead.source.kind == "station":
        order.step(f"Turn off what {station.name} feeds", at, "Its display shows next to no watts",
                   "It goes over to its battery: look whether that is enough")  # fmt: skip
    if lead.source.kind != "circuit":
        name = "breaker" if engine else "output"
        order.put([(f"output/{source}", "off")], f"Turn the {name} of what charges off", "at the source",
                  "The station shows that nothing comes in", "Turn the source itself off")  # fmt: skip
    if engine:
        order.put([(f"engine/{lead.source.id}", "off")], "Let the engine cool without load, then stop it",
                  OUTDOORS, "It stands still", "Close its fuel valve", wait_s=WARM_S)  # fmt: skip
    order.put([(f"source_end/{lead_id}", "out")], "Pull the cord out of the source", "at the source",
              "The cord is dead in the hand", "It is warm or sticks: leave it, look later")  # fmt: skip
    order.put([(f"load_end/{lead_id}", "out")], f"Pull the other end out of {station.name}", at,
              "Nothing is in its AC input", "Pins that are hot or brown: not again before it was looked at",
              )  # fmt: skip
    order.step("Read its charge, and write it down", at, "More than before",
               "Not more: see “Charging stops”")  # fmt: skip
    if engine:
        order.step("Refuel it only when it is cold, with a light, away from the house", OUTDOORS,
                   "No smell of fuel at the house", "Wait until it is cold")  # fmt: skip
    if lead.source.kind == "station":
        order.step(f"Turn on again what {station.name} feeds, one at a time", at,
                   "It carries it on its battery", "Leave off what is too much")  # fmt: skip
    return Sheet(key=f"end-charge/{lead_id}", kind="end_charge", begins=begins, steps=order.steps,
                 title=f"End the charge: {plan.lead_name(lead_id)}")  # fmt: skip


def _an_outlet(name: str, wall: bool) -> str:
    return f"an outlet of {name}" if wall else name


def _most(plan: Plan, lead: Lead) -> str:
    if lead.source.kind != "circuit":
        return "What charges warms up, and so do plugs: a low rate shows first whether all is well."
    circuit = plan.circuits[lead.source.id]
    return (
        f"{circuit.label}: {circuit.counted_words}: {breaker_w(plan, lead):,.0f} W are 80 % of it, "
        "for all that is on it."
    )


def _taken(watts: float, *, summed: bool = False) -> Expected:
    where = "charging, on its display: it shows all inputs together, take the sun off" if summed else ""
    return Expected(
        where=where or "charging, on its display", low=TAKES[0] * watts, high=TAKES[1] * watts, unit="W",
        if_low="nearly full, cold, or held by its source: no fault by itself",
        if_high="set higher than the plan: lower it",
    )  # fmt: skip


def between_cuts(network: Network, way: Way, lead_id: str, begins: dict[str, str]) -> Sheet:
    """Between two cuts of a rolling outage: the house on the utility, the station charged, and away again.

    Args:
        network: of the plan.
        way: that feeds the house, from the station that the lead charges.
        lead_id: from a circuit into that station.
        begins: how the house stands while it is fed.

    Returns:
        The sheet; the cord to the inlet stays where it is, its output off.
    """
    plan = network.plan
    begins = begins | {f"{end}/{lead_id}": "out" for end in ("source_end", "load_end")}
    order = Order(plan, begins)
    writer = Writer(network, way, order)
    order.step("Wait until the utility was steady for two minutes", IN_HOUSE,
               "A neighbour’s light, or the meter, is even", "It flickers: stay on the source",
               wait_s=STEADY_S, why=_windows(plan))  # fmt: skip
    writer.all_off()
    writer.source_off()
    utility_again(writer)
    _plugged(plan, lead_id, order, fast=True)
    order.step("Ten minutes before the next cut: read the charge", writer.at_source, _windows(plan),
               "The cut comes sooner: nothing is lost, go on here")  # fmt: skip
    order.put([(f"source_end/{lead_id}", "out"), (f"load_end/{lead_id}", "out")], "Unplug the charger",
              writer.at_source, "Nothing is plugged into its AC input", "Find the cord",
              why="A station that charges from a circuit that it feeds empties itself in a circle.",
              )  # fmt: skip
    if way.hookup.traits.moves == "handles":
        writer.all_off()
    elif way.hookup.traits.single:
        writer.switch_off()
    else:
        writer.branches_off()
        writer.main_off()
    writer.prove_dead()
    writer.source_on()
    if way.hookup.traits.single:
        writer.switch_over(COMPRESSOR_S if writer.has_compressor else 0.0)
    else:
        writer.feed_on()
        writer.circuits_on(after_a_run=True)
    order.step("Look at what came on", IN_HOUSE, "As before the utility came", "Leave off what does not run")
    return Sheet(
        key=f"between-cuts/{way.lead_id}/{lead_id}", kind="between_cuts",
        title=f"Between cuts: {plan.lead_name(lead_id)}", begins=begins, steps=order.steps,
        stay_off=writer.labels(writer.back_on.stay_off), notes=writer.notes,
    )  # fmt: skip


def _windows(plan: Plan) -> str:
    """When the utility is there, by the plan."""
    told = []
    for window in sorted(plan.outage.grid.values(), key=lambda one: one.at_s)[:4]:
        begins, ends = (
            plan.site.instant(plan.outage.start_local, at_s)
            for at_s in (window.at_s, window.at_s + window.for_s)
        )
        told.append(f"{plan.site.units.told_moment(begins)} to {plan.site.units.told_time(ends)}")
    return f"By the plan the utility is there {', '.join(told)}"
