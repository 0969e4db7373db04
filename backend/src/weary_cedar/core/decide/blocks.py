"""Blocks of the strip: what a plan says about hours, as stretches of the outage that can be moved.

A block belongs to a part of the plan document; what holds for every day has one block a day, and moving
one moves all of them. Moving snaps to quarter hours of the site's clock.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import time
from typing import Any, Literal, get_args

from pydantic import BaseModel

from weary_cedar.core.decide.block_parts import PartChoice, heaters, part_of_act, part_of_incident, parts_of
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.hang import hangs_of
from weary_cedar.core.plan.load import Cycling, Job
from weary_cedar.core.plan.outage import GoneSpan, GridWindow, Incident, Sky
from weary_cedar.core.plan.strategy import EngineRule, ReserveRule, StartRule, TurnRule

Lane = Literal["sky", "utility", "engine", "vehicles", "jobs", "heat", "people", "acts", "incidents"]
#: Lanes in the order of the strip, and what the button for a new block on each says.
LANES: dict[Lane, str] = {
    "sky": "",
    "utility": "Add hours with the utility",
    "engine": "Add hours for an engine",
    "vehicles": "Add hours a vehicle is away",
    "jobs": "",
    "heat": "Add a set back",
    "people": "Add hours away",
    "acts": "Add an act",
    "incidents": "Add an incident",
}
DAY_S = 86_400.0

Json = dict[str, Any]


class Block(BaseModel):
    """A stretch or a moment of the outage that a part of the plan says.

    `part` is its place in the document, the same for the blocks of all days; `for_s` is nothing for a moment.
    """

    key: str
    part: str
    lane: Lane
    name: str
    at_s: float
    for_s: float | None
    daily: bool = False
    movable: bool = True
    resizable: bool = False
    removable: bool = False
    value: str | None = None
    choices: list[str] = []
    #: The part that it is of, of those of its lane; nothing where that is fixed.
    of: str | None = None
    #: Between which moments it can lie while the others stay; hours of every day lie anywhere.
    from_s: float | None = None
    to_s: float | None = None


class LaneOf(BaseModel):
    """A lane with its blocks, and what adding one is called; empty where none can be added."""

    lane: Lane
    add: str
    parts: list[PartChoice]
    blocks: list[Block]


@dataclass(frozen=True)
class Hours:
    """Times of day of a part: names of its fields; one that is a moment has no end."""

    begins: str
    ends: str | None


AWAY, ASLEEP = Hours("leaves", "returns"), Hours("sleeps", "wakes")
WINDOW, JOB, AT = Hours("begins", "ends"), Hours("earliest", "latest"), Hours("at", None)
NIGHT = Hours("bedtime", "until")


def lanes_of(plan: Plan) -> list[LaneOf]:
    """All blocks of a plan, by lane.

    Args:
        plan: the plan.

    Returns:
        Lanes that have blocks, or can have some.
    """
    found = list(blocks_of(plan))
    lanes = [
        LaneOf(
            lane=lane, add=add if _takes(plan, lane) else "", parts=parts_of(plan, lane),
            blocks=[block for block in found if block.lane == lane],
        )
        for lane, add in LANES.items()
    ]  # fmt: skip
    return [lane for lane in lanes if lane.blocks or lane.add]


def _takes(plan: Plan, lane: Lane) -> bool:
    """Whether there is anything that a new block of a lane could be of."""
    if lane == "engine":
        return bool(plan.generators)
    if lane == "vehicles":
        return bool(plan.vehicles)
    return lane != "heat" or any(spec.setback is None for _, spec in heaters(plan))


def blocks_of(plan: Plan) -> Iterator[Block]:
    """Every block of a plan."""
    yield from _skies(plan)
    yield from _spans(plan)
    yield from _acts(plan)
    calendar = Calendar(plan.site, plan.outage)
    for part, lane, name, hours in daily(plan):
        yield from _every_day(plan, calendar, part, lane, name, hours)


def _skies(plan: Plan) -> Iterator[Block]:
    """A block a day where there is an array: of the kinds of days, the last of which stays."""
    if plan.outage.weather.hourly_sun is not None or not plan.arrays:
        return
    calendar = Calendar(plan.site, plan.outage)
    said, sky = plan.outage.weather.sky, plan.sky
    day, begins = 0, 0.0
    while begins < plan.outage.length_s:
        ends = min(calendar.moment(day + 2, time(0)), plan.outage.length_s)
        kind = sky[min(day, len(sky) - 1)]
        yield Block(
            key=f"/outage/weather/sky/{day}", part=f"/outage/weather/sky/{day}", lane="sky",
            name=kind.replace("_", " "), at_s=begins, for_s=ends - begins, value=kind,
            choices=list(get_args(Sky)), removable=day == len(said) - 1 and day > 0,
        )  # fmt: skip
        day, begins = day + 1, ends


def _spans(plan: Plan) -> Iterator[Block]:
    outage = plan.outage
    windows = sorted((item.at_s, item.at_s + item.for_s) for item in outage.grid.values())
    for key, window in outage.grid.items():
        block = _span(plan, f"/outage/grid/{key}", "utility", "the utility is back", window)
        block.from_s = max([0.0, *(ends for at_s, ends in windows if at_s < window.at_s)])
        block.to_s = min([outage.length_s, *(at_s for at_s, _ in windows if at_s > window.at_s)])
        yield block
    named = {choice.value: choice.name for choice in parts_of(plan, "incidents")}
    for key, item in outage.incidents.items():
        of = part_of_incident(item)
        yield _span(
            plan, f"/outage/incidents/{key}", "incidents", named.get(of, "a door is left open"), item, of
        )
    for index, gone in enumerate(outage.occupancy.gone):
        yield _span(plan, f"/outage/occupancy/gone/{index}", "people", "nobody there", gone)


def _span(
    plan: Plan,
    part: str,
    lane: Lane,
    name: str,
    said: GridWindow | Incident | GoneSpan,
    of: str | None = None,
) -> Block:
    return Block(
        key=part, part=part, lane=lane, name=name, at_s=said.at_s, for_s=said.for_s, resizable=True,
        removable=True, of=of, from_s=0.0, to_s=plan.outage.length_s,
    )  # fmt: skip


def _acts(plan: Plan) -> Iterator[Block]:
    named = {choice.value: choice.name for choice in parts_of(plan, "acts")}
    for key, act in plan.outage.acts.items():
        part, of = f"/outage/acts/{key}", part_of_act(act)
        yield Block(
            key=part, part=part, lane="acts", name=f"{named[of]} {act.turn}", at_s=act.at_s, for_s=None,
            removable=True, value=act.turn, choices=["off", "on"], of=of,
            from_s=0.0, to_s=plan.outage.length_s,
        )  # fmt: skip


Daily = tuple[str, Lane, str, Hours]


def daily(plan: Plan) -> Iterator[Daily]:
    """Parts that say hours of every day: place in the document, lane, name, fields."""
    people = plan.outage.occupancy
    if people.wakes != people.sleeps:
        yield "/outage/occupancy", "people", "asleep", ASLEEP
    for index in range(len(people.away)):
        yield f"/outage/occupancy/away/{index}", "people", "away", AWAY
    yield from _daily_parts(plan)
    yield from _daily_rules(plan)


def _daily_parts(plan: Plan) -> Iterator[Daily]:
    for key, engine in plan.generators.items():
        if engine.quiet is not None:
            yield f"/generators/{key}/quiet", "engine", f"{engine.name}: quiet hours", WINDOW
    for key, vehicle in plan.vehicles.items():
        for index in range(len(vehicle.away)):
            yield f"/vehicles/{key}/away/{index}", "vehicles", f"{vehicle.name} is away", WINDOW
    for key, spec in heaters(plan):
        if spec.setback is not None:
            warmth = plan.site.units.told_warmth(spec.setback.set_c)
            name = f"{plan.loads[key].name} set back to {warmth}"
            yield f"/loads/{key}/behaviour/setback", "heat", name, WINDOW
    hangs = hangs_of(plan)
    for key, load in plan.loads.items():
        if hangs[key].mark == "off":
            continue
        if isinstance(load.behaviour, Job):
            yield f"/loads/{key}/behaviour", "jobs", f"{load.name} may begin", JOB
        elif isinstance(load.behaviour, Cycling) and load.behaviour.hours is not None:
            yield f"/loads/{key}/behaviour/hours", "jobs", f"{load.name} by its timer", WINDOW


def _daily_rules(plan: Plan) -> Iterator[Daily]:
    for index, rule in enumerate(plan.strategy.rules):
        if not rule.on:
            continue
        at = f"/strategy/rules/{index}"
        if isinstance(rule, EngineRule) and rule.hours is not None:
            yield f"{at}/hours", "engine", f"{plan.generators[rule.generator_id].name} may run", WINDOW
        elif isinstance(rule, ReserveRule):
            yield at, "people", "reserve of the night", NIGHT
        elif isinstance(rule, StartRule):
            yield at, "jobs", f"begin {plan.loads[rule.load_id].name}", AT
        elif isinstance(rule, TurnRule):
            yield at, "acts", f"turn {plan.arrays[rule.array_id].name}", AT


#: Endings of places whose hours can be taken away; others are needed.
REMOVABLE = ("/hours", "/quiet", "/setback")


def _part(plan: Plan, part: str) -> Any:
    """The part of a plan at a place of its document."""
    found: Any = plan
    for step in part.split("/")[1:]:
        if isinstance(found, dict):
            found = found[step]
        else:
            found = found[int(step)] if step.isdigit() else getattr(found, step)
    return found


def _every_day(
    plan: Plan, calendar: Calendar, part: str, lane: Lane, name: str, hours: Hours
) -> Iterator[Block]:
    said = _part(plan, part)
    begins: time = getattr(said, hours.begins)
    ends: time | None = getattr(said, hours.ends) if hours.ends else None
    over = 1 if ends is not None and ends <= begins else 0
    taken_away = part.endswith(REMOVABLE) or "/away/" in part or part.startswith("/strategy/rules/")
    count = 0
    for day in range(int(plan.outage.length_s // DAY_S) + 3):
        first = calendar.moment(day, begins)
        last = first if ends is None else calendar.moment(day + over, ends)
        if (last <= 0 and ends is not None) or first >= plan.outage.length_s or (ends is None and first < 0):
            continue
        count += 1
        yield Block(
            key=f"{part}@{count}", part=part, lane=lane, name=name, at_s=first,
            for_s=None if ends is None else last - first, daily=True, resizable=ends is not None,
            removable=taken_away, of=f"vehicles/{part.split('/')[2]}" if lane == "vehicles" else None,
        )  # fmt: skip
