"""An outage counted in half hours: what goes in and out of all cells together, with an engine and without.

Both courses are taken from exact runs of the plan with cells so large that nothing is ever full or empty.
So it is the same house, with one store instead of several: good for looking far ahead, never the judge.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import timedelta
from itertools import pairwise
from typing import Any, Final

import numpy as np

from weary_cedar.core.decide.changes.change import NEVER
from weary_cedar.core.decide.schedule.worth import reserves, stored_at
from weary_cedar.core.network import Network, network_of
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.plan import (
    AnyRule,
    EngineRule,
    ExternalBattery,
    Plan,
    ReserveRule,
    ShedRule,
    Station,
    ToInput,
)
from weary_cedar.core.plan.lead import Lead
from weary_cedar.core.plan.load import Job
from weary_cedar.core.supply.fuel import flow

SLOT_S: Final = 1_800.0
#: Cells are taken as so many times larger, and stand so high, %.
PLENTY, HALF_FULL = 50.0, 70.0
#: A job under this much is left where it is, Wh; so many of the largest are moved.
LEAST_JOB_WH: Final = 60.0
MOST_JOBS: Final = 3
#: An engine stops at this charge where its own rule does not say, %.
STOPS_AT: Final = 90.0
#: What things are worth in Wh of what is marked room: a Wh of what must run, of what must be left, a litre,
#: a start, a job that is begun an hour from its usual time. Common practice, no source.
KEEP_WORTH, LEFT_WORTH, LITRE_WORTH, START_WORTH, HOUR_WORTH = 10.0, 0.5, 60.0, 10.0, 0.05

#: A vehicle that never runs out: when it is plugged in is not what is counted here.
ENDLESS: Final = {"usable_kwh": 500.0, "tank_l": 5_000.0}

Floats = np.ndarray[Any, np.dtype[np.float64]]
Bools = np.ndarray[Any, np.dtype[np.bool_]]


@dataclass(frozen=True)
class Movable:
    """A job that can be begun at other hours: energy at the cells, and by day the half hours to begin in."""

    load_id: str
    wh: float
    keep: bool
    lasts_s: float
    #: By day: half hours in which it may be begun, and the one in which it usually is.
    days: tuple[tuple[tuple[int, ...], int], ...]

    @property
    def worth(self) -> float:
        """What is lost where it is not done."""
        return self.wh * (KEEP_WORTH if self.keep else 1.0)


@dataclass(frozen=True)
class Hourly:
    """An outage in half hours; energies in Wh at the cells of all batteries together."""

    #: Edges of the half hours, s from the start.
    edges_s: Floats
    #: What leaves the cells in each half hour, less what comes in, with the engine off and on; without jobs.
    off_wh: Floats
    on_wh: Floats
    #: Of that, what is marked room; litres that an engine burns in it.
    room_wh: Floats
    litres: Floats
    #: Whether the engine may run: nobody sleeps who has to stop it, and it is no quiet hour.
    may_run: Bools
    #: What should be left at the end of each half hour, Wh; 0 where nothing is asked.
    left_wh: Floats
    first_wh: float
    floor_wh: float
    full_wh: float
    #: Where charging by the engine ends, and below which what is marked room goes off.
    stops_wh: float
    sheds_wh: float = 0.0
    #: Of what leaves the cells, how much reaches loads: the rest is idle draw and losses.
    reaches: Floats = field(default_factory=lambda: np.ones(1))
    jobs: tuple[Movable, ...] = ()
    #: Day of each half hour, and minutes on the clock at which it begins.
    day: tuple[int, ...] = ()
    clock: tuple[int, ...] = ()
    #: Litres in the house, if that is known.
    on_hand_l: float | None = None

    @property
    def count(self) -> int:
        """How many half hours there are."""
        return len(self.off_wh)

    @property
    def wanted(self) -> float:
        """What all that is wanted is worth, in Wh of what is marked room."""
        must = float((np.maximum(self.off_wh - self.room_wh, 0.0) * self.reaches).sum()) * KEEP_WORTH
        return must + float(self.room_wh.sum()) + sum(job.worth * len(job.days) for job in self.jobs)


@dataclass(frozen=True)
class Told:
    """What is done when: half hours in which the engine runs, and by job and day the one it begins in."""

    engine: tuple[bool, ...]
    jobs: tuple[tuple[int | None, ...], ...] = ()


@dataclass(frozen=True)
class Priced:
    """What hours cost as counted: worth that is lost or spent, and what it consists of."""

    worth: float
    keep_wh: float
    room_wh: float
    litres: float
    #: The half hours in which the engine ran after all.
    ran: tuple[bool, ...]


# ---------------------------------------------------------------- from the exact runs


def with_plenty(plan: Plan, engine_id: str | None) -> Plan:
    """The plan with cells that are never full nor empty, where nobody saves; one engine runs, or none."""
    stations = {key: _large(station) for key, station in plan.stations.items()}
    policy = (EngineRule, ShedRule, ReserveRule)
    rules: list[AnyRule] = [rule for rule in plan.strategy.rules if not isinstance(rule, policy)]
    generators = dict(plan.generators)
    for key, engine in plan.generators.items():
        own = next((r for r in plan.strategy.followed(EngineRule) if r.generator_id == key), None)
        if key == engine_id:
            update: dict[str, Any] = {"quiet": None, "auto_start": True, "on_hand_l": None, "tank_l": None,
                                      "second_fuel": None}  # fmt: skip
            generators[key] = engine.model_copy(update=update)
            told = {"on": True, "on_below_percent": None, "hours": None, "least_s": 0.0}
            rules.insert(0, (own or EngineRule(generator_id=key)).model_copy(update=told))
        else:
            told = {"on": True, "on_below_percent": 0.0, "hours": None}
            rules.append((own or EngineRule(generator_id=key)).model_copy(update=told))
    strategy = plan.strategy.model_copy(update={"rules": tuple(rules), "room_off_below_percent": None})
    charges = {**plan.outage.start_charge_percent, **dict.fromkeys(plan.stations, HALF_FULL)}
    outage = plan.outage.model_copy(update={"start_charge_percent": charges, "pack_charge_percent": {}})
    changed = {
        "stations": stations, "generators": generators, "strategy": strategy, "outage": outage,
        "leads": {key: _plugged(lead) for key, lead in plan.leads.items()},
        "vehicles": {key: vehicle.model_copy(update=ENDLESS) for key, vehicle in plan.vehicles.items()},
        "externals": {},
    }  # fmt: skip
    return plan.model_copy(update=changed)


def _plugged(lead: Lead) -> Lead:
    """A lead from a vehicle into an input as if it were always plugged in."""
    if lead.source.kind != "vehicle" or not isinstance(lead.to, ToInput):
        return lead
    return lead.model_copy(update={"to": lead.to.model_copy(update={"when": "always"})})


def _large(station: Station) -> Station:
    packs = {
        key: pack.model_copy(update={"cell_wh": pack.total_cell_wh / pack.count * PLENTY})
        for key, pack in station.packs.items()
    }
    update = {
        "cell_wh": station.head_wh * PLENTY, "delivered_wh": None, "packs": packs,
        "self_discharge_percent_per_week": station.self_discharge_percent_per_week / PLENTY,
    }  # fmt: skip
    return station.model_copy(update=update)


def counted_hours(plan: Plan, run: RunResult, engine_id: str | None, from_s: float, left_wh: float) -> Hourly:
    """An outage in half hours of the site's clock.

    Args:
        plan: a complete plan that is run.
        run: of that plan: how full the cells are at the beginning is from it.
        engine_id: the engine that runs or does not.
        from_s: from when on it is counted, s from the start.
        left_wh: what should be left at the end, Wh.

    Returns:
        What goes in and out, by half hours, with the engine off all the time and on all the time.

    Raises:
        RunTooLong: more changes than are counted through.

    Source: exact runs of the plan; all batteries are taken as one, and a job as drawn when it begins.
    """
    network = network_of(plan)
    off = run_outage(with_plenty(plan, None))
    on = run_outage(with_plenty(plan, engine_id)) if engine_id is not None else off
    edges = _edges(plan, from_s)
    jobs = _movable(plan, network, off, edges)
    of_jobs = sum(
        (_drawn(off, job.load_id, edges) / _efficiency(plan) for job in jobs), np.zeros(len(edges) - 1)
    )
    beside_wh = sum(_given_wh(battery) for battery in plan.externals.values() if battery.station_id)
    whole = run.capacity_wh + beside_wh
    stops = next((r.off_above_percent for r in plan.strategy.followed(EngineRule)
                  if r.generator_id == engine_id), STOPS_AT)  # fmt: skip
    on_hand = plan.generators[engine_id].on_hand_l if engine_id is not None else None
    return Hourly(
        edges_s=edges,
        off_wh=_left_cells(off, edges) - of_jobs,
        on_wh=_left_cells(on, edges) - of_jobs,
        room_wh=_room(network, off, edges, {job.load_id for job in jobs}) / _efficiency(plan),
        litres=_litres(plan, on, engine_id, edges),
        may_run=_may_run(plan, engine_id, edges),
        left_wh=_wanted_left(plan, run, edges, left_wh),
        first_wh=stored_at(run, from_s) + beside_wh,
        floor_wh=sum(s.total_cell_wh * s.cutoff_percent / 100.0 for s in plan.stations.values()),
        full_wh=whole,
        stops_wh=whole * stops / 100.0,
        sheds_wh=whole * (plan.strategy.room_off_below_percent or 0.0) / 100.0,
        reaches=_reaches(plan, off, edges),
        jobs=jobs,
        day=tuple(_local(plan, t).toordinal() for t in edges[:-1]),
        clock=tuple(_local(plan, t).hour * 60 + _local(plan, t).minute for t in edges[:-1]),
        on_hand_l=None
        if on_hand is None
        else max(0.0, on_hand - _burned_before(plan, run, engine_id, from_s)),
    )


def _given_wh(battery: ExternalBattery) -> float:
    """What an external battery can give into the cells, Wh: it counts as stored from the beginning."""
    return battery.total_wh * battery.usable_share * battery.transfer_efficiency


def _local(plan: Plan, t: float) -> Any:
    return plan.site.instant(plan.outage.start_local, t)


def _edges(plan: Plan, from_s: float) -> Floats:
    """Half hours of the site's clock from a moment to the end; the first and the last may be shorter."""
    first = _local(plan, from_s)
    past = timedelta(minutes=first.minute % 30, seconds=first.second, microseconds=first.microsecond)
    begins = from_s + (SLOT_S - past.total_seconds()) % SLOT_S
    inner = np.arange(begins, plan.outage.length_s, SLOT_S)
    return np.unique(np.concatenate(([from_s], inner, [plan.outage.length_s])))


