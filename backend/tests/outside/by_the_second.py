"""A one-second run of several sources, written from the description of the model.

It reads a plan's JSON, shares no code with the program and integrates by steps of one second (Euler),
with its own plain rules: who is live, what is drawn on every leg, what charges, what is stored. Someone
is always awake. Loads are steady, cycling or jobs without starts; feeds are an interlock, cords or a
panel's transfer switch; sun is what arrays were seen to give.
"""

# mypy: disable-error-code="no-any-return,no-untyped-call,arg-type"
import math
from bisect import bisect_left, bisect_right
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from outside.fixed_step import Clock, Task

Json = dict[str, Any]
#: Copper at 20 °C, Ω/1000 ft by AWG (ASTM B258 diameters, annealed), of a solid wire; cords are stranded.
OHMS_1000_FT = {14: 2.525, 12: 1.588, 10: 0.9989}
#: Steps of a second in which something happens, s.
FINE_S = 0.05


@dataclass
class Cells:
    """One station."""

    spec: Json
    wh: float
    cap: float
    on: bool = False
    empty: bool = False
    rests: bool = False
    blocked: bool = False
    spent: dict[str, float] = field(default_factory=dict)
    flat: tuple[float, ...] = ()

    def takes(self) -> float:
        """Most that goes in now, W."""
        if self.blocked:
            return 0.0
        most, reference, knee, end = self.flat = self.flat or self.limits()
        share = 100 * self.wh / self.cap
        f = 1.0 if share <= knee else 1 - (1 - end) * (share - knee) / (100 - knee)
        return min(most, reference * f)

    def limits(self) -> tuple[float, ...]:
        """Most of all, most below the knee, knee and end: what its plate says."""
        taper = {"knee_percent": 95.0, "end_percent": 35.0, **self.spec.get("taper", {})}
        wall = max((i["most_w"] for i in self.spec.get("ac_inputs", {}).values()), default=0.0)
        most = self.spec.get("max_charge_w", math.inf)
        sun = sum(i["most_w"] * i.get("efficiency", 0.93) for i in self.spec.get("dc_inputs", {}).values())
        usual = (
            min(wall * self.spec.get("charge_efficiency", 0.88), most)
            or min(most, 1e9) * (most < math.inf)
            or sun
        )
        reference = taper.get("reference_w") or usual
        return most, reference, taper["knee_percent"], taper["end_percent"] / 100


