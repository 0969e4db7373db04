"""A small house and a flat with what may feed them, for tests of whole plans."""

from typing import Any

from builders import Json, circuit, cycling, job, load, steady
from check_plans import merged

FLOATING: Json = {"neutral": "floating", "neutral_in_bypass": "passes", "place_id": "bench"}
L14: Json = {"l14": {"kind": "L14-30", "rating_a": 30.0, "gfci": "no"}}
DUPLEX: Json = {"duplex": {"kind": "5-20", "rating_a": 20.0, "gfci": "no"}}
TT30: Json = {"tt": {"kind": "TT-30", "rating_a": 30.0, "gfci": "no"}}
THICK: list[Json] = [{"length_m": 6.0, "awg": 10, "conductors": 4}]
THREE: list[Json] = [{"length_m": 6.0, "awg": 10, "conductors": 3}]
THIN: list[Json] = [{"length_m": 5.0, "awg": 12}]


def unit(**part: Any) -> Json:
    own = {
        "name": "unit",
        "rated_va": 6000.0,
        "nameplate_wh": 12_000.0,
        "receptacles": L14,
        "auto_restart": "yes",
    }
    return {**own, **FLOATING, **part}


def small(**part: Any) -> Json:
    """A 120 V station: two outlets of 20 A."""
    own = {
        "name": "small",
        "output": "120",
        "rated_va": 2000.0,
        "nameplate_wh": 4_000.0,
        "receptacles": DUPLEX,
    }
    return {**own, "auto_restart": "yes", **FLOATING, **part}


def engine(**part: Any) -> Json:
    own = {"name": "set", "rated_w": 7000.0, "starting_w": 9000.0, "output": "120/240", "receptacles": L14,
           "neutral": "floating", "place_id": "yard", "tank_l": 20.0, "on_hand_l": 60.0}  # fmt: skip
    return {**own, **part}


def inlet(**part: Any) -> Json:
    own = {"kind": "interlock_inlet", "inlet_a": 30.0, "panel_id": "main", "breaker_a": 30.0,
           "breaker_spaces": [2, 4], "wire": {"length_m": 5.0, "awg": 10}}  # fmt: skip
    return {**own, **part}


def lead(
    kind: str = "station", id: str = "unit", outlet: str = "l14", feed: str = "inlet", **part: Any
) -> Json:
    own = {"source": {"kind": kind, "id": id, "outlet": outlet}, "cords": THICK}
    return {**own, "to": {"end": "feed", "feed_id": feed}, **part}


def cords(
    *loads: str, kind: str = "station", id: str = "small", outlet: str | None = "duplex", **part: Any
) -> Json:
    own = {"source": {"kind": kind, "id": id, "outlet": outlet}, "cords": THIN}
    return {**own, "to": {"end": "loads", "load_ids": list(loads), "plug": "5-20", "plug_a": 20.0}, **part}


def charge(
    kind: str, id: str, station: str = "unit", input: str = "wall", watts: float = 1500.0, **more: Any
) -> Json:
    outlet = more.pop("outlet", None)
    to = {"end": "input", "station_id": station, "input_id": input, "setting_w": watts, **more.pop("to", {})}
    return {"source": {"kind": kind, "id": id, "outlet": outlet}, "to": to, **more}


WALL: Json = {"wall": {"volts": 120, "most_w": 1800.0, "cap_a": 15.0, "passes_through": True}}
WALL_240: Json = {"wall": {"volts": 240, "most_w": 5000.0, "cap_a": 30.0, "passes_through": True}}
FRIDGE = cycling(140.0, 0.38, 2700.0)
START: Json = {
    "start": {"va": 1000.0, "seconds": 0.4},
    "role": "food",
    "compressor": True,
    "power_factor": 0.9,
}

