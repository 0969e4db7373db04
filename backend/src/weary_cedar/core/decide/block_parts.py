"""Of which parts a block of the strip can be: what an act switches, whose cord comes out, whose hours."""

from collections.abc import Iterator

from pydantic import BaseModel

from weary_cedar.core.plan import Act, Incident, Plan
from weary_cedar.core.plan.load import Refrigerating, Thermostatic

#: Every cord at once.
ANY_CORD = "leads/"


class PartChoice(BaseModel):
    """A part that blocks of a lane can be of: its room and id, and its name."""

    value: str
    name: str


def parts_of(plan: Plan, lane: str) -> list[PartChoice]:
    """Parts that a block of a lane can be of; none where its part is fixed.

    Args:
        plan: the plan.
        lane: name of the lane.
    """
    asked = {"acts": _switched, "incidents": _going_wrong, "vehicles": _vehicles}.get(lane)
    return [] if asked is None else [PartChoice(value=value, name=name) for value, name in asked(plan)]


def part_of_act(act: Act) -> str:
    """The part that an act switches, as it is chosen."""
    pack = f"/{act.pack_id}" if act.pack_id else ""
    return f"{act.room}/{act.part_id}{pack}"


def part_of_incident(incident: Incident) -> str:
    """What goes wrong in an incident, as it is chosen."""
    if incident.kind == "door_open":
        return f"loads/{incident.load_id}"
    return f"leads/{incident.lead_id}" if incident.lead_id else ANY_CORD


def heaters(plan: Plan) -> Iterator[tuple[str, Thermostatic]]:
    """Loads that heat or cool by a thermostat, by id."""
    for key, load in plan.loads.items():
        if isinstance(load.behaviour, Thermostatic):
            yield key, load.behaviour


def _switched(plan: Plan) -> Iterator[tuple[str, str]]:
    for key, station in plan.stations.items():
        yield f"stations/{key}", station.name
        for pack_id, pack in station.packs.items():
            yield f"stations/{key}/{pack_id}", f"{pack.name} of {station.name}"
    for key, engine in plan.generators.items():
        yield f"generators/{key}", engine.name
    for key, circuit in plan.circuits.items():
        yield f"circuits/{key}", f"breaker of {circuit.label}"
    for key, load in plan.loads.items():
        yield f"loads/{key}", load.name
    for key in plan.leads:
        yield f"leads/{key}", plan.lead_name(key)


def _going_wrong(plan: Plan) -> Iterator[tuple[str, str]]:
    yield ANY_CORD, "the cord of every feed comes out"
    for key in plan.leads:
        yield f"leads/{key}", f"the cord comes out: {plan.lead_name(key)}"
    told = {incident.load_id for incident in plan.outage.incidents.values()}
    for key, load in plan.loads.items():
        if key in told or isinstance(load.behaviour, Refrigerating):
            yield f"loads/{key}", f"the door of {load.name} is left open"


def _vehicles(plan: Plan) -> Iterator[tuple[str, str]]:
    for key, vehicle in plan.vehicles.items():
        yield f"vehicles/{key}", vehicle.name
