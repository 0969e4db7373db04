"""The night round before bed, from the run of that night: what it takes, what runs, who gets up for what."""

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from weary_cedar.core.network import network_of
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.result import Event, EventKind, RunResult, Stretch
from weary_cedar.core.plan import Plan, ReserveRule, ShedRule
from weary_cedar.core.runbook.places import IN_HOUSE, OUTDOORS
from weary_cedar.core.runbook.sheet import Expected, Order, Sheet

#: More than a night takes by the run, as a share of the whole battery, %. Common practice.
NIGHT_MARGIN = 5.0
#: So many nights have a sheet of their own.
MOST_NIGHTS = 7
#: An alarm wakes so long before what it is for, s. Common practice.
BEFORE_S = 600.0
#: What someone has to get up for, and what is done then.
WAKES: dict[EventKind, str] = {
    "empty": "whoever can charge it or change sources: “Swap”, “Charge”, or “Ration”",
    "source_empty": "whoever can charge it or change sources",
    "engine_dry": "whoever refuels it, once it is cold",
    "trip": "whoever knows “After a trip”",
    "breaker_trip": "whoever knows “After a trip”",
    "input_trip": "whoever knows “Charging stops”",
    "keep_lost": "whoever depends on it",
    "food_warm": "whoever moves the food",
}


@dataclass(frozen=True)
class Night:
    """One night of the run, from going to bed to waking, s from its start."""

    begins_s: float
    ends_s: float


def night_rounds(plan: Plan, run: RunResult) -> list[Sheet]:
    """Before bed, night by night: whether the charge is enough, what goes off, for when the alarm is set.

    Args:
        plan: the plan.
        run: of it.

    Returns:
        A sheet for each of the first nights in which someone sleeps; where there is none, one without
        figures, which says so. What it says of charge, engines, circuits and alarms is the run's.

    Source: common practice.
    """
    hours, calendar = plan.outage.occupancy, Calendar(plan.site, plan.outage)
    windows = calendar.windows(hours.sleeps, hours.wakes)
    nights = [Night(a, min(b, run.length_s)) for a, b in windows if a < min(b, run.length_s)]
    if len(nights) > 1 and nights[0].begins_s == 0.0:
        nights = nights[1:]
    if not nights:
        return [_round(plan, run, None, 1)]
    return [_round(plan, run, night, number) for number, night in enumerate(nights[:MOST_NIGHTS], 1)]


def _round(plan: Plan, run: RunResult, night: Night | None, number: int) -> Sheet:
    order, told, notes = Order(plan), plan.site.units, list[str]()
    title = "Night round, before bed"
    if night is None:
        notes.append("By the plan nobody sleeps in this outage: nothing here is read from a run of a night.")
    else:
        title = f"{title}: {plan.site.instant(plan.outage.start_local, night.begins_s):%A %-d %B}"
        notes += _charges(plan, run, night, order)
    off = _kept_off(plan, run, night) if night else []
    if off:
        order.step(f"Turn off: {', '.join(off)}", IN_HOUSE, "The watts go down; by the run they are off now",
                   "Something else draws: look for it before bed")  # fmt: skip
    else:
        order.step("Turn off what nobody needs at night", IN_HOUSE,
                   "The watts go down; the run leaves all of it on, so that is gained",
                   "Something else draws: look for it before bed")  # fmt: skip
    _engines(plan, run, night, order)
    order.step("Press the test button of the carbon-monoxide alarm and of the smoke alarms", IN_HOUSE,
               "Each sounds", "New batteries now; without an alarm nothing burns this night")  # fmt: skip
    order.step("Touch plugs and cords, close freezer and doors, put out candles", IN_HOUSE, "Nothing is warm",
               "Warm: off, then a better cord or less load")  # fmt: skip
    for words in _alarms(plan, run, night) if night else []:
        order.step(words, IN_HOUSE, "The alarm is on, the phone charges, a light is at hand",
                   "Someone stays up")  # fmt: skip
    if night and not any(step.action.startswith("Set an alarm") for step in order.steps):
        wakes = told.told_moment(plan.site.instant(plan.outage.start_local, night.ends_s))
        order.step(f"Set an alarm for {wakes}; by the run nothing needs hands before", IN_HOUSE,
                   "The alarm is on, the phone charges, a light is at hand", "Someone stays up",
                   )  # fmt: skip
    key = "night" if number == 1 else f"night/{number}"
    return Sheet(key=key, kind="night", title=title, notes=notes, steps=order.steps)


