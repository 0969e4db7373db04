"""What becomes of each circuit in an outage, the same on schedule, labels and sheets."""

from typing import Literal

from weary_cedar.core.network import network_of
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.schools import way_back

Standing = Literal["keep", "room", "off", "no_room", "not_fed"]


def staying_on(plan: Plan) -> dict[str, Standing]:
    """What becomes of each circuit.

    Args:
        plan: the plan.

    Returns:
        By circuit: keep or room where a source feeds it, as it is marked; off where it is marked so;
        `no_room` where it is left off by the sheet of every source that reaches it; `not_fed` where none
        does.

    Source: the order in which sheets bring circuits back.
    """
    network = network_of(plan)
    room: dict[str, bool] = {}
    for way in network.running:
        stay_off = way_back(network, way, leave_on=True).stay_off
        for key in way.branches:
            room[key] = room.get(key, False) or key not in stay_off
    feeders = {panel.fed_from for panel in plan.panels.values()}
    found: dict[str, Standing] = {}
    for key, circuit in plan.circuits.items():
        if circuit.mark == "off" or key in feeders:
            found[key] = circuit.mark
        elif key not in room:
            found[key] = "not_fed" if network.running else circuit.mark
        else:
            found[key] = circuit.mark if room[key] else "no_room"
    return found
