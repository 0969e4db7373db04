"""The answer: does it last, until when, and what the pinch is."""

from collections.abc import Sequence
from datetime import datetime

from weary_cedar.core.electrical.split_phase import lean
from weary_cedar.core.outage.connected import ConnectedLoad
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.recorder import clock
from weary_cedar.core.outage.result import Flow, Verdict
from weary_cedar.core.plan import Plan
from weary_cedar.core.supply.station_energy import runtime_uncertainty


def cannot_judge(missing: Sequence[str]) -> Verdict:
    """The verdict when something needed is not in the plan. Never "fine"."""
    return Verdict(
        status="cannot_judge",
        headline="Cannot judge yet",
        sentence="; ".join(missing),
        missing=tuple(missing),
    )


def verdict_of(run: OutageRun, flows: tuple[Flow, ...]) -> Verdict:
    """Judge a finished run.

    Args:
        run: a run that has gone to its end.
        flows: greatest flows by element, largest share first.

    Returns:
        The verdict. *Lasts* until the first moment a keep load has been unserved longer than its
        tolerance; *dark* when the last keep load goes for good.

    Source: definitions of this program; uncertainty is common practice of the trade.
    """
    plan = run.plan
    unreached = _unreached(plan)
    if not unreached and not any(load.mark == "keep" for load in run.loads):
        return cannot_judge(["nothing is marked keep yet"])
    failed = sorted(
        (load for load in run.loads if load.mark == "keep" and load.failed_at is not None),
        key=lambda load: (load.failed_at or 0.0, load.rank),
    )
    dark_s = run.out.keep_dark_since
    start, until_s = run.changeover_s, failed[0].failed_at if failed else None
    on_h = run.on_s / 3600.0
    mean_w = run.out.ac_wh / on_h if on_h > 0 else 0.0
    unsure = runtime_uncertainty(run.station, mean_w)
    by_energy = run.empty and until_s is not None
    low_s = start + (until_s - start) * (1 - unsure) if by_energy and until_s is not None else None
    high_s = start + (until_s - start) * (1 + unsure) if by_energy and until_s is not None else None
    return Verdict(
        status="does_not_last" if failed or unreached else "lasts",
        headline="Does not last" if failed or unreached else "Lasts",
        sentence=_unreached_words(plan, unreached) + _sentence(run, failed, dark_s, unsure),
        until=_at(plan, until_s),
        until_s=until_s,
        dark_at=_at(plan, dark_s),
        dark_at_s=dark_s,
        first_lost=unreached[0] if unreached else failed[0].id if failed else None,
        unreached=tuple(unreached),
        left_out=_left_out(plan),
        pinch=flows[0] if flows else None,
        start_pinch=_start_pinch(run),
        lean_w=_worst_lean(run),
        lean_wh=_energy_lean(run),
        lowest_percent=100.0 * min(row[9] for row in run.out.rows) / run.capacity_wh,
        stranded_wh=run.stored_wh,
        mean_w=mean_w,
        uncertainty=unsure,
        unsure_from=_at(plan, low_s),
        unsure_to=_at(plan, high_s),
    )


def _unreached(plan: Plan) -> list[str]:
    """Loads that must run on circuits that no feed carries."""
    carried = plan.carried_circuits()
    return [
        key
        for key, load in sorted(plan.loads.items())
        if plan.circuits[load.circuit_id].mark == "keep" and load.circuit_id not in carried
    ]


def _left_out(plan: Plan) -> tuple[str, ...]:
    """Names of what could recharge or feed in the outage but is not computed yet."""
    feed = plan.run_feed
    used = {feed.source_id} if feed else set()
    parts = [a.name for a in plan.arrays.values()]
    parts += [r.name for r in plan.recharges.values() if r.when != "grid"]
    parts += [plan.source(f).name for f in plan.feeds.values() if f.source_id not in used]
    return tuple(dict.fromkeys(parts))


def _unreached_words(plan: Plan, unreached: list[str]) -> str:
    if not unreached:
        return ""
    more = f" and {len(unreached) - 1} more" if len(unreached) > 1 else ""
    return f"{plan.loads[unreached[0]].name}{more} must run but no feed reaches it; the rest: "


def _at(plan: Plan, t: float | None) -> datetime | None:
    return None if t is None else plan.site.instant(plan.outage.start_local, t)


def spoken_hours(seconds: float) -> str:
    """A length of time as people say it: minutes, hours, or days and hours."""
    minutes = round(seconds / 60)
    if minutes < 120:
        return f"{minutes} min"
    hours = round(seconds / 3600)
    if hours <= 72:
        return f"{hours} h"
    days, rest = divmod(hours, 24)
    plural = "day" if days == 1 else "days"
    return f"{days} {plural}" + (f" {rest} h" if rest else "")


def _sentence(run: OutageRun, failed: list[ConnectedLoad], dark_s: float | None, unsure: float) -> str:
    if not failed:
        left = 100.0 * run.stored_wh / run.capacity_wh
        window = run.start_wh - run.cutoff_wh
        used = (run.start_wh - run.stored_wh) / window if window > 0 else 1.0
        close = f"; too close to be sure (±{unsure:.0%})" if used * (1 + unsure) > 1 else ""
        return f"the whole {spoken_hours(run.end_s)}, {left:.0f} % left at the end{close}"
    first = failed[0]
    until_s = first.failed_at or 0.0
    at = clock(run.plan.site.instant(run.plan.outage.start_local, until_s))
    words = (
        f"{spoken_hours(until_s)} of {spoken_hours(run.end_s)}, until {at}: {first.name} is the first to go"
    )
    if dark_s is None:
        return words
    dark = run.plan.site.instant(run.plan.outage.start_local, dark_s)
    return words + (
        f", all dark since {dark:%H:%M}" if dark_s <= until_s else f"; all dark from {clock(dark)}"
    )


def _start_pinch(run: OutageRun) -> Flow | None:
    pinch = run.out.start_pinch
    if pinch is None:
        return None
    multiple, carried, name, at_s = pinch
    base = run.limits.total_va
    return Flow(
        key="start",
        name=f"start of {name}",
        flow=multiple * base,
        rating=carried * base,
        unit="VA",
        share=multiple / carried,
        at_s=at_s,
    )


def _worst_lean(run: OutageRun) -> float:
    """Lean at the moment of the greatest leg load."""
    if not run.plan.site.split_phase:
        return 0.0
    row = max(run.out.rows, key=lambda r: (max(r[1], r[2]), -r[0]))
    return lean(row[1], row[2])


def _energy_lean(run: OutageRun) -> float:
    if not run.plan.site.split_phase:
        return 0.0
    shares = [(load, load.served_wh / 2 if load.across else load.served_wh) for load in run.loads]
    a = sum(wh for load, wh in shares if load.on_leg_a)
    b = sum(wh for load, wh in shares if load.on_leg_b)
    return lean(a, b)
