"""Legs, the whole source, starts: what is asked for against what is carried."""

import math
from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Hit, Level, Said, Unknown
from weary_cedar.core.checks.registry import check
from weary_cedar.core.decide.chance import beside, chance_in_the_outage, chance_over, starts_in
from weary_cedar.core.electrical.split_phase import PhaseLoad
from weary_cedar.core.panel_schedule import PanelSchedule, on_watts, panel_schedule
from weary_cedar.core.plan import Feed
from weary_cedar.core.supply.linked_pair import pair_hours
from weary_cedar.core.supply.overload import OverloadCurve
from weary_cedar.core.supply.station_energy import cell_draw_w

#: A run over a limit for longer than this with nobody shedding is a stop, s.
OVER_S = 60.0
#: Legs that differ by more than this lean. Common practice.
LEAN = 1 / 3
#: Current limit over locked-rotor current under which a motor may stall. NEMA MG-1, from memory.
SAG = 0.85


def _over_s(facts: Facts, leg: str | None) -> float:
    """Seconds over a leg's limit, or over the total, in the run with nobody shedding."""
    run = facts.unshed
    limits = facts.limits
    if limits is None:
        return 0.0
    times, total_s = run.series.t_s, 0.0
    values = {"A": run.series.a_va, "L": run.series.a_va, "B": run.series.b_va}.get(leg or "", ())
    for index, begins in enumerate(times[:-1]):
        over = (
            values[index] > limits.leg_va * (1 + 1e-9) if values else _total(facts, index) > limits.total_va
        )
        total_s += times[index + 1] - begins if over else 0.0
    return total_s


def _total(facts: Facts, index: int) -> float:
    series = facts.unshed.series
    legs = ((series.a_w[index], series.a_va[index]), (series.b_w[index], series.b_va[index]))
    reactive = sum(math.sqrt(max(0.0, va * va - watts * watts)) for watts, va in legs)
    return math.hypot(legs[0][0] + legs[1][0], reactive)


def _without_a_run(facts: Facts) -> Iterator[Said]:
    """What only a run would show, of a feed that has none."""
    if facts.not_run is not None and facts.plan.loads:
        yield Unknown(facts.not_run[0], facts.not_run[1])


@check("leg-over")
def leg_over(facts: Facts) -> Iterator[Said]:
    """What is kept on a leg together; over for a minute with nobody shedding is a stop."""
    yield from _without_a_run(facts)
    limits, feed = facts.limits, _run_feed(facts)
    if limits is None or feed is None:
        return
    for leg, load in facts.kept_sums().items():
        over_s = _over_s(facts, leg)
        if load.va > limits.leg_va or over_s > OVER_S:
            figures = [Figure(name=f"kept on leg {leg}", value=load.va, limit=limits.leg_va, unit="VA")]
            if over_s > OVER_S:
                figures.append(
                    Figure(name="over it in the run, nobody shedding", value=over_s, limit=OVER_S, unit="s")
                )
            level: Level = "stop" if over_s > OVER_S else "caution"
            detail = f"the tightest is {limits.leg_element.name}"
            yield Hit(facts.element("feeds", feed[0]), tuple(figures), level=level, detail=detail)


@check("total-over")
def total_over(facts: Facts) -> Iterator[Said]:
    """What is kept together against the source's rating."""
    yield from _without_a_run(facts)
    limits, feed = facts.limits, _run_feed(facts)
    if limits is None or feed is None:
        return
    va = sum(facts.kept_sums().values(), PhaseLoad(0.0)).va
    over_s = _over_s(facts, None)
    if va > limits.total_va or over_s > OVER_S:
        level: Level = "stop" if over_s > OVER_S else "caution"
        figure = Figure(name="kept together", value=va, limit=limits.total_va, unit="VA")
        yield Hit(facts.element("feeds", feed[0]), (figure,), level=level)


def _run_feed(facts: Facts) -> tuple[str, Feed] | None:
    feed = facts.plan.run_feed
    return next(((key, item) for key, item in facts.plan.feeds.items() if item is feed), None)


