"""Parts of a plan that contradict each other are named, with what would be right."""

import copy
from dataclasses import replace
from typing import Any

import pytest
from builders import Json, circuit, house, load, refusals, steady

from weary_cedar.core.errors import InvalidPlan
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch

UNIT: Json = {
    "name": "half",
    "output": "120",
    "rated_va": 3000.0,
    "nameplate_wh": 3000.0,
    "receptacles": {"hole": {"kind": "L5-30", "rating_a": 30.0}},
    "ac_inputs": {"wall": {"most_w": 1500.0}},
    "dc_inputs": {"sun": {"high_v": 150.0, "most_a": 15.0, "most_w": 1600.0}},
}
GOOD: Json = house({"a": circuit([1])}, {"a": load("a", steady(10))})
GOOD["stations"].update(left=UNIT, right=copy.deepcopy(UNIT))
GOOD["links"] = {"pair": {"name": "pair", "leg_a": "left", "leg_b": "right"}}
GOOD["generators"] = {"set": {"name": "set", "rated_w": 2000.0}}
GOOD["places"] = {"shed": {"name": "Shed", "kind": "garage"}}
GOOD["arrays"] = {
    "sun": {
        "name": "sun",
        "station_id": "left",
        "input_id": "sun",
        "module": {"watts": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.0},
    }
}
GOOD["recharges"] = {
    "wall": {
        "name": "wall",
        "station_id": "left",
        "input_id": "wall",
        "kind": "circuit",
        "from_id": "a",
        "setting_w": 900.0,
    }
}


PACK: Json = {"name": "pack", "nameplate_wh": 2000.0}
SUN: Json = {"low_v": 12.0, "high_v": 60.0, "most_a": 8.0, "most_w": 400.0}
FACING: Json = {"at": "08:00:00", "tilt_deg": 40.0, "azimuth_deg": 100.0}
BATTERY: Json = {"name": "b", "wh": 1200.0, "lowest_v": 11.0, "highest_v": 14.0}


def test_the_good_one_is_good() -> None:
    plan = read_plan(GOOD)
    hookup = plan.hookups["feed"]
    assert plan.source(hookup).name == "unit"
    linked = replace(hookup, source_kind="link", source_id="pair")
    assert plan.source(linked).name == "half"
    assert list(plan.source_units(linked)) == ["left", "right"]


