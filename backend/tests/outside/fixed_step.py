"""A one-second fixed-step run of a plan on NumPy arrays, written from the description of the model.

It reads the plan's JSON and shares no code with the program. Within a step, cycles and debts are
split exactly at their crossings (linear interpolation), and so are the timers of thermostats and the
moment of cut-off. It covers steady, cycling, job and thermostatic loads, automatic shedding and none,
restoring one at a time, the overload account with trip and reset, and charge-level shedding of room
circuits. Starts, defrosts, dips, people away and incidents are left out: hand-made cases test them.
"""

import math
import zlib
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

import numpy as np

Json = dict[str, Any]


@dataclass
class Outcome:
    """What the reference found."""

    served_wh: dict[str, float] = field(default_factory=dict)
    stored_wh: float = 0.0
    empty_s: float | None = None
    trips_s: list[float] = field(default_factory=list)
    shed: list[tuple[float, str]] = field(default_factory=list)
    steps: int = 0


def curve_seconds(multiple: float) -> float:
    """The default curve, log-time between points, written out once more."""
    points = [(1.10, 600.0), (1.15, 180.0), (1.28, 10.0), (1.5, 1.0), (2.0, 0.2)]
    if multiple <= 1.05:
        return math.inf
    last = len(points) - 2
    i = next((k for k in range(last + 1) if multiple <= points[k + 1][0]), last)
    (m0, s0), (m1, s1) = points[i], points[i + 1]
    return max(0.01, s0 * math.pow(s1 / s0, (multiple - m0) / (m1 - m0)))


class Clock:
    """One cycling load, second by second."""

    def __init__(self, spec: Json, phase: float) -> None:
        self.on_w, self.duty, self.period = spec["on_w"], spec["duty"], spec.get("period_s", 2400.0)
        self.on_s = self.duty * self.period
        self.at = phase * self.period
        self.owed = 0.0
        #: What of the debt is being paid, at the end of a run.
        self.paying = 0.0

    def wish(self) -> float:
        return float(self.on_w) if self.paying > 0 or self.at < self.on_s - 1e-9 else 0.0

    def second(self, powered: bool) -> float:
        """Mean watts over the next second: the clock goes on, debts are paid when a run ends."""
        if not powered:
            self.owed += self.duty
            return 0.0
        left, on = 1.0, 0.0
        while left > 1e-12:
            if self.paying > 0:
                part = min(left, self.paying)
                self.paying -= part
                on += part
            elif self.at < self.on_s - 1e-9:
                part = min(left, self.on_s - self.at)
                self.at, on = self.at + part, on + part
                if self.at >= self.on_s - 1e-9:
                    self.paying, self.owed = self.owed, 0.0
            else:
                part = min(left, self.period - self.at)
                self.at += part
                self.at -= self.period * (self.at >= self.period - 1e-9)
            left -= part
        return float(self.on_w * min(on, 1.0))


