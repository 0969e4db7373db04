"""Sheets of the days that follow: modules through the day, and rationing.

They are made from the run: what the sun should give then, and what is saved by going without.
"""

from bisect import bisect_right
from collections.abc import Sequence
from datetime import time

from weary_cedar.core.network import Network, Way
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.plan import Facing, Plan, SolarArray, Thermostatic, TurnRule
from weary_cedar.core.runbook.places import IN_HOUSE
from weary_cedar.core.runbook.sheet import Expected, Order, Sheet
from weary_cedar.core.runbook.writer import Writer

#: Of what the run has at that moment; the sky is seldom quite as planned. Common practice.
SUN_GIVES = (0.6, 1.15)
#: After it was turned an array is read so much later, s.
SETTLED_S = 900.0
NOON = time(12)
#: Cold that runs one hour in four is off so long, s.
CYCLED_OFF_S = 10_800.0
OUTSIDE = "at the modules"
POINTS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")


def _value(t_s: Sequence[float], values: Sequence[float], t: float) -> float:
    at = bisect_right(t_s, t) - 1
    return values[at] if at >= 0 else 0.0


# -------------------------------------------------------------------- modules


def through_the_day(plan: Plan, run: RunResult, array_id: str) -> Sheet:
    """Modules put out, turned, and taken in, with what their input should show.

    Args:
        plan: the plan.
        run: of it.
        array_id: of modules that someone carries.

    Returns:
        A step for each position; the watts are those of the run on the first day that has them.

    Source: order of plugs, common practice: direct current is never parted under load.
    """
    array, order = plan.arrays[array_id], Order(plan)
    assert array.station_id is not None
    at_station = f"at {plan.stations[array.station_id].name}"
    first, *later = _positions(plan, array_id, array)
    order.step(f"Carry the modules out: facing {_told(first)}", OUTSIDE,
               "No shade on any of them; they stand firm",
               "Wind lifts them: lay them flat and weigh them down",
               why="Bearings are from true north; a compass points to magnetic north, a little beside it.",
               )  # fmt: skip
    order.step("Cover them, then plug them in: modules first, station last", OUTSIDE,
               "Plugs click; plus is on plus", "A plug that is wet or melted: not this one",
               why="They are live in daylight, and parted direct current draws an arc.")  # fmt: skip
    order.step("Take the cover off", at_station, "Its display shows watts from the sun",
               "Nothing: look at the cord and for shade; volts too high: cover them, unplug",
               readings=_sun_reading(plan, run, array_id, first.at))  # fmt: skip
    for facing in later:
        order.step(f"{plan.site.units.told_time(facing.at)}: turn them to {_told(facing)}",
                   OUTSIDE, "The watts as below, a quarter hour later",
                   "Turn them by hand to where the watts are most",
                   readings=_sun_reading(plan, run, array_id, facing.at),
                   why="They stay plugged in: nothing is parted under load.")  # fmt: skip
    order.step("When the sun is gone: unplug at the station, then fold them up or weigh them down",
               at_station,
               "Nothing comes from the sun", "Still watts: cover them first",
               why="Wind, dew and thieves come at night.")  # fmt: skip
    return Sheet(key=f"sun/{array_id}", kind="sun", title=f"Through the day: {array.name}", steps=order.steps)


def carried(array: SolarArray) -> bool:
    """Whether someone carries, or at least turns, modules that charge a station."""
    return array.station_id is not None and (array.kind == "portable" or bool(array.moved))


def _positions(plan: Plan, array_id: str, array: SolarArray) -> list[Facing]:
    """Where it looks from when on; one that is not moved is read at noon."""
    fixed = Facing(at=NOON, tilt_deg=array.tilt_deg, azimuth_deg=array.azimuth_deg)
    turns = [
        Facing(at=rule.at, tilt_deg=rule.tilt_deg, azimuth_deg=rule.azimuth_deg)
        for rule in plan.strategy.followed(TurnRule)
        if rule.array_id == array_id
    ]
    moved = sorted(array.moved, key=lambda facing: facing.at)
    return [*(moved or [fixed]), *sorted(turns, key=lambda facing: facing.at)]


def _told(facing: Facing) -> str:
    point = POINTS[round(facing.azimuth_deg / 45) % 8]
    return f"{facing.azimuth_deg:.0f}° ({point}), tilted {facing.tilt_deg:.0f}°"


