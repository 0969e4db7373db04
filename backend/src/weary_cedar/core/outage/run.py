"""From a plan to the whole result."""

import math

from weary_cedar.core.demand import ThermostaticDemand
from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.network import Network
from weary_cedar.core.outage.assemble import DcLead
from weary_cedar.core.outage.carriers import EngineCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.food import compartments_of
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.ledger import closed_ledger
from weary_cedar.core.outage.result import (
    BatteryShare,
    Flow,
    LeadShare,
    LegPeaks,
    LoadSeries,
    LoadShare,
    Reading,
    RunResult,
    Series,
    SourceShare,
    StatePeaks,
    Stretch,
    SunShare,
    TemperatureSeries,
    Unused,
    WayShare,
)
from weary_cedar.core.outage.rule_shares import rule_share
from weary_cedar.core.outage.state import RunState, state_of, take_up
from weary_cedar.core.outage.tree import OWN, THROUGH, Carrier, LiveWay
from weary_cedar.core.outage.verdict import cannot_judge, verdict_of
from weary_cedar.core.plan import Plan
from weary_cedar.core.supply.reserve import topped_up
from weary_cedar.core.supply.shown_hours import shown_hours
from weary_cedar.core.supply.unit import Unit

NO_FEED = "no feed leads from a station or an engine to a panel or an appliance"


def first_part(plan: Plan, until_s: float) -> Plan:
    """The same plan for an outage that ends at a moment, s; its blocks after that do nothing."""
    if until_s >= plan.outage.length_s:
        return plan
    return plan.model_copy(update={"outage": plan.outage.model_copy(update={"length_s": until_s})})


def state_at(plan: Plan, at_s: float) -> RunState:
    """The state of a plan's run after the last change by a moment.

    Args:
        plan: a plan with something to run.
        at_s: the moment, s from the start of the outage.

    Returns:
        The state, from which the run can go on; see `run_outage`.

    Raises:
        InvalidInput: a moment outside of the outage.
        RunTooLong: more changes than are counted through.
    """
    if not 0 <= at_s < plan.outage.length_s:
        problem = Problem("/at_s", f"{at_s:g}", f"0 to {plan.outage.length_s:g} s, within the outage")
        raise InvalidInput(str(problem), (problem,))
    run = OutageRun(Network(plan))
    run.run(at_s)
    return state_of(run)


def run_outage(plan: Plan, state: RunState | None = None) -> RunResult:
    """Run a plan's outage exactly, from moment to moment, with everything that it owns.

    Args:
        plan: a complete plan; times in its outage are local to its site.
        state: from which it goes on, if it is not run from the start; of the same plan, or of one that
            differs only in what comes after it, to which loads may have been added. With the same plan the
            result is that of the whole run, to the byte.

    Returns:
        Verdict, events, ledger, flows and series of every device. A plan without a feed that may be
        used yields the verdict `cannot_judge` with what is missing, and what charging alone does.

    Raises:
        RunTooLong: more changes than are counted through.
        BooksOpen: energy came from nowhere or went nowhere; a fault of this program.
        InvalidInput: the state knows a part that the plan does not have.

    Method: piecewise constant or relaxing powers between moments; see docs/method.md.
    """
    start = plan.site.instant(plan.outage.start_local, 0.0)
    network = Network(plan)
    missing: list[str] = []
    if not network.running:
        missing = list(dict.fromkeys(way.why_not for way in network.ways)) or [NO_FEED]
        if not plan.recharges and not plan.arrays and not plan.externals:
            return RunResult(verdict=cannot_judge(missing), start=start, length_s=plan.outage.length_s)
    run = OutageRun(network)
    if state is not None:
        take_up(run, state)
    run.run()
    _name_idle_links(run)
    compartments = compartments_of(run)
    loads = _load_shares(run)
    flows = _flows(run)
    ledger = closed_ledger(run)
    return RunResult(
        verdict=verdict_of(run, flows) if network.running else cannot_judge(missing),
        start=start,
        length_s=run.end_s,
        leg_limit_va=_leg_limit(run),
        capacity_wh=sum(unit.all_wh for unit in run.measured),
        intervals=run.out.intervals,
        events=tuple(sorted(run.out.events, key=lambda event: event.t_s)),
        ledger=ledger,
        flows=flows,
        peaks=_peaks(run),
        loads=loads,
        series=_series(run),
        load_series={
            load.id: LoadSeries(t_s=tuple(t for t, _ in load.series), watts=tuple(w for _, w in load.series))
            for load in run.loads
        },
        indoor={
            load.id: _indoor(load.demand, run.end_s, plan.site.pipes_c)
            for load in run.loads
            if isinstance(load.demand, ThermostaticDemand)
        },
        compartments=compartments,
        batteries=_batteries(run),
        sources=_sources(run),
        suns=_suns(run),
        leads=_leads(run),
        externals=_externals(run),
        ways=_ways(run),
        rules=tuple(rule_share(run, rule) for rule in plan.strategy.rules),
        unused=tuple(Unused(name=name, why=why) for name, why in run.parts.unused),
    )


