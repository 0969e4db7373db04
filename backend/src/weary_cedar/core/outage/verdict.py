"""The answer: does it last, until when, and what the pinch is."""

from collections.abc import Sequence
from datetime import datetime

from weary_cedar.core.electrical.split_phase import lean
from weary_cedar.core.outage.assumed import assumed
from weary_cedar.core.outage.connected import ConnectedLoad
from weary_cedar.core.outage.kernel import OutageRun
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
        The verdict. *Lasts* until the moment at which a keep load lost power for longer than its
        tolerance; *dark* when the last keep load goes for good.

    Source: definitions of this program; uncertainty is common practice of the trade.
    """
    plan = run.plan
    never = unreached(run)
    if not never and not any(load.mark == "keep" for load in run.loads):
        return cannot_judge(["nothing is marked keep yet"])
    lost_s = lost(run)
    failed = sorted((load for load in run.loads if load.id in lost_s), key=lambda x: (lost_s[x.id], x.rank))
    dark_s = run.out.keep_dark_since
    until_s = lost_s[failed[0].id] if failed else None
    mean_w = _mean_w(run)
    unsure = max((runtime_uncertainty(unit.station, mean_w) for unit in run.measured), default=0.15)
    return Verdict(
        status="does_not_last" if failed or never else "lasts",
        headline="Does not last" if failed or never else "Lasts",
        sentence=_unreached_words(run, never) + _sentence(run, failed, lost_s, dark_s) + _by_choice(run),
        until=_at(plan, until_s),
        until_s=until_s,
        dark_at=_at(plan, dark_s),
        dark_at_s=dark_s,
        first_lost=never[0] if never else failed[0].id if failed else None,
        unreached=tuple(never),
        left_out=tuple(dict.fromkeys(name for name, _ in run.parts.unused)),
        assumed=assumed(run),
        pinch=flows[0] if flows else None,
        start_pinch=_start_pinch(run),
        lean_w=_worst_lean(run),
        lean_wh=_energy_lean(run),
        lowest_percent=min((_lowest_percent(run),), default=None) if run.measured else None,
        stranded_wh=sum(unit.held_wh for unit in run.measured),
        mean_w=mean_w,
        uncertainty=unsure,
    )


def _lowest_percent(run: OutageRun) -> float:
    """Lowest charge of all cells that count, together, %."""
    whole = sum(unit.all_wh for unit in run.measured)
    return 100.0 * min(row[9] for row in run.out.rows) / whole


def _mean_w(run: OutageRun) -> float:
    """Mean AC power of what feeds the house, W, over the time that it was on."""
    feeding = [carrier for carrier in run.carriers if carrier.ways and carrier is not run.parts.grid]
    on_h = sum(carrier.on_s for carrier in feeding) / 3600.0
    given = sum(load.served_wh for load in run.loads)
    return given / on_h if on_h > 0 else 0.0


def unreached(run: OutageRun) -> list[str]:
    """Loads that must run on circuits or plugs that no way carries."""
    return [
        key
        for key, hang in run.network.hangs.items()
        if hang.mark == "keep" and hang.branch not in run.network.branches
    ]


def _unreached_words(run: OutageRun, never: list[str]) -> str:
    if not never:
        return ""
    plan, first = run.plan, never[0]
    more = f" and {len(never) - 1} more" if len(never) > 1 else ""
    branch = run.network.hangs[first].branch
    why = "no feed reaches it"
    for way in run.network.ways:
        if branch in way.dead:
            why = f"{way.name} brings one hot only, so it gets no voltage"
        elif way.why_not and branch in way.branches:
            why = way.why_not
    return f"{plan.loads[first].name}{more} must run but {why}; the rest: "


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


def lost(run: OutageRun) -> dict[str, float]:
    """Loads that must run and were lost: when they lost power for longer than they bear, or their food."""
    found: dict[str, float] = {}
    for load in run.loads:
        if load.mark != "keep":
            continue
        at = [s for s in (load.failed_at, run.food_lost.get(load.id)) if s is not None]
        if at:
            found[load.id] = min(at)
    return found


def _sentence(
    run: OutageRun,
    failed: list[ConnectedLoad],
    lost_s: dict[str, float],
    dark_s: float | None,
) -> str:
    if not failed:
        units = run.measured
        if not units:
            return f"the whole {spoken_hours(run.end_s)}{_fuel_left(run)}{_gaps(run)}"
        stored = sum(u.held_wh for u in units)
        left = 100.0 * stored / sum(u.all_wh for u in units) if units else 0.0
        return f"the whole {spoken_hours(run.end_s)}, {left:.0f} % left at the end{_gaps(run)}"
    told = run.plan.site.units
    first = failed[0]
    until_s = lost_s[first.id]
    at = told.told_moment(run.plan.site.instant(run.plan.outage.start_local, until_s))
    words = f"{spoken_hours(until_s)} of {spoken_hours(run.end_s)}, until {at}: {_goes(run, failed, lost_s)}"
    if dark_s is None:
        return words + _gaps(run)
    if abs(dark_s - until_s) < 1.0:
        return words + ", and everything is dark then" + _gaps(run)
    dark = run.plan.site.instant(run.plan.outage.start_local, dark_s)
    earlier = dark_s <= until_s
    since = (
        f", all dark since {told.told_time(dark)}" if earlier else f"; all dark from {told.told_moment(dark)}"
    )
    return words + since + _gaps(run)


def _by_choice(run: OutageRun) -> str:
    """What must run and was left off by choice, in words: that is not lost, and never goes unsaid."""
    off = [load for load in run.loads if load.mark == "keep" and load.chosen_s >= 60.0]
    if not off:
        return ""
    most = max(off, key=lambda load: load.chosen_s)
    more = f" and {len(off) - 1} more" if len(off) > 1 else ""
    return f"; left off by choice: {most.name}{more}, {spoken_hours(most.chosen_s)}"


def _goes(run: OutageRun, failed: list[ConnectedLoad], lost_s: dict[str, float]) -> str:
    """What is lost first, and for how long; it is the first to go only where others follow."""
    first = failed[0]
    if first.failed_at is None or lost_s[first.id] < first.failed_at:
        return f"the food in {first.name} is lost"
    if lost_s[failed[-1].id] > lost_s[first.id] + 1.0:
        return f"{first.name} is the first to go"
    if first.back_again_at is not None:
        gap = spoken_hours(first.back_again_at - first.failed_at)
        bears = spoken_hours(first.load.tolerance_s)
        return f"{first.name} has no power for {gap}, and bears {bears}; then it comes back"
    more = f" and {len(failed) - 1} more lose" if len(failed) > 1 else " loses"
    return f"{first.name}{more} power"


def _fuel_left(run: OutageRun) -> str:
    """What is left in tank and cans of the engines that ran, where it is known."""
    engines = [item.carrier.engine for item in run.engines if item.carrier.engine.starts]
    told = [
        f"{e.generator.name} has {run.plan.site.units.told_volume(e.left_l)} left"
        for e in engines
        if e.left_l is not None
    ]
    return "".join(f", {words}" for words in told)


def _gaps(run: OutageRun) -> str:
    """What a plan that goes dark again and again says beside how long it lasts; empty where it does not."""
    most = max(
        (load for load in run.loads if load.mark == "keep"), key=lambda load: load.dark_spells, default=None
    )
    if most is None:
        return ""
    #: The first spell is that of the change-over.
    if most.dark_spells >= 2 and run.out.trips > 0:
        return f"; {most.name} is dark {most.dark_spells} times, {spoken_hours(most.unserved_s)} in all"
    waits = min(run.changeover_s, run.end_s)
    return f"; dark {spoken_hours(waits)} until it is changed over" if waits >= 60.0 else ""


def _start_pinch(run: OutageRun) -> Flow | None:
    pinch = run.out.start_pinch
    if pinch is None:
        return None
    multiple, carried, name, at_s, node = pinch
    base = node.total_va
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