def _efficiency(plan: Plan) -> float:
    stations = list(plan.stations.values())
    return sum(s.inverter_efficiency for s in stations) / len(stations) if stations else 1.0


def _left_cells(run: RunResult, edges: Floats) -> Floats:
    """What leaves all cells between edges, less what comes in, Wh."""
    stored = sum((np.interp(edges, b.t_s, b.stored_wh) for b in run.batteries.values()), np.zeros(len(edges)))
    return -np.diff(stored)


def _drawn(run: RunResult, load_id: str, edges: Floats) -> Floats:
    """What a load draws between edges, Wh."""
    course = run.load_series.get(load_id)
    return np.zeros(len(edges) - 1) if course is None else energy_between(course.t_s, course.watts, edges)


def energy_between(t_s: Sequence[float], watts: Sequence[float], edges: Floats) -> Floats:
    """Energy of a course of change points between edges, Wh."""
    times = np.append(np.asarray(t_s, dtype=float), max(float(edges[-1]), t_s[-1] if t_s else 0.0))
    powers = np.asarray(watts, dtype=float)
    summed = np.concatenate(([0.0], np.cumsum(powers * np.diff(times) / 3600.0)))
    return np.diff(np.interp(edges, times, summed))


def _reaches(plan: Plan, run: RunResult, edges: Floats) -> Floats:
    """The share of what leaves the cells that reaches loads, by half hours."""
    served = sum((_drawn(run, key, edges) for key in run.load_series), np.zeros(len(edges) - 1))
    idle_w = sum(station.idle_draw_w for station in plan.stations.values())
    leaves = served / _efficiency(plan) + idle_w * np.diff(edges) / 3600.0
    return np.where(leaves > 0, served / np.maximum(leaves, 1e-9), 1.0)


