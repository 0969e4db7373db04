"""Of which parts a block of the strip can be: what an act switches, whose cord comes out, whose hours."""

from collections.abc import Iterator

from pydantic import BaseModel

from weary_cedar.core.plan import Act, Incident, Plan, Station
from weary_cedar.core.plan.lead import OUTLET_ROOMS
from weary_cedar.core.plan.load import Refrigerating, Thermostatic

#: Every cord at once.
ANY_CORD = "leads/"
#: Before the id of an outlet or an input in the value of a part.
OUTLET, INPUT = "outlet:", "input:"


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
    outlet = f"/{OUTLET}{act.outlet_id}" if act.outlet_id else ""
    entry = f"/{INPUT}{act.input_id}" if act.input_id else ""
    return f"{act.room}/{act.part_id}{pack}{outlet}{entry}"


def act_of_part(value: str) -> dict[str, str | None]:
    """Fields of an act that switches a part, as `part_of_act` says it."""
    room, part_id, *more = value.split("/")
    fields: dict[str, str | None] = dict.fromkeys(("pack_id", "outlet_id", "input_id"))
    for item in more:
        kind, _, key = item.rpartition(":")
        fields[f"{kind or 'pack'}_id"] = key
    return {"room": room, "part_id": part_id, **fields}


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
        yield from _inside(key, station)
    for room, kind in OUTLET_ROOMS.items():
        for key, part in getattr(plan, room).items():
            if room != "stations":
                yield f"{room}/{key}", part.name
            for outlet in plan.outlets_of(kind, key) if room != "vehicles" else ():
                yield f"{room}/{key}/{OUTLET}{outlet}", f"outlet {outlet} of {part.name}"
    for room in ("externals", "arrays", "loads"):
        for key, part in getattr(plan, room).items():
            yield f"{room}/{key}", part.name
    for key, circuit in plan.circuits.items():
        yield f"circuits/{key}", f"breaker of {circuit.label}"
    for key in plan.leads:
        yield f"leads/{key}", plan.lead_name(key)


def _inside(key: str, station: Station) -> Iterator[tuple[str, str]]:
    """Inputs and packs of a station."""
    for entry in (*station.ac_inputs, *station.dc_inputs):
        yield f"stations/{key}/{INPUT}{entry}", f"input {entry} of {station.name}"
    for pack_id, pack in station.packs.items():
        yield f"stations/{key}/{pack_id}", f"{pack.name} of {station.name}"
        for entry in pack.dc_inputs:
            yield f"stations/{key}/{pack_id}/{INPUT}{entry}", f"input {entry} of {pack.name}"


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
