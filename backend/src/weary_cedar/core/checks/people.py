"""Would it work for these people."""

from bisect import bisect_right
from collections.abc import Iterator, Sequence

from weary_cedar.core.checks.facts import Facts, start_of
from weary_cedar.core.checks.finding import Element, Figure, Figures, Hit, Said, Seen, Told, Unknown, not_read
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.decide.needs import HOG_H, HOG_W, need_list
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.outage.result import BatteryShare
from weary_cedar.core.plan import AnyRule, Cycling, Hookup, Job, Load, Refrigerating, Station, Steady

#: What should be left at the morning's sun, %. Common practice.
RESERVE_PERCENT = 10.0
#: An engine that starts by itself gives power after so long, ms. Common practice.
ENGINE_READY_MS = 10_000.0
#: Longer than this nobody is only asleep, s.
NIGHT_S = 43_200.0
#: A refrigerator or freezer stands still for up to so long between two runs, s. Common practice.
COLD_OFF_S = 5_400.0
#: Fields by which rules name a part, with the room that it is in.
RULE_PARTS = {
    "generator_id": "generators",
    "lead_id": "leads",
    "load_id": "loads",
    "load_ids": "loads",
    "circuit_ids": "circuits",
    "array_id": "arrays",
}


@check("blind-spot")
def blind_spot(facts: Facts) -> Iterator[Said]:
    """Circuits that are wanted but that no feed carries."""
    if not facts.plan.hookups:
        return
    reached: set[str] = set()
    for way in facts.network.ways:
        one_hot = way.hookup.traits.one_hot
        both = {key for key in way.dead if one_hot and len(facts.plan.circuit_legs(key)) == 2}
        reached |= set(facts.on(way.hookup)) if way.why_not else way.branches.keys() | both
    for key, circuit in facts.plan.circuits.items():
        loads = facts.loads_on({key: circuit})
        if circuit.mark != "off" and loads and key not in reached:
            names = ", ".join(load.name for load in loads.values())
            figures = _wanted(sum(map(on_watts, loads.values())))
            yield Hit(facts.element("circuits", key), figures, detail=names)
    not_run = {way.lead_id for way in facts.network.ways if way.why_not}
    for key, hang in facts.network.hangs.items():
        dead = hang.branch not in facts.network.branches and hang.lead_id not in not_run
        if hang.circuit_id is None and hang.mark != "off" and dead:
            nowhere = "it hangs on no breaker and on no lead"
            detail = "its lead brings it no voltage" if hang.lead_id else nowhere
            yield Hit(facts.element("loads", key), _wanted(on_watts(facts.plan.loads[key])), detail=detail)
    yield from _dead_while_linked(facts)


def _wanted(watts: float) -> Figures:
    """What is wanted somewhere that nothing feeds."""
    return Figure(name="wanted there", value=watts, unit="W"), Figure(name="fed there", value=0.0, unit="W")


def _dead_while_linked(facts: Facts) -> Iterator[Said]:
    """Feeds from an outlet of a unit that is dead while the unit is linked."""
    linked = {
        unit
        for feed in facts.plan.hookups.values()
        if feed.source_kind == "link"
        for unit in facts.plan.source_units(feed)
    }
    for key, feed in facts.plan.hookups.items():
        if feed.source_id not in linked:
            continue
        outlet = facts.outlet(feed)
        if outlet is not None and outlet.live_while_linked == "no":
            told = ", though its screen shows it on" if outlet.shown_on_when_dead == "yes" else ""
            detail = f"the outlet {outlet.kind} is dead while the units are linked{told}"
            watts = sum(map(on_watts, facts.wanted(feed).values()))
            yield Hit(facts.element("leads", key), _wanted(watts), detail=detail)
        elif outlet is not None and outlet.live_while_linked == "unknown":
            missing = f"whether the outlet {outlet.kind} is live while the units are linked"
            yield Unknown(facts.element("leads", key), missing)


def _served(facts: Facts) -> Iterator[tuple[str, Hookup, Station]]:
    """(load id, feed, station) of everything that a station feeds."""
    for feed in facts.plan.hookups.values():
        source = facts.source(feed)
        if isinstance(source, Station):
            for key in facts.wanted(feed):
                yield key, feed, source


