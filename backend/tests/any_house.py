"""Houses at random that use every noun of a plan, for what must hold of all of them."""

from random import Random
from typing import Any

from builders import Json, cycling, job, steady

SPACES: tuple[tuple[int, ...], ...] = ((1,), (3,), (5,), (6,), (8,), (9, 11), (10, 12), (13,), (15,))
WATTS = (0.0, 5.0, 60.0, 100.0, 240.0, 333.3, 500.0, 900.0, 1500.0, 2600.0)
TIMES = ("01:00:00", "06:30:00", "08:00:00", "12:00:00", "17:10:00", "21:30:00", "23:40:00")
ZONES = ("UTC", "America/Los_Angeles")


class House:
    """One house while it is made up."""

    def __init__(self, dice: Random) -> None:
        self.dice = dice
        self.split = dice.random() < 0.8
        self.volts = 120 if self.split else 230
        self.circuits: Json = {}
        self.loads: Json = {}
        self.stations: Json = {}
        self.links: Json = {}
        self.generators: Json = {}
        self.vehicles: Json = {}
        self.externals: Json = {}
        self.arrays: Json = {}
        self.feeds: Json = {}
        self.leads: Json = {}
        self.panels: Json = {"main": {"name": "Main", "spaces": 24}}
        self.rules: list[Json] = []

    def any_of(self, *choices: Any) -> Any:
        return self.dice.choice(choices)

    def often(self, share: float = 0.5) -> bool:
        return self.dice.random() < share

    def cords(self) -> list[Json]:
        return [{"length_m": self.any_of(0.0, 8.0, 30.0, 60.0), "awg": self.any_of(10, 12, 16)}]

    # ------------------------------------------------------------ loads

    def behaviour(self) -> Json:
        kind = self.any_of("steady", "steady", "cycling", "job", "refrigerating", "thermostatic", "measured")
        watts = self.any_of(*WATTS)
        if kind == "steady":
            return steady(watts)
        if kind == "cycling":
            more: Json = {"phase": 0.0} if self.often() else {}
            if self.often(0.3):
                more["hours"] = {"begins": "08:00:00", "ends": "21:30:00"}
            return cycling(watts, self.any_of(0.1, 0.35, 0.5), self.any_of(600.0, 1800.0, 3600.0), **more)
        if kind == "job":
            first, last = sorted(self.dice.sample(TIMES, 2))
            steps = ((watts, self.any_of(1.0, 20.0)), (self.any_of(*WATTS), 30.0))
            return job(first, last, *steps[: self.any_of(1, 2)], splittable=self.often())
        if kind == "refrigerating":
            box = {"name": "box", "contents_kg": 20.0, "loss_w_per_k": 1.5, "set_c": 4.0}
            cold = {"name": "cold", "contents_kg": 15.0, "loss_w_per_k": 0.8, "set_c": -18.0}
            boxes = {"box": box, "cold": cold} if self.often() else {"box": box}
            return {"kind": "refrigerating", "on_w": self.any_of(60.0, 150.0), "compartments": boxes}
        if kind == "thermostatic":
            return {
                "kind": "thermostatic", "mode": "heat", "loss_w_per_k": 240.0, "capacity_wh_per_k": 3000.0,
                "set_c": 20.0, "output_w": 12_000.0, "run_w": self.any_of(150.0, 500.0),
            }  # fmt: skip
        return {"kind": "measured", "t_s": [0, 600, 2400], "watts": [watts, 0.0, 80.0], "length_s": 3600.0}

    def load(self, circuit_id: str | None) -> Json:
        more: Json = {
            "power_factor": self.any_of(0.6, 1.0, 1.0), "tolerance_s": self.any_of(0.0, 900.0, 7200.0),
            "drops_on_dip": self.often(0.2), "needs_bonded": self.often(0.1),
        }  # fmt: skip
        if self.often(0.3):
            more["start"] = {"va": self.any_of(300.0, 2500.0, 6000.0), "seconds": 0.5}
            more["compressor"] = self.often()
        name = f"load {len(self.loads)}"
        return {"name": name, "circuit_id": circuit_id, "behaviour": self.behaviour(), **more}

    def make_circuits(self) -> None:
        for index, spaces in enumerate(self.dice.sample(SPACES, self.dice.randint(1, 6))):
            if not self.split and len(spaces) == 2:
                continue
            mark = self.any_of("keep", "keep", "room", "off") if index else "keep"
            label, order = f"space {spaces[0]}", self.any_of(1, 5, 50)
            self.circuits[f"c{index}"] = {
                "panel_id": "main", "spaces": list(spaces), "breaker_a": 20.0, "label": label, "mark": mark,
                "order": order,
            }  # fmt: skip
            for _ in range(self.dice.randint(0 if index else 1, 2)):
                self.loads[f"l{len(self.loads)}"] = self.load(f"c{index}")

    def make_annex(self) -> None:
        """A sub-panel on a breaker of the main one, with circuits of its own."""
        self.circuits["feeder"] = {
            "panel_id": "main", "spaces": [22, 24] if self.split else [22], "breaker_a": 40.0,
            "label": "annex", "mark": "keep",
        }  # fmt: skip
        self.panels["annex"] = {"name": "Annex", "spaces": 12, "fed_from": "feeder"}
        for index in range(self.dice.randint(1, 2)):
            self.circuits[f"a{index}"] = {
                "panel_id": "annex", "spaces": [1 + 2 * index], "breaker_a": 15.0,
                "label": f"annex {index}", "mark": self.any_of("keep", "room"),
            }  # fmt: skip
            self.loads[f"l{len(self.loads)}"] = self.load(f"a{index}")

    # ------------------------------------------------------------ sources

    def station(self, output: str) -> Json:
        two = output == "120/240"
        outlets = {
            "big": {"kind": "L14-30" if two else "TT-30" if self.split else "CEE 16", "rating_a": 30.0}
        }
        outlets["small"] = {"kind": "5-20" if self.split else "CEE 7", "rating_a": 20.0}
        cutoff = self.any_of(0.0, 5.0, 10.0)
        made: Json = {
            "name": f"station {len(self.stations)}", "output": output,
            "rated_va": self.any_of(1800.0, 3600.0, 7000.0),
            "nameplate_wh": self.any_of(500.0, 1000.0, 2000.0, 5000.0), "receptacles": outlets,
            "inverter_efficiency": self.any_of(0.85, 0.9, 1.0), "idle_w": self.any_of(0.0, 20.0, 50.0),
            "sleep_w": self.any_of(0.0, 3.0), "cutoff_percent": cutoff,
            "self_discharge_percent_per_week": self.any_of(0.0, 0.5),
            "idle_cutout": self.any_of(None, None, {"threshold_w": 10.0, "after_s": 3600.0}),
            "charge_efficiency": self.any_of(0.88, 1.0), "max_charge_w": self.any_of(None, 600.0, 1500.0),
            "recharge_below_percent": self.any_of(80.0, 95.0), "auto_restart": self.any_of("yes", "no"),
            "restart_percent": self.any_of(None, cutoff + 10.0, cutoff + 0.5),
            "output_while_charging": self.often(0.8), "passthrough_overhead_w": self.any_of(0.0, 8.0),
            "taper": self.any_of({}, {"knee_percent": 80.0, "end_percent": 20.0}, {"end_percent": 100.0}),
            "ac_inputs": {
                "ac": {
                    "volts": self.volts if self.often(0.7) or not self.split else 240,
                    "most_w": self.any_of(500.0, 1500.0), "cap_a": self.any_of(15.0, 30.0),
                    "passes_through": self.often(0.8), "over_cap": self.any_of("input_trips", "assist"),
                }
            },
            "dc_inputs": {
                "sun": {"high_v": 150.0, "most_a": 15.0, "most_w": 800.0},
                "port": {"kind": "pack_port", "high_v": 60.0, "most_a": 20.0, "most_w": 500.0},
                "car": {"kind": "socket_12v", "high_v": 15.0, "most_a": 10.0, "most_w": 120.0},
            },
        }  # fmt: skip
        if self.often(0.4):
            made["packs"] = {
                f"p{index}": {"name": f"pack {index}", "nameplate_wh": self.any_of(500.0, 2000.0)}
                for index in range(self.dice.randint(1, 2))
            }
            made["balance_w"] = self.any_of(300.0, 1050.0)
        return made

    def make_stations(self) -> None:
        for index in range(self.dice.randint(1, 3)):
            output = self.any_of("120/240", "120") if self.split else "230"
            self.stations[f"s{index}"] = self.station(output)
        if self.split and self.often(0.3):
            for key in ("s3", "s4"):
                self.stations[key] = self.station("120")
            kind = self.any_of("two_legs", "two_legs", "parallel")
            charging = self.any_of("allowed", "drops_output", "refused")
            outlets = {"kit": {"kind": "L14-30", "rating_a": 30.0}}
            self.links["pair"] = {
                "name": "pair", "kind": kind, "leg_a": "s3", "leg_b": "s4", "receptacles": outlets,
                "ac_charging": charging,
            }  # fmt: skip

    def make_engines(self) -> None:
        for index in range(self.any_of(0, 1, 1, 2)):
            output = self.any_of("120/240", "120") if self.split else "230"
            kind = "L14-30" if output == "120/240" else "TT-30" if self.split else "CEE 16"
            small = "5-20" if self.split else "CEE 7"
            self.generators[f"g{index}"] = {
                "name": f"engine {index}", "rated_w": self.any_of(1000.0, 2000.0, 4000.0), "output": output,
                "receptacles": {
                    "big": {"kind": kind, "rating_a": 30.0}, "small": {"kind": small, "rating_a": 20.0},
                },
                "auto_start": self.often(), "fuel": self.any_of("petrol", "propane", "natural_gas"),
                "tank_l": self.any_of(None, 4.0, 20.0), "on_hand_l": self.any_of(None, 10.0, 40.0),
                "quiet": self.any_of(None, {"begins": "21:30:00", "ends": "06:30:00"}),
            }  # fmt: skip
            if self.often(0.7):
                low = self.any_of(20.0, 30.0, 50.0)
                self.rules.append({
                    "kind": "engine", "generator_id": f"g{index}", "on_below_percent": low,
                    "off_above_percent": low + self.any_of(10.0, 40.0), "least_s": self.any_of(0.0, 1800.0),
                    "hours": self.any_of(None, {"begins": "08:00:00", "ends": "21:30:00"}),
                    "purpose": self.any_of("house", "charging", "both"),
                })  # fmt: skip
        if self.often(0.3):
            outlet = self.any_of("ac_120" if self.split else "ac_230", "socket_12v")
            self.vehicles["car"] = {
                "name": "car", "outlet": outlet, "most_w": 1500.0 if outlet.startswith("ac") else 120.0,
                "usable_kwh": self.any_of(None, 2.0, 40.0), "told_to_stay": self.any_of("yes", "no"),
                "inverter_efficiency": self.any_of(1.0, 0.9),
                "away": self.any_of([], [{"begins": "08:00:00", "ends": "17:10:00"}]),
            }  # fmt: skip

    def make_suns(self) -> None:
        module = {"watts": 200.0, "voc_v": 24.0, "vmp_v": 20.0, "isc_a": 11.0, "imp_a": 10.0}
        for key in list(self.stations):
            if self.often(0.4):
                self.arrays[f"sun-{key}"] = {
                    "name": f"modules of {key}", "module": module, "series": self.any_of(1, 3),
                    "parallel": self.any_of(1, 2), "station_id": key, "input_id": "sun",
                }  # fmt: skip
            if self.often(0.15):
                self.externals[f"tools-{key}"] = {
                    "name": f"packs at {key}", "kind": "tool_packs", "wh": 200.0, "lowest_v": 36.0,
                    "highest_v": 42.0, "parallel": 3, "station_id": key, "input_id": "port",
                    "gives_w": self.any_of(None, 200.0),
                }  # fmt: skip

    # ------------------------------------------------------------ what is plugged

    def outlets(self) -> list[Json]:
        """Sources that a feed may hang on."""
        linked = {"s3", "s4"} if self.links else set()
        found = [{"kind": "station", "id": k, "outlet": "big"} for k in self.stations if k not in linked]
        found += [{"kind": "link", "id": key, "outlet": "kit"} for key in self.links] * 2
        found += [{"kind": "generator", "id": key, "outlet": "big"} for key in self.generators]
        if self.vehicles.get("car", {}).get("outlet", "").startswith("ac"):
            found.append({"kind": "vehicle", "id": "car"})
        return found

    def feed(self, panel_id: str, spaces: list[int]) -> Json:
        kinds = (
            ("interlock_inlet", "transfer_panel", "bridged") if panel_id == "main" else ("transfer_panel",)
        )
        kind = self.any_of(*kinds, "automatic")
        made: Json = {
            "kind": kind, "inlet_a": 30.0, "panel_id": panel_id, "breaker_a": 30.0,
            "neutral_switched": self.any_of("yes", "no"), "branches_off": self.any_of("all", "none"),
        }  # fmt: skip
        if kind in ("interlock_inlet", "bridged"):
            made["breaker_spaces"] = spaces if self.split else spaces[:1]
        if self.often(0.3):
            made["changeover_after_s"] = self.any_of(0.0, 300.0)
            made["restore"] = self.any_of("one_at_a_time", "all_at_once")
        return made

    def make_feeds(self) -> None:
        self.feeds["inlet"] = self.feed("main", [2, 4])
        sources = self.outlets()
        taken = self.dice.sample(range(len(sources)), min(len(sources), self.dice.randint(1, 3)))
        for index in taken:
            source = sources[index]
            self.leads[f"to-house-{index}"] = {
                "source": source, "cords": self.cords(), "to": {"end": "feed", "feed_id": "inlet"},
            }  # fmt: skip
        if "annex" in self.panels and self.often(0.4):
            self.feeds["own"] = self.feed("annex", [])
            self.leads["to-annex"] = {
                "source": self.any_of(*sources), "cords": self.cords(),
                "to": {"end": "feed", "feed_id": "own"},
            }  # fmt: skip
        if self.often(0.3):
            key = self.any_of(*self.stations)
            names = [f"l{len(self.loads) + index}" for index in range(self.dice.randint(1, 2))]
            for name in names:
                self.loads[name] = self.load(None) | {"mark": self.any_of("keep", "room")}
            self.leads["strip"] = {
                "source": {"kind": "station", "id": key, "outlet": "small"}, "cords": self.cords(),
                "to": {"end": "loads", "load_ids": names},
            }  # fmt: skip

    def make_charging(self) -> None:
        for key in list(self.stations):
            if self.often(0.3):
                continue
            others = [{"kind": "station", "id": k, "outlet": "small"} for k in self.stations if k < key]
            others += [{"kind": "generator", "id": k, "outlet": "small"} for k in self.generators] * 2
            others += [{"kind": "circuit", "id": k} for k in self.circuits if k != "feeder"][:2]
            car = self.vehicles.get("car")
            if car is not None:
                others.append({"kind": "vehicle", "id": "car"})
            if not others:
                continue
            source = self.any_of(*others)
            by_car = source["kind"] == "vehicle" and not car["outlet"].startswith("ac") if car else False
            self.leads[f"charge-{key}"] = {
                "source": source, "cords": self.cords(),
                "to": {
                    "end": "input", "station_id": key, "input_id": "car" if by_car else "ac",
                    "setting_w": self.any_of(300.0, 600.0, 1200.0),
                    "when": self.any_of(None, "always", "strategy"),
                },
            }  # fmt: skip
            if self.often(0.3):
                low = self.any_of(30.0, 50.0)
                self.rules.append({
                    "kind": "plug", "lead_id": f"charge-{key}", "in_below_percent": low,
                    "out_above_percent": self.any_of(60.0, 95.0),
                })  # fmt: skip

    # ------------------------------------------------------------ the outage

    def make_rules(self) -> None:
        circuits, loads = list(self.circuits), list(self.loads)
        if self.often(0.3) and circuits:
            self.rules.append({
                "kind": "shed", "circuit_ids": self.dice.sample(circuits, min(2, len(circuits))),
                "off_below_percent": 50.0, "back_above_percent": self.any_of(55.0, 80.0),
            })  # fmt: skip
        if self.often(0.2) and len(loads) > 1:
            self.rules.append({"kind": "together", "load_ids": self.dice.sample(loads, 2)})
        if self.often(0.2) and loads:
            self.rules.append({"kind": "surplus", "load_ids": [self.any_of(*loads)], "above_percent": 90.0})
        if self.often(0.2) and loads:
            self.rules.append({"kind": "hand_cycle", "load_ids": [self.any_of(*loads)]})
        if self.often(0.2) and circuits:
            self.rules.append({"kind": "reserve", "circuit_ids": [self.any_of(*circuits)], "percent": 60.0})
        if self.often(0.2):
            self.rules.append({"kind": "utility", "back_below_percent": 50.0, "away_above_percent": 90.0})
        to_house = [
            k for k, lead in self.leads.items()
            if k.startswith("to-house") and lead["source"]["kind"] in ("station", "link")
        ]  # fmt: skip
        if self.often(0.3) and len(to_house) > 1:
            self.rules.append({"kind": "swap", "lead_id": self.any_of(*to_house), "below_percent": 20.0})

    def acts(self) -> Json:
        rooms = {
            "circuits": self.circuits, "loads": self.loads, "stations": self.stations,
            "generators": self.generators, "leads": self.leads, "links": self.links,
            "vehicles": self.vehicles, "externals": self.externals, "arrays": self.arrays,
        }  # fmt: skip
        rooms = {room: parts for room, parts in rooms.items() if parts}
        found: Json = {}
        for index in range(self.any_of(0, 0, 1, 2, 4)):
            room = self.any_of(*rooms)
            act = {"at_s": self.any_of(0.0, 300.0, 3600.0, 7200.0, 36_000.0), "room": room}
            part_id = self.any_of(*rooms[room])
            part = rooms[room][part_id]
            packs = part.get("packs") if room == "stations" else None
            inputs = [*part.get("ac_inputs", ()), *part.get("dc_inputs", ())] if room == "stations" else []
            if packs and self.often():
                act["pack_id"] = self.any_of(*packs)
            elif inputs and self.often(0.3):
                act["input_id"] = self.any_of(*inputs)
            elif part.get("receptacles") and room in ("stations", "links", "generators") and self.often(0.3):
                act["outlet_id"] = self.any_of(*part["receptacles"])
            found[f"act-{index}"] = act | {"part_id": part_id, "turn": self.any_of("off", "on")}
        return found

    def outage(self) -> Json:
        windows = {}
        if self.often(0.3):
            windows = {"w0": {"at_s": 7200.0, "for_s": 3600.0}, "w1": {"at_s": 36_000.0, "for_s": 10_800.0}}
        stores = [*self.stations, *self.externals, *self.vehicles]
        levels = (100.0, 100.0, 50.0, 30.0, 20.0, 10.0, 5.0)
        incident = {"kind": "cord_unplugged", "at_s": 4000.0, "for_s": 130.0}
        packs = {
            key: {pack: self.any_of(*levels) for pack in station["packs"]}
            for key, station in self.stations.items()
            if "packs" in station and self.often(0.4)
        }
        return {
            "start_local": self.any_of("2026-01-12T18:00:00", "2026-06-10T09:30:00"),
            "length_s": self.any_of(36_000.0, 86_400.0, 180_000.0),
            "start_charge_percent": {key: self.any_of(*levels) for key in stores if self.often()},
            "pack_charge_percent": packs,
            "ac_on_at_start": self.often(0.2),
            "changeover_after_s": self.any_of(0.0, 300.0, 900.0),
            "restore": self.any_of("one_at_a_time", "all_at_once"),
            "occupancy": {
                "wakes": "06:30:00", "sleeps": self.any_of("06:30:00", "22:00:00"),
                "away": self.any_of([], [{"leaves": "08:00:00", "returns": "17:10:00"}]),
            },
            "weather": {"low_c": self.any_of(-12.0, 5.0), "sky": self.any_of(["clear"], ["overcast"])},
            "incidents": {"cord": incident} if self.often(0.2) else {},
            "grid": windows,
            "acts": self.acts(),
        }  # fmt: skip

    def document(self) -> Json:
        self.make_circuits()
        if self.often(0.3):
            self.make_annex()
        self.make_stations()
        self.make_engines()
        self.make_suns()
        self.make_feeds()
        self.make_charging()
        self.make_rules()
        site: Json = {"name": "Test house", "time_zone": self.any_of(*ZONES)}
        if not self.split:
            site["system"] = "single_phase_230"
        self.dice.shuffle(self.rules)
        strategy = {
            "shedding": self.any_of("automatic", "automatic", "by_hand", "none"), "rules": self.rules,
            "room_off_below_percent": self.any_of(None, 40.0), "reset_after_s": self.any_of(60.0, 900.0),
        }  # fmt: skip
        return {
            "schema_version": 2, "name": "Test house", "site": site, "panels": self.panels,
            "circuits": self.circuits, "loads": self.loads, "stations": self.stations, "links": self.links,
            "generators": self.generators, "vehicles": self.vehicles, "externals": self.externals,
            "arrays": self.arrays, "feeds": self.feeds, "leads": self.leads, "outage": self.outage(),
            "strategy": strategy,
        }  # fmt: skip


def any_house(seed: int) -> Json:
    """A house that hangs on nothing but a number."""
    return House(Random(seed)).document()