def _room(network: Network, run: RunResult, edges: Floats, without: set[str]) -> Floats:
    keys = [k for k in run.load_series if network.hangs[k].mark == "room" and k not in without]
    return sum((_drawn(run, key, edges) for key in keys), np.zeros(len(edges) - 1))


def _litres(plan: Plan, run: RunResult, engine_id: str | None, edges: Floats) -> Floats:
    """What an engine burns in each half hour, if it runs, L."""
    share = run.sources.get(f"generators/{engine_id}")
    per = flow(plan.generators[engine_id]) if engine_id is not None else None
    hours = np.diff(edges) / 3600.0
    if share is None or per is None:
        return np.zeros(len(hours))
    watts = [a + b for a, b in zip(share.a_w, share.b_w, strict=True)]
    return per[0] * hours + per[1] * energy_between(share.t_s, watts, edges) / 1000.0


def _burned_before(plan: Plan, run: RunResult, engine_id: str | None, until_s: float) -> float:
    """What an engine burned up to a moment, L."""
    share = run.sources.get(f"generators/{engine_id}")
    per = flow(plan.generators[engine_id]) if engine_id is not None else None
    if share is None or per is None or until_s <= 0:
        return 0.0
    ran_h = sum(max(0.0, min(span.ends_s, until_s) - span.begins_s) for span in share.ran) / 3600.0
    watts = [a + b for a, b in zip(share.a_w, share.b_w, strict=True)]
    given_wh = float(energy_between(share.t_s, watts, np.array([0.0, until_s]))[0])
    return per[0] * ran_h + per[1] * given_wh / 1000.0