@seen("needs-sine")
def sine(facts: Facts) -> Iterator[Told]:
    """Loads that want a pure sine on a source that is not known to give one."""
    for key, _, station in _served(facts):
        if facts.plan.loads[key].needs_sine and station.waveform != "sine":
            yield Seen(facts.element("loads", key), detail=f"{station.name}: {station.waveform} wave")


@check("needs-no-gap")
def no_gap(facts: Facts) -> Iterator[Said]:
    """Loads that do not ride through the changeover."""
    for feed in facts.plan.hookups.values():
        source, gap_ms = facts.source(feed), 1000 * facts.plan.changeover_s(feed)
        outlet_ms = facts.plan.outlet(feed).transfer_gap_ms
        own_ms = source.transfer_gap_ms if isinstance(source, Station) else ENGINE_READY_MS
        gap = gap_ms if gap_ms > 0 else own_ms if outlet_ms is None else outlet_ms
        for key, load in facts.wanted(feed).items():
            if load.largest_gap_ms is None:
                continue
            if gap is None:
                yield not_read(facts.element("loads", key), source, "transfer_gap_ms")
                continue
            if gap <= load.largest_gap_ms:
                continue
            figure = Figure(name="gap", value=gap, limit=load.largest_gap_ms, unit="ms")
            yield Hit(facts.element("loads", key), (figure,))


@check("idle-cutout")
def cutout(facts: Facts) -> Iterator[Said]:
    """A station that turns itself off in the run, or whose cycling loads may all be off for longer."""
    happened = {event.part for event in facts.run.events if event.kind == "idle_cutout"}
    for key, station in facts.plan.stations.items():
        idle = station.cuts_out
        if idle is None:
            continue
        served = [facts.plan.loads[k] for k, _, other in _served(facts) if other is station]
        off_s = _all_off_s(served, idle.threshold_w)
        if station.idle_cutout == "unknown":
            if served and _always_w(served) < idle.threshold_w:
                yield not_read(facts.element("stations", key), station, "idle_cutout")
            continue
        if key in happened or off_s > idle.after_s:
            figures: Figures = (
                Figure(name="turns off under", value=idle.threshold_w, unit="W"),
                Figure(name="after", value=idle.after_s / 60, unit="min"),
            )
            if off_s > idle.after_s:
                limit = idle.after_s / 60
                figures = (Figure(name="all may be off for", value=off_s / 60, limit=limit, unit="min"),)
            fix = {"stations": {key: {"idle_cutout": None}}}
            detail = "it did in the run" if key in happened else ""
            yield Hit(facts.element("stations", key), figures, detail=detail, fix=fix)


def _always_w(loads: Sequence[Load]) -> float:
    return sum(load.behaviour.watts for load in loads if isinstance(load.behaviour, Steady))


def _all_off_s(loads: Sequence[Load], threshold_w: float) -> float:
    """Longest that all cycling loads of a station may be off at once, s; nothing where something holds it up.

    What runs at hours of its own, or by the weather, is judged by the run alone.
    """
    always_w = _always_w(loads)
    offs = []
    for load in loads:
        spec = load.behaviour
        if isinstance(spec, Cycling) and spec.on_w + always_w >= threshold_w:
            offs.append((1.0 - spec.duty) * spec.period_s)
        elif isinstance(spec, Refrigerating) and spec.on_w + always_w >= threshold_w:
            offs.append(COLD_OFF_S)
    if always_w >= threshold_w or not offs:
        return 0.0
    return min(offs)


@check("no-restart")
def no_restart(facts: Facts) -> Iterator[Said]:
    """Empty in the run, with something that recharges it, and not known to come back by itself."""
    empties = {event.part: event.t_s for event in reversed(facts.run.events) if event.kind == "empty"}
    for key in sorted(empties.keys() & facts.plan.stations.keys()):
        station = facts.plan.stations[key]
        linked = any(key in (link.leg_a, link.leg_b) for link in facts.plan.links.values())
        if _refilled(facts, key) and not linked and station.auto_restart != "yes":
            left_s = facts.run.length_s - empties[key]
            figures = (
                Figure(name="empty after", value=empties[key] / 3600, unit="h"),
                Figure(name="the outage goes on for", value=left_s / 3600, unit="h"),
            )
            yield Hit(facts.element("stations", key), figures, detail=f"restart: {station.auto_restart}")


