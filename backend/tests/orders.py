"""Houses for orders at the panel, and acts that many orders share."""

from typing import Any

from builders import Json, circuit, cycling, house, load, steady

from weary_cedar.core.plan import Plan, read_plan, upgraded
from weary_cedar.core.runbook.steps import Move

COLD = {"compressor": True, "start": {"va": 1_200.0, "seconds": 0.5}}
PUMP = {"start": {"va": 7_000.0, "seconds": 0.5}}
MODULE = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.6, "imp_a": 12.9}
CORD = {"length_m": 7.6, "awg": 10}
HANDLES: Json = {"kind": "transfer_switch", "circuit_ids": ["fridge", "lights"]}
OUTLET = {"out": {"kind": "L14-30", "rating_a": 30.0}}


def document() -> Json:
    """A panel with a refrigerator, lights, a pump, a range that stays off, and a charger's circuit."""
    circuits = {
        "fridge": circuit([1]),
        "lights": circuit([3]),
        "pump": circuit([5, 7]),
        "range": circuit([9, 11], "off"),
        "wall": circuit([13]),
    }
    loads = {
        "fridge": load("fridge", cycling(150.0, 0.4, 3_000.0), **COLD),
        "lights": load("lights", steady(600.0)),
        "pump": load("pump", cycling(1_000.0, 0.1, 3_000.0), **PUMP),
    }
    made = house(circuits, loads, station={"rated_va": 4_500.0})
    made["stations"]["unit"]["ac_inputs"] = {"wall": {"volts": 120, "most_w": 1_500.0}}
    made["generators"] = {
        "gen": {
            "name": "gen",
            "rated_w": 5_000.0,
            "starting_w": 6_500.0,
            "output": "120/240",
            "receptacles": OUTLET,
        }
    }
    made = upgraded(made)
    made["leads"]["gen"] = {
        "source": {"kind": "generator", "id": "gen", "outlet": "out"},
        "cords": [CORD],
        "to": {"end": "feed", "feed_id": "feed"},
    }
    made["leads"]["charger"] = {
        "source": {"kind": "circuit", "id": "wall"},
        "to": {"end": "input", "station_id": "unit", "input_id": "wall", "setting_w": 1_000.0},
    }
    return made


def with_feed(**fields: Any) -> Plan:
    made = document()
    made["feeds"]["feed"] |= fields
    if fields.get("kind", "interlock_inlet") != "interlock_inlet":
        made["feeds"]["feed"]["breaker_spaces"] = []
    return read_plan(made)


def two_panels(feeder: str = "off", **fields: Any) -> Plan:
    """A sub-panel behind a feeder, with a station and an inlet of its own."""
    made = document()
    made["circuits"]["feeder"] = circuit([6, 8], feeder, breaker_a=60)
    made["feeds"]["feed"]["breaker_spaces"] = [10, 12]
    made["panels"]["barn"] = {"name": "Barn", "spaces": 12, "fed_from": "feeder"}
    made["circuits"]["lamp"] = circuit([1], panel_id="barn")
    made["loads"]["lamp"] = load("lamp", steady(60.0))
    made["stations"]["other"] = made["stations"]["unit"] | {"name": "other"}
    made["feeds"]["barn"] = made["feeds"]["feed"] | {"panel_id": "barn", "breaker_spaces": [2, 4]} | fields
    made["leads"]["barn"] = {
        "source": {"kind": "station", "id": "other", "outlet": "out"},
        "cords": [CORD],
        "to": {"end": "feed", "feed_id": "barn"},
    }
    return read_plan(made)


def standby() -> Plan:
    """A sub-panel transfer beside a set that starts by itself and solar that is made for the utility."""
    made = document()
    made["feeds"]["feed"] |= {"kind": "transfer_panel", "breaker_spaces": []}
    made["generators"]["gen"] |= {"auto_start": True}
    made["arrays"] = {"roof": {"name": "roof", "kind": "grid_tied", "module": MODULE}}
    return read_plan(made)


def furnace() -> Plan:
    made = document()
    made["feeds"]["feed"] |= {
        "kind": "appliance_switch",
        "circuit_ids": ["fridge"],
        "breaker_spaces": [],
        "inlet": "5-15",
    }
    return read_plan(made)


def cords() -> Plan:
    made = document()
    made["leads"]["feed"]["to"] = {"end": "loads", "load_ids": ["fridge"]}
    del made["leads"]["gen"]
    made["feeds"] = {}
    made["leads"] = {("cord" if key == "feed" else key): lead for key, lead in made["leads"].items()}
    return read_plan(made)


def bonded() -> Plan:
    made = document()
    made["leads"]["feed"]["bonding_plug"] = "yes"
    return read_plan(made)


def paired() -> Plan:
    made = document()
    made["feeds"]["feed"] |= {**HANDLES, "breaker_spaces": []}
    made["circuits"]["fridge"]["multiwire_partner"] = "lights"
    return read_plan(made)


def wired() -> Plan:
    made = document()
    made["feeds"]["feed"] |= {"kind": "hybrid", "breaker_spaces": []}
    made["leads"]["feed"]["cords"] = []
    del made["leads"]["gen"]
    return read_plan(made)


def acts(text: str) -> list[Move]:
    """`what=to` one after another; `+s` after it for a wait."""
    found = []
    for word in text.split():
        what, _, to = word.partition("=")
        to, _, wait = to.partition("+")
        found.append(Move(what=what, to=to, wait_s=float(wait) if wait else 5.0))
    return found


BRANCHES_OFF = "breaker/fridge=off breaker/lights=off breaker/pump=off breaker/range=off breaker/wall=off "
UNPLUGGED = "source_end/charger=out load_end/charger=out "
OVER = "main/main=off interlock/feed=source "
CORD_IN = "load_end/feed=in source_end/feed=in "
ON = "output/station/unit=on feed_breaker/feed=on "
LOADS = "breaker/pump=on+60 breaker/fridge=on breaker/lights=on"
CHANGE = UNPLUGGED + BRANCHES_OFF + OVER + CORD_IN + ON + LOADS
BACK = (
    " breaker/pump=off breaker/fridge=off breaker/lights=off feed_breaker/feed=off output/station/unit=off "
    "source_end/feed=out load_end/feed=out interlock/feed=utility main/main=on"
)
TO_SWITCH = "handle/feed/fridge=off handle/feed/lights=off " + CORD_IN + "output/station/unit=on "
ENGINE_ON = "engine/gen=on output/generator/gen=on+180 "
