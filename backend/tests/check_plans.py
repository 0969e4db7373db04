"""Merge patches on the demo plans, for the tests of checks."""

from typing import Any

from weary_cedar.demo import DEMOS, demo_plan

Json = dict[str, Any]
PLANS: dict[str, Json] = {name: demo_plan(name).model_dump(mode="json", exclude_none=True) for name in DEMOS}
FEED = PLANS["foothill"]["feeds"]["inlet"]
LEAD = PLANS["foothill"]["leads"]["inlet"]


def feed(**part: Any) -> Json:
    """A change of the foothill house's inlet."""
    return {"feeds": {"inlet": part}}


def lead(**part: Any) -> Json:
    """A change of what is plugged into it."""
    return {"leads": {"inlet": part}}


def second(**part: Any) -> Json:
    """A second feed, with the generator plugged into it; what is said of `exclusive` is said of the lead."""
    own = {"inlet": "L5-30", "breaker_spaces": [25, 27]}
    source = {"kind": "generator", "id": "inverter-2k", "outlet": "duplex"}
    plugged = {**LEAD, "source": source, "to": {"end": "feed", "feed_id": "two"}}
    if "exclusive" in part.get("survey", {}):
        part = {**part, "survey": FEED["survey"]}
        plugged = {**plugged, "survey": {**LEAD["survey"], "exclusive": "yes"}}
    return {
        "panels": {"main": {"spaces": 28}},
        "feeds": {"two": {**FEED, **own, **part}},
        "leads": {"two": plugged},
    }


#: The foothill house with nothing that recharges it.
ALONE: Json = {
    "arrays": {"ground": None},
    "leads": {"from-generator": None},
    "strategy": {"rules": []},
}


#: Modules that hardly give anything.
DUSTY: Json = {**PLANS["foothill"]["arrays"]["ground"], "soiling_percent": 99.0}


def station(**part: Any) -> Json:
    return {"stations": {"station": part}}


def circuits(**parts: Json) -> Json:
    return {"circuits": {key.replace("_", "-"): part for key, part in parts.items()}}


def loads(**parts: Json) -> Json:
    return {"loads": parts}


def survey(room: str, key: str, question: str, answer: str | None) -> Json:
    part = {"survey": {question: answer}}
    return {"site": part} if room == "site" else {room: {key: part}}


def merged(*patches: Json) -> Json:
    result: Json = {}
    for patch in patches:
        result = apply_patch_keeping_nulls(result, patch)
    return result


def apply_patch_keeping_nulls(target: Json, patch: Json) -> Json:
    result = dict(target)
    for key, value in patch.items():
        both = isinstance(value, dict) and isinstance(result.get(key), dict)
        result[key] = apply_patch_keeping_nulls(result[key], value) if both else value
    return result


SWITCH = feed(kind="transfer_switch", breaker_spaces=[], circuit_ids=["fridge", "furnace", "freezer", "hall"])
CORDS = merged(
    {"feeds": {"inlet": None}},
    lead(to={"end": "loads", "feed_id": None, "plug": "5-15", "circuit_ids": ["fridge", "furnace"]}),
)
BRIDGED = feed(kind="bridged")
PAIR_ON = circuits(counter_left={"mark": "room"}, counter_right={"mark": "room"})
TWO_POLE_OFF = circuits(well={"mark": "off"})
SUB = {
    "panels": {"sub": {"name": "Sub", "spaces": 8, "fed_from": "dryer", "survey": {}}},
    "feeds": {"inlet": {"panel_id": "sub", "breaker_spaces": [1, 3]}},
}
BANK: Json = {
    "nominal_v": 51.2, "lowest_v": 48.0, "cable_a": 200.0, "fuse_a": 200.0, "fuse_for_dc": "yes",
    "fuse_interrupts_a": 20_000.0, "fault_a": 6_000.0, "bms_a": 160.0, "alike": "yes", "precharge": "yes",
    "closed_room": "no", "low_temperature_lockout": "yes",
}  # fmt: skip


def bank(**part: Any) -> Json:
    return station(bank={**BANK, **part})


def array(**part: Any) -> Json:
    return {"arrays": {"ground": part}}


def beside(**part: Any) -> Json:
    """A second array on the input of the first."""
    return {"arrays": {"more": {**PLANS["foothill"]["arrays"]["ground"], "name": "more", **part}}}