def _refilled(facts: Facts, station_id: str) -> bool:
    """Whether sun, an engine, the wall, a vehicle or an external battery recharges a station."""
    plan = facts.plan
    joined = [array.station_id for array in plan.arrays.values()]
    joined += [battery.station_id for battery in plan.externals.values()]
    joined += [recharge.station_id for recharge in plan.recharges.values()]
    return station_id in joined


@seen("restart-hazard")
def restart_hazard(facts: Facts) -> Iterator[Told]:
    """Tools that start by themselves when power returns."""
    for key, load in facts.plan.loads.items():
        on = facts.network.hangs[key].mark != "off"
        if load.role == "tool" and on and not load.drops_on_dip:
            yield Seen(facts.element("loads", key))


#: What ends the power of a source until someone comes.
DROPS = ("trip", "empty", "idle_cutout", "breaker_trip", "engine_dry", "vehicle_off", "source_empty")


@check("unattended")
def unattended(facts: Facts) -> Iterator[Said]:
    """Nobody at home for hours, and the output of a source drops in the run."""
    hours = facts.plan.outage.occupancy
    said: set[tuple[str, str]] = set()
    for way in facts.ways if hours.away or hours.gone else ():
        hookup = way.hookup
        source = (hookup.source_kind, hookup.source_id)
        parts = {way.lead_id, hookup.source_id, *facts.plan.source_units(hookup)}
        first = next((e for e in facts.run.events if e.kind in DROPS and e.part in parts), None)
        if first is not None and source not in said:
            said.add(source)
            comes_s = Presence(Calendar(facts.plan.site, facts.plan.outage), facts.plan.outage).next(
                first.t_s
            )
            figures: tuple[Figure, ...] = (Figure(name="drops after", value=first.t_s / 3600, unit="h"),)
            if first.t_s < comes_s < facts.run.length_s:
                figures += (Figure(name="someone is there after", value=comes_s / 3600, unit="h"),)
            yield Hit(facts.element("leads", way.lead_id), (figures[0], *figures[1:]), detail=first.what)
    told = {way.lead_id for way in facts.ways if (way.hookup.source_kind, way.hookup.source_id) in said}
    for lead_id, key, failed_s in _dark_alone(facts):
        if lead_id not in told:
            told.add(lead_id)
            load = facts.plan.loads[key]
            told_s = (
                Figure(name="without power for too long after", value=failed_s / 3600, unit="h"),
                Figure(name="it may be without", value=load.tolerance_s / 60, unit="min"),
            )
            yield Hit(facts.element("leads", lead_id), told_s, detail=load.name)


def _dark_alone(facts: Facts) -> Iterator[tuple[str, str, float]]:
    """(lead, load, moment) of what must run and fails while everyone is away, whatever the reason."""
    calendar = Calendar(facts.plan.site, facts.plan.outage)
    hours = facts.plan.outage.occupancy
    spans = [(span.at_s, span.at_s + span.for_s) for span in hours.gone]
    spans += [window for away in hours.away for window in calendar.windows(away.leaves, away.returns)]
    for way in facts.ways:
        for key in facts.kept(way):
            share = facts.run.loads.get(key)
            failed_s = share.failed_at_s if share is not None else None
            if failed_s is not None and any(begins <= failed_s <= ends for begins, ends in spans):
                yield way.lead_id, key, failed_s


@check("return-heat")
def heat_at_the_return(facts: Facts) -> Iterator[Said]:
    """What makes heat and is left on at the utility, when that returns with nobody there."""
    plan = facts.plan
    ends_s = plan.outage.length_s
    there_s = Presence(Calendar(plan.site, plan.outage), plan.outage).next(ends_s)
    away = any(span.at_s <= ends_s <= span.at_s + span.for_s for span in plan.outage.occupancy.gone)
    if not away and there_s <= ends_s + NIGHT_S:
        return
    for key, load in plan.loads.items():
        makes_heat = load.role == "hot" and not isinstance(load.behaviour, Job)
        if makes_heat and load.circuit_id is not None:
            figures = (
                Figure(name="when it is on", value=on_watts(load), unit="W"),
                Figure(name="the utility returns after", value=ends_s / 3600, unit="h"),
            )
            yield Hit(facts.element("loads", key), figures)


