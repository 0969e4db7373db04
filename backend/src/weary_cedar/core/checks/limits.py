"""Legs, the whole source, starts: what is asked for against what is carried."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from weary_cedar.core.checks.facts import Facts, is_motor, start_of
from weary_cedar.core.checks.finding import Element, Figure, Figures, Hit, Level, Said, Unknown, not_read
from weary_cedar.core.checks.onward import behind, inlets
from weary_cedar.core.checks.registry import check
from weary_cedar.core.decide.coincidence import beside, chance_in_the_outage, chance_over, starts_in
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.inverter import cell_draw_w
from weary_cedar.core.electrical.split_phase import PhaseLoad
from weary_cedar.core.network import Way
from weary_cedar.core.outage.result import SourceShare
from weary_cedar.core.panel_schedule import PanelSchedule, panel_schedule
from weary_cedar.core.plan import Hookup, Start, Station
from weary_cedar.core.supply.linked_pair import pair_hours

#: A run over a limit for longer than this with nobody shedding is a stop, s.
OVER_S = 60.0
#: Legs that differ by more than this lean. Common practice.
LEAN = 1 / 3
#: Current limit over locked-rotor current under which a motor may stall. Common practice.
SAG = 0.85


@dataclass(frozen=True)
class _Over:
    """How far and how long something was over a limit in the run with nobody shedding."""

    peak: float
    seconds: float


def _over(times: Sequence[float], values: ArrayLike, ends_s: float, limit: float) -> _Over:
    """Greatest value of a course of change points, and the seconds for which it was over a limit."""
    if not times:
        return _Over(0.0, 0.0)
    course = np.asarray(values, dtype=float)
    lasts = np.diff(np.asarray(times, dtype=float), append=ends_s)
    return _Over(float(course.max()), float(lasts[course > limit * (1 + 1e-9)].sum()))


def _way_over(facts: Facts, way: Way, leg: str, limit: float) -> _Over:
    share = facts.unshed.ways.get(way.lead_id)
    if share is None:
        return _Over(0.0, 0.0)
    return _over(share.t_s, share.b_va if leg == "B" else share.a_va, facts.unshed.length_s, limit)


def _source_over(facts: Facts, way: Way, leg: str | None, limit: float) -> _Over:
    share = facts.share(facts.unshed, way)
    if share is None:
        return _Over(0.0, 0.0)
    legs: dict[str, ArrayLike] = {"A": share.a_va, "L": share.a_va, "B": share.b_va}
    values = legs[leg] if leg else _totals(share)
    return _over(share.t_s, values, facts.unshed.length_s, limit)


def _totals(share: SourceShare) -> NDArray[np.float64]:
    """VA of both legs together at every change point."""
    watts, va = np.array((share.a_w, share.b_w)), np.array((share.a_va, share.b_va))
    reactive = np.sqrt(np.maximum(0.0, va * va - watts * watts)).sum(axis=0)
    total: NDArray[np.float64] = np.hypot(watts.sum(axis=0), reactive)
    return total


def _trips(facts: Facts, way: Way) -> bool:
    """Whether the source of a way, or its breaker, tripped in the run with nobody shedding."""
    parts = {way.hookup.source_id, way.lead_id}
    return any(e.kind in ("trip", "breaker_trip") and e.part in parts for e in facts.unshed.events)


def _judged(
    facts: Facts, way: Way, element: Element, kept: Figure, over: _Over, detail: str = ""
) -> Iterator[Said]:
    """What is kept, and what the run showed, against one limit; a stop shows what was over."""
    asked_too_much = kept.limit is not None and kept.value > kept.limit
    stop = over.seconds > OVER_S or (asked_too_much and over.seconds > 0 and _trips(facts, way))
    if not asked_too_much and not stop:
        return
    figures: Figures = (kept,)
    if over.seconds > OVER_S:
        worst = f"{kept.name.replace('kept', 'drawn', 1)} at its worst, nobody shedding"
        ran = (
            Figure(name=worst, value=over.peak, limit=kept.limit, unit="VA"),
            Figure(name="over it for", value=over.seconds, limit=OVER_S, unit="s"),
        )
        figures = (kept, *ran) if asked_too_much else ran
    yield Hit(element, figures, level="stop" if stop else "caution", detail=detail)


def _without_a_run(facts: Facts) -> Iterator[Said]:
    """What only a run would show, of feeds that have none."""
    for element, why in facts.not_run if facts.plan.loads else ():
        yield Unknown(element, why)


def _by_source(facts: Facts) -> list[list[Way]]:
    """Ways of the run by their source."""
    found: dict[tuple[str, str], list[Way]] = {}
    for way in facts.ways:
        found.setdefault((way.hookup.source_kind, way.hookup.source_id), []).append(way)
    return list(found.values())


@check("leg-over")
def leg_over(facts: Facts) -> Iterator[Said]:
    """What is kept on a leg of a lead, and of all leads of a source; over it for a minute is a stop."""
    yield from _without_a_run(facts)
    for way in facts.ways:
        limits, element = facts.limits(way), facts.element("leads", way.lead_id)
        detail = f"the tightest is {limits.leg_element.name}"
        for leg, load in facts.kept_sums(way).items():
            kept = Figure(name=f"kept on leg {leg}", value=load.va, limit=limits.leg_va, unit="VA")
            over = _way_over(facts, way, leg, limits.leg_va)
            yield from _judged(facts, way, element, kept, over, detail)
    for ways in _by_source(facts):
        first, limit = ways[0], facts.source_leg_va(ways[0])
        for leg in facts.kept_sums(first) if len(ways) > 1 else ():
            va = sum(
                (facts.kept_sums(way)["A" if way.either_leg else leg] for way in ways), PhaseLoad(0.0)
            ).va
            kept = Figure(name=f"kept on leg {leg} of {len(ways)} leads", value=va, limit=limit, unit="VA")
            over = _source_over(facts, first, leg, limit)
            either = [facts.plan.lead_name(way.lead_id) for way in ways if way.either_leg]
            detail = f"on which leg these are is not said, so each counts for both: {', '.join(either)}"
            yield from _judged(facts, first, _element_of(facts, first), kept, over, detail if either else "")


@check("total-over")
def total_over(facts: Facts) -> Iterator[Said]:
    """What is kept on all leads of a source together against its rating."""
    yield from _without_a_run(facts)
    for ways in _by_source(facts):
        first, limit = ways[0], facts.limits(ways[0]).total_va
        sums = [sum(facts.kept_sums(way).values(), PhaseLoad(0.0)) for way in ways]
        one = len(ways) == 1
        element = facts.element("leads", first.lead_id) if one else _element_of(facts, first)
        name = "kept together" if one else f"kept on {len(ways)} leads together"
        kept = Figure(name=name, value=sum(sums, PhaseLoad(0.0)).va, limit=limit, unit="VA")
        yield from _judged(facts, first, element, kept, _source_over(facts, first, None, limit))


def _element_of(facts: Facts, way: Way) -> Element:
    return facts.element(f"{way.hookup.source_kind}s", way.hookup.source_id)


@check("start-trip")
def start_trip(facts: Facts) -> Iterator[Said]:
    """A start that trips alone (stop), in the run (stop), or only on everything kept (caution)."""
    yield from _without_a_run(facts)
    tripped = facts.left_off
    further = {key for inlet in inlets(facts) if inlet.passes for key in behind(facts, inlet)}
    said: set[str] = set()
    for way in facts.ways:
        leg_va, curve, sums = facts.source_leg_va(way), facts.curve(way), facts.kept_sums(way)
        for key, load in facts.fed_at(way).items():
            start = start_of(load)
            if start is None or key in said:
                continue
            legs = facts.legs_at(way, load)
            carried = curve.carried_multiple(start.seconds) * leg_va
            alone = start.va / len(legs)
            kept = key in facts.kept(way)
            own = on_watts(load) / load.power_factor / len(legs) if kept else 0.0
            together = alone + max(sums[leg].va for leg in legs) - own
            source = facts.plan.source(way.hookup)
            on_all = Figure(name="start on all that is kept", value=together, limit=carried, unit="VA")
            if alone > carried:
                said.add(key)
                figure = Figure(name="start alone", value=alone, limit=carried, unit="VA")
                sure = start.least_va / len(legs) > carried
                level: Level = "stop" if sure else "caution"
                yield Hit(facts.element("loads", key), (figure,), level=level, detail=start.words)
            elif key in tripped and (together > carried or key not in further):
                said.add(key)
                trips = sum(e.kind in ("trip", "breaker_trip") and key in e.loads for e in facts.run.events)
                count = Figure(name="trips in the run, with it among what was on", value=trips, limit=0)
                detail = "in the run it trips what feeds it, and is left off"
                figure = on_all if together > carried else count
                yield Hit(facts.element("loads", key), (figure,), level="stop", detail=detail)
            elif together > carried and start.assumed:
                said.add(key)
                yield Hit(facts.element("loads", key), (on_all,), level="caution", detail=start.words)
            elif together > carried:
                said.add(key)
                chance, detail = _coincidence(facts, way, key, carried)
                yield Hit(facts.element("loads", key), (on_all, chance), level="caution", detail=detail)
            elif together > leg_va and isinstance(source, Station) and source.overload_curve == "unknown":
                said.add(key)
                yield not_read(facts.element("loads", key), source, "overload_curve")


def _coincidence(facts: Facts, way: Way, key: str, carried_va: float) -> tuple[Figure, str]:
    """How likely the start of a load meets too much of the rest, at one start and in the outage."""
    plan, load = facts.plan, facts.plan.loads[key]
    names = tuple(facts.kept_sums(way))
    legs = facts.legs_at(way, load)
    kept = {k: other for k, other in facts.kept(way).items() if k != key}
    others = [beside(plan, other, facts.legs_at(way, other), names) for other in kept.values()]
    start_va = load.start.va / len(legs) if load.start else 0.0
    chance = chance_over(others, start_va, [names.index(leg) for leg in legs], carried_va)
    starts = starts_in(plan, load)
    once = 100 * chance_in_the_outage(chance, starts)
    figure = Figure(name="chance at one start", value=100 * chance, unit="%")
    return figure, f"about {starts:.0f} starts in the outage: {once:.0f} % that one of them trips"


@check("motor-sag")
def motor_sag(facts: Facts) -> Iterator[Said]:
    """Rated current of a leg, less what is kept on it, over the locked-rotor current of a motor."""
    volts = facts.plan.site.leg_volts
    for way in facts.ways:
        rated_a, sums = facts.source_leg_va(way) / volts, facts.kept_sums(way)
        source = (way.hookup.source_kind, way.hookup.source_id)
        for key, load in facts.fed_at(way).items():
            if not is_motor(load) or source in _seen_on(load.start):
                continue
            legs, kept = facts.legs_at(way, load), key in facts.kept(way)
            own = on_watts(load) / load.power_factor / len(legs) if kept else 0.0
            runs_a = max(0.0, max(sums[leg].va for leg in legs) - own) / volts
            start = start_of(load)
            locked = load.locked_rotor_a or (start.va / (volts * len(legs)) if start else None)
            if locked is None:
                continue
            ratio = max(0.0, rated_a - runs_a) / locked
            if ratio < SAG:
                figures = (
                    Figure(name="rated current left over locked-rotor current", value=ratio, limit=SAG),
                    Figure(name="locked rotor", value=locked, limit=max(0.0, rated_a - runs_a), unit="A"),
                    Figure(name="runs beside it", value=runs_a, limit=rated_a, unit="A"),
                )
                yield Hit(facts.element("loads", key), figures, detail=start.words if start else "")


def _seen_on(start: Start | None) -> set[tuple[str, str]]:
    """Sources on which a motor was seen to start."""
    return {(source.kind, source.id) for source in start.seen_on} if start else set()


@check("leg-lean")
def leg_lean(facts: Facts) -> Iterator[Said]:
    """Legs that differ by more than a third."""
    if not facts.plan.site.split_phase:
        return
    feeds = {way.hookup.panel_id: way.hookup for way in reversed(facts.network.running) if not way.single}
    for panel_id in facts.plan.panels:
        feed = feeds.get(panel_id)
        if feed is None:
            continue
        schedule = panel_schedule(facts.plan, panel_id)
        link = facts.plan.link_of(feed)
        linked = link is not None and link.kind == "two_legs"
        value = schedule.lean_wh if linked else schedule.lean_w
        if value > LEAN:
            level: Level = "caution" if linked else "note"
            watts = {leg: load.keep_w + load.room_w for leg, load in schedule.legs.items()}
            heavy, light = sorted(watts, key=lambda leg: -watts[leg])
            apart_w = watts[heavy] - watts[light]
            figures = (
                Figure(name="lean", value=100 * value, limit=100 * LEAN, unit="%"),
                Figure(name=f"on leg {heavy}, more than on leg {light}", value=apart_w, unit="W"),
                Figure(name="on the neutral, all on at once", value=schedule.neutral_a, unit="A"),
                *(_hours_lost(facts, feed, schedule) if linked else ()),
            )
            yield Hit(facts.element("panels", panel_id), figures, level=level)


def _hours_lost(facts: Facts, feed: Hookup, schedule: PanelSchedule) -> list[Figure]:
    """When the first of a linked pair is empty, and how long both would last in proportion."""
    link = facts.plan.links[feed.source_id]
    stored, draws = [], []
    for leg, key in (("A", link.leg_a), ("B", link.leg_b)):
        unit, load = facts.plan.stations[key], schedule.legs[leg]
        mean_w = (load.keep_wh_day + load.room_wh_day) / 24
        cutoff_wh = unit.total_cell_wh * unit.cutoff_percent / 100
        stored.append(max(0.0, facts.plan.start_wh(key) - cutoff_wh))
        draws.append(cell_draw_w(mean_w, unit.inverter_efficiency, unit.idle_draw_w))
    if min(draws) <= 0:
        return []
    hours = pair_hours(stored[0], stored[1], draws[0], draws[1])
    return [
        Figure(name="the first unit is empty after", value=hours.stops_h, unit="h"),
        Figure(name="with legs in proportion, both after", value=hours.in_proportion_h, unit="h"),
    ]
