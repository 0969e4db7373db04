"""What is done to the blocks of the strip: each deed makes another plan, snapped to quarter hours."""

from collections.abc import Callable, Sequence
from datetime import timedelta
from typing import Any, Literal

from pydantic import BaseModel

from weary_cedar.core.decide.blocks import LANES, Block, blocks_of, daily
from weary_cedar.core.errors import InvalidInput, NotFound, Problem
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.ids import free_id

#: Moving snaps to this, s.
SNAP_S = 900.0
DAY_S = 86_400.0
#: Length of a new block, s.
NEW_S = 7_200.0

Json = dict[str, Any]


class BlockDeed(BaseModel):
    """What someone does to a block; `key` is its own, or the name of the lane for a new one."""

    deed: Literal["move", "remove", "add", "choose"]
    key: str
    at_s: float = 0.0
    for_s: float | None = None
    value: str = ""


def done(plan: Plan, deed: BlockDeed) -> Plan:
    """The plan after something was done to a block.

    Args:
        plan: the plan.
        deed: what, to which block, and when, s from the start.

    Raises:
        NotFound: no such block.
        InvalidInput: the block cannot be moved, resized, removed or chosen so.
        InvalidPlan: the plan would contradict itself, for example two windows at once.
    """
    document: Json = plan.model_dump(mode="json", exclude_none=True)
    if deed.deed == "add":
        _add(plan, document, deed)
        return read_plan(document)
    block = next((item for item in blocks_of(plan) if item.key == deed.key), None)
    if block is None:
        problem = Problem("/key", deed.key[:80], "a block of this plan")
        raise NotFound(str(problem), (problem,))
    _DEEDS[deed.deed](plan, document, block, deed)
    return read_plan(document)


def _inside(document: Json, part: str) -> Any:
    found: Any = document
    for step in part.split("/")[1:]:
        found = found[int(step)] if isinstance(found, list) else found[step]
    return found


def snapped(plan: Plan, at_s: float) -> float:
    """The nearest quarter hour of the site's clock within the outage, s from the start."""
    start = plan.outage.start_local
    midnight_s = start.hour * 3600.0 + start.minute * 60.0 + start.second
    whole = round((midnight_s + at_s) / SNAP_S) * SNAP_S - midnight_s
    return min(max(whole, 0.0), plan.outage.length_s)


def _move(plan: Plan, document: Json, block: Block, deed: BlockDeed) -> None:
    if block.lane == "sky":
        _move_sky(plan, document, block, deed)
        return
    for_s = block.for_s if deed.for_s is None or not block.resizable else max(SNAP_S, deed.for_s)
    held = _inside(document, block.part)
    stays, lasts = abs(deed.at_s - block.at_s) < 1.0, for_s == block.for_s
    if not block.daily:
        if not stays:
            held["at_s"] = snapped(plan, deed.at_s)
        if not lasts and for_s is not None:
            held["for_s"] = max(SNAP_S, round(for_s / SNAP_S) * SNAP_S)
        return
    hours = next(hours for part, _, _, hours in daily(plan) if part == block.part)
    if not stays:
        held[hours.begins] = _clock(plan, deed.at_s)
    if hours.ends is not None and for_s is not None and not (stays and lasts):
        held[hours.ends] = _clock(plan, deed.at_s + min(for_s, DAY_S - SNAP_S))


def _clock(plan: Plan, at_s: float) -> str:
    """The time of day, to the quarter hour, of a moment that may lie before the start."""
    start = plan.outage.start_local
    midnight_s = start.hour * 3600.0 + start.minute * 60.0 + start.second
    own = plan.site.instant(start, at_s)
    local_s = own.hour * 3600.0 + own.minute * 60.0 + own.second if at_s >= 0 else midnight_s + at_s
    whole = timedelta(seconds=round(local_s / SNAP_S) * SNAP_S % DAY_S)
    return f"{whole.seconds // 3600:02d}:{whole.seconds % 3600 // 60:02d}:00"


def _days_of_sky(document: Json, day: int) -> list[str]:
    """The kinds of days, at least up to a day: the last one stays."""
    sky: list[str] = document["outage"]["weather"].setdefault("sky", ["clear"])
    sky += [sky[-1]] * (day + 1 - len(sky))
    return sky


def _move_sky(plan: Plan, document: Json, block: Block, deed: BlockDeed) -> None:
    """A day changes places with the one that it is dragged to."""
    days = [item for item in blocks_of(plan) if item.lane == "sky"]
    middle = deed.at_s + (block.for_s or 0.0) / 2
    onto = next((i for i, item in enumerate(days) if middle < item.at_s + (item.for_s or 0.0)), len(days) - 1)
    own = days.index(block)
    sky = _days_of_sky(document, max(own, onto))
    sky[own], sky[onto] = sky[onto], sky[own]


def _remove(_plan: Plan, document: Json, block: Block, _deed: BlockDeed) -> None:
    if not block.removable:
        problem = Problem("/key", block.name, "a block that can be taken away: this one can only be moved")
        raise InvalidInput(str(problem), (problem,))
    above, _, last = block.part.rpartition("/")
    held = _inside(document, above)
    if isinstance(held, list):
        del held[int(last)]
    else:
        del held[last]


def _choose(_plan: Plan, document: Json, block: Block, deed: BlockDeed) -> None:
    if deed.value not in block.choices:
        right = ", ".join(block.choices) or "nothing: this block has no kinds"
        problem = Problem("/value", deed.value[:40], right)
        raise InvalidInput(str(problem), (problem,))
    if block.lane == "sky":
        day = int(block.part.rpartition("/")[2])
        _days_of_sky(document, day)[day] = deed.value
    else:
        _inside(document, block.part)["turn"] = deed.value


_DEEDS: dict[str, Callable[[Plan, Json, Block, BlockDeed], None]] = {
    "move": _move,
    "remove": _remove,
    "choose": _choose,
}


def _add(plan: Plan, document: Json, deed: BlockDeed) -> None:
    at_s, for_s = snapped(plan, deed.at_s), deed.for_s or NEW_S
    outage = document["outage"]
    if deed.key == "utility":
        grid = outage.setdefault("grid", {})
        grid[free_id("window", set(grid), "window")] = {"at_s": at_s, "for_s": for_s}
    elif deed.key == "incidents":
        held = outage.setdefault("incidents", {})
        new = {"kind": "cord_unplugged", "at_s": at_s, "for_s": SNAP_S}
        held[free_id("incident", set(held), "incident")] = new
    elif deed.key == "people":
        away = outage["occupancy"].setdefault("away", [])
        away.append({"leaves": _clock(plan, at_s), "returns": _clock(plan, at_s + for_s)})
    elif deed.key == "acts":
        held = outage.setdefault("acts", {})
        room, part_id = _first_part(plan)
        new = {"at_s": at_s, "room": room, "part_id": part_id, "turn": "off"}
        held[free_id("act", set(held), "act")] = new
    else:
        lanes = ", ".join(lane for lane, add in LANES.items() if add)
        problem = Problem("/key", deed.key[:40], f"a lane that takes new blocks: {lanes}")
        raise InvalidInput(str(problem), (problem,))


def _first_part(plan: Plan) -> tuple[str, str]:
    """What a new act switches, until another part is chosen."""
    rooms: dict[str, Sequence[str]] = {
        "stations": list(plan.stations),
        "generators": list(plan.generators),
        "circuits": list(plan.circuits),
    }
    for room, parts in rooms.items():
        if parts:
            return room, parts[0]
    problem = Problem("/key", "acts", "a plan with a station, an engine or a circuit to be switched")
    raise InvalidInput(str(problem), (problem,))