HOUSE: Json = {
    "schema_version": 2,
    "name": "A house",
    "site": {"name": "A house", "time_zone": "UTC", "latitude": 43.0, "longitude": -76.0, "design_low_c": -15.0},
    "panels": {"main": {"name": "Main", "spaces": 20}},
    "circuits": {
        "fridge": circuit([1], awg=12, label="Kitchen refrigerator"),
        "router": circuit([3], breaker_a=15, awg=14, label="Office"),
        "lights": circuit([6], breaker_a=15, awg=14, label="Lights"),
        "furnace": circuit([8], breaker_a=15, awg=14, label="Furnace"),
        "well": circuit([5, 7], mark="off", awg=12, label="Well pump"),
        "left": circuit([9], mark="off", awg=12, label="Counter left", multiwire_partner="right"),
        "right": circuit([11], mark="off", awg=12, label="Counter right"),
    },
    "loads": {
        "fridge": load("fridge", FRIDGE, **START),
        "router": load("router", steady(22.0)),
        "lights": load("lights", job("18:00:00", "19:00:00", (60.0, 240.0)), role="light"),
        "furnace": load("furnace", cycling(450.0, 0.3, 1200.0), needs_bonded=True, role="heat"),
        "well": load("well", cycling(1000.0, 0.05, 3600.0), role="pump", start={"va": 3600.0, "seconds": 0.5}),
        "kettle": load("left", job("07:00:00", "08:00:00", (1500.0, 4.0)), role="hot"),
        "toaster": load("right", job("07:00:00", "08:00:00", (1200.0, 4.0)), role="hot"),
    },
    "places": {
        "bench": {"name": "Bench", "kind": "living_space", "coldest_c": 8.0, "hottest_c": 30.0,
                  "below_flood_level": "no", "escape_route": "no"},
        "yard": {"name": "Yard", "kind": "outdoors", "opening_m": 9.0, "co_alarm": "yes"},
    },
    "outage": {"start_local": "2026-11-10T17:00:00", "length_s": 36 * 3600.0},
    "strategy": {"shedding": "by_hand"},
}  # fmt: skip
UNIT: Json = {"stations": {"unit": unit()}, "feeds": {"inlet": inlet()}, "leads": {"in": lead()}}
SMALL: Json = {"stations": {"small": small()}}
#: Nothing of the house by cord but refrigerator, router and lamps.
UNPLUGGED: Json = {"circuits": {"furnace": {"mark": "off"}}}
BY_CORD: Json = merged(UNPLUGGED, {"leads": {"c": cords("fridge", "router", "lights")}})
ONE_HOT: Json = {"stations": {"small": small(rated_va=3600.0, nameplate_wh=9_000.0, receptacles=TT30)}}
TT_LEAD: Json = lead(id="small", outlet="tt", cords=THREE)
LONE: Json = {"circuits": {"left": {"mark": "off"}, "right": {"mark": "off"}, "well": {"mark": "off"}}}
SWITCHED: Json = inlet(kind="transfer_panel", breaker_spaces=[], neutral_switched="yes")
SIX: Json = inlet(
    kind="transfer_switch", breaker_spaces=[], circuit_ids=["fridge", "router", "lights", "furnace"]
)
KIT: Json = {
    "stations": {"l": small(name="l", rated_va=3000.0), "r": small(name="r", rated_va=3000.0)},
    "links": {
        "pair": {"name": "pair", "leg_a": "l", "leg_b": "r", "ac_charging": "allowed", "receptacles": L14}
    },
    "feeds": {"inlet": inlet()},
    "leads": {"in": lead("link", "pair")},
}
SUB: Json = {
    "panels": {"sub": {"name": "Sub", "spaces": 8, "bus_a": 100.0, "fed_from": "feeder"}},
    "circuits": {"feeder": circuit([13, 15], breaker_a=60, label="Feeder"), "fridge": {"panel_id": "sub", "spaces": [5]},
                 "lights": {"panel_id": "sub", "spaces": [6]}},
    "feeds": {"inlet": inlet(panel_id="sub")},
}  # fmt: skip
FLAT: Json = {
    "schema_version": 2,
    "name": "A flat",
    "site": {
        "name": "A flat",
        "time_zone": "UTC",
        "system": "single_phase_230",
        "earthing": "tn_s",
        "survey": {},
    },
    "panels": {"main": {"name": "Board", "spaces": 12}},
    "circuits": {
        "sockets": circuit([1], breaker_a=16, protection="rcd", mm2=2.5, label="Sockets"),
        "light": circuit([3], breaker_a=10, protection="rcd", mm2=1.5, label="Light"),
    },
    "loads": {
        "fridge": load("sockets", FRIDGE, **START),
        "router": load("sockets", steady(12.0), protection_class="II"),
        "light": load(
            "light", job("18:00:00", "19:00:00", (30.0, 240.0)), role="light", protection_class="II"
        ),
    },
    "places": HOUSE["places"],
    "outage": HOUSE["outage"],
    "strategy": HOUSE["strategy"],
}
CEE: Json = {"cee": {"kind": "CEE 7", "rating_a": 16.0, "gfci": "no"}}
FLAT_UNIT: Json = {"stations": {"small": small(output="230", receptacles=CEE)}}
METRIC: Json = {"length_m": 5.0, "awg": 14}


def flat_cords(*loads: str) -> Json:
    to = {"end": "loads", "load_ids": list(loads), "plug": "CEE 7", "plug_a": 16.0}
    return cords(*loads, outlet="cee", cords=[METRIC], to=to)


CHANGEOVER: Json = {
    "feeds": {"inlet": inlet(kind="transfer_panel", breaker_spaces=[], neutral_switched="yes", inlet="CEE 7",
                             inlet_a=16.0, breaker_a=16.0)},
    "leads": {"in": lead(id="small", outlet="cee", cords=[{"length_m": 5.0, "awg": 12, "conductors": 3}])},
}  # fmt: skip

CAR: Json = {
    "name": "car",
    "place_id": "yard",
    "usable_kwh": 40.0,
    "neutral": "floating",
    "told_to_stay": "yes",
}
PUT_BY: Json = {"circuits": {"furnace": {"mark": "off"}, "router": {"mark": "off"}}}
MODULE: Json = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.5, "imp_a": 12.8, "voc_percent_per_k": -0.27,
                "vmp_percent_per_k": -0.34, "series_fuse_a": 25.0}  # fmt: skip
SUN: Json = {
    "sun": {"low_v": 30.0, "high_v": 150.0, "most_a": 15.0, "short_circuit_a": 20.0, "most_w": 1400.0}
}
MODULES: Json = {"stations": {"unit": {"dc_inputs": SUN}}, "arrays": {"roof": {"name": "modules", "module": MODULE,
    "series": 3, "parallel": 1, "station_id": "unit", "input_id": "sun", "lead_m": 10.0, "lead_awg": 10}}}  # fmt: skip
BANK: Json = {"nominal_v": 51.2, "lowest_v": 48.0, "cable_a": 250.0, "fuse_a": 225.0, "fuse_for_dc": "yes",
              "fuse_interrupts_a": 20_000.0, "fault_a": 6_000.0, "bms_a": 200.0, "alike": "yes", "precharge": "yes",
              "closed_room": "no", "low_temperature_lockout": "yes"}  # fmt: skip
TWO: Json = merged(SMALL, {"stations": {"far": small(name="far")}})
#: The far station charges the near one, which passes it through to appliances on cords.
CHAIN: Json = merged(TWO, BY_CORD, {"stations": {"small": {"ac_inputs": WALL}},
    "leads": {"chain": charge("station", "far", "small", watts=300.0, outlet="duplex")}})  # fmt: skip
