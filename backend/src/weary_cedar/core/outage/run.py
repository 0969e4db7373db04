"""From a plan to the whole result."""

from weary_cedar.core.demand import ThermostaticDemand
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.result import (
    Flow,
    Ledger,
    LoadSeries,
    LoadShare,
    RunResult,
    Series,
    TemperatureSeries,
)
from weary_cedar.core.outage.verdict import cannot_judge, verdict_of
from weary_cedar.core.plan import Plan

#: Relative residual up to which a ledger counts as closed.
CLOSES_TO = 1e-6


def run_outage(plan: Plan) -> RunResult:
    """Run a plan's outage exactly, from event to event.

    Args:
        plan: a complete plan; times in its outage are local to its site.

    Returns:
        Verdict, events, ledger, flows and series. A plan without a feed, or whose feed this
        program cannot run, yields the verdict `cannot_judge` with what is missing.

    Method: piecewise constant powers between events; see docs/method.md.
    """
    start = plan.site.instant(plan.outage.start_local, 0.0)
    missing = _missing(plan)
    feed = plan.run_feed
    if missing or feed is None:
        return RunResult(verdict=cannot_judge(missing), start=start, length_s=plan.outage.length_s)
    run = OutageRun(plan, feed)
    run.run()
    loads = _load_shares(run)
    flows = _flows(run)
    return RunResult(
        verdict=verdict_of(run, flows),
        start=start,
        length_s=run.end_s,
        leg_limit_va=run.limits.leg_va,
        capacity_wh=run.capacity_wh,
        intervals=run.out.intervals,
        events=tuple(sorted(run.out.events, key=lambda event: event.t_s)),
        ledger=_ledger(run),
        flows=flows,
        loads=loads,
        series=_series(run),
        load_series={
            load.id: LoadSeries(t_s=tuple(t for t, _ in load.series), watts=tuple(w for _, w in load.series))
            for load in run.loads
        },
        indoor={
            load.id: _indoor(load.demand, run.end_s)
            for load in run.loads
            if isinstance(load.demand, ThermostaticDemand)
        },
    )


def _indoor(demand: ThermostaticDemand, end_s: float) -> TemperatureSeries:
    demand.power(end_s, demand.powered)
    return TemperatureSeries(t_s=tuple(t for t, _ in demand.indoor), c=tuple(c for _, c in demand.indoor))


#: Feeds that the run does not compute, and why.
NOT_RUN = {
    "no_transfer": "this way of feeding a house can kill and is refused; see the checks",
    "receptacle_backfeed": "this way of feeding a house can kill and is refused; see the checks",
    "bridged": "a run with one 120 V hot on both legs is not computed yet",
    "half_leg": "a run with one 120 V hot on one leg is not computed yet",
}
#: In a split-phase house these come from a 120 V outlet.
BY_CORD = ("cords", "appliance_switch")


def _missing(plan: Plan) -> list[str]:
    feed = plan.run_feed
    if feed is None:
        return ["no feed leads from a station to a panel or an appliance"]
    if feed.kind in NOT_RUN:
        return [NOT_RUN[feed.kind]]
    if feed.kind in BY_CORD and plan.site.split_phase:
        return ["a run by cords from a 120 V outlet is not computed yet"]
    if feed.source_id in plan.links:
        return ["a run of two linked 120 V stations, one on each leg, is not computed yet"]
    output = plan.source_station(feed).output
    needed = "120/240" if plan.site.split_phase else "230"
    missing = []
    if output != needed:
        missing.append(f"the station gives {output} V where the house takes {needed} V")
    poles = 2 if plan.site.split_phase else 1
    if feed.kind == "interlock_inlet" and len(feed.breaker_spaces) != poles:
        missing.append("the feed breaker does not reach every leg of the panel")
    return missing


def _load_shares(run: OutageRun) -> dict[str, LoadShare]:
    shares = {}
    for load in run.loads:
        open_s = load.close_books(run.end_s)
        if load.mark == "keep" and load.failed_at is not None:
            run.out.keep_lost(load.failed_at, load)
        shares[load.id] = LoadShare(
            name=load.name,
            served_wh=load.served_wh,
            unserved_wh=load.demand.unserved_wh(load.unserved_s, open_s),
            without_power_s=load.unserved_s,
            failed_at_s=load.failed_at,
        )
    return shares


def _ledger(run: OutageRun) -> Ledger:
    """Loads are booked at their own changes, cells interval by interval: that both agree is the check."""
    efficiency = run.station.inverter_efficiency
    served = sum(load.served_wh for load in run.loads)
    loss = (run.out.ac_wh + run.out.cord_wh) * (1 / efficiency - 1)
    out = run.start_wh - run.stored_wh
    used = served + run.out.cord_wh + loss + run.out.idle_wh + run.out.sleep_wh + run.out.self_wh
    residual = abs(out - used) / max(abs(out), 1e-3)
    return Ledger(
        stored_start_wh=run.start_wh,
        stored_end_wh=run.stored_wh,
        from_battery_wh=out,
        loads_wh=served,
        inverter_loss_wh=loss,
        idle_wh=run.out.idle_wh,
        sleep_wh=run.out.sleep_wh,
        self_discharge_wh=run.out.self_wh,
        cord_wh=run.out.cord_wh,
        residual=residual,
        closes=residual <= CLOSES_TO,
    )


def _flows(run: OutageRun) -> tuple[Flow, ...]:
    leg_a, leg_at, leg = run.out.most_leg
    total_va, total_at = run.out.most_total
    on = f", leg {leg}" if run.plan.site.split_phase else ""
    found = [
        Flow(
            key=item.key,
            name=item.name + on,
            flow=leg_a,
            rating=item.rating_a,
            unit="A",
            share=leg_a / item.rating_a,
            at_s=leg_at,
        )
        for item in run.limits.elements
    ]
    total_name = f"{run.station.name}, in total"
    rating = run.limits.total_va
    found.append(
        Flow(
            key="station-total",
            name=total_name,
            flow=total_va,
            rating=rating,
            unit="VA",
            share=total_va / rating,
            at_s=total_at,
        )
    )
    for circuit in run.circuits:
        if circuit.loads:
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
    return tuple(sorted(found, key=lambda flow: -flow.share))


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
    percent = tuple(100.0 * wh / run.capacity_wh for wh in named["stored_wh"])
    return Series(**named, charge_percent=percent)