# -------------------------------------------------------------------- charge


@dataclass(frozen=True)
class Charge:
    """One station over a night: what it needs at bedtime, %, whether that is there, and both in words."""

    name: str
    need: float
    short: int
    words: str


#: By how short the charge is.
REACHED = ("The night is reached", "The night is only just reached", "The night is not reached")


def _charges(plan: Plan, run: RunResult, night: Night, order: Order) -> Iterator[str]:
    """A step for each station that is drawn on, and one sentence whether the night is reached."""
    feeding = {unit for way in network_of(plan).running for unit in plan.source_units(way.hookup)}
    drawn_on = [key for key in run.batteries if key in feeding and run.batteries[key].cell_wh]
    found = [_charge(plan, run, night, key) for key in drawn_on]
    for charge in found:
        order.step(
            f"Read the charge of {charge.name}", f"at {charge.name}", "Enough for this night, as below",
            "Ration now, and turn it off before it is empty",
            readings=[
                Expected(where=f"charge of {charge.name}", low=charge.need, high=100, unit="%",
                         if_low="not enough for the night as planned: ration now"),
            ],
            why=f"By the run {charge.words}.",
        )  # fmt: skip
    lost = [e for e in run.events if e.kind == "keep_lost" and night.begins_s <= e.t_s < night.ends_s]
    worst = max([charge.short for charge in found], default=0)
    told = [charge.words for charge in sorted(found, key=lambda charge: -charge.short)]
    told += [f"{_moment(plan, event.t_s)}: {event.what}" for event in lost[:1]]
    if found or lost:
        yield f"{REACHED[2 if lost else worst]}: by the run {'; '.join(told)}."
        yield _reaches(plan, run, night, drawn_on)


def _charge(plan: Plan, run: RunResult, night: Night, station_id: str) -> Charge:
    """What has to be there at bedtime, and what is."""
    stops, battery = plan.stations[station_id].cutoff_percent, run.batteries[station_id]
    moments = [night.begins_s, *(t for t in battery.t_s if night.begins_s < t < night.ends_s), night.ends_s]
    course = [(t, 100 * _between(battery.t_s, battery.stored_wh, t) / battery.cell_wh) for t in moments]
    there, (lowest_s, lowest) = course[0][1], min(course, key=lambda point: point[1])
    empty_s = _empty_in(run, night, station_id)
    has = f"{battery.name} has {there:.0f} % at {_moment(plan, night.begins_s)}"
    if there <= stops:
        return Charge(battery.name, 100.0, 2, f"{has} and is empty: it must be charged before")
    if empty_s is not None:
        rate = (there - stops) / max(empty_s - night.begins_s, 1.0)
        need = min(100.0, stops + rate * (night.ends_s - night.begins_s) + NIGHT_MARGIN)
        words = f"{has} and is empty at {_moment(plan, empty_s)}; about {need:.0f} % would be needed"
        return Charge(battery.name, need, 2, words)
    need = min(100.0, stops + max(0.0, there - lowest) + NIGHT_MARGIN)
    words = (
        f"{has} and needs {need:.0f} %, {NIGHT_MARGIN:.0f} of them for what is not known; it is lowest with "
        f"{lowest:.0f} % at {_moment(plan, lowest_s)}"
    )
    return Charge(battery.name, need, 0 if there >= need else 1, words)


def _reaches(plan: Plan, run: RunResult, night: Night, drawn_on: Sequence[str]) -> str:
    """Until when the charge reaches, by the run: the first station that is empty."""
    after = Night(night.begins_s, run.length_s)
    empty = [(at, key) for key in drawn_on if (at := _empty_in(run, after, key)) is not None]
    if not empty:
        return "The charge reaches to the end of the outage, with what charges by the plan."
    at, key = min(empty)
    return f"The charge reaches until {_moment(plan, at)}, when {run.batteries[key].name} is empty."