def _name_idle_links(run: OutageRun) -> None:
    """Recharge links that gave nothing in the whole outage, with why."""
    for link in run.links:
        if link.offer.taken_wh <= 0 and link.passed_s <= 0:
            kit = link.carrier.link if isinstance(link.carrier, StationCarrier) else None
            if link.trips:
                run.parts.unused.append((link.name, f"its input trips: {link.trips}×, and nothing came in"))
                continue
            if kit is not None and kit.ac_charging in ("refused", "unknown"):
                known = "refuses" if kit.ac_charging == "refused" else "may refuse"
                run.parts.unused.append((link.name, f"{kit.name} {known} AC charging while it is on"))
                continue
            never = "there was never power behind it that does not come from the station itself"
            why = "its station never needed it" if link.was_live or not link.plugged else never
            run.parts.unused.append((link.name, why))


def _leg_limit(run: OutageRun) -> float:
    """The tightest limit of one leg, VA; 0 where several feeds add up, so that none stands for all."""
    ways = [way for way in run.ways if way.carrier is not run.parts.grid]
    return min(ways[0].leg_va, ways[0].carrier.leg_va) if len(ways) == 1 else 0.0


def _indoor(demand: ThermostaticDemand, end_s: float, pipes_c: float) -> TemperatureSeries:
    demand.power(end_s, demand.powered)
    rows = demand.indoor
    cold = next((index for index, (_, c) in enumerate(rows) if c < pipes_c), None)
    under_s = None
    if cold is not None:
        (first_s, first_c), (last_s, last_c) = rows[max(0, cold - 1)], rows[cold]
        share = (first_c - pipes_c) / (first_c - last_c) if first_c > last_c else 0.0
        under_s = first_s + share * (last_s - first_s)
    return TemperatureSeries(
        t_s=tuple(t for t, _ in rows), c=tuple(c for _, c in rows), limit_c=pipes_c, under_at_s=under_s
    )


def _load_shares(run: OutageRun) -> dict[str, LoadShare]:
    shares = {}
    for load in run.loads:
        open_s = load.close_books(run.end_s)
        if load.mark == "keep" and load.failed_at is not None:
            run.out.keep_lost(load)
        shares[load.id] = LoadShare(
            name=load.name,
            served_wh=load.served_wh,
            unserved_wh=load.demand.unserved_wh(load.unserved_s, open_s),
            without_power_s=load.unserved_s,
            failed_at_s=load.failed_at,
            dark_spells=load.dark_spells,
            least_gap_s=load.least_gap_s if load.least_gap_s < math.inf else None,
        )
    return shares


def _flows(run: OutageRun) -> tuple[Flow, ...]:
    found = [flow for way in run.ways if way.carrier is not run.parts.grid for flow in _way_flows(run, way)]
    found += [
        _total_flow(run, carrier) for carrier in run.carriers if run.forest.is_used(carrier) and carrier.ways
    ]
    for circuit in run.circuits:
        by_cord = circuit.way is not None and circuit.way.way.hookup.kind == "cords"
        if circuit.loads and not circuit.plug and not by_cord:
            share = circuit.most_a / circuit.breaker_a
            name = f"breaker of {circuit.label}"
            found.append(
                Flow(
                    key=circuit.id,
                    name=name,
                    flow=circuit.most_a,
                    rating=circuit.breaker_a,
                    unit="A",
                    share=share,
                )
            )
    return tuple(sorted((flow for flow in found if flow.rating < math.inf), key=lambda flow: -flow.share))


def _peaks(run: OutageRun) -> dict[str, LegPeaks]:
    ways = (way for way in run.ways if way.carrier is not run.parts.grid)
    return {way.key: _peaks_of(way) for way in ways}


def _peaks_of(way: LiveWay) -> LegPeaks:
    states = tuple(
        StatePeaks(
            charged=state != OWN,
            through=state.removeprefix(THROUGH) if state.startswith(THROUGH) else None,
            a_a=a_a,
            b_a=b_a,
            neutral_a=neutral_a,
        )
        for state, (a_a, b_a, neutral_a) in sorted(way.most_in.items())
    )
    return LegPeaks(
        a_a=max((state.a_a for state in states), default=0.0),
        b_a=max((state.b_a for state in states), default=0.0),
        neutral_a=max((state.neutral_a for state in states), default=0.0),
        states=states,
    )


