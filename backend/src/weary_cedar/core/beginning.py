"""How a plan begins: from a list of rooms, from a panel's labels, from a CSV, or from nothing."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.library import appliance_load, appliances, heaters
from weary_cedar.core.plan import Circuit, Load, Outage, Panel, Plan, Site
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.site import System
from weary_cedar.core.tables import Row, table

PANEL_ID = "main"
SPACES = 24
MOST_SPACES = 84


def rooms() -> list[str]:
    """Rooms that a plan can begin from."""
    return list(dict.fromkeys(row["room"] for row in table("rooms")))


class BroughtBy(BaseModel):
    """Something that a room usually has."""

    model_config = ConfigDict(frozen=True)

    appliance_id: str
    name: str
    mark: str
    running_w: float


class RoomOf(BaseModel):
    """A room and what it usually brings."""

    model_config = ConfigDict(frozen=True)

    room: str
    brings: tuple[BroughtBy, ...]


def room_list() -> list[RoomOf]:
    """Rooms that a plan can begin from, each with what it usually brings."""
    classes = {item.appliance_id: (item.name, on_watts(item.load)) for item in appliances()}
    classes |= {item.heater_id: (item.name, item.behaviour.run_w) for item in heaters()}

    def brought(row: Row) -> BroughtBy:
        name, watts = classes[row["appliance_id"]]
        return BroughtBy(appliance_id=row["appliance_id"], name=name, mark=row["mark"], running_w=watts)

    rows = table("rooms")
    return [
        RoomOf(room=room, brings=tuple(brought(row) for row in rows if row["room"] == room))
        for room in rooms()
    ]


def empty_plan(name: str, start: datetime) -> Plan:
    """A house with a panel without breakers."""
    return house_with(name, start, {}, {})


def plan_from_rooms(name: str, start: datetime, chosen: list[str]) -> Plan:
    """A house with what rooms usually hold, each on the circuit that it usually has.

    Args:
        name: of the plan.
        start: of the outage, local time.
        chosen: rooms.

    Returns:
        The plan, with nothing that feeds it yet; breakers as `on_breakers` makes them.

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
    wanted = [
        WantedLoad(row["appliance_id"], row["room"], row["mark"])
        for row in table("rooms")
        if row["room"] in chosen
    ]
    circuits, loads = on_breakers(wanted)
    return house_with(name, start, circuits, loads)


@dataclass(frozen=True)
class WantedLoad:
    """An appliance or heater of the library that a house has, the room that it is in, and its mark."""

    appliance_id: str
    room: str
    mark: str


def on_breakers(
    wanted: Sequence[WantedLoad], house: Plan | None = None, *, split_phase: bool = True
) -> tuple[dict[str, Circuit], dict[str, Load]]:
    """Loads on breakers as they usually hang: two-pole appliances and what must run on their own.

    Args:
        wanted: what there is.
        house: with breakers and loads that are there already.
        split_phase: a house of two legs; else of 230 V, whose breakers have one pole.

    Returns:
        All breakers, and the loads; others share a breaker a room and rating. Spaces 2 and 4 stay free for
        the breaker of a feed.

    Raises:
        InvalidInput: an appliance that is not known, or a panel that is full.

    Source: common practice of the trade.
    """
    found: dict[str, Circuit] = dict(house.circuits) if house is not None else {}
    loads: dict[str, Load] = dict(house.loads) if house is not None else {}
    there = [circuit for circuit in found.values() if circuit.panel_id == PANEL_ID]
    taken = {2, 4} | {space for circuit in there for space in circuit.spaces}
    classes = {item.appliance_id: item for item in appliances()}
    heating = {item.heater_id: item for item in heaters()}
    shared: dict[str, str] = {}
    for item in wanted:
        heater, appliance = heating.get(item.appliance_id), classes.get(item.appliance_id)
        if heater is None and appliance is None:
            problem = Problem("/needs", shown(item.appliance_id), "an appliance of the library")
            raise InvalidInput(str(problem), (problem,))
        kind = appliance.circuit if appliance is not None and heater is None else "15 A"
        two_pole = "two-pole" in kind and split_phase
        alone = "two-pole" in kind or heater is not None or item.mark != "room"
        name = heater.name if heater else appliance.name if appliance else ""
        room = item.room or (appliance.room if appliance else "")
        label = name if alone else f"{room} outlets"
        circuit_id = shared.get(label) if not alone else None
        if circuit_id is None:
            circuit_id = free_id(label, found, "circuit")
            spaces = _next_spaces(taken, 2 if two_pole else 1)
            found[circuit_id] = _breaker(label, kind, item.mark, spaces, split_phase)
            if not alone:
                shared[label] = circuit_id
        key = free_id(item.appliance_id, loads)
        own = appliance_load(item.appliance_id, circuit_id) if heater is None else None
        loads[key] = own or heating[item.appliance_id].load(circuit_id)
    return found, loads


#: Breakers of 230 V houses for what has so many amps at 120 V. Common practice.
AMPS_230 = {15.0: 10.0, 20.0: 16.0, 30.0: 20.0, 40.0: 32.0, 50.0: 32.0}


def _breaker(label: str, kind: str, mark: str, spaces: tuple[int, ...], split_phase: bool) -> Circuit:
    rating = re.match(r"\d+", kind)
    amps = float(rating[0]) if rating else 20.0
    return Circuit.model_validate(
        {
            "panel_id": PANEL_ID,
            "spaces": spaces,
            "breaker_a": amps if split_phase else AMPS_230.get(amps, 16.0),
            "label": label[:1].upper() + label[1:],
            "mark": mark,
            "order": 10 if mark == "keep" else 50,
        }
    )


def house_with(
    name: str,
    start: datetime,
    circuits: dict[str, Circuit],
    loads: dict[str, Load],
    *,
    split_phase: bool = True,
) -> Plan:
    """A house with breakers and loads, and nothing that feeds it: what nobody owns is in no plan."""
    own = [circuit for circuit in circuits.values() if circuit.panel_id == PANEL_ID]
    highest = max((space for circuit in own for space in circuit.spaces), default=1)
    panel = Panel(name="Main panel" if split_phase else "Board", spaces=_even(max(SPACES, highest)))
    system: System = "split_phase_120_240" if split_phase else "single_phase_230"
    plan = Plan(
        name=name,
        site=Site(name=name, system=system),
        panels={PANEL_ID: panel},
        outage=Outage(start_local=start),
    )
    return plan.model_copy(update={"circuits": circuits, "loads": loads})


def _even(spaces: int) -> int:
    return spaces + spaces % 2


def _next_spaces(taken: set[int], poles: int) -> tuple[int, ...]:
    for space in range(1, MOST_SPACES):
        spaces = tuple(space + 2 * index for index in range(poles))
        if not set(spaces) & taken and spaces[-1] <= MOST_SPACES:
            taken.update(spaces)
            return spaces
    raise InvalidInput("The panel is full.", (Problem("/rooms", "all", "fewer rooms"),))