def vehicle(**part: Any) -> Json:
    return {"vehicles": {"car": {"name": "car", "place_id": "meadow", **part}}}


def recharge(**part: Any) -> Json:
    """A charger of the foothill house; `kind` and `from_id` say where it hangs."""
    source = {"kind": part.pop("kind", "circuit"), "id": part.pop("from_id", "dryer")}
    own = {"end": "input", "station_id": "station", "input_id": "wall-240"}
    to = {**own, "setting_w": 4000.0, "when": "grid", **part}
    return {"leads": {"wall": {"name": "charger", "source": source, "to": to}}}


SECOND_STATION = {
    "stations": {
        "other": {"name": "other", "output": "120", "rated_va": 1000.0, "nameplate_wh": 1000.0,
                  "neutral": "floating", "place_id": "garage-bench", "survey": {"full-cycle": "yes"},
                  "receptacles": {"out": {"kind": "5-20", "rating_a": 20.0, "gfci": "no"}}}
    }
}  # fmt: skip
CHAIN = merged(
    SECOND_STATION,
    {"stations": {"station": {"ac_inputs": {"wall-120": {"passes_through": True}}}}},
    {"leads": {"from-generator": None}, "strategy": {"rules": []}},
    recharge(kind="station", from_id="other", input_id="wall-120", when="strategy"),
)


def box_adapter(sits_at: str) -> Json:
    """An adapter with a breaker of 15 A inside, at one end of the cord or the other."""
    own = {"source_end": "L14-30", "load_end": "L14-30", "rating_a": 30.0, "overcurrent_a": 15.0}
    return {**own, "sits_at": sits_at}


def external(**part: Any) -> Json:
    """A 36 V battery on the high-voltage solar input."""
    own = {"name": "battery", "wh": 180.0, "lowest_v": 30.0, "highest_v": 42.0, "fuse_at_battery": "yes"}
    return {"externals": {"battery": {**own, "station_id": "station", "input_id": "sun-high", **part}}}


OUTLET_20 = station(receptacles={"l14-30": {"rating_a": 20.0}})
LINKED_CHARGING: Json = {
    "links": {"pair": {"ac_charging": "refused"}},
    "stations": {"left": {"ac_inputs": {"wall": {"most_w": 1500.0}}}},
    "leads": {"wall": {"name": "wall", "source": {"kind": "circuit", "id": "fridge"},
                       "to": {"end": "input", "station_id": "left", "input_id": "wall", "setting_w": 600.0,
                              "when": "strategy"}}},
}  # fmt: skip
INPUT_20: Json = {"stations": {"station": {"dc_inputs": {"sun-high": {"short_circuit_a": 20.0}}}}}
#: A heater of 13 A on 15 A, with a second thing on the circuit.
TWO_ON_INTERNET = merged(
    circuits(internet={"breaker_a": 15.0}),
    loads(heater={"name": "oil heater", "circuit_id": "internet", "power_factor": 1.0,
                  "behaviour": {"kind": "job", "earliest": "08:00:00", "latest": "09:00:00",
                                "steps": [{"watts": 1560.0, "minutes": 20.0}]}}),
)  # fmt: skip
LASTING = merged(
    circuits(internet={"breaker_a": 40.0, "order": 1}), station(leg_va=4000.0),
    loads(internet={"behaviour": {"watts": 2900.0}, "power_factor": 1.0}),
)  # fmt: skip
NO_CHANGEOVER = merged(loads(internet={"largest_gap_ms": 20.0}), {"outage": {"changeover_after_s": 0.0}})
NO_DRYER = {"loads": {"dryer": None}}
HUT_PANEL: Json = {
    "loads": {"beacons": {"mark": "off"}},
    "feeds": {
        "board": {"kind": "transfer_panel", "neutral_switched": "yes", "inlet": "CEE 7", "inlet_a": 16.0,
                  "breaker_a": 16.0, "panel_id": "main",
                  "survey": {"own-electrode": "yes", "island-bond": "yes", "sign": "yes", "service-rated": "yes"}}
    },
    "leads": {"cords": {"to": {"end": "feed", "feed_id": "board", "circuit_ids": None, "load_ids": None,
                               "plug": None, "plug_a": None}}},
}  # fmt: skip


def hut(**part: Any) -> Json:
    return merged(HUT_PANEL, {"feeds": {"board": part}})