def _sun_reading(plan: Plan, run: RunResult, array_id: str, at: time) -> list[Expected]:
    """What the input of an array shows a while after a time of day, on the first day that has sun then."""
    sun = run.suns.get(_stands_for(plan, array_id, run))
    if sun is None or not sun.t_s:
        return []
    moments = [t for t, _ in Calendar(plan.site, plan.outage).windows(at, at)]
    seen = [_value(sun.t_s, sun.taken_w, t + SETTLED_S) for t in moments if t + SETTLED_S <= run.length_s]
    offered = [
        _value(sun.t_s, sun.offered_w, t + SETTLED_S) for t in moments if t + SETTLED_S <= run.length_s
    ]
    watts = next((value for value in offered if value > 1), 0.0)
    if watts == 0.0:
        return []
    low = min(watts, next((value for value in seen if value > 1), watts))
    day = f"a quarter hour after {plan.site.units.told_time(at)}"
    return [
        Expected(
            where=f"from the sun, {day}", low=SUN_GIVES[0] * low, high=SUN_GIVES[1] * watts, unit="W",
            if_low="cloud, haze, shade, dust, or a bearing beside it; a full station takes less, too",
            if_high="better than the plan",
        )
    ]  # fmt: skip


def _stands_for(plan: Plan, array_id: str, run: RunResult) -> str:
    """The key under which the run has an input that several arrays share."""
    array = plan.arrays[array_id]
    same = [
        key for key, other in sorted(plan.arrays.items())
        if (other.station_id, other.pack_id, other.input_id)
        == (array.station_id, array.pack_id, array.input_id)
    ]  # fmt: skip
    return next((key for key in same if key in run.suns), array_id)


# -------------------------------------------------------------------- rationing


def ration(network: Network, way: Way, begins: dict[str, str], run: RunResult) -> Sheet:
    """Going without, the least missed first, with what each saves.

    Args:
        network: of the plan.
        way: what feeds the house.
        begins: how the house stands while it is fed.
        run: of the plan.

    Returns:
        Circuits marked room are turned off, the last in order first; then cold and heat by hand.
    """
    plan, order = network.plan, Order(network.plan, begins)
    writer = Writer(network, way, order)
    days = max(run.length_s / 86_400, 1e-9)
    fahrenheit = plan.site.units.temperature == "f"
    warm, two = ("40 °F", "4 °F") if fahrenheit else ("4 °C", "2 °C")
    whole = sum(share.served_wh for share in run.loads.values()) / days
    order.step("Read the charge, and how much it was yesterday at this hour", writer.at_source,
               "It goes down faster than planned, or the sun did not come",
               "As planned: nothing is to be rationed")  # fmt: skip
    for key in _least_missed(network, way):
        loads = [item for item in network.loads_of([key]) if item in run.loads]
        saved = sum(run.loads[item].served_wh for item in loads) / days
        label = writer.labels([key])[0]
        see = f"The watts go down; that saves {_wh(saved)} a day of {_wh(whole)}"
        writer.branch_off(key, f"{label}: off", see)
    spared: list[str] = []
    for key in network.loads_of(list(way.branches)):
        load = plan.loads[key]
        if load.compressor and load.role == "food" and load.tolerance_s < CYCLED_OFF_S:
            spared.append(f"{load.name} stays on: it may be without power for {_span(load.tolerance_s)} only")
        elif load.compressor and load.role == "food":
            order.step(f"Let {load.name} run one hour in four, its door closed in between", IN_HOUSE,
                       f"A thermometer inside stays cold: a refrigerator under {warm}",
                       "Warmer: one hour in three; what was warm for two hours is not eaten")  # fmt: skip
        elif isinstance(load.behaviour, Thermostatic):
            order.step(f"Turn {load.name} down by {two}, live in one room", IN_HOUSE,
                       "Pipes stay over freezing: open the cupboards under sinks",
                       "Close the water and empty the pipes")  # fmt: skip
    idle = sum(unit.idle_draw_w for unit in plan.source_units(way.hookup).values())
    if idle > 0:
        order.step("Turn the output off for the hours in which nothing needs it", writer.at_source,
                   f"Being on alone takes {_wh(24 * idle)} a day",
                   "Leave it on where anything must not stop")  # fmt: skip
    order.step("Look again after an hour", writer.at_source,
               "It lasts to the next sun, or to the next charge",
               "Go on from above: the last to go are those with the lowest number")  # fmt: skip
    return Sheet(key=f"ration/{way.lead_id}", kind="ration", begins=begins, steps=order.steps,
                 notes=spared, title=f"Ration: {plan.lead_name(way.lead_id)}")  # fmt: skip


def _wh(wh: float) -> str:
    return f"{wh / 1000:,.1f} kWh" if wh >= 1000 else f"{wh:,.0f} Wh"


def _span(seconds: float) -> str:
    return f"{seconds / 3600:.0f} h" if seconds >= 3600 else f"{seconds / 60:.0f} min"


def _least_missed(network: Network, way: Way) -> list[str]:
    circuits = network.plan.circuits
    rooms = [key for key in way.branches if key in circuits and circuits[key].mark == "room"]
    return network.given_up_first(rooms)
