"""New blocks of the strip, and the quarter hours of the site's clock on which blocks lie."""

from collections.abc import Callable, Sequence
from datetime import timedelta
from typing import Any

from weary_cedar.core.decide.block_parts import heaters
from weary_cedar.core.decide.blocks import DAY_S, LANES
from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.plan import EngineRule, Plan
from weary_cedar.core.plan.ids import free_id

#: Moving snaps to this, s.
SNAP_S = 900.0
#: Length of a new block, s.
NEW_S = 7_200.0
#: A new set back is by so much, K. Common practice.
SET_BACK_K = 4.0
#: Hours for an engine, without a level of their own: it runs in them whenever something is not full, %.
RUNS_BELOW, RUNS_TO = 95.0, 98.0

Json = dict[str, Any]


def snapped(plan: Plan, at_s: float) -> float:
    """The nearest quarter hour of the site's clock within the outage, s from the start."""
    start = plan.outage.start_local
    midnight_s = start.hour * 3600.0 + start.minute * 60.0 + start.second
    whole = round((midnight_s + at_s) / SNAP_S) * SNAP_S - midnight_s
    return min(max(whole, 0.0), plan.outage.length_s)


def clock_at(plan: Plan, at_s: float) -> str:
    """The time of day, to the quarter hour, of a moment that may lie before the start."""
    start = plan.outage.start_local
    midnight_s = start.hour * 3600.0 + start.minute * 60.0 + start.second
    own = plan.site.instant(start, at_s)
    local_s = own.hour * 3600.0 + own.minute * 60.0 + own.second if at_s >= 0 else midnight_s + at_s
    whole = timedelta(seconds=round(local_s / SNAP_S) * SNAP_S % DAY_S)
    return f"{whole.seconds // 3600:02d}:{whole.seconds % 3600 // 60:02d}:00"


def add_block(plan: Plan, document: Json, lane: str, at_s: float, for_s: float | None) -> None:
    """Add a block to the document of a plan.

    Args:
        plan: the plan.
        document: the same, that is changed.
        lane: name of the lane.
        at_s: when it begins, s from the start; snapped to a quarter hour.
        for_s: how long it lasts, s; two hours if not given.

    Raises:
        InvalidInput: the lane takes no new blocks, or there is nothing that one could be of.
    """
    begin = _NEW.get(lane)
    if begin is None:
        lanes = ", ".join(name for name, add in LANES.items() if add)
        raise _refused(lane[:40], f"a lane that takes new blocks: {lanes}")
    begin(plan, document, snapped(plan, at_s), for_s or NEW_S)


def _refused(value: str, right: str) -> InvalidInput:
    problem = Problem("/key", value, right)
    return InvalidInput(str(problem), (problem,))


def _utility(_plan: Plan, document: Json, at_s: float, for_s: float) -> None:
    grid = document["outage"].setdefault("grid", {})
    grid[free_id("window", set(grid), "window")] = {"at_s": at_s, "for_s": for_s}


def _incident(_plan: Plan, document: Json, at_s: float, _for_s: float) -> None:
    held = document["outage"].setdefault("incidents", {})
    new = {"kind": "cord_unplugged", "at_s": at_s, "for_s": SNAP_S}
    held[free_id("incident", set(held), "incident")] = new


def _away(plan: Plan, document: Json, at_s: float, for_s: float) -> None:
    away = document["outage"]["occupancy"].setdefault("away", [])
    away.append({"leaves": clock_at(plan, at_s), "returns": clock_at(plan, at_s + for_s)})


def _hours(plan: Plan, at_s: float, for_s: float) -> Json:
    return {"begins": clock_at(plan, at_s), "ends": clock_at(plan, at_s + for_s)}


def _engine(plan: Plan, document: Json, at_s: float, for_s: float) -> None:
    """Hours for the first engine that has none: of its rule, or of a new one."""
    ruled: dict[str, int] = {}
    for index, rule in enumerate(plan.strategy.rules):
        if isinstance(rule, EngineRule) and rule.on:
            ruled.setdefault(rule.generator_id, index)
    rules = document["strategy"].setdefault("rules", [])
    for key in plan.generators:
        if key not in ruled:
            levels = {"on_below_percent": RUNS_BELOW, "off_above_percent": RUNS_TO}
            rules.append(
                {"kind": "engine", "generator_id": key, **levels, "hours": _hours(plan, at_s, for_s)}
            )
            return
        if "hours" not in rules[ruled[key]]:
            rules[ruled[key]]["hours"] = _hours(plan, at_s, for_s)
            return
    raise _refused("engine", "an engine without hours: each has its own already, which can be moved")


def _vehicle(plan: Plan, document: Json, at_s: float, for_s: float) -> None:
    if not plan.vehicles:
        raise _refused("vehicles", "a plan with a vehicle")
    away = document["vehicles"][next(iter(plan.vehicles))].setdefault("away", [])
    away.append(_hours(plan, at_s, for_s))


def _set_back(plan: Plan, document: Json, at_s: float, for_s: float) -> None:
    found = next(((key, spec) for key, spec in heaters(plan) if spec.setback is None), None)
    if found is None:
        raise _refused("heat", "a thermostat without a set back: each has one already, which can be moved")
    key, spec = found
    set_c = spec.set_c - SET_BACK_K if spec.mode == "heat" else spec.set_c + SET_BACK_K
    document["loads"][key]["behaviour"]["setback"] = {**_hours(plan, at_s, for_s), "set_c": set_c}


def _act(plan: Plan, document: Json, at_s: float, _for_s: float) -> None:
    held = document["outage"].setdefault("acts", {})
    rooms: dict[str, Sequence[str]] = {
        "stations": list(plan.stations),
        "generators": list(plan.generators),
        "circuits": list(plan.circuits),
    }
    room, part_id = next(((room, parts[0]) for room, parts in rooms.items() if parts), ("", ""))
    if not room:
        raise _refused("acts", "a plan with a station, an engine or a circuit to be switched")
    new = {"at_s": at_s, "room": room, "part_id": part_id, "turn": "off"}
    held[free_id("act", set(held), "act")] = new


_NEW: dict[str, Callable[[Plan, Json, float, float], None]] = {
    "utility": _utility,
    "engine": _engine,
    "vehicles": _vehicle,
    "heat": _set_back,
    "people": _away,
    "acts": _act,
    "incidents": _incident,
}
