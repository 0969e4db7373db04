"""Until when it lasts from here, and how sure that is: from what was read, forward."""

from collections.abc import Iterator
from datetime import datetime
from typing import Final

import numpy as np
from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.decide.chance import Varying, try_outages, why_not
from weary_cedar.core.decide.chance.tally import share_of
from weary_cedar.core.decide.day_plan import day_plan
from weary_cedar.core.log.displays import charge_at, mean_w
from weary_cedar.core.log.food import FoodState, food_states
from weary_cedar.core.log.from_then_on import Rest, rest_of
from weary_cedar.core.log.present import LEAD_S, last_moment
from weary_cedar.core.log.session import Session, sum_of
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.verdict import spoken_hours
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.base import LocalMoment
from weary_cedar.core.plan.strategy import ReserveRule

#: In so many outages from here on it is tried; nine in ten lie within the band.
OUTAGES: Final = 40
LOW, HIGH = 5.0, 95.0
#: A display is told to differ where it is off by more than this share.
DIFFERS: Final = 0.2
#: An array gives something above this, W.
SUN_W: Final = 20.0
#: What is to be done within this is told, s; at most so much.
DUE_S: Final = 3 * 3_600.0
MOST_DUE: Final = 5
#: Per cents drift by then. Common practice: a full drain or charge every three months.
CALIBRATION_DAYS: Final = 90


class Due(BaseModel):
    """Something that the plan counts on, soon."""

    model_config = ConfigDict(frozen=True)

    at: LocalMoment
    words: str