@check("start-trip")
def start_trip(facts: Facts) -> Iterator[Said]:
    """A start that trips alone (stop), in the run (stop), or only on everything kept (caution)."""
    yield from _without_a_run(facts)
    limits = facts.limits
    if limits is None:
        return
    station = facts.plan.source_station(facts.plan.run_feed) if facts.plan.run_feed else None
    curve = OverloadCurve(station.overload_curve) if station else None
    tripped = {key for event in facts.run.events if event.kind == "left_off" for key in event.loads}
    sums = facts.kept_sums()
    carried_on = facts.plan.carried_circuits()
    for key, load in facts.plan.loads.items():
        if load.start is None or curve is None or load.circuit_id not in carried_on:
            continue
        legs = facts.legs_of(load)
        carried = curve.carried_multiple(load.start.seconds) * limits.leg_va
        alone = load.start.va / len(legs)
        kept = key in facts.kept()
        own = on_watts(load) / load.power_factor / len(legs) if kept else 0.0
        together = alone + max(sums[leg].va for leg in legs) - own
        if alone > carried or key in tripped:
            figure = Figure(name="start alone", value=alone, limit=carried, unit="VA")
            yield Hit(facts.element("loads", key), (figure,), level="stop")
        elif together > carried:
            figure = Figure(name="start on all that is kept", value=together, limit=carried, unit="VA")
            chance, detail = _coincidence(facts, key, carried)
            yield Hit(facts.element("loads", key), (figure, chance), level="caution", detail=detail)


def _coincidence(facts: Facts, key: str, carried_va: float) -> tuple[Figure, str]:
    """How likely the start of a load meets too much of the rest, at one start and in the outage."""
    plan, load = facts.plan, facts.plan.loads[key]
    names = tuple(facts.kept_sums())
    legs = facts.legs_of(load)
    others = [beside(plan, other, names) for other_key, other in facts.kept().items() if other_key != key]
    start_va = load.start.va / len(legs) if load.start else 0.0
    chance = chance_over(others, start_va, [names.index(leg) for leg in legs], carried_va)
    starts = starts_in(plan, load)
    once = 100 * chance_in_the_outage(chance, starts)
    figure = Figure(name="chance at one start", value=100 * chance, unit="%")
    return figure, f"about {starts:.0f} starts in the outage: {once:.0f} % that one of them trips"


@check("motor-sag")
def motor_sag(facts: Facts) -> Iterator[Said]:
    """Current limit over locked-rotor current."""
    limits, feed = facts.limits, facts.plan.run_feed
    if limits is None or feed is None:
        return
    curve = OverloadCurve(facts.plan.source_station(feed).overload_curve)
    volts = facts.plan.site.leg_volts
    for key, load in facts.plan.loads.items():
        if load.circuit_id not in facts.plan.carried_circuits() or load.start is None:
            continue
        legs = facts.legs_of(load)
        locked = load.locked_rotor_a or load.start.va / (volts * len(legs))
        ratio = curve.carried_multiple(1.0) * limits.leg_va / volts / locked
        if ratio < SAG:
            figure = Figure(name="current limit over locked-rotor amps", value=ratio, limit=SAG)
            yield Hit(facts.element("loads", key), (figure,))


@check("leg-lean")
def leg_lean(facts: Facts) -> Iterator[Said]:
    """Legs that differ by more than a third."""
    if not facts.plan.site.split_phase:
        return
    feed = facts.plan.run_feed
    for panel_id in facts.plan.panels:
        if feed is None or feed.panel_id != panel_id:
            continue
        schedule = panel_schedule(facts.plan, panel_id)
        linked = feed.source_id in facts.plan.links
        value = schedule.lean_wh if linked else schedule.lean_w
        if value > LEAN:
            level: Level = "caution" if linked else "note"
            figures = [Figure(name="lean", value=100 * value, limit=100 * LEAN, unit="%")]
            if linked:
                figures += _hours_lost(facts, feed, schedule)
            yield Hit(facts.element("panels", panel_id), tuple(figures), level=level)


def _hours_lost(facts: Facts, feed: Feed, schedule: PanelSchedule) -> list[Figure]:
    """When the first of a linked pair is empty, and how long both would last in proportion."""
    link = facts.plan.links[feed.source_id]
    stored, draws = [], []
    for leg, key in (("A", link.leg_a), ("B", link.leg_b)):
        unit, load = facts.plan.stations[key], schedule.legs[leg]
        mean_w = (load.keep_wh_day + load.room_wh_day) / 24
        cutoff_wh = unit.total_cell_wh * unit.cutoff_percent / 100
        stored.append(max(0.0, facts.plan.start_wh(key) - cutoff_wh))
        draws.append(cell_draw_w(mean_w, unit.inverter_efficiency, unit.idle_w))
    if min(draws) <= 0:
        return []
    hours = pair_hours(stored[0], stored[1], draws[0], draws[1])
    return [
        Figure(name="the first unit is empty after", value=hours.stops_h, unit="h"),
        Figure(name="with legs in proportion, both after", value=hours.in_proportion_h, unit="h"),
    ]