def _way_flows(run: OutageRun, way: LiveWay) -> list[Flow]:
    amps, at_s, leg = way.most_a
    on = f", leg {leg}" if run.plan.site.split_phase else ""
    elements = [(e.key, e.name, e.rating_a, amps, at_s) for e in way.elements]
    carrier_a, carrier_at, _ = way.carrier.most_leg
    name = way.carrier.name if not way.carrier.units else way.carrier.units[0].name
    volts = way.volts
    elements.insert(
        0, ("station-leg", f"{name}, one leg", way.carrier.leg_va / volts, carrier_a / volts, carrier_at)
    )
    return [
        Flow(
            key=key, feed=way.key, name=words + on, flow=a, rating=rating, unit="A", share=a / rating, at_s=at
        )
        for key, words, rating, a, at in elements
    ]


def _total_flow(run: OutageRun, carrier: Carrier) -> Flow:
    total_va, at_s = carrier.most_total
    return Flow(
        key="station-total",
        feed=carrier.ways[0].key,
        name=f"{carrier.name}, in total",
        flow=total_va,
        rating=carrier.total_va,
        unit="VA",
        share=total_va / carrier.total_va,
        at_s=at_s,
    )


def _series(run: OutageRun) -> Series:
    columns = list(zip(*run.out.rows, strict=True))
    names = (
        "t_s",
        "a_w",
        "b_w",
        "a_va",
        "b_va",
        "a_a",
        "b_a",
        "neutral_a",
        "cells_w",
        "stored_wh",
        "account",
    )
    named = dict(zip(names, columns, strict=True))
    whole = sum(unit.all_wh for unit in run.measured)
    percent = tuple(100.0 * wh / whole if whole else 0.0 for wh in named["stored_wh"])
    return Series(**named, charge_percent=percent)


# ---------------------------------------------------------------- by device


def _key(carrier: Carrier) -> str:
    room = {"generator": "generators", "vehicle": "vehicles"}.get(carrier.kind)
    if room is not None:
        return f"{room}/{carrier.key}"
    if isinstance(carrier, StationCarrier):
        return f"{'links' if carrier.link else 'stations'}/{carrier.key}"
    return carrier.key


def _batteries(run: OutageRun) -> dict[str, BatteryShare]:
    shares = {}
    for unit in run.units:
        rows = [*unit.rows, (run.end_s, unit.held_wh, 0.0, 0.0)]
        charged = math.fsum(offer.taken_wh * offer.efficiency for offer in unit.offers)
        shares[unit.key] = BatteryShare(
            name=unit.name,
            cell_wh=unit.all_wh,
            start_percent=100.0 * unit.start_wh / unit.all_wh,
            end_percent=100.0 * unit.held_wh / unit.all_wh,
            lowest_percent=100.0 * unit.lowest_wh / unit.all_wh,
            stored_start_wh=unit.start_wh,
            stored_end_wh=unit.held_wh,
            given_wh=unit.start_wh - unit.held_wh + charged,
            charged_wh=charged,
            stranded_wh=unit.held_wh,
            t_s=tuple(row[0] for row in rows),
            stored_wh=tuple(row[1] for row in rows),
            draw_w=tuple(row[2] for row in rows),
            offered_w=tuple(row[3] for row in rows),
            shown_h=shown_hours(unit.station, rows),
            readings=_readings(unit, run.end_s),
        )
    return shares


def _readings(unit: Unit, end_s: float) -> dict[str, Reading]:
    """What the displays of head unit and packs show, where they do not always stand alike."""
    if unit.packs is None or not unit.packs.ever_apart:
        return {}
    rows = [*unit.readings, (end_s, unit.packs.readings(unit.stored_wh))]
    found = {}
    for key in rows[0][1]:
        pack = unit.station.packs.get(key)
        offset = pack.reading_offset_percent if pack else 0.0
        percents = tuple(min(100.0, max(0.0, row[1][key] + offset)) for row in rows)
        found[key or "head"] = Reading(
            name=pack.name if pack else "head unit",
            cell_wh=pack.total_cell_wh if pack else unit.station.head_wh,
            start_percent=percents[0],
            end_percent=percents[-1],
            lowest_percent=min(percents),
            t_s=tuple(row[0] for row in rows),
            percent=percents,
        )
    return found