class BySecond:
    """The whole state; `run` steps through the outage."""

    def __init__(self, plan: Json) -> None:
        self.plan = plan
        outage = plan["outage"]
        self.length = int(outage["length_s"])
        begin = outage.get("start_charge_percent", {})
        self.cells = {
            key: Cells(spec, spec["nameplate_wh"] * begin.get(key, 100.0) / 100, spec["nameplate_wh"])
            for key, spec in sorted(plan["stations"].items())
        }
        for cell in self.cells.values():
            cell.rests = cell.wh >= cell.cap
        self.links = plan.get("links", {})
        recharges = plan.get("recharges", {})
        self.recharges = dict(sorted(recharges.items(), key=lambda item: -item[1]["setting_w"]))
        self.plugged = {
            key: self.when(item) != "strategy" or item["kind"] == "generator"
            for key, item in self.recharges.items()
        }
        self.tripped: dict[str, float] = {}
        self.engine = dict.fromkeys(plan.get("generators", {}), False)
        self.tank = {k: g.get("tank_l", math.inf) for k, g in plan.get("generators", {}).items()}
        self.cans = {
            k: g.get("on_hand_l", math.inf) - self.tank[k] for k, g in plan.get("generators", {}).items()
        }
        self.refuelled = dict.fromkeys(self.engine, -1.0)
        self.left = {k: b["wh"] * begin.get(k, 100.0) / 100 for k, b in plan.get("externals", {}).items()}
        self.left |= {
            k: v["usable_kwh"] * 1000 * begin.get(k, 100.0) / 100 for k, v in plan.get("vehicles", {}).items()
        }
        self.levels = sorted(
            {
                float(v)
                for r in plan["strategy"].get("rules", [])
                for k, v in r.items()
                if k.endswith("_percent")
            }
            | {30.0, 50.0, 90.0, 95.0, plan["strategy"].get("room_off_below_percent", 0.0)}
            | {c.spec.get("restart_percent", 12.0) for c in self.cells.values()}
        )
        self.rules = {
            r.get("generator_id") or r.get("recharge_id"): r for r in plan["strategy"].get("rules", [])
        }
        start = datetime.fromisoformat(outage["start_local"])
        self.demand: dict[str, Any] = {}
        for key, load in plan["loads"].items():
            spec = load["behaviour"]
            self.demand[key] = {
                "cycling": lambda s: Clock(s, s["phase"]),
                "job": lambda s: Task(s, start, self.length),
            }.get(spec["kind"], lambda s: s["watts"])(spec)
        self.reached = {
            key: [k for k, f in plan["feeds"].items() if self.reaches(f, load["circuit_id"])]
            for key, load in plan["loads"].items()
        }
        self.served = dict.fromkeys(plan["loads"], 0.0)
        self.total: dict[str, float] = {}
        self.marks: list[tuple[float, str]] = []
        self.at: dict[str, str | None] = {}
        self.joins: dict[str, float] = {}
        self.shed = False

    @staticmethod
    def when(recharge: Json) -> str:
        return recharge.get("when") or {"circuit": "grid", "station": "always"}.get(
            recharge["kind"], "strategy"
        )

    def add(self, name: str, wh: float) -> None:
        self.total[name] = self.total.get(name, 0.0) + wh

    # ---------------------------------------------------------------- who gives

    def units(self, source: str) -> list[str]:
        link = self.links.get(source)
        return [link["leg_a"], link["leg_b"]] if link else [source]

    def alive(self, source: str, t: float) -> bool:
        """Whether a source gives AC now."""
        if source in self.engine:
            return self.engine[source]
        if source in self.left:
            return self.left[source] > 0
        link = self.links.get(source)
        cells = [self.cells[key] for key in self.units(source)]
        if link is not None and link.get("kind", "two_legs") == "parallel":
            return any(c.on and not c.empty for c in cells)
        return all(
            c.on and (not c.empty or self.via(key, t))
            for key, c in zip(self.units(source), cells, strict=True)
        )

    def live(self, key: str, t: float) -> bool:
        """Whether a recharge link has power behind it."""
        item = self.recharges[key]
        if not self.plugged[key] or self.tripped.get(key, -1.0) > t:
            return False
        if item["kind"] == "circuit":
            return self.grid(t) and all(self.at.get(f) == "grid" for f in self.plan["feeds"])
        return self.alive(item["from_id"], t)

    def via(self, station: str, t: float) -> str | None:
        """The live input that a station passes through, if any."""
        spec = self.cells[station].spec
        if any(station in (link["leg_a"], link["leg_b"]) for link in self.links.values()):
            return None
        for key, item in self.recharges.items():
            entry = spec.get("ac_inputs", {}).get(item["input_id"]) if item["station_id"] == station else None
            fits = entry and (spec.get("output", "120/240") != "120/240" or entry.get("volts") == 240)
            if (
                entry
                and fits
                and entry.get("passes_through", True)
                and self.cells[station].on
                and self.live(key, t)
            ):
                return key
        return None

    def grid(self, t: float) -> bool:
        return any(
            w["at_s"] <= t < w["at_s"] + w["for_s"] for w in self.plan["outage"].get("grid", {}).values()
        )

    # ---------------------------------------------------------------- people

    def percent(self, key: str) -> float:
        return 100 * self.cells[key].wh / self.cells[key].cap

    def fills(self, source: str) -> list[str]:
        return [i["station_id"] for i in self.recharges.values() if i["from_id"] == source]

    def people(self, t: float) -> None:
        """Starting, stopping, plugging, swapping, restarting."""
        for key in self.engine:
            self.mind_engine(key, t)
        for key, item in self.recharges.items():
            rule = self.rules.get(key, {})
            if self.when(item) == "strategy" and item["kind"] != "generator":
                charge, gives = self.percent(item["station_id"]), self.gives(item, t)
                if self.plugged[key] and (charge >= rule.get("out_above_percent", 95) - 1e-9 or not gives):
                    self.plug(key, t, on=False)
                elif not self.plugged[key] and gives and charge <= rule.get("in_below_percent", 50) + 1e-9:
                    self.plug(key, t, on=True)
        for key, cell in self.cells.items():
            least = cell.spec.get("restart_percent", cell.spec.get("cutoff_percent", 0.0) + 10)
            if cell.empty and self.percent(key) >= least:
                cell.empty, cell.on = False, True
                self.marks.append((t, f"restarted {key}"))
        for feed in self.plan["feeds"]:
            self.mind_feed(feed, t)

    def gives(self, item: Json, t: float) -> bool:
        if item["kind"] == "station":
            return not self.cells[item["from_id"]].empty
        return item["kind"] != "vehicle" or self.left[item["from_id"]] > 0

    def plug(self, key: str, t: float, *, on: bool) -> None:
        self.plugged[key] = on
        item = self.recharges[key]
        if item["kind"] == "station" and not any(
            f["source_id"] == item["from_id"] for f in self.plan["feeds"].values()
        ):
            self.cells[item["from_id"]].on = on and not self.cells[item["from_id"]].empty
        self.marks.append((t, f"{'in' if on else 'out'} {key}"))

    def mind_engine(self, key: str, t: float) -> None:
        rule = self.rules.get(key, {})
        low, high = rule.get("on_below_percent", 30), rule.get("off_above_percent", 90)
        beside = [f for f in self.plan["feeds"].values() if f["source_id"] == key]
        watched = self.fills(key)
        if beside and rule.get("purpose", "both") != "charging":
            watched = watched + [
                f["source_id"] for f in self.plan["feeds"].values() if f["source_id"] in self.cells
            ]
        filled = watched and all(self.percent(k) >= high - 1e-9 or self.cells[k].rests for k in watched)
        if 0 <= self.refuelled[key] <= t:
            self.refuelled[key] = -1.0
            litres = min(self.plan["generators"][key]["tank_l"], self.cans[key])
            self.tank[key] += litres
            self.cans[key] -= litres
        if self.engine[key]:
            if (filled and t >= self.since + rule.get("least_s", 1800)) or self.grid(t):
                self.engine[key] = self.wants = False
                self.marks.append((t, f"off {key}"))
        elif self.tank[key] > 1e-9 and self.refuelled[key] < 0 and not self.grid(t):
            low_now = not watched or any(self.percent(k) <= low + 1e-9 for k in watched)
            if t >= self.plan["outage"].get("changeover_after_s", 900) and (low_now or self.wants):
                self.engine[key], self.since, self.wants = True, t, True
                self.marks.append((t, f"on {key}"))

    since = 0.0
    wants = False

    def mind_feed(self, feed: str, t: float) -> None:
        """Which source a panel hangs on: the grid when it is back, an engine that runs for it, a station."""
        if t < self.plan["outage"].get("changeover_after_s", 900):
            return
        same = sorted(
            k for k, f in self.plan["feeds"].items() if f["panel_id"] == self.plan["feeds"][feed]["panel_id"]
        )
        sources = [self.plan["feeds"][k]["source_id"] for k in same]
        engines = [s for s in sources if s in self.engine]
        want = next((s for s in sources if s not in self.engine and not self.spent(s, t)), None)
        running = [s for s in engines if self.engine[s]]
        purpose = [self.rules.get(s, {}).get("purpose", "both") for s in running]
        if running and (purpose[0] != "charging" or want is None):
            want = running[0]
        if self.grid(t):
            want = "grid"
        at = self.at.get(feed)
        if feed not in self.at:
            self.at[feed] = want or sources[0]
        elif want is not None and want != at and feed not in self.joins:
            swap = self.plan["strategy"].get("swap_s", 300)
            after = self.plan["outage"].get("changeover_after_s", 900) if at == "grid" else swap
            self.at[feed], self.joins[feed], self.going = None, t + after, want
        if self.joins.get(feed, math.inf) <= t:
            self.at[feed] = self.going
            del self.joins[feed]

    going: str | None = None

    def spent(self, source: str, t: float) -> bool:
        return all(self.cells[key].empty and not self.via(key, t) for key in self.units(source)[:1])

    # ---------------------------------------------------------------- one second

    def run(self) -> "BySecond":
        changeover = self.plan["outage"].get("changeover_after_s", 900)
        for step in range(self.length):
            t = float(step)
            if t == changeover:
                used = {f["source_id"] for f in self.plan["feeds"].values()}
                used |= {
                    i["from_id"]
                    for k, i in self.recharges.items()
                    if self.plugged[k] and i["kind"] == "station"
                }
                for source in used:
                    for key in (
                        self.units(source) if source not in self.engine and source not in self.left else ()
                    ):
                        self.cells[key].on = not self.cells[key].empty
            self.people(t)
            self.second(t)
        return self

    def second(self, t: float) -> None:
        legs: dict[str, list[float]] = {}
        for key, load in self.plan["loads"].items():
            source = next((self.at[k] for k in self.reached[key] if self.at.get(k)), None)
            powered = (
                source is not None and (source == "grid" or self.alive(source, t)) and not self.is_shed(load)
            )
            demand = self.demand[key]
            if isinstance(demand, Clock):
                watts = demand.second(powered)
            elif isinstance(demand, Task):
                watts = demand.second(t, powered)
            else:
                watts = demand if powered else 0.0
            self.served[key] += watts / 3600.0
            if source is not None and powered:
                spaces = self.plan["circuits"][load["circuit_id"]]["spaces"]
                shares = (0.5, 0.5) if len(spaces) == 2 else ((1, 0) if (spaces[0] + 1) // 2 % 2 else (0, 1))
                at = legs.setdefault(source, [0.0, 0.0])
                at[0] += shares[0] * watts
                at[1] += shares[1] * watts
        self.split(legs, t)

    def split(self, legs: dict[str, list[float]], t: float) -> None:
        """The flows of one second; one in which a level is crossed is done again in twentieths."""
        before, kept = self.signature(), self.kept()
        self.flow({key: list(watts) for key, watts in legs.items()}, t)
        if self.signature() == before:
            return
        self.restore(kept)
        self.h = FINE_S / 3600
        for part in range(round(1 / FINE_S)):
            self.flow({key: list(watts) for key, watts in legs.items()}, t + part * FINE_S)
            self.people(t + (part + 1) * FINE_S)
        self.h = 1 / 3600

    h = 1 / 3600

    def signature(self) -> list[float]:
        """On which side of every level everything is."""
        told: list[float] = [amount <= 0 for amount in (*self.tank.values(), *self.left.values())]
        for key, cell in self.cells.items():
            floor = cell.cap * cell.spec.get("cutoff_percent", 0.0) / 100
            told += [cell.wh <= floor, cell.wh >= cell.cap, cell.rests]
            share = self.percent(key)
            told += [bisect_right(self.levels, share + 1e-9), bisect_left(self.levels, share - 1e-9)]
        return told

    def kept(self) -> Any:
        cells = {key: (c.wh, c.on, c.empty, c.rests) for key, c in self.cells.items()}
        rooms = (
            self.engine,
            self.tank,
            self.cans,
            self.refuelled,
            self.left,
            self.plugged,
            self.tripped,
            self.total,
        )
        return cells, [dict(room) for room in rooms], len(self.marks), self.shed

    def restore(self, kept: Any) -> None:
        cells, rooms, count, self.shed = kept
        for key, (wh, on, empty, rests) in cells.items():
            cell = self.cells[key]
            cell.wh, cell.on, cell.empty, cell.rests = wh, on, empty, rests
        (
            self.engine,
            self.tank,
            self.cans,
            self.refuelled,
            self.left,
            self.plugged,
            self.tripped,
            self.total,
        ) = rooms
        del self.marks[count:]

    def reaches(self, feed: Json, circuit: str) -> bool:
        if feed["kind"] == "cords":
            return circuit in feed["circuit_ids"]
        taken = {c for f in self.plan["feeds"].values() if f["kind"] == "cords" for c in f["circuit_ids"]}
        return self.plan["circuits"][circuit]["panel_id"] == feed["panel_id"] and circuit not in taken

    def is_shed(self, load: Json) -> bool:
        return self.shed and self.plan["circuits"][load["circuit_id"]]["mark"] == "room"

    def flow(self, legs: dict[str, list[float]], t: float) -> None:
        """From the last of every chain up to its root: loads, charging, cells."""
        below = self.plan["strategy"].get("room_off_below_percent")
        if below is not None:
            charge = min(self.percent(key) for key in self.cells)
            self.shed = charge <= below if not self.shed else charge < below + 5
        if "grid" in legs:
            self.add("grid", sum(legs.pop("grid")) * self.h)
        self.t, self.done = t, set()
        done = self.done
        while len(done) < len(self.cells):
            for key in sorted(self.cells, key=self.asks_for):
                downstream = [i["station_id"] for i in self.recharges.values() if i["from_id"] == key]
                if key not in done and all(d in done for d in downstream):
                    self.cell(key, legs, t)
                    done.add(key)
        for source, watts in legs.items():
            wh = sum(watts) * self.h
            if self.engine.get(source):
                self.burn(source, wh, t)
            elif source in self.left:
                self.left[source] = max(0.0, self.left[source] - wh)
                self.add("vehicle", wh)
        for key, on in self.engine.items():
            if on and key not in legs:
                self.burn(key, 0.0, t)

    t = 0.0
    done: set[str]

    def burn(self, key: str, wh: float, t: float) -> None:
        spec = self.plan["generators"][key]
        self.add("engine", wh)
        litres = spec["no_load_l_per_h"] * self.h + spec["l_per_kwh"] * wh / 1000
        self.add("litres", min(litres, self.tank[key]))
        self.tank[key] -= litres
        if self.tank[key] <= 0:
            self.tank[key], self.engine[key] = 0.0, False
            self.marks.append((t + self.h * 3600, f"dry {key}"))
            if self.cans[key] > 0:
                self.refuelled[key] = t + self.h * 3600 + spec.get("refuel_pause_s", 600)

    def own(self, key: str, legs: dict[str, list[float]]) -> list[float]:
        """AC watts that a station makes or passes, by leg."""
        for name, link in self.links.items():
            pair = (link["leg_a"], link["leg_b"])
            at = legs.get(name, [0.0, 0.0])
            if key in pair and link.get("kind", "two_legs") == "two_legs":
                return [at[0], 0.0] if key == pair[0] else [0.0, at[1]]
            if key in pair:
                alive = [k for k in pair if not self.cells[k].empty]
                rated = sum(self.cells[k].spec["rated_va"] for k in alive)
                share = self.cells[key].spec["rated_va"] / rated if key in alive else 0.0
                return [share * at[0], share * at[1]]
        return list(legs.get(key, [0.0, 0.0]))

    def cell(self, key: str, legs: dict[str, list[float]], t: float) -> None:
        cell, spec = self.cells[key], self.cells[key].spec
        own, via = self.own(key, legs), self.via(key, t)
        out, through = sum(own), 0.0
        if via is not None:
            entry = spec["ac_inputs"][self.recharges[via]["input_id"]]
            cap = entry.get("cap_a", 15.0) * entry.get("volts", 120)
            through = out + spec.get("passthrough_overhead_w", 5.0)
            if through > cap and entry.get("over_cap", "input_trips") == "assist":
                out, through = through - cap, cap
            elif through > cap:
                self.tripped[via] = t + self.plan["strategy"].get("reset_after_s", 900)
                self.marks.append((t, f"input {via}"))
                via, through = None, 0.0
            else:
                out = 0.0
        flows = {via: through} if via is not None else {}
        holds = cell.wh > 0
        draw = out / spec.get("inverter_efficiency", 0.92)
        draw += (spec.get("idle_w", 40.0) if cell.on and not cell.empty and via is None else 0.0) * holds
        draw += (0.0 if cell.on and not cell.empty else spec.get("sleep_w", 3.0)) * holds
        draw += cell.cap * spec.get("self_discharge_percent_per_week", 0.5) / 100 / 168 * holds
        offers = [(w * e, e, name, None) for w, e, name in self.direct(key, t)]
        wall = [
            (k, i)
            for k, i in self.recharges.items()
            if i["station_id"] == key and self.live(k, t) and "ac" in self.entry(i)
        ]
        if wall and not cell.rests and cell.wh < cell.cap:
            item = wall[0][1]
            entry = spec["ac_inputs"][item["input_id"]]
            most = min(
                item["setting_w"],
                entry["most_w"],
                entry.get("cap_a", 15.0) * entry.get("volts", 120) - through,
            )
            most = min(most, self.room(item, legs, own if via else [0.0, 0.0], through))
            if most >= 20:
                efficiency = spec.get("charge_efficiency", 0.88)
                offers.append(
                    (
                        most * efficiency,
                        efficiency,
                        "wall",
                        item["from_id"] if item["kind"] != "circuit" else "grid",
                    )
                )
        offers += [(w * e, e, name, None) for w, e, name in self.external(key)]
        free = 0.0 if cell.wh >= cell.cap else cell.takes()
        need, taken = draw + free, 0.0
        for watts, efficiency, name, source_id in offers:
            used = min(watts, max(0.0, need - taken))
            taken += used
            self.add(name, used / efficiency * self.h)
            if name.startswith("left "):
                self.left[name[5:]] -= used / efficiency * self.h
            if name == "wall" and used:
                flows[wall[0][0]] = flows.get(wall[0][0], 0.0) + used / efficiency
            if source_id == "grid":
                self.add("grid", used / efficiency * self.h)
            elif source_id is not None:
                at = legs.setdefault(source_id, [0.0, 0.0])
                at[0] += used / efficiency / 2
                at[1] += used / efficiency / 2
        if via is not None:
            item = self.recharges[via]
            if item["kind"] != "circuit":
                at = legs.setdefault(item["from_id"], [0.0, 0.0])
                for leg in (0, 1):
                    share = own[leg] / sum(own) if sum(own) > 0 else 0.5
                    at[leg] += through * share
            else:
                self.add("grid", through * self.h)
        for link, watts in flows.items():
            self.warm(link, watts, legs)
        self.store(key, cell, (taken - draw) * self.h, t)

    def warm(self, link: str, watts: float, legs: dict[str, list[float]]) -> None:
        """What the cords of a link take out of its source: R·(W/V)², out and back."""
        item = self.recharges[link]
        ohms = sum(2 * c["length_m"] / 304.8 * OHMS_1000_FT[c["awg"]] * 1.02 for c in item.get("cords", ()))
        volts = self.cells[item["station_id"]].spec["ac_inputs"][item["input_id"]].get("volts", 120)
        lost = ohms * (watts / volts) ** 2
        self.add("cord", lost * self.h)
        if item["kind"] == "circuit":
            self.add("grid", lost * self.h)
        elif lost:
            at = legs.setdefault(item["from_id"], [0.0, 0.0])
            at[0] += lost / 2
            at[1] += lost / 2

    @staticmethod
    def entry(item: Json) -> str:
        return "dc" if item["input_id"].startswith("dc") else "ac"

    def asks_for(self, key: str) -> float:
        """Of stations that hang on one source, who asks for most is served first."""
        return -max((i["setting_w"] for i in self.recharges.values() if i["station_id"] == key), default=0.0)

    def room(self, item: Json, legs: dict[str, list[float]], own: list[float], through: float) -> float:
        """Watts across both legs that the source has left beside what already hangs on it."""
        if item["kind"] == "circuit":
            return math.inf
        rooms = {**self.plan.get("generators", {}), **self.plan["stations"], **self.plan.get("vehicles", {})}
        rated = rooms[item["from_id"]]
        limit = rated.get("rated_w") or rated.get("rated_va") or rated.get("most_w", 1500.0)
        at = list(legs.get(item["from_id"], [0.0, 0.0]))
        for key, other in self.recharges.items():
            beside = other["station_id"]
            later = (
                beside not in self.done
                and beside != item["station_id"]
                and other["from_id"] == item["from_id"]
            )
            if later and self.via(beside, self.t) == key:
                more = self.own(beside, legs)
                at = [at[0] + more[0] + 2.5, at[1] + more[1] + 2.5]
        overhead = max(0.0, through - sum(own)) / 2
        by_leg = min(limit / 2 - at[leg] - own[leg] - overhead for leg in (0, 1))
        return min(limit - sum(at) - through, 2 * by_leg if item["kind"] != "vehicle" else math.inf)

    def direct(self, key: str, t: float) -> list[tuple[float, float, str]]:
        """Sun by input, clipped, and sockets of vehicles: (W, efficiency, name)."""
        found = []
        for name, entry in sorted(self.cells[key].spec.get("dc_inputs", {}).items()):
            watts = 0.0
            for array in self.plan.get("arrays", {}).values():
                if (array["station_id"], array["input_id"]) == (key, name):
                    seen = array["seen"]
                    watts += next(
                        (
                            w
                            for s, w in reversed(list(zip(seen["t_s"], seen["watts"], strict=True)))
                            if s <= t
                        ),
                        0.0,
                    )
            found.append((min(watts, entry["most_w"]), entry.get("efficiency", 0.93), "sun"))
        for link, item in self.recharges.items():
            if item["station_id"] == key and self.entry(item) == "dc" and self.plugged[link]:
                entry = self.cells[key].spec["dc_inputs"][item["input_id"]]
                vehicle = self.plan["vehicles"][item["from_id"]]
                watts = min(vehicle.get("most_w", 1500), entry["most_w"], item["setting_w"]) * (
                    self.left[item["from_id"]] > 0
                )
                found.append((watts, entry.get("efficiency", 0.93), f"left {item['from_id']}"))
        return found

    def external(self, key: str) -> list[tuple[float, float, str]]:
        return [
            (b["gives_w"] * (self.left[name] > 0), b.get("transfer_efficiency", 0.89), f"left {name}")
            for name, b in self.plan.get("externals", {}).items()
            if b.get("station_id") == key
        ]

    def store(self, key: str, cell: Cells, wh: float, t: float) -> None:
        cell.wh = min(cell.cap, max(0.0, cell.wh + wh))
        floor = cell.cap * cell.spec.get("cutoff_percent", 0.0) / 100
        if cell.wh <= floor + 1e-12 and wh < 0 and not cell.empty:
            cell.empty = True
            if cell.on:
                self.marks.append((t + self.h * 3600, f"empty {key}"))
            partner = [x for x in self.links.values() if key in (x["leg_a"], x["leg_b"])]
            both = [partner[0]["leg_a"], partner[0]["leg_b"]] if partner else [key]
            parallel = partner and partner[0].get("kind") == "parallel"
            if self.via(key, t) is None and (not parallel or all(self.cells[k].empty for k in both)):
                for one in both:
                    self.cells[one].on = False
        if cell.wh >= cell.cap * (1 - 1e-9) and any(i["station_id"] == key for i in self.recharges.values()):
            cell.rests = True
        if cell.rests and cell.wh <= cell.cap * cell.spec.get("recharge_below_percent", 95) / 100:
            cell.rests = False
