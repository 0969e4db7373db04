"""Everything of a house that a hand moves in an outage, with the positions that it can be in.

Names of elements are paths: what it is, then of what. They are the same in steps files, in sheets and in
what the state machine says.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from weary_cedar.core.plan import Hookup, Plan, ToInput
from weary_cedar.core.plan.hang import plug_of

ON_OFF = ("on", "off")
IN_OUT = ("in", "out")
THREE = ("utility", "off", "source")


@dataclass(frozen=True)
class Element:
    """Something that a hand moves: its name, its positions, and where it is when the utility goes."""

    key: str
    name: str
    positions: tuple[str, ...]
    begins: str


def elements_of(plan: Plan) -> dict[str, Element]:
    """All elements of a plan by their keys.

    Args:
        plan: the plan.

    Returns:
        Mains, breakers, feed breakers, interlocks, transfer switches and their handles, outputs, engines,
        ends of leads, bonding plugs, home plugs of what hangs on cords, and arrays that feed the utility.
        They begin as a house is on the utility: everything on, nothing plugged but chargers.
    """
    return {element.key: element for element in _all(plan)}


def _all(plan: Plan) -> Iterator[Element]:
    for key, panel in plan.panels.items():
        yield Element(f"main/{key}", f"main of {panel.name}", ON_OFF, "on")
    for key, circuit in plan.circuits.items():
        yield Element(f"breaker/{key}", f"breaker of {circuit.label}", ON_OFF, "on")
    for key in plan.feeds:
        yield from _of_feed(plan, key)
    for key, station in plan.stations.items():
        if not any(key in (link.leg_a, link.leg_b) for link in plan.links.values()):
            yield Element(f"output/station/{key}", f"output of {station.name}", ON_OFF, "off")
    for key, link in plan.links.items():
        yield Element(f"output/link/{key}", f"outputs of {link.name}", ON_OFF, "off")
    for key, engine in plan.generators.items():
        yield Element(f"engine/{key}", engine.name, ON_OFF, "off")
        yield Element(f"output/generator/{key}", f"breaker of {engine.name}", ON_OFF, "off")
        if engine.auto_start is not False:
            yield Element(
                f"lockout/generator/{key}", f"automatic start of {engine.name}", ("free", "locked"), "free"
            )
    for key, vehicle in plan.vehicles.items():
        yield Element(f"output/vehicle/{key}", f"outlet of {vehicle.name}", ON_OFF, "off")
    for key in plan.leads:
        yield from _of_lead(plan, key)
    for key, array in plan.arrays.items():
        if array.kind == "grid_tied":
            yield Element(f"lockout/array/{key}", f"disconnect of {array.name}", ("free", "locked"), "free")


def _of_feed(plan: Plan, key: str) -> Iterator[Element]:
    feed = plan.feeds[key]
    name = feed.name or f"feed of {plan.panels[feed.panel_id].name}"
    if feed.traits.interlocked:
        yield Element(f"interlock/{key}", f"interlock of {name}", ("utility", "source"), "utility")
    if feed.traits.moves == "breaker":
        yield Element(f"feed_breaker/{key}", f"feed breaker of {name}", ON_OFF, "off")
    if feed.traits.moves == "handles":
        for circuit_id in feed.circuit_ids:
            label = plan.circuits[circuit_id].label
            yield Element(f"handle/{key}/{circuit_id}", f"handle of {label}", THREE, "utility")
    if feed.traits.moves == "switch":
        yield Element(f"transfer/{key}", f"transfer switch of {name}", THREE, "utility")


def _of_lead(plan: Plan, key: str) -> Iterator[Element]:
    lead, name = plan.leads[key], plan.lead_name(key)
    wired = key in plan.hookups and is_wired(plan.hookups[key])
    at_home = lead.source.kind == "circuit"
    begins = "in" if wired or at_home else "out"
    yield Element(f"source_end/{key}", f"source end of {name}", IN_OUT, begins)
    yield Element(f"load_end/{key}", f"far end of {name}", IN_OUT, begins)
    if lead.bonding_plug == "yes":
        yield Element(f"bonding_plug/{key}", f"bonding plug of {name}", IN_OUT, "in")
    if key in plan.hookups and plan.hookups[key].kind == "cords":
        yield Element(f"home_plug/{key}", f"plugs at home of what hangs on {name}", IN_OUT, "in")
        for branch in branches_on_cords(plan, key):
            yield Element(f"plug/{key}/{branch}", f"{_named(plan, branch)} on {name}", IN_OUT, "in")


def branches_on_cords(plan: Plan, lead_id: str) -> list[str]:
    """What hangs on a lead to appliances: circuits whose loads are unplugged at home, and single plugs."""
    hookup = plan.hookups[lead_id]
    return [*hookup.circuit_ids, *(plug_of(key) for key in hookup.load_ids)]


def _named(plan: Plan, branch: str) -> str:
    circuit = plan.circuits.get(branch)
    return circuit.label if circuit else plan.loads[branch.rpartition(":")[2]].name


def is_wired(hookup: Hookup) -> bool:
    """Whether a lead is fixed: nobody plugs it."""
    return not hookup.cords and hookup.traits.by_itself


def charging_from(plan: Plan, lead_id: str) -> str | None:
    """The station that a lead charges from a circuit of the house, if it does."""
    lead = plan.leads[lead_id]
    return lead.to.station_id if isinstance(lead.to, ToInput) and lead.source.kind == "circuit" else None