class Task:
    """One job, second by second."""

    def __init__(self, spec: Json, start: datetime, length_s: float) -> None:
        self.steps = [(s["watts"], s["minutes"] * 60) for s in spec["steps"]]
        self.splittable = spec.get("splittable", False)
        self.total = sum(s for _, s in self.steps)
        self.done: float | None = None
        self.windows = []
        for day in range(-1, int(length_s // 86400) + 2):
            date = (start + timedelta(days=day)).date()
            first, last = (datetime.fromisoformat(f"{date}T{spec[k]}") for k in ("earliest", "latest"))
            last += timedelta(days=1) if last < first else timedelta()
            window = ((first - start).total_seconds(), (last - start).total_seconds())
            if window[1] >= 0 and window[0] < length_s:
                self.windows.append((max(0.0, window[0]), window[1]))
        if not spec.get("daily", True):
            self.windows = self.windows[:1]

    def due(self, t: float) -> bool:
        return bool(self.windows) and t >= self.windows[0][0]

    def wish(self, t: float) -> float:
        if self.done is None:
            return self.steps[0][0] if self.windows and self.windows[0][0] <= t <= self.windows[0][1] else 0.0
        passed = self.done
        for watts, seconds in self.steps:
            if passed < seconds:
                return float(watts)
            passed -= seconds
        return 0.0

    def second(self, t: float, powered: bool) -> float:
        """Mean watts over the next second."""
        watts = self.wish(t)
        if self.done is None:
            if watts and powered:
                self.done = 0.0
            elif self.windows and t >= self.windows[0][1]:
                self.windows = [w for w in self.windows if w[0] > t]
        if self.done is None or not powered:
            if self.done is not None and not self.splittable:
                self.done = 0.0
            return 0.0
        self.done += 1.0
        if self.done >= self.total:
            self.done = None
            self.windows = [w for w in self.windows if w[0] > t + 1]
        return watts


class Thermostat:
    """One heater, second by second; timers are met within the second, temperatures at its ends."""

    def __init__(self, spec: Json, start: datetime, weather: Json) -> None:
        self.spec, self.start, self.weather = spec, start, weather
        self.before = [(s["watts"], s["seconds"]) for s in spec.get("before", [])]
        self.after = [(s["watts"], s["seconds"]) for s in spec.get("after", [])]
        self.indoor = self.goal(0.0)
        self.stage, self.ends, self.index, self.on, self.since = "idle", math.inf, 0, False, self.goal(0.0)

    def outdoor(self, t: float) -> float:
        hour = int(t // 3600)
        coldest = datetime.fromisoformat(f"{self.start.date()}T{self.weather['coldest_at']}")
        phase = hour + 0.5 - (coldest - self.start).total_seconds() / 3600
        low, high = self.weather["low_c"], self.weather["high_c"]
        return float((low + high) / 2 - (high - low) / 2 * math.cos(2 * math.pi * phase / 24))

    def goal(self, t: float) -> float:
        night = self.spec.get("setback")
        if night is None:
            return float(self.spec["set_c"])
        clock = (self.start + timedelta(seconds=t + 1e-6)).strftime("%H:%M:%S")
        begins, ends = night["begins"], night["ends"]
        inside = begins <= clock < ends if begins < ends else clock >= begins or clock < ends
        return float(night["set_c"] if inside else self.spec["set_c"])

    def share(self, t: float) -> float:
        need = float(self.spec["loss_w_per_k"] * (self.goal(t) - self.outdoor(t)) - self.spec["gain_w"])
        return min(1.0, max(0.0, need / float(self.spec["output_w"])))

    def lasting(self, t: float, part: float) -> float:
        x = self.share(t)
        rate = 4 * self.spec.get("cycles_at_half", 3.0) * x * (1 - x)
        return max(60.0, part * 3600 / rate) if rate > 0 else math.inf

    def watts(self) -> float:
        steps = {"before": self.before, "after": self.after}.get(self.stage)
        return float(steps[self.index][0]) if steps else self.spec["run_w"] if self.stage == "run" else 0.0

    def wish(self, t: float) -> float:
        if self.on:
            return self.watts()
        first = self.before[0][0] if self.before else self.spec["run_w"]
        return float(first)

    def enter(self, t: float, stage: str, index: int = 0) -> None:
        steps = {"before": self.before, "after": self.after}.get(stage, [])
        if stage in ("before", "after") and index >= len(steps):
            self.enter(t, "run" if stage == "before" else "idle")
            return
        self.stage, self.index = stage, index
        x = self.share(t)
        lasts = steps[index][1] if steps else self.lasting(t, x if stage == "run" else 1 - x)
        self.ends = t + lasts
        if stage == "run":
            self.catching = self.goal(t) - self.indoor > self.spec.get("band_k", 0.5) / 2

    def change(self, t: float) -> None:
        """What happens at a moment: timers that are out, temperatures out of their band."""
        goal, band = self.goal(t), self.spec.get("band_k", 0.5)
        under, over = goal - self.indoor, self.indoor - goal
        if self.stage in ("before", "after"):
            if t >= self.ends - 1e-9:
                self.enter(t, self.stage, self.index + 1)
        elif self.stage == "run":
            out = t >= self.ends - 1e-9 or over >= band
            late = self.ends == math.inf and under <= 0 and self.share(t) < 1
            self.catching = under > band / 2 if goal != self.since else self.catching and under > 0
            if not self.catching and (out or late or (self.share(t) <= 0 and under <= 0)):
                self.enter(t, "after")
        elif under >= band or (t >= self.ends - 1e-9 and over <= band / 2 and self.share(t) > 0):
            self.enter(t, "before")
        elif t >= self.ends - 1e-9 or goal != self.since:
            self.enter(t, "idle")
        self.since = goal

    catching = False

    def second(self, t: float, powered: bool) -> float:
        """Mean watts over the next second."""
        if powered != self.on:
            self.on = powered
            self.enter(t, "idle")
            if powered and (self.goal(t) > self.indoor + 1e-6 or self.share(t) > 0):
                self.enter(t, "before")
        used, now = 0.0, t
        while now < t + 1 - 1e-9:
            if self.on:
                self.change(now)
            then = min(t + 1.0, self.ends) if self.on and self.ends > now + 1e-9 else t + 1
            heat = self.spec["output_w"] if self.on and self.stage == "run" else 0.0
            loss = self.spec["loss_w_per_k"]
            rest = self.outdoor(now) + (self.spec["gain_w"] + heat) / loss
            fade = math.exp(-(then - now) * loss / self.spec["capacity_wh_per_k"] / 3600)
            self.indoor = rest + (self.indoor - rest) * fade
            used += self.watts() * (then - now) if self.on else 0.0
            now = then
        return used


class FixedStep:
    """The whole state, loads in order of rank."""

    def __init__(self, plan: Json) -> None:
        self.plan = plan
        circuits = {k: c for k, c in plan["circuits"].items() if c.get("mark", "off") != "off"}
        self.order = sorted(
            circuits, key=lambda k: (circuits[k]["mark"] == "room", circuits[k].get("order", 50), k)
        )
        all_ids = sorted(plan["loads"])
        self.ids = [i for c in self.order for i in all_ids if plan["loads"][i]["circuit_id"] == c]
        loads = [plan["loads"][i] for i in self.ids]
        self.circuit = [load["circuit_id"] for load in loads]
        self.room = [circuits[c]["mark"] == "room" for c in self.circuit]
        rows = [(circuits[c]["spaces"][0] + 1) // 2 % 2 for c in self.circuit]
        both = [len(circuits[c]["spaces"]) == 2 for c in self.circuit]
        self.on_a = [b or r == 1 for b, r in zip(both, rows, strict=True)]
        self.on_b = [b or r == 0 for b, r in zip(both, rows, strict=True)]
        factor = np.array([load.get("power_factor", 1.0) for load in loads])
        tangent = np.sqrt(1 - factor**2) / factor
        share = np.where(both, 0.5, 1.0)
        a, b = share * self.on_a, share * self.on_b
        #: Rows give P and Q of leg A, P and Q of leg B from the watts of all loads.
        self.matrix = np.array([a, a * tangent, b, b * tangent])
        start = datetime.fromisoformat(plan["outage"]["start_local"])
        self.clocks: list[tuple[int, Clock]] = []
        self.tasks: list[tuple[int, Task]] = []
        self.heaters: list[tuple[int, Thermostat]] = []
        self.steady = np.zeros(len(loads))
        for index, (key, load) in enumerate(zip(self.ids, loads, strict=True)):
            spec = load["behaviour"]
            if spec["kind"] == "cycling":
                golden = (zlib.crc32(key.encode()) * 0.618) % 1.0
                self.clocks.append((index, Clock(spec, spec.get("phase", golden))))
            elif spec["kind"] == "job":
                self.tasks.append((index, Task(spec, start, plan["outage"]["length_s"])))
            elif spec["kind"] == "thermostatic":
                self.heaters.append((index, Thermostat(spec, start, plan["outage"]["weather"])))
            else:
                self.steady[index] = spec["watts"]

    def limits(self) -> None:
        """Station, leg limit by the tightest element, cord, and the levels of charge."""
        outage, strategy = self.plan["outage"], self.plan.get("strategy", {})
        self.unit = unit = next(iter(self.plan["stations"].values()))
        feed = next(iter(self.plan["feeds"].values()))
        lead = next((x for x in self.plan.get("leads", {}).values() if x["to"]["end"] == "feed"), None)
        outlet = lead["source"]["outlet"] if lead else feed["receptacle_id"]
        cords = (lead or feed)["cords"]
        packs = sum(p["nameplate_wh"] * p.get("count", 1) for p in unit.get("packs", {}).values())
        self.cells = unit.get("cell_wh", unit["nameplate_wh"]) + packs
        amps = min(unit["receptacles"][outlet]["rating_a"], feed["inlet_a"], feed["breaker_a"], 30.0)
        self.leg_va = min(unit.get("leg_va", unit["rated_va"] / 2), 120 * amps)
        #: Cords are stranded (2 % more), the wire in the wall is solid; all of it copper.
        runs = [(cord, 1.02) for cord in cords] + ([(feed["wire"], 1.0)] if feed.get("wire") else [])
        self.ohms = sum(
            strands
            * run["length_m"]
            / 58e6
            / (math.pi / 4 * (0.000127 * 92 ** ((36 - run["awg"]) / 39)) ** 2)
            for run, strands in runs
        )
        self.stored = self.cells * next(iter(outage.get("start_charge_percent", {}).values()), 100.0) / 100
        self.cutoff = self.cells * unit.get("cutoff_percent", 0.0) / 100
        self.leak = self.cells * unit.get("self_discharge_percent_per_week", 0.5) / 100 / 168
        self.room_wh = self.cells * strategy.get("room_off_below_percent", -1) / 100

    def run(self) -> Outcome:
        """Step through the outage."""
        self.limits()
        outage, strategy, unit = self.plan["outage"], self.plan.get("strategy", {}), self.unit
        eta, idle_w, sleep_w = (
            unit.get("inverter_efficiency", 0.92),
            unit.get("idle_w", 40),
            unit.get("sleep_w", 3),
        )
        gap, automatic = (
            outage.get("restore_interval_s", 20),
            strategy.get("shedding", "automatic") == "automatic",
        )
        self.line = list(self.order)
        self.shed_until = [-1.0] * len(self.ids)
        self.result = result = Outcome()
        account, energised_at, reset_at = 0.0, float(outage.get("changeover_after_s", 900)), math.inf
        empty = room_off = False
        served, watts = np.zeros(len(self.ids)), self.steady.copy()
        on = [False] * len(self.ids)
        settled_at = -1.0
        self.before, self.on_before, self.now = [-1.0], on, on
        for step in range(int(outage["length_s"])):
            t = float(step)
            if t >= reset_at:
                energised_at, reset_at = t, math.inf
                self.line = [c for c in self.order if c not in strategy.get("recovery_off", [])]
            output = energised_at <= t and not empty and reset_at == math.inf
            if not room_off and self.stored <= self.room_wh:
                room_off, settled_at = True, -1.0
            if t - energised_at <= gap * (len(self.line) + 1) or not output or settled_at < 0:
                up = self.line[: int((t - energised_at) // gap) + 1] if output else []
                on = [c in up and not (room_off and r) for c, r in zip(self.circuit, self.room, strict=True)]
                settled_at = t
            now = self.decide(on, t) if automatic and output else on
            for index, clock in self.clocks:
                watts[index] = clock.second(now[index])
            for index, task in self.tasks:
                if task.done is not None or task.due(t) or watts[index]:
                    watts[index] = task.second(t, now[index])
            for index, heater in self.heaters:
                watts[index] = heater.second(t, now[index])
            drawn = watts * np.array(now)
            pa, qa, pb, qb = (self.matrix @ drawn).tolist()
            va_a, va_b = math.hypot(pa, qa), math.hypot(pb, qb)
            lost = self.ohms * (va_a**2 + va_b**2 + (pa - pb) ** 2 + (qa - qb) ** 2) / 14400
            draw = self.leak + ((pa + pb + lost) / eta + idle_w if output else sleep_w)
            part = 1.0
            if not empty and self.stored - draw / 3600 <= self.cutoff:
                part = (self.stored - self.cutoff) / (draw / 3600)
                empty, result.empty_s = True, t + part
                draw = draw * part + (1 - part) * (self.leak + sleep_w)
            self.stored = max(0.0, self.stored - draw / 3600)
            served += drawn * (part / 3600)
            if output:
                over = max(va_a, va_b) / self.leg_va
                over = max(over, math.hypot(pa + pb, qa + qb) / unit["rated_va"])
                account = max(0.0, account + (1 / curve_seconds(over) if over > 1 else -1 / 60))
                if account >= 1 - 1e-9:
                    result.trips_s.append(t + 1)
                    account, reset_at = 0.0, t + 1 + strategy.get("reset_after_s", 900)
            result.steps += 1
        result.served_wh = dict(zip(self.ids, served.tolist(), strict=True))
        result.stored_wh = self.stored
        return result

    def decide(self, on: list[bool], t: float) -> list[bool]:
        """Fit anew only when a wish or the closed circuits changed, or something waits to come back."""
        wishes = [clock.wish() for _, clock in self.clocks]
        wishes += [task.wish(t) for _, task in self.tasks if task.done is not None or task.due(t)]
        wishes += [heater.wish(t) for _, heater in self.heaters]
        if wishes != self.before or on is not self.on_before or max(self.shed_until) >= 0:
            self.now, self.before, self.on_before = self.fit(on, t), wishes, on
        return self.now

    def fit(self, closed: list[bool], t: float) -> list[bool]:
        """Automatic shedding: the last in rank that relieves goes; back after ten minutes if it fits."""
        wish = self.steady.copy()
        for index, clock in self.clocks:
            wish[index] = clock.wish()
        for index, task in self.tasks:
            if task.done is not None or task.due(t):
                wish[index] = task.wish(t)
        for index, heater in self.heaters:
            wish[index] = heater.wish(t)
        on = [c and s < 0 for c, s in zip(closed, self.shed_until, strict=True)]
        for index in self.must_go(on, wish, 0):
            self.drop(on, index, t)
        for index, until in enumerate(self.shed_until):
            if 0 <= until <= t and closed[index]:
                gone = self.must_go([o or i == index for i, o in enumerate(on)], wish, index)
                if index not in gone:
                    for victim in gone:
                        self.drop(on, victim, t)
                    on[index], self.shed_until[index] = True, -1.0
        return on

    def drop(self, on: list[bool], index: int, t: float) -> None:
        on[index], self.shed_until[index] = False, t + 600
        self.result.shed.append((t, self.ids[index]))

    def must_go(self, on: list[bool], wish: np.ndarray, from_rank: int) -> list[int]:
        on = list(on)
        gone: list[int] = []
        while True:
            pa, qa, pb, qb = (self.matrix @ (wish * on)).tolist()
            a, b = math.hypot(pa, qa) > self.leg_va + 1e-6, math.hypot(pb, qb) > self.leg_va + 1e-6
            total = math.hypot(pa + pb, qa + qb) > self.unit["rated_va"] + 1e-6
            if not (a or b or total):
                return gone
            for index in range(len(on) - 1, from_rank - 1, -1):
                helps = total or (a and self.on_a[index]) or (b and self.on_b[index])
                if on[index] and wish[index] > 0 and helps:
                    on[index] = False
                    gone.append(index)
                    break
            else:
                return gone