@pytest.mark.parametrize(
    ("patch", "field", "right"),
    [
        ({"links": {"pair": {"leg_b": "left"}}}, "/links/pair/leg_b", "another station"),
        ({"links": {"pair": {"leg_a": "gone"}}}, "/links/pair/leg_a", "a station of this plan"),
        ({"links": {"set": {"name": "x", "leg_a": "left", "leg_b": "right"}}}, "/links/set", "an id that no"),
        ({"feeds": {"feed": {"source_id": "gone"}}}, "/feeds/feed/source_id", "a station of this plan"),
        (
            {"feeds": {"feed": {"source_id": "pair"}}},
            "/feeds/feed/receptacle_id",
            "receptacle of that source",
        ),
        (
            {"feeds": {"feed": {"breaker_spaces": []}}},
            "/feeds/feed/breaker_spaces",
            "spaces of the feed breaker",
        ),
        ({"feeds": {"feed": {"kind": "hybrid"}}}, "/feeds/feed/breaker_spaces", "only a back-fed breaker"),
        (
            {"feeds": {"feed": {"circuit_ids": ["gone"]}}},
            "/feeds/feed/circuit_ids/0",
            "a circuit of this plan",
        ),
        (
            {"feeds": {"feed": {"cords": []}}},
            "/feeds/feed/cords",
            "only a source wired to terminals",
        ),
        ({"arrays": {"sun": {"input_id": "moon"}}}, "/arrays/sun/input_id", "DC input of that station"),
        ({"arrays": {"sun": {"station_id": "gone"}}}, "/arrays/sun/station_id", "a station of this plan"),
        ({"recharges": {"wall": {"from_id": "gone"}}}, "/recharges/wall/from_id", "a circuit of this plan"),
        ({"recharges": {"wall": {"kind": "vehicle"}}}, "/recharges/wall/from_id", "a vehicle of this plan"),
        (
            {"recharges": {"wall": {"input_id": "roof"}}},
            "/recharges/wall/input_id",
            "AC input of that station",
        ),
        ({"stations": {"left": {"place_id": "moon"}}}, "/stations/left/place_id", "a place of this plan"),
        ({"loads": {"a": {"place_id": "moon"}}}, "/loads/a/place_id", "a place of this plan"),
        ({"generators": {"set": {"place_id": "moon"}}}, "/generators/set/place_id", "a place of this plan"),
        ({"panels": {"main": {"fed_from": "a"}}}, "/panels/main/fed_from", "circuit of another panel"),
        ({"site": {"survey": {"legs-measured": "maybe"}}}, "/site/survey/legs-measured", "yes, no"),
        (
            {"outage": {"weather": {"hourly_c": [99]}}},
            "/outage/weather/hourly_c/0",
            "should be from -60 to 60",
        ),
        ({"circuits": {"a": {"multiwire_partner": "a"}}}, "/circuits/a/multiwire_partner", "than itself"),
        (
            {
                "circuits": {
                    "a": {"multiwire_partner": "b"},
                    "b": {**circuit([3]), "multiwire_partner": "c"},
                    "c": circuit([5]),
                }
            },
            "/circuits/a/multiwire_partner",
            "names another partner",
        ),
        ({"circuits": {"a": {"awg": 13}}}, "/circuits/a/awg", "14, 12, 10"),
        (
            {"stations": {"left": {"restart_percent": 3.0, "cutoff_percent": 3.0}}},
            "/stations/left/restart_percent",
            "above",
        ),
        (
            {"stations": {"left": {"dc_inputs": {"sun": {"low_v": 150.0}}}}},
            "/stations/left/dc_inputs/sun/low_v",
            "below",
        ),
        (
            {"stations": {"left": {"packs": {"p": {**PACK, "dc_inputs": {"s": {**SUN, "low_v": 60.0}}}}}}},
            "/stations/left/packs/p/dc_inputs/s/low_v",
            "below the 60 V",
        ),
        (
            {"stations": {"left": {"bank": {"nominal_v": 24.0, "lowest_v": 25.0}}}},
            "/stations/left/bank/lowest_v",
            "24 V",
        ),
        (
            {"stations": {"left": {"bank": {"nominal_v": 24.0, "lowest_v": 22.0, "charge_v": 20.0}}}},
            "/stations/left/bank/charge_v",
            "at least the nominal 24 V",
        ),
        (
            {"generators": {"set": {"starting_w": 1999.0}}},
            "/generators/set/starting_w",
            "at least the rated 2000 W",
        ),
        (
            {"generators": {"set": {"quiet": {"begins": "22:00:00", "ends": "22:00:00"}}}},
            "/generators/set/quiet/ends",
            "another time",
        ),
        ({"arrays": {"sun": {"module": {"vmp_v": 41.0}}}}, "/arrays/sun/module/vmp_v", "open-circuit 40 V"),
        ({"arrays": {"sun": {"module": {"imp_a": 12.5}}}}, "/arrays/sun/module/imp_a", "short-circuit 12 A"),
        (
            {"arrays": {"sun": {"moved": [FACING, {**FACING, "tilt_deg": 9.0}]}}},
            "/arrays/sun/moved",
            "times that rise",
        ),
        ({"arrays": {"sun": {"pack_id": "gone"}}}, "/arrays/sun/pack_id", "pack of that station"),
        ({"externals": {"b": {**BATTERY, "lowest_v": 15.0}}}, "/externals/b/lowest_v", "at most the 14 V"),
        (
            {"externals": {"b": {**BATTERY, "station_id": "left", "input_id": "x"}}},
            "/externals/b/input_id",
            "DC input of that station",
        ),
        (
            {"externals": {"b": {**BATTERY, "place_id": "moon"}}},
            "/externals/b/place_id",
            "a place of this plan",
        ),
        (
            {"box": {"c": {"part": "cord", "length_m": 3.0, "awg": 12, "place_id": "moon"}}},
            "/box/c/place_id",
            "a place",
        ),
        ({"box": {"c": {"part": "rope"}}}, "/box/c/part", "cord, adapter, inlet"),
        ({"feeds": {"feed": {"wire": {"length_m": 3.0, "awg": 13}}}}, "/feeds/feed/wire/awg", "14, 12, 10"),
        (
            {"outage": {"pack_charge_percent": {"gone": {}}}},
            "/outage/pack_charge_percent/gone",
            "a station of this plan",
        ),
        (
            {"outage": {"pack_charge_percent": {"left": {"gone": 50.0}}}},
            "/outage/pack_charge_percent/left/gone",
            "pack of that station",
        ),
        (
            {
                "loads": {
                    "a": {"behaviour": {"kind": "measured", "t_s": [0, 5], "watts": [1], "length_s": 90}}
                }
            },
            "/loads/a/behaviour/t_s",
            "as many as watts",
        ),
    ],
)
def test_contradictions_are_named(patch: Json, field: str, right: str) -> None:
    found = refusals(apply_patch(GOOD, patch))
    assert right in found.get(field, ""), found


def test_panels_that_feed_each_other() -> None:
    document: Any = copy.deepcopy(GOOD)
    document["panels"]["sub"] = {"name": "Sub", "fed_from": "a"}
    document["circuits"]["back"] = {**circuit([1]), "panel_id": "sub"}
    read_plan(document)
    document["panels"]["main"]["fed_from"] = "back"
    with pytest.raises(InvalidPlan, match="a circuit of another panel"):
        read_plan(document)


def test_an_array_on_a_pack_of_its_own() -> None:
    packs = {"packs": {"p": {**PACK, "dc_inputs": {"s": SUN}}}}
    own = {"pack_id": "p", "input_id": "s"}
    plan = read_plan(apply_patch(GOOD, {"stations": {"left": packs}, "arrays": {"sun": own}}))
    entry = plan.dc_input_of(plan.arrays["sun"])
    assert entry is not None
    assert entry.high_v == 60.0
    loose = plan.arrays["sun"].model_copy(update={"station_id": None})
    assert plan.dc_input_of(loose) is None