def _may_run(plan: Plan, engine_id: str | None, edges: Floats) -> Bools:
    """Half hours in which an engine may run throughout."""
    found = np.zeros(len(edges) - 1, dtype=bool)
    if engine_id is None:
        return found
    calendar = Calendar(plan.site, plan.outage)
    presence = Presence(calendar, plan.outage)
    engine = plan.generators[engine_id]
    rule = next((r for r in plan.strategy.followed(EngineRule) if r.generator_id == engine_id), None)
    alone = engine.auto_start is True or (rule is not None and rule.left_running)
    quiet = calendar.windows(engine.quiet.begins, engine.quiet.ends) if engine.quiet else []
    blocks = plan.outage.off_spans(lambda act: act.room == "generators" and act.part_id == engine_id)
    back = [(w.at_s, w.at_s + w.for_s) for w in plan.outage.grid.values()]
    first_s = plan.outage.changeover_after_s
    for n, (a, b) in enumerate(pairwise(edges.tolist())):
        there = alone or (presence.next(a) == a and presence.until(a) >= b)
        free = not any(x < b and a < y for x, y in (*quiet, *blocks, *back))
        found[n] = there and free and a >= first_s
    return found


def _wanted_left(plan: Plan, run: RunResult, edges: Floats, left_wh: float) -> Floats:
    found = np.zeros(len(edges) - 1)
    for t, want in reserves(plan, run, left_wh):
        if t > edges[0]:
            n = min(len(found) - 1, int(np.searchsorted(edges, t - 1e-6)) - 1)
            found[n] = max(found[n], want)
    return found


def _movable(plan: Plan, network: Network, run: RunResult, edges: Floats) -> tuple[Movable, ...]:
    """The largest jobs that may be begun at several hours of every day that is left."""
    calendar = Calendar(plan.site, plan.outage)
    presence = Presence(calendar, plan.outage)
    acted = {act.part_id for act in plan.outage.acts.values() if act.room == "loads"}
    found = []
    for key, load in plan.loads.items():
        spec, hang = load.behaviour, network.hangs[key]
        reached = hang.branch in network.branches and hang.mark in ("keep", "room") and key not in acted
        if not isinstance(spec, Job) or not reached or load.role in (*NEVER, "light"):
            continue
        wh = sum(step.watts * step.minutes / 60.0 for step in spec.steps) / _efficiency(plan)
        windows = [w for w in calendar.job_windows(spec) if w[1] > edges[0]]
        lasts_s = sum(step.minutes for step in spec.steps) * 60.0
        if wh < LEAST_JOB_WH or not windows:
            continue
        usual = _begun(plan, run, key, edges)
        days = []
        for first, last in windows:
            slots = tuple(
                n for n, t in enumerate(edges[:-1])
                if max(first, edges[0]) <= t < last
                and t + lasts_s <= edges[-1]
                and presence.next(float(t)) == t
            )  # fmt: skip
            day = _local(plan, max(first, float(edges[0]))).toordinal()
            if day in usual and slots:
                days.append((tuple(sorted({*slots, usual[day]})), usual[day]))
        if days and max(len(slots) for slots, _ in days) > 1:
            found.append(Movable(key, wh, hang.mark == "keep", lasts_s, tuple(days)))
    return tuple(sorted(found, key=lambda job: (-job.wh, job.load_id))[:MOST_JOBS])


def _begun(plan: Plan, run: RunResult, key: str, edges: Floats) -> dict[int, int]:
    """Days and half hours in which a job is begun as the plan stands."""
    course = run.load_series.get(key)
    found: dict[int, int] = {}
    for t, watts in zip(course.t_s, course.watts, strict=True) if course is not None else ():
        if watts > 0 and t >= edges[0]:
            n = int(np.searchsorted(edges, t, side="right")) - 1
            found.setdefault(_local(plan, t).toordinal(), min(n, len(edges) - 2))
    return found


# ---------------------------------------------------------------- what hours cost