@seen("no-light")
def no_light(facts: Facts) -> Iterator[Told]:
    """No stair or hall light among what stays on."""
    if not facts.plan.hookups or not facts.plan.loads:
        return
    kept = [load for load in facts.kept().values() if load.role == "light"]
    if not kept:
        yield Seen(facts.element("site", "site"))


@check("all-at-once")
def all_at_once(facts: Facts) -> Iterator[Said]:
    """All starts at one instant, when everything is restored together."""
    legs = ("A", "B") if facts.plan.site.split_phase else ("L",)
    for way in facts.ways:
        if (way.hookup.restore or facts.plan.outage.restore) != "all_at_once":
            continue
        loads = facts.fed_at(way)
        limit = facts.source_leg_va(way)
        carried = facts.curve(way).carried_multiple(1.0) * limit
        for leg in legs:
            va = 0.0
            for load in loads.values():
                own = facts.legs_at(way, load)
                if leg in own:
                    start = start_of(load)
                    va += (start.va if start else on_watts(load)) / len(own)
            if va > limit:
                figures = (
                    Figure(name=f"all at once on leg {leg}", value=va, limit=limit, unit="VA"),
                    Figure(name="carried for a second", value=carried, unit="VA"),
                )
                fix = facts.of_changeover(way.hookup, "restore", "one_at_a_time")
                yield Hit(facts.element("leads", way.lead_id), figures, fix=fix)


@check("hog")
def hog(facts: Facts) -> Iterator[Said]:
    """Resistive loads of a kilowatt or more that alone empty a station in under two hours."""
    for need in need_list(facts.plan).needs:
        load = facts.plan.loads[need.load_id]
        if need.hog and need.mark != "off" and load.power_factor >= 0.97:
            figure = Figure(name="running", value=need.running_w, limit=HOG_W, unit="W")
            detail = f"alone it empties what is stored in under {HOG_H:g} h"
            yield Hit(facts.element("loads", need.load_id), (figure,), detail=detail)


@check("night-short")
def night_short(facts: Facts) -> Iterator[Said]:
    """Charge of each station that feeds, in the morning, against the reserve: its first short night."""
    plan = facts.plan
    hours = plan.outage.occupancy
    if hours.wakes == hours.sleeps:
        return
    nights = Calendar(plan.site, plan.outage).windows(hours.sleeps, hours.wakes)
    for key, share in facts.run.batteries.items():
        lead = next((way.lead_id for way in facts.ways if key in plan.source_units(way.hookup)), None)
        if lead is None or not share.t_s or share.cell_wh <= 0:
            continue
        for bed_s, morning_s in nights:
            if morning_s >= plan.outage.length_s:
                break
            bedtime, morning = (_percent(share, t) for t in (bed_s, morning_s))
            if bedtime > RESERVE_PERCENT > morning:
                figures = (
                    Figure(name=f"{share.name} at bedtime", value=bedtime, unit="%"),
                    Figure(name="in the morning", value=morning, limit=RESERVE_PERCENT, unit="%"),
                )
                yield Hit(facts.element("leads", lead), figures)
                break


def _percent(share: BatteryShare, t: float) -> float:
    """Charge of a station at a moment of the run, %."""
    index = max(0, bisect_right(share.t_s, t) - 1)
    here, stored = share.t_s[index], share.stored_wh[index]
    if index + 1 < len(share.t_s) and share.t_s[index + 1] > here:
        stored += (t - here) / (share.t_s[index + 1] - here) * (share.stored_wh[index + 1] - stored)
    return 100.0 * stored / share.cell_wh


@seen("rule-never")
def idle_rules(facts: Facts) -> Iterator[Told]:
    """Rules of the strategy that cannot act in this plan, whatever happens."""
    for number, (rule, share) in enumerate(
        zip(facts.plan.strategy.rules, facts.run.rules, strict=False), start=1
    ):
        if not share.never:
            continue
        yield Seen(_spoken_of(facts, rule), detail=f"rule {number}: {share.never}")


def _spoken_of(facts: Facts, rule: AnyRule) -> Element:
    """The part that a rule speaks about; of several the first."""
    for name, room in RULE_PARTS.items():
        part = getattr(rule, name, None)
        if part is not None:
            return facts.element(room, part if isinstance(part, str) else part[0])
    return facts.element("site", "site")
