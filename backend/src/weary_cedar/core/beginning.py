"""How a plan begins: from a list of rooms, from a panel's labels, from a CSV, or from nothing."""

import re
from datetime import datetime

from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.gear import station_of_class
from weary_cedar.core.library import appliance_load, appliances, heaters
from weary_cedar.core.plan import Circuit, Cord, Feed, Lead, Load, Outage, Outlet, Panel, Plan, Site, ToFeed
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.tables import table

PANEL_ID = "main"
#: A plan begins with a station of this class, so that there is a verdict to work from.
FIRST_STATION = "split-6000"
SPACES = 24
MOST_SPACES = 84


def rooms() -> list[str]:
    """Rooms that a plan can begin from."""
    return list(dict.fromkeys(row["room"] for row in table("rooms")))


def empty_plan(name: str, start: datetime) -> Plan:
    """A house with a panel without breakers, fed by a typical station."""
    return with_typical_station(_house(name, start, SPACES))


def plan_from_rooms(name: str, start: datetime, chosen: list[str]) -> Plan:
    """A house with what rooms usually hold, each on the circuit that it usually has.

    Args:
        name: of the plan.
        start: of the outage, local time.
        chosen: rooms.

    Returns:
        The plan; two-pole appliances have a breaker each, others share one a room and rating.

    Raises:
        InvalidInput: no room, or one that is not known.

    Source: common practice of the trade.
    """
    known = rooms()
    wrong = [room for room in chosen if room not in known]
    if wrong or not chosen:
        right = f"some of {', '.join(known)}"
        problem = Problem("/rooms", shown(wrong[0] if wrong else ""), right)
        raise InvalidInput(str(problem), (problem,))
    circuits: dict[str, Circuit] = {}
    loads: dict[str, Load] = {}
    taken = {2, 4}
    classes = {item.appliance_id: item for item in appliances()}
    heating = {item.heater_id: item for item in heaters()}
    for row in (row for row in table("rooms") if row["room"] in chosen):
        key = row["appliance_id"]
        heater = heating.get(key)
        kind = "15 A" if heater else classes[key].circuit
        alone = "two-pole" in kind or heater is not None or row["mark"] != "room"
        label = (heater.name if heater else classes[key].name) if alone else f"{row['room']} outlets"
        circuit_id = free_id(label, {} if not alone else circuits, "circuit")
        if circuit_id not in circuits:
            spaces = _next_spaces(taken, 2 if "two-pole" in kind else 1)
            rating = re.match(r"\d+", kind)
            circuits[circuit_id] = Circuit.model_validate(
                {
                    "panel_id": PANEL_ID,
                    "spaces": spaces,
                    "breaker_a": float(rating[0]) if rating else 20.0,
                    "label": label[:1].upper() + label[1:],
                    "mark": row["mark"],
                    "order": 10 if row["mark"] == "keep" else 50,
                }
            )
        if heater:
            loads[key] = Load(
                name=heater.name,
                circuit_id=circuit_id,
                behaviour=heater.behaviour,
                power_factor=0.8,
                start=heater.start,
                tolerance_s=3600.0,
                origin="library",
            )
        else:
            loads[key] = appliance_load(key, circuit_id)
    plan = _house(name, start, _even(max(SPACES, *(s for c in circuits.values() for s in c.spaces))))
    return with_typical_station(plan.model_copy(update={"circuits": circuits, "loads": loads}))


def plan_from_circuits(name: str, start: datetime, circuits: dict[str, Circuit]) -> Plan:
    """A house with the breakers of a typed or imported schedule; a space for the feed is found."""
    highest = max((space for circuit in circuits.values() for space in circuit.spaces), default=1)
    plan = _house(name, start, _even(max(SPACES, highest)))
    return with_typical_station(plan.model_copy(update={"circuits": circuits}))


def with_typical_station(plan: Plan) -> Plan:
    """Add a typical station and an interlocked inlet, where two spaces of a side are free for its breaker."""
    taken = {space for circuit in plan.circuits.values() for space in circuit.spaces}
    panel = plan.panels[PANEL_ID]
    pairs = [(s, s + 2) for s in (2, *range(1, panel.spaces - 1)) if s + 2 <= panel.spaces]
    spaces = next((pair for pair in pairs if not set(pair) & taken), None)
    station = station_of_class(FIRST_STATION)
    if spaces is None:
        return plan.model_copy(update={"stations": {"station": station}})
    receptacle = next(key for key, item in station.receptacles.items() if item.kind == "L14-30")
    lead = Lead(
        source=Outlet(kind="station", id="station", outlet=receptacle),
        cords=(Cord(length_m=7.62, awg=10),),
        to=ToFeed(feed_id="feed"),
    )
    feed = Feed(
        inlet_a=30.0,
        panel_id=PANEL_ID,
        breaker_a=30.0,
        breaker_spaces=spaces,
    )
    parts = {"stations": {"station": station}, "feeds": {"feed": feed}, "leads": {"lead": lead}}
    return plan.model_copy(update=parts)


def _house(name: str, start: datetime, spaces: int) -> Plan:
    panel = Panel(name="Main panel", spaces=spaces)
    return Plan(name=name, site=Site(name=name), panels={PANEL_ID: panel}, outage=Outage(start_local=start))


def _even(spaces: int) -> int:
    return spaces + spaces % 2


def _next_spaces(taken: set[int], poles: int) -> tuple[int, ...]:
    for space in range(1, MOST_SPACES):
        spaces = tuple(space + 2 * index for index in range(poles))
        if not set(spaces) & taken and spaces[-1] <= MOST_SPACES:
            taken.update(spaces)
            return spaces
    raise InvalidInput("The panel is full.", (Problem("/rooms", "all", "fewer rooms"),))