def priced(hourly: Hourly, told: Told) -> Priced:
    """What it costs to do things at these hours, as counted; see `priced_all`."""
    return priced_all(hourly, np.array([told.engine], dtype=bool), *with_jobs(hourly, told))[0]


def priced_all(
    hourly: Hourly,
    engine: Bools,
    out: Floats,
    room: Floats,
    worth: Floats | float,
    starts_wh: Floats | float = np.inf,
) -> list[Priced]:
    """What it costs to do things at hours, as counted, for several ways at once.

    Args:
        hourly: the outage in half hours.
        engine: by way and half hour, whether the engine may run.
        out: what jobs take in each half hour, Wh, by half hour, or by way and half hour.
        room: what of all is marked room, Wh, likewise.
        worth: what it is worth to move jobs, or not to do them, likewise by way.
        starts_wh: by way, what is stored at which the engine starts, Wh; it always does if absent.

    Returns:
        For each way the worth that is lost or spent: energy that is missing, litres, starts, jobs begun at
        unusual hours.

    Formula: the store loses what leaves it; above full it spills, below its floor what is missing is first
    what is marked room, then what must run. An engine charges no further than to where it stops.
    """
    ways = len(engine)
    out, room = np.broadcast_to(out, engine.shape), np.broadcast_to(room, engine.shape)
    stored, cost = np.full(ways, hourly.first_wh), np.zeros(ways)
    keep, roomy, litres = np.zeros(ways), np.zeros(ways), np.zeros(ways)
    before, ran = np.zeros(ways, dtype=bool), np.zeros(engine.shape, dtype=bool)
    on_hand = np.inf if hourly.on_hand_l is None else hourly.on_hand_l + 1e-9
    bound = np.isfinite(np.broadcast_to(starts_wh, ways))
    for n in range(hourly.count):
        asked = (stored <= starts_wh) | (before & (stored < hourly.stops_wh))
        runs = engine[:, n] & bool(hourly.may_run[n]) & (litres + hourly.litres[n] <= on_hand)
        runs &= asked | ~bound
        stored, missing, shed = flowed(hourly, n, stored, out[:, n], room[:, n], runs)
        part = np.minimum(missing, room[:, n] - shed)
        keep, roomy = keep + (missing - part) * hourly.reaches[n], roomy + part + shed
        litres = litres + runs * hourly.litres[n]
        cost = cost + runs * hourly.litres[n] * LITRE_WORTH + (runs & ~before) * START_WORTH
        cost = cost + LEFT_WORTH * np.maximum(0.0, hourly.left_wh[n] - stored)
        ran[:, n] = before = runs
    whole = worth + cost + KEEP_WORTH * keep + roomy
    return [
        Priced(float(whole[k]), float(keep[k]), float(roomy[k]), float(litres[k]), tuple(ran[k].tolist()))
        for k in range(ways)
    ]


def with_jobs(hourly: Hourly, told: Told) -> tuple[Floats, Floats, float]:
    """What jobs take in each half hour, what is marked room with them, and what it is worth to move them."""
    out, room, worth = np.zeros(hourly.count), hourly.room_wh.copy(), 0.0
    for job, begun in zip(hourly.jobs, told.jobs, strict=True):
        for (_, usual), n in zip(job.days, begun, strict=True):
            if n is None:
                worth += job.worth
                continue
            worth += HOUR_WORTH * abs(n - usual) / 2.0
            out[n] += job.wh
            room[n] += 0.0 if job.keep else job.wh
    return out, room, worth


def flowed(
    hourly: Hourly,
    n: int,
    stored: Floats,
    jobs_wh: Floats | float,
    room_wh: Floats | float,
    runs: Bools | bool,
) -> tuple[Floats, Floats, Floats]:
    """A half hour: what is stored after it, what was missing, and what of the rooms was shed, Wh.

    For several stores; what is marked room goes off where the plan says so by the charge.
    """
    shed = np.where(stored < hourly.sheds_wh, np.maximum(room_wh, 0.0), 0.0)
    resting = stored - (hourly.off_wh[n] + jobs_wh - shed)
    charged = np.minimum(stored - (hourly.on_wh[n] + jobs_wh - shed), np.maximum(hourly.stops_wh, resting))
    after = np.where(runs, charged, resting)
    return np.clip(after, hourly.floor_wh, hourly.full_wh), np.maximum(0.0, hourly.floor_wh - after), shed


def as_usual(hourly: Hourly, engine: Sequence[bool]) -> Told:
    """An engine's half hours, with every job at its usual time."""
    return Told(tuple(engine), tuple(tuple(usual for _, usual in job.days) for job in hourly.jobs))
