"""Schedules that can be followed: rules for every day, acts day by day, and what only hands can do."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import time
from typing import Any, Final, Literal

import numpy as np

from weary_cedar.core.decide.changes.change import Seen, rules_of
from weary_cedar.core.decide.changes.getting_more import turn_the_modules
from weary_cedar.core.decide.schedule.hours import (
    SLOT_S,
    STOPS_AT,
    Bools,
    Floats,
    Hourly,
    Told,
    as_usual,
    priced_all,
    with_jobs,
)
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import EngineRule, Plan, PlugRule, Refrigerating
from weary_cedar.core.plan.ids import free_id

Kind = Literal["engine", "job", "plug", "turn", "hand_cycle"]
#: Lengths of an engine's hours that are tried, half hours; charges at which it starts within them, %.
LENGTHS: Final = (1, 2, 3, 4, 5, 6, 8, 10, 12, 16, 20, 24)
LEVELS: Final = (85.0, 70.0, 60.0, 50.0, 40.0, 30.0)
#: Charges up to which it may fill at any hour, beside that of its own rule, %.
UP_TO: Final = (80.0, 70.0)
#: So many daily schedules of a kind are run; two of them begin at least so far apart, min.
MOST_DAILY: Final = 3
APART_MIN: Final = 60
#: Charges at which a lead is plugged in and out again, %.
PLUGS: Final = ((50.0, 90.0), (70.0, 95.0), (85.0, 97.0), (95.0, 99.0))
#: Of every three hours a cold box that is cycled by hand gets one. Common practice.
ON_S, EVERY_S = 3_600.0, 10_800.0
#: A job is moved where that is worth so much, Wh of what is marked room.
LEAST_GAIN: Final = 5.0
#: A job that is held off by acts is given so much longer than it lasts, s.
SPARE_S: Final = 3_600.0
DAY_MIN: Final = 1_440
DAY_S: Final = 86_400.0


@dataclass(frozen=True)
class Doing:
    """One thing to do: of which kind, about which part, in words."""

    kind: Kind
    part: str
    words: str


@dataclass(frozen=True)
class Setting:
    """A schedule: what is done, as rules that take the place of those about the same parts, and as acts."""

    doings: tuple[Doing, ...] = ()
    rules: tuple[Mapping[str, Any], ...] = ()
    acts: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    #: What someone does by hand beyond starting an engine and beginning a job, over the outage.
    hand_acts: int = 0

    def __add__(self, other: "Setting") -> "Setting":
        """Both together; of two about one part that of the other."""
        about = {_about(rule) for rule in other.rules}
        doings = [d for d in self.doings if all((d.kind, d.part) != (o.kind, o.part) for o in other.doings)]
        return Setting(
            (*doings, *other.doings),
            (*(rule for rule in self.rules if _about(rule) not in about), *other.rules),
            {**self.acts, **other.acts}, self.hand_acts + other.hand_acts,
        )  # fmt: skip

    def patch(self, plan: Plan) -> dict[str, Any]:
        """The merge patch that takes it over."""
        found: dict[str, Any] = {}
        if self.rules:
            about = {_about(rule) for rule in self.rules}
            held = [rule for rule in rules_of(plan) if _about(rule) not in about]
            found["strategy"] = {"rules": [*[dict(rule) for rule in self.rules], *held]}
        if self.acts:
            found["outage"] = {"acts": {key: dict(act) for key, act in self.acts.items()}}
        return found


def _about(rule: Mapping[str, Any]) -> tuple[str, str]:
    """The kind of a rule and the parts that it speaks about."""
    named = ("generator_id", "load_id", "lead_id", "array_id")
    return str(rule["kind"]), str(next((rule[key] for key in named if rule.get(key)), rule.get("load_ids")))


# ---------------------------------------------------------------- the same every day


@dataclass(frozen=True)
class _Daily:
    """Hours of an engine that are the same every day: from when, how many half hours, below which charge."""

    begins_min: int
    halves: int
    below: float
    up_to: float

    @property
    def always(self) -> bool:
        """Whether it may run at any hour."""
        return self.halves >= DAY_MIN // 30

    def slots(self, clock: np.ndarray[Any, np.dtype[np.int64]]) -> Bools:
        """The half hours in which it may run."""
        found: Bools = (clock - self.begins_min) % DAY_MIN < self.halves * 30
        return found

    def near(self, other: "_Daily") -> bool:
        """Whether it is nearly the same."""
        apart = abs(self.begins_min - other.begins_min)
        alike = (self.below, self.up_to, self.always) == (other.below, other.up_to, other.always)
        return alike and min(apart, DAY_MIN - apart) < APART_MIN


def daily_settings(plan: Plan, hourly: Hourly, engine_id: str | None) -> list[Setting]:
    """Schedules that are the same every day, those that cost least as counted first.

    Args:
        plan: the plan.
        hourly: its outage in half hours.
        engine_id: the engine that runs or does not.

    Returns:
        A few, each to be judged by a run: an engine's hours, with jobs where they cost least, and where they
        are as a rule. What costs no less than the plan's own hours may be among them.
    """
    own = 100.0 * hourly.stops_wh / hourly.full_wh if hourly.full_wh > 0 else STOPS_AT
    choices = _windows(round(own)) if engine_id is not None else [_Daily(0, 0, 0.0, own)]
    costs = {choice: worth for up_to in UP_TO for choice, worth in _costs(hourly, choices, up_to)}
    costs |= dict(_costs(hourly, choices, round(own)))
    ordered = sorted(costs, key=lambda daily: (costs[daily], daily.halves, -daily.below, daily.begins_min))
    found: list[Setting] = []
    for daily in (*_apart(ordered), *_apart([daily for daily in ordered if daily.always])):
        hours = Setting()
        if engine_id is not None:
            hours = _engine_setting(plan, engine_id, _trimmed(hourly, daily))
        jobs = _jobs_setting(plan, hourly, *_as_rows(hourly, [daily]))
        for setting in (hours + jobs, hours):
            if setting not in found:
                found.append(setting)
    return found


def _as_rows(hourly: Hourly, choices: Sequence[_Daily]) -> tuple[Bools, Floats]:
    """Half hours in which the engine may run, and what is stored at which it starts, Wh, by choice."""
    clock = np.asarray(hourly.clock)
    starts = np.array([choice.below for choice in choices]) * hourly.full_wh / 100.0
    return np.array([choice.slots(clock) for choice in choices]), starts


def _costs(hourly: Hourly, choices: Sequence[_Daily], up_to: float) -> Iterator[tuple[_Daily, float]]:
    """What each of those costs that charge up to one level, as counted, with every job at its usual time."""
    alike = [choice for choice in choices if choice.up_to == up_to]
    if not alike:
        return
    there = replace(hourly, stops_wh=hourly.full_wh * up_to / 100.0)
    engine, starts = _as_rows(there, alike)
    told = as_usual(there, [False] * there.count)
    for choice, cost in zip(alike, priced_all(there, engine, *with_jobs(there, told), starts), strict=True):
        yield choice, cost.worth


def _apart(ordered: Sequence[_Daily]) -> list[_Daily]:
    """The first few that are not nearly the same."""
    kept: list[_Daily] = []
    for daily in ordered:
        if len(kept) < MOST_DAILY and not any(daily.near(other) for other in kept):
            kept.append(daily)
    return kept


def _trimmed(hourly: Hourly, daily: _Daily) -> _Daily:
    """The same hours without those at their ends in which the engine may never run."""
    free = {at for at, may in zip(hourly.clock, hourly.may_run, strict=True) if may}
    clocks = [(daily.begins_min + 30 * k) % DAY_MIN for k in range(daily.halves)]
    inside = [k for k, at in enumerate(clocks) if at in free]
    if daily.always or not inside:
        return daily
    return replace(daily, begins_min=clocks[inside[0]], halves=inside[-1] - inside[0] + 1)


def _windows(own: float) -> list[_Daily]:
    """Hours that are tried, up to the level that an engine's own rule says; at any hour to others, too."""
    hours = [
        _Daily(begins, halves, min(below, own - 1.0), own)
        for below in LEVELS
        for begins in range(0, DAY_MIN, 30)
        for halves in LENGTHS
    ]
    levels = [(below, up_to) for below in LEVELS for up_to in (own, *UP_TO) if below < up_to]
    return [*hours, *(_Daily(0, DAY_MIN // 30, below, up_to) for below, up_to in levels)]


def _clock(minutes: int) -> str:
    return f"{minutes // 60 % 24:02d}:{minutes % 60:02d}:00"


def _told_clock(plan: Plan, minutes: int) -> str:
    return plan.site.units.told_time(time(minutes // 60 % 24, minutes % 60))


def _engine_setting(plan: Plan, engine_id: str, daily: _Daily) -> Setting:
    levels = {"on_below_percent": daily.below, "off_above_percent": daily.up_to}
    rule = {**_own_rule(plan, engine_id), "on": True, **levels}
    ends = daily.begins_min + 30 * daily.halves
    rule["hours"] = None if daily.always else {"begins": _clock(daily.begins_min), "ends": _clock(ends)}
    when = "at any hour" if daily.always else (
        f"from {_told_clock(plan, daily.begins_min)} to {_told_clock(plan, ends)} every day"
    )  # fmt: skip
    name = plan.generators[engine_id].name
    words = f"{name}: {when}, once less than {daily.below:g} % is left, up to {daily.up_to:g} %"
    return Setting((Doing("engine", f"generators/{engine_id}", words),), (rule,))


def _own_rule(plan: Plan, engine_id: str) -> dict[str, Any]:
    rules = [r for r in rules_of(plan) if r["kind"] == "engine" and r["generator_id"] == engine_id]
    followed = [rule for rule in rules if rule.get("on", True)]
    return dict(followed[0]) if followed else EngineRule(generator_id=engine_id).model_dump(mode="json")


def _jobs_setting(plan: Plan, hourly: Hourly, engine: Bools, starts_wh: Floats) -> Setting:
    """Every job at the time of day at which it costs least, where that is not its usual one."""
    told = as_usual(hourly, [False] * hourly.count)
    doings, rules = [], []
    for j, job in enumerate(hourly.jobs):
        by_days = [{hourly.clock[n] for n in held} for held, _ in job.days]
        clocks = sorted(set.intersection(*by_days))
        ways = [told, *(_moved(hourly, told, j, at) for at in clocks)]
        out, room, worth = (
            np.array(part) for part in zip(*(with_jobs(hourly, w) for w in ways), strict=True)
        )
        costs = priced_all(hourly, np.repeat(engine, len(ways), axis=0), out, room, worth, starts_wh)
        least = min(range(len(ways)), key=lambda k: (costs[k].worth, k))
        best = ways[least] if costs[least].worth < costs[0].worth - LEAST_GAIN else told
        if best is not told:
            at = hourly.clock[next(n for n in best.jobs[j] if n is not None)]
            name = plan.loads[job.load_id].name
            words = f"{name}: begin at {_told_clock(plan, at)}"
            doings.append(Doing("job", f"loads/{job.load_id}", words))
            rules.append({"kind": "start", "on": True, "load_id": job.load_id, "at": _clock(at)})
        told = best
    return Setting(tuple(doings), tuple(rules))


def _moved(hourly: Hourly, told: Told, j: int, clock: int) -> Told:
    """One job at a time of day, on days on which it may begin then."""
    begun = []
    for (slots, usual), _ in zip(hourly.jobs[j].days, told.jobs[j], strict=True):
        begun.append(next((n for n in slots if hourly.clock[n] == clock), usual))
    jobs = tuple(tuple(begun) if k == j else days for k, days in enumerate(told.jobs))
    return Told(told.engine, jobs)


# ---------------------------------------------------------------- day by day


def by_day(plan: Plan, hourly: Hourly, engine_id: str | None, told: Told, run: RunResult) -> Setting:
    """A schedule that is another one every day, as acts at its moments.

    Args:
        plan: the plan.
        hourly: its outage in half hours, from some moment on.
        engine_id: the engine that runs or does not.
        told: what is done when.
        run: of the plan: what an engine did before that moment stays, told by acts.

    Returns:
        Acts that hold an engine off but in its hours, and a job but from its hour on.
    """
    acts: dict[str, Mapping[str, Any]] = {}
    doings: list[Doing] = []
    rules: list[Mapping[str, Any]] = []
    if engine_id is not None:
        before = [(s.begins_s, s.ends_s) for s in run.sources[f"generators/{engine_id}"].ran]
        spans = [(a, min(b, hourly.edges_s[0])) for a, b in before if a < hourly.edges_s[0]]
        ahead = list(_spans(hourly, told.engine))
        _add(plan, acts, "generators", engine_id, [*spans, *ahead], run.length_s)
        rules.append({**_own_rule(plan, engine_id), "on": True, "hours": None, "on_below_percent": None})
        name = plan.generators[engine_id].name
        for a, b in ahead:
            doings.append(Doing("engine", f"generators/{engine_id}", f"{name}: {_span_words(plan, a, b)}"))
    for job, begun in zip(hourly.jobs, told.jobs, strict=True):
        moved = [(n, usual) for (_, usual), n in zip(job.days, begun, strict=True)]
        if all(n == usual for n, usual in moved):
            continue
        begins = [float(hourly.edges_s[n]) for n, _ in moved if n is not None]
        ends = [*begins[1:], run.length_s][: len(begins)]
        lasts_s = job.lasts_s + SPARE_S
        spans = [
            (a, min(a + lasts_s, max(a + SLOT_S, b - SLOT_S))) for a, b in zip(begins, ends, strict=True)
        ]
        _add(plan, acts, "loads", job.load_id, spans, run.length_s, hourly.edges_s[0])
        name = plan.loads[job.load_id].name
        for n, usual in moved:
            at = _moment(plan, hourly.edges_s[usual if n is None else n])
            words = f"{name}: {at}" if n is not None else f"{name}: not on {at[: at.rindex(' ')]}"
            if n != usual:
                doings.append(Doing("job", f"loads/{job.load_id}", words))
    return Setting(tuple(doings), tuple(rules), acts)


def _spans(hourly: Hourly, engine: tuple[bool, ...]) -> Iterator[tuple[float, float]]:
    since: float | None = None
    for n, runs in enumerate((*engine, False)):
        if runs and since is None:
            since = float(hourly.edges_s[n])
        elif not runs and since is not None:
            yield since, float(hourly.edges_s[n])
            since = None


def _add(
    plan: Plan, acts: dict[str, Mapping[str, Any]], room: str, part_id: str,
    on: list[tuple[float, float]], length_s: float, from_s: float = 0.0,
) -> None:  # fmt: skip
    """Acts that keep a part off from a moment on but in some spans."""
    edges: list[tuple[float, str]] = []
    held = from_s
    for a, b in sorted(on):
        if a > held or not edges:
            edges.append((held, "off"))
        edges.append((a, "on"))
        held = b
    edges.append((held, "off"))
    for at_s, turn in edges:
        if at_s < length_s:
            key = free_id(f"{part_id} {turn}", {*plan.outage.acts, *acts}, "act")
            acts[key] = {"at_s": round(at_s, 3), "room": room, "part_id": part_id, "turn": turn}


def _moment(plan: Plan, t: float) -> str:
    return plan.site.units.told_moment(plan.site.instant(plan.outage.start_local, float(t)))


def _span_words(plan: Plan, begins_s: float, ends_s: float) -> str:
    ends = plan.site.instant(plan.outage.start_local, float(ends_s))
    return f"{_moment(plan, begins_s)} to {plan.site.units.told_time(ends)}"


# ---------------------------------------------------------------- what only hands do


def hand_settings(seen: Seen) -> Iterator[Setting]:
    """What may be added to a schedule, one thing each: plugging in sooner, turning modules, cycling."""
    plan, days = seen.plan, max(1, round(seen.run.length_s / DAY_S))
    followed = {rule.lead_id: rule for rule in plan.strategy.followed(PlugRule)}
    for key, recharge in plan.recharges.items():
        if recharge.plugged != "strategy" or recharge.kind == "generator":
            continue
        own = followed.get(key) or PlugRule(lead_id=key)
        for low, high in PLUGS:
            if (low, high) != (own.in_below_percent, own.out_above_percent):
                rule = {"kind": "plug", "on": True, "lead_id": key, "in_below_percent": low,
                        "out_above_percent": high}  # fmt: skip
                words = f"Plug in {plan.lead_name(key)} below {low:g} %, out above {high:g} %"
                yield Setting((Doing("plug", f"leads/{key}", words),), (rule,), {}, 2 * days)
    for change in turn_the_modules(seen):
        rules = change.patch["strategy"]["rules"][len(seen.rules) :]
        part = f"arrays/{rules[0]['array_id']}"
        yield Setting((Doing("turn", part, change.words),), tuple(rules), {}, 3 * days)
    for key, load in seen.loads():
        if load.role == "food" and isinstance(load.behaviour, Refrigerating):
            rule = {"kind": "hand_cycle", "on": True, "load_ids": [key], "on_s": ON_S, "every_s": EVERY_S}
            words = f"{load.name}: on for {ON_S / 3600:g} h of every {EVERY_S / 3600:g}, by hand"
            acts = round(2 * seen.run.length_s / EVERY_S)
            yield Setting((Doing("hand_cycle", f"loads/{key}", words),), (rule,), {}, acts)
