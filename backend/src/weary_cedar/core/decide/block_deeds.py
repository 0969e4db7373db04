"""What is done to the blocks of the strip: each deed makes another plan, snapped to quarter hours."""

from collections.abc import Callable
from typing import Any, Literal

from pydantic import BaseModel

from weary_cedar.core.decide.block_new import SNAP_S, add_block, clock_at, snapped
from weary_cedar.core.decide.block_parts import act_of_part, parts_of
from weary_cedar.core.decide.blocks import DAY_S, Block, blocks_of, daily
from weary_cedar.core.errors import InvalidInput, NotFound, Problem
from weary_cedar.core.plan import Plan, read_plan

Json = dict[str, Any]


class BlockDeed(BaseModel):
    """What someone does to a block; `key` is its own, or the name of the lane for a new one."""

    deed: Literal["move", "remove", "add", "choose", "part"]
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
        add_block(plan, document, deed.key, deed.at_s, deed.for_s)
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
        held[hours.begins] = clock_at(plan, deed.at_s)
    if hours.ends is not None and for_s is not None and not (stays and lasts):
        held[hours.ends] = clock_at(plan, deed.at_s + min(for_s, DAY_S - SNAP_S))


def _days_of_sky(plan: Plan, document: Json, day: int) -> list[str]:
    """The kinds of days, at least up to a day: the last one stays. Where none was said they are now."""
    sky: list[str] = list(plan.sky)
    document["outage"].setdefault("weather", {})["sky"] = sky
    sky += [sky[-1]] * (day + 1 - len(sky))
    return sky


def _move_sky(plan: Plan, document: Json, block: Block, deed: BlockDeed) -> None:
    """A day changes places with the one that it is dragged to."""
    days = [item for item in blocks_of(plan) if item.lane == "sky"]
    middle = deed.at_s + (block.for_s or 0.0) / 2
    onto = next((i for i, item in enumerate(days) if middle < item.at_s + (item.for_s or 0.0)), len(days) - 1)
    own = days.index(block)
    sky = _days_of_sky(plan, document, max(own, onto))
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


def _choose(plan: Plan, document: Json, block: Block, deed: BlockDeed) -> None:
    if deed.value not in block.choices:
        right = ", ".join(block.choices) or "nothing: this block has no kinds"
        problem = Problem("/value", deed.value[:40], right)
        raise InvalidInput(str(problem), (problem,))
    if block.lane == "sky":
        day = int(block.part.rpartition("/")[2])
        _days_of_sky(plan, document, day)[day] = deed.value
    else:
        _inside(document, block.part)["turn"] = deed.value


def _part(plan: Plan, document: Json, block: Block, deed: BlockDeed) -> None:
    """Let a block be of another part: what an act switches, what goes wrong, which vehicle is away."""
    choices = {choice.value: choice.name for choice in parts_of(plan, block.lane)}
    if block.of is None or deed.value not in choices:
        right = ", ".join(choices.values()) or "nothing: the part of this block is fixed"
        problem = Problem("/value", deed.value[:80], right)
        raise InvalidInput(str(problem), (problem,))
    room, part_id, *_ = deed.value.split("/")
    if block.lane == "vehicles":
        above, _, index = block.part.rpartition("/")
        hours = _inside(document, above).pop(int(index))
        document["vehicles"][part_id].setdefault("away", []).append(hours)
        return
    held = _inside(document, block.part)
    if block.lane == "acts":
        held |= act_of_part(deed.value)
        return
    held["kind"] = "door_open" if room == "loads" else "cord_unplugged"
    for gone in ("load_id", "lead_id"):
        held.pop(gone, None)
    if part_id:
        held["load_id" if room == "loads" else "lead_id"] = part_id


_DEEDS: dict[str, Callable[[Plan, Json, Block, BlockDeed], None]] = {
    "move": _move,
    "remove": _remove,
    "choose": _choose,
    "part": _part,
}