def _empty_in(run: RunResult, night: Night, station_id: str) -> float | None:
    spans = (event for event in run.events if night.begins_s <= event.t_s < night.ends_s)
    return next((one.t_s for one in spans if one.kind == "empty" and one.part == station_id), None)


def _between(t_s: Sequence[float], values: Sequence[float], t: float) -> float:
    """A course that is straight between its points, at a moment."""
    at = bisect_right(t_s, t) - 1
    if at < 0 or at + 1 >= len(t_s):
        return values[max(0, at)] if values else 0.0
    share = (t - t_s[at]) / (t_s[at + 1] - t_s[at])
    return values[at] + share * (values[at + 1] - values[at])


def _moment(plan: Plan, at_s: float) -> str:
    return plan.site.units.told_moment(plan.site.instant(plan.outage.start_local, at_s))


def _time(plan: Plan, at_s: float) -> str:
    return plan.site.units.told_time(plan.site.instant(plan.outage.start_local, at_s))


# -------------------------------------------------------------------- what is on


def _meets(stretch: Stretch, night: Night) -> bool:
    return stretch.begins_s < night.ends_s and stretch.ends_s > night.begins_s


def _kept_off(plan: Plan, run: RunResult, night: Night) -> list[str]:
    """Circuits that are fed, and that a rule keeps off at bedtime in the run, by name."""
    fed = {key for way in network_of(plan).running for key in way.branches}
    found: list[str] = []
    for rule, share in zip(plan.strategy.rules, run.rules, strict=False):
        at_bed = any(one.begins_s <= night.begins_s + BEFORE_S < one.ends_s for one in share.off)
        if isinstance(rule, ReserveRule | ShedRule) and at_bed:
            found += [plan.circuits[key].label for key in rule.circuit_ids if key in fed]
    return list(dict.fromkeys(found))


def _engines(plan: Plan, run: RunResult, night: Night | None, order: Order) -> None:
    """What each engine does this night by the run, and how it is left."""
    for key, engine in plan.generators.items():
        share = run.sources.get(f"generators/{key}")
        ran = [one for one in (share.ran if share else ()) if night and _meets(one, night)]
        if not ran:
            order.step(f"{engine.name} off and cool{_valve(auto=engine.auto_start is not False)}", OUTDOORS,
                       "By the run it does not run this night; fuel for the morning stands outside, cold",
                       "Never refuel it hot, never indoors")  # fmt: skip
            continue
        spans = ", ".join(f"{_time(plan, one.begins_s)} to {_time(plan, one.ends_s)}" for one in ran[:4])
        by_itself = "it starts by itself" if engine.auto_start is not False else "nobody stops it meanwhile"
        order.step(f"Leave {engine.name} as the run has it: on from {spans}", OUTDOORS,
                   f"Exhaust away from every opening, fuel in its tank for that; {by_itself}",
                   "No alarm for carbon monoxide in the house: it does not run while anyone sleeps",
                   why="An engine that runs while people sleep is the usual way in which an outage kills.",
                   )  # fmt: skip
    for car in plan.vehicles.values():
        if car.tops_up:
            order.step(f"{car.name}: outdoors, away from every opening", OUTDOORS,
                       "Its engine can start by itself in the night", "Turn its outlet off",
                       )  # fmt: skip


def _valve(*, auto: bool) -> str:
    return ", ready to start by itself" if auto else ", its fuel valve closed"


# -------------------------------------------------------------------- alarms


def _alarms(plan: Plan, run: RunResult, night: Night) -> list[str]:
    """At which hour whom the alarm wakes, and for what."""
    found: list[str] = []
    events: list[Event] = [e for e in run.events if night.begins_s <= e.t_s < night.ends_s]
    for event in events:
        whom = WAKES.get(event.kind)
        if whom is not None:
            at = _moment(plan, max(night.begins_s, event.t_s - BEFORE_S))
            found.append(f"Set an alarm for {at}: {whom}. By the run {_time(plan, event.t_s)}: {event.what}")
    return list(dict.fromkeys(found))[:4]
