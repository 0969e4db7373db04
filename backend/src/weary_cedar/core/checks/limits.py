"""Legs, the whole source, starts: what is asked for against what is carried."""

import math
from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Hit, Level, Said, Unknown
from weary_cedar.core.checks.registry import check
from weary_cedar.core.decide.chance import beside, chance_in_the_outage, chance_over, starts_in
from weary_cedar.core.electrical.inverter import cell_draw_w
from weary_cedar.core.electrical.split_phase import PhaseLoad
from weary_cedar.core.network import Way
from weary_cedar.core.outage.result import SourceShare
from weary_cedar.core.panel_schedule import PanelSchedule, on_watts, panel_schedule
from weary_cedar.core.plan import Hookup
from weary_cedar.core.supply.linked_pair import pair_hours

#: A run over a limit for longer than this with nobody shedding is a stop, s.
OVER_S = 60.0
#: Legs that differ by more than this lean. Common practice.
LEAN = 1 / 3
#: Current limit over locked-rotor current under which a motor may stall. NEMA MG-1, from memory.
SAG = 0.85


def _over_s(facts: Facts, way: Way, leg: str | None) -> float:
    """Seconds over a leg's limit of a feed, or over its source's total, with nobody shedding."""
    share, limits = facts.share(facts.unshed, way), facts.limits(way)
    if share is None:
        return 0.0
    times, total_s = (*share.t_s, facts.unshed.length_s), 0.0
    values = {"A": share.a_va, "L": share.a_va, "B": share.b_va}.get(leg or "", ())
    for index, begins in enumerate(share.t_s):
        va, limit = (values[index], limits.leg_va) if values else (_total(share, index), limits.total_va)
        total_s += times[index + 1] - begins if va > limit * (1 + 1e-9) else 0.0
    return total_s


def _total(share: SourceShare, index: int) -> float:
    legs = ((share.a_w[index], share.a_va[index]), (share.b_w[index], share.b_va[index]))
    reactive = sum(math.sqrt(max(0.0, va * va - watts * watts)) for watts, va in legs)
    return math.hypot(legs[0][0] + legs[1][0], reactive)


def _without_a_run(facts: Facts) -> Iterator[Said]:
    """What only a run would show, of feeds that have none."""
    for element, why in facts.not_run if facts.plan.loads else ():
        yield Unknown(element, why)


@check("leg-over")
def leg_over(facts: Facts) -> Iterator[Said]:
    """What is kept on a leg together; over for a minute with nobody shedding is a stop."""
    yield from _without_a_run(facts)
    for way in facts.ways:
        limits = facts.limits(way)
        for leg, load in facts.kept_sums(way).items():
            over_s = _over_s(facts, way, leg)
            if load.va > limits.leg_va or over_s > OVER_S:
                figures = [Figure(name=f"kept on leg {leg}", value=load.va, limit=limits.leg_va, unit="VA")]
                if over_s > OVER_S:
                    name = "over it in the run, nobody shedding"
                    figures.append(Figure(name=name, value=over_s, limit=OVER_S, unit="s"))
                level: Level = "stop" if over_s > OVER_S else "caution"
                detail = f"the tightest is {limits.leg_element.name}"
                yield Hit(facts.element("leads", way.lead_id), tuple(figures), level=level, detail=detail)


@check("total-over")
def total_over(facts: Facts) -> Iterator[Said]:
    """What is kept together against the source's rating."""
    yield from _without_a_run(facts)
    for way in facts.ways:
        limits = facts.limits(way)
        va = sum(facts.kept_sums(way).values(), PhaseLoad(0.0)).va
        over_s = _over_s(facts, way, None)
        if va > limits.total_va or over_s > OVER_S:
            level: Level = "stop" if over_s > OVER_S else "caution"
            figure = Figure(name="kept together", value=va, limit=limits.total_va, unit="VA")
            yield Hit(facts.element("leads", way.lead_id), (figure,), level=level)


@check("start-trip")
def start_trip(facts: Facts) -> Iterator[Said]:
    """A start that trips alone (stop), in the run (stop), or only on everything kept (caution)."""
    yield from _without_a_run(facts)
    tripped = {key for event in facts.run.events if event.kind == "left_off" for key in event.loads}
    said: set[str] = set()
    for way in facts.ways:
        leg_va, curve, sums = facts.source_leg_va(way), facts.curve(way), facts.kept_sums(way)
        for key, load in facts.fed_at(way).items():
            if load.start is None or key in said:
                continue
            legs = facts.legs_at(way, load)
            carried = curve.carried_multiple(load.start.seconds) * leg_va
            alone = load.start.va / len(legs)
            kept = key in facts.kept(way)
            own = on_watts(load) / load.power_factor / len(legs) if kept else 0.0
            together = alone + max(sums[leg].va for leg in legs) - own
            if alone > carried or key in tripped:
                said.add(key)
                figure = Figure(name="start alone", value=alone, limit=carried, unit="VA")
                yield Hit(facts.element("loads", key), (figure,), level="stop")
            elif together > carried:
                said.add(key)
                figure = Figure(name="start on all that is kept", value=together, limit=carried, unit="VA")
                chance, detail = _coincidence(facts, way, key, carried)
                yield Hit(facts.element("loads", key), (figure, chance), level="caution", detail=detail)


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
    """Current limit over locked-rotor current."""
    volts = facts.plan.site.leg_volts
    for way in facts.ways:
        leg_va, most = facts.source_leg_va(way), facts.curve(way).carried_multiple(1.0)
        for key, load in facts.fed_at(way).items():
            if load.start is None:
                continue
            legs = facts.legs_at(way, load)
            locked = load.locked_rotor_a or load.start.va / (volts * len(legs))
            ratio = most * leg_va / volts / locked
            if ratio < SAG:
                figure = Figure(name="current limit over locked-rotor amps", value=ratio, limit=SAG)
                yield Hit(facts.element("loads", key), (figure,))


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
            figures = [Figure(name="lean", value=100 * value, limit=100 * LEAN, unit="%")]
            if linked:
                figures += _hours_lost(facts, feed, schedule)
            yield Hit(facts.element("panels", panel_id), tuple(figures), level=level)


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