class SessionForecast(BaseModel):
    """The answer: until when, between what, and what follows from that."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    from_at: LocalMoment
    #: As the rest of the plan goes; nothing where it lasts to the end.
    until: datetime | None = None
    low: datetime | None = None
    high: datetime | None = None
    lasted: int = 0
    outages: int = 0
    chance_low: float = 0.0
    chance_high: float = 1.0
    #: Charge of each station at that moment, %, and whether any of it was read.
    charges: dict[str, float] = {}
    read: bool = False
    night: str = ""
    display: str = ""
    alarms: tuple[str, ...] = ()
    due: tuple[Due, ...] = ()
    food: tuple[FoodState, ...] = ()
    notes: tuple[str, ...] = ()
    why_not: str = ""


def forecast(
    plan: Plan, session: Session, now: datetime | None = None, outages: int = OUTAGES
) -> SessionForecast:
    """Until when an outage lasts, from what was read and done so far.

    Args:
        plan: the plan of the session.
        session: an outage or a test as it went so far.
        now: by the clock of the site; when the last row was, if absent.
        outages: how many are tried from here on.

    Returns:
        The moment at which something that must run is lost, as the rest of the plan goes, and the band of
        nine in ten outages as they may be from here; what the night takes; what a display says against it.

    Source: exact runs from the charges that were read; doubts as in the chance of a plan.
    """
    now = now or last_moment(session)
    now_s = session.seconds(plan, now)
    stops = stops_of(findings_of(plan))
    why = f"this must not be energised: {stops[0]}" if stops else why_not(plan)
    if now_s < 0:
        why = "the session begins later than that"
    if why:
        return SessionForecast(sentence=f"No forecast: {why}.", from_at=now, why_not=why)
    rest = rest_of(plan, session, now_s, LEAD_S)
    run = run_outage(rest.plan)
    if run.verdict.status == "cannot_judge":
        why = "; ".join(run.verdict.missing)
        return SessionForecast(sentence=f"No forecast: {why}.", from_at=now, why_not=why)
    tried = try_outages(rest.plan, range(outages), Varying())
    lasted = sum(one.judged.lasts for one in tried)
    until = [one.judged.length_s if one.judged.until_s is None else one.judged.until_s for one in tried]
    low_s, high_s = (float(np.percentile(until, q)) for q in (LOW, HIGH)) if until else (0.0, run.length_s)
    chance_low, chance_high = share_of(lasted, max(1, len(tried)))

    def moment(t: float | None) -> datetime | None:
        ends = t is None or t >= run.length_s - 1.0
        return None if ends or t is None else rest.plan.site.instant(rest.plan.outage.start_local, t)

    found = {
        "until": moment(run.verdict.until_s), "low": moment(low_s), "high": moment(high_s),
    }  # fmt: skip
    return SessionForecast(
        sentence=_sentence(rest.plan, run, found["low"], found["high"], lasted, len(tried)),
        from_at=now,
        **found,
        lasted=lasted,
        outages=len(tried),
        chance_low=chance_low,
        chance_high=chance_high,
        charges={key: round(charge_at(run, key, rest.lead_s), 1) for key in run.batteries},
        read=rest.read,
        night=_night(rest, run),
        display=_display(plan, session, rest, run),
        alarms=tuple(_alarms(rest, run, low_s)),
        due=tuple(_due(rest, run)),
        food=tuple(food_states(plan, session, rest, run)),
        notes=tuple(_notes(plan, session, rest)),
    )


def _sentence(
    plan: Plan, run: RunResult, low: datetime | None, high: datetime | None, lasted: int, count: int
) -> str:
    told = plan.site.units.told_moment
    until = run.verdict.until
    first = f"Lasts until {told(until)}" if until is not None else "Lasts to the end"
    if low is None:
        return f"{first}, in all of {count} outages from here on."
    band = f"between {told(low)} and {told(high) if high is not None else 'the end'} in nine of ten"
    return f"{first}, {band}; to the end in {lasted} of {count} outages from here on."


def _charge_at(run: RunResult, t: float) -> float:
    return float(np.interp(t, run.series.t_s, run.series.charge_percent)) if run.series.t_s else 0.0


def _night(rest: Rest, run: RunResult) -> str:
    """What the next night takes of what is left at bedtime."""
    plan = rest.plan
    people = plan.outage.occupancy
    if people.wakes == people.sleeps:
        return ""
    calendar = Calendar(plan.site, plan.outage)
    beds = [calendar.moment(day, people.sleeps) for day in range(4)]
    bed = next((t for t in beds if rest.lead_s <= t < run.length_s), None)
    if bed is None:
        return ""
    wakes = next(t for t in (calendar.moment(day, people.wakes) for day in range(6)) if t > bed)
    if wakes > run.length_s:
        return ""
    left, after = _charge_at(run, bed), _charge_at(run, wakes)
    lost = run.verdict.until_s is not None and run.verdict.until_s < wakes
    enough = "Not enough for the night" if lost else "Enough for the night"
    return f"{enough}: it takes {max(0.0, left - after):.0f} % of the {left:.0f} % that are left at bedtime."


def _display(plan: Plan, session: Session, rest: Rest, run: RunResult) -> str:
    """What a display showed as remaining against this, and why they differ."""
    shown = [row for row in session.standing() if row.what == "shown_h"]
    if not shown:
        return ""
    row = shown[-1]
    ago_s = rest.from_s + rest.lead_s - session.seconds(plan, row.at)
    said_s = (row.value or 0.0) * 3600.0 - ago_s
    own_s = (run.length_s if run.verdict.until_s is None else run.verdict.until_s) - rest.lead_s
    told = f"The display showed {row.value:g} h left; this says {spoken_hours(own_s)}"
    if run.verdict.until_s is None:
        told += " and more: it goes on to the end"
    if abs(said_s - own_s) <= DIFFERS * max(said_s, own_s, 1.0):
        return f"{told}: they agree."
    return f"{told}. A display smooths what is drawn now, and knows of no night, sun, job or engine to come."


def _alarms(rest: Rest, run: RunResult, low_s: float) -> list[str]:
    """What it may not reach: the next sun, watch, bedtime or morning, whichever comes first after that."""
    plan = rest.plan
    goals = sorted(_goals(rest, run))
    missed = next(((t, words) for t, words in goals if t < plan.outage.length_s and low_s < t), None)
    found = []
    if missed is not None:
        t, words = missed
        at_words = plan.site.units.told_moment(plan.site.instant(plan.outage.start_local, t))
        found.append(f"It may not reach {words}, {at_words}: one outage in twenty is over before")
    calendar = Calendar(plan.site, plan.outage)
    for rule in plan.strategy.rules:
        if not isinstance(rule, ReserveRule):
            continue
        beds = [calendar.moment(day, rule.bedtime) for day in range(4)]
        bed = next((t for t in beds if t >= rest.lead_s), run.length_s)
        if bed < run.length_s and _charge_at(run, bed) < rule.percent:
            left = f"{_charge_at(run, bed):.0f} % at {plan.site.units.told_time(rule.bedtime)}"
            found.append(f"The reserve is not kept: {left}, where {rule.percent:.0f} % should be left")
    return found


def _goals(rest: Rest, run: RunResult) -> Iterator[tuple[float, str]]:
    """Moments that one wants to reach, s from now."""
    plan = rest.plan
    calendar = Calendar(plan.site, plan.outage)
    people = plan.outage.occupancy
    for words, at in (("bedtime", people.sleeps), ("the morning", people.wakes)):
        t = next((t for t in (calendar.moment(day, at) for day in range(4)) if t > rest.lead_s), None)
        if t is not None:
            yield t, words
    for share in run.suns.values():
        courses = zip(share.t_s, share.offered_w, strict=True)
        first = next((t for t, watts in courses if t > rest.lead_s and watts > SUN_W), None)
        if first is not None and mean_w(share.t_s, share.offered_w, rest.lead_s, 60.0) <= SUN_W:
            yield first, "the next sun"


def _due(rest: Rest, run: RunResult) -> list[Due]:
    """What someone has to do in the next hours, by the plan's acts and its days in words."""
    plan = rest.plan
    soon = plan.site.instant(plan.outage.start_local, rest.lead_s + DUE_S)
    begins = plan.site.instant(plan.outage.start_local, rest.lead_s + 1.0)
    return [
        Due(at=doing.at.replace(tzinfo=None), words=doing.words)
        for day in day_plan(plan, run)
        for doing in day.doings
        if begins <= doing.at <= soon
    ][:MOST_DUE]


def _notes(plan: Plan, session: Session, rest: Rest) -> list[str]:
    found = list(rest.notes)
    if not rest.read:
        found.append("No charge was read yet: this follows from the plan alone. Read what the display shows.")
    found += _calibrations(plan, session, rest)
    if session.plan_sum and session.plan_sum != sum_of(plan):
        found.append("The plan is not the one with which this session began.")
    return found


def _calibrations(plan: Plan, session: Session, rest: Rest) -> Iterator[str]:
    """Displays that were not calibrated for long, as far as this log says when they were."""
    now = rest.plan.outage.start_local
    for key, station in plan.stations.items():
        part = f"stations/{key}"
        rows = [row for row in session.standing() if row.what == "calibrated" and row.part == part]
        if rows and (now - rows[-1].at).days > CALIBRATION_DAYS:
            days = (now - rows[-1].at).days
            yield f"{station.name} was calibrated {days} days ago: its per cents may be some points off."