def _sources(run: OutageRun) -> dict[str, SourceShare]:
    """Every output that feeds anything in this plan, and the utility."""
    used = [c for c in run.carriers if run.forest.is_used(c) or c is run.parts.grid]
    shares = {_key(carrier): _source(carrier, run.plan.site.leg_volts) for carrier in used}
    for carrier in used:
        if isinstance(carrier, VehicleCarrier) and carrier.vehicle.tops_up:
            begins = run.plan.outage.start_charge_percent.get(carrier.key, 100.0)
            litres, starts = topped_up(carrier.vehicle, begins, carrier.reserve.drawn_wh)
            made_kwh = litres * (carrier.vehicle.kwh_per_l or 0.0)
            engine_w = carrier.vehicle.engine_w
            engine_h = 1000.0 * made_kwh / engine_w if engine_w else None
            shares[_key(carrier)] = shares[_key(carrier)].model_copy(
                update={"burned_l": litres, "starts": starts, "engine_h": engine_h}
            )
    return shares


def _source(carrier: Carrier, volts: float) -> SourceShare:
    engine = carrier.engine if isinstance(carrier, EngineCarrier) else None
    columns = list(zip(*carrier.rows, strict=True)) or [()] * 5
    leg_va = min(carrier.leg_va, carrier.ways[0].leg_va if len(carrier.ways) == 1 else math.inf)
    return SourceShare(
        name=carrier.name,
        kind=carrier.kind,
        given_wh=carrier.out_wh,
        on_s=carrier.on_s,
        trips=carrier.trips,
        over_s=carrier.over_s,
        leg_limit_va=leg_va if leg_va < math.inf else None,
        total_va=carrier.total_va if carrier.total_va < math.inf else None,
        burned_l=engine.burned_l if engine else None,
        left_l=engine.left_l if engine else None,
        second_l=engine.burned_second_l if engine and engine.generator.second_fuel else None,
        starts=engine.starts if engine else None,
        light_s=carrier.light_s if isinstance(carrier, EngineCarrier) else None,
        ran=tuple(Stretch(begins_s=a, ends_s=b) for a, b in carrier.ran)
        if isinstance(carrier, EngineCarrier)
        else (),
        t_s=columns[0],
        a_w=columns[1],
        b_w=columns[2],
        a_va=columns[3],
        b_va=columns[4],
        a_a=tuple(va / volts for va in columns[3]),
        b_a=tuple(va / volts for va in columns[4]),
    )


def _suns(run: OutageRun) -> dict[str, SunShare]:
    shares = {}
    for sun in run.parts.suns:
        columns = list(zip(*sun.rows, strict=True)) or [()] * 3
        shares[sun.key] = SunShare(
            name=sun.name,
            station=sun.unit.key,
            offered_wh=sun.offered_wh,
            taken_wh=sun.offer.taken_wh,
            clipped_wh=max(0.0, sun.offered_wh - sun.offer.offered_wh),
            curtailed_wh=max(0.0, sun.offer.offered_wh - sun.offer.taken_wh),
            t_s=columns[0],
            offered_w=columns[1],
            taken_w=columns[2],
        )
    return shares


def _leads(run: OutageRun) -> dict[str, LeadShare]:
    shares = {
        link.key: LeadShare(
            name=link.name,
            kind="wall",
            station=link.unit.key,
            taken_wh=link.offer.taken_wh,
            t_s=tuple(t for t, _ in link.rows),
            watts=tuple(watts for _, watts in link.rows),
        )
        for link in run.links
    }
    return shares | {lead.key: _lead(lead) for lead in run.parts.leads if lead.recharge}


def _externals(run: OutageRun) -> dict[str, LeadShare]:
    return {lead.key: _lead(lead) for lead in run.parts.leads if not lead.recharge}


def _lead(lead: DcLead) -> LeadShare:
    left = lead.reserve.left_wh
    return LeadShare(
        name=lead.name,
        kind="vehicle" if lead.recharge else "battery",
        station=lead.offer.unit.key,
        taken_wh=lead.offer.taken_wh,
        left_wh=left if left < math.inf else None,
        t_s=tuple(t for t, _ in lead.rows),
        watts=tuple(watts for _, watts in lead.rows),
    )


def _ways(run: OutageRun) -> dict[str, WayShare]:
    """What flows through every lead that feeds something; the utility's own way is none."""
    shares = {}
    for way in run.ways:
        if way.key:
            columns = list(zip(*way.rows, strict=True)) or [()] * 3
            shares[way.key] = WayShare(name=way.name, t_s=columns[0], a_va=columns[1], b_va=columns[2])
    return shares
