"""Every kind that has a property, crossed with every row that speaks of it: none is forgotten.

Rulings are common practice with no source; 6.1 m from openings is the guidance of CDC and CPSC, from memory.
"""

import json

import pytest
from check_plans import PLANS, Json, external, feed, merged, station, vehicle

from weary_cedar.core.checks import findings_of
from weary_cedar.core.checks.facts import is_motor, start_of
from weary_cedar.core.plan import TRAITS, Kind, Load, read_plan
from weary_cedar.core.plan.merge import apply_patch

SPOT: Json = {"name": "the spot", "kind": "outdoors", "opening_m": 9.0, "co_alarm": "yes", "wet": "no",
              "coldest_c": 5.0, "hottest_c": 30.0, "below_flood_level": "no", "escape_route": "no"}  # fmt: skip
AT: Json = {"place_id": "spot"}
#: Everything that stores energy, at the spot, and the part that a finding is about.
STORES: dict[str, tuple[Json, str]] = {
    "station": (station(**AT), "stations/station"),
    "pack beside it": (station(packs={"pack": AT}), "stations/station"),
    "battery from elsewhere": (external(**AT), "externals/battery"),
    "battery car": (vehicle(kind="battery", **AT), "vehicles/car"),
    "hybrid": (vehicle(kind="hybrid", may_start_engine="no", **AT), "vehicles/car"),
}
#: What is wrong with a place → the level; a vehicle is made for rain and dust.
WRONG: dict[str, tuple[Json, str]] = {
    "flood": ({"below_flood_level": "yes"}, "stop"),
    "way out": ({"escape_route": "yes"}, "caution"),
    "bedroom": ({"kind": "bedroom"}, "caution"),
    "rain": ({"wet": "yes"}, "caution"),
    "rain not known": ({"wet": "unknown"}, "cannot_judge"),
    "dust": ({"dusty": "yes"}, "caution"),
}
#: Everything that burns something, and the check that is asked.
BURNS: dict[str, tuple[Json, str, str]] = {
    "engine": ({"generators": {"inverter-2k": AT}}, "generators/inverter-2k", "gen-outdoors"),
    "car with an engine": (vehicle(kind="engine", **AT), "vehicles/car", "gen-outdoors"),
    "hybrid that starts": (
        vehicle(kind="hybrid", may_start_engine="yes", **AT),
        "vehicles/car",
        "vehicle-start",
    ),
    "hybrid that may": (vehicle(kind="hybrid", **AT), "vehicles/car", "vehicle-start"),
}
EXHAUST: dict[str, tuple[Json, str]] = {
    **{
        kind: ({"kind": kind}, "stop")
        for kind in ("garage", "basement", "living_space", "bedroom", "vehicle")
    },
    "near": ({"opening_m": 6.0}, "stop"),
    "not measured": ({"opening_m": None}, "cannot_judge"),
    "no alarm": ({"co_alarm": "no"}, "stop"),
    "alarm not known": ({"co_alarm": "unknown"}, "cannot_judge"),
}


def levels(patch: Json, spot: Json, check_id: str, part: str) -> set[str]:
    """What a check says of a part of the foothill house at a spot."""
    document = apply_patch(PLANS["foothill"], merged(patch, {"places": {"spot": apply_patch(SPOT, spot)}}))
    found = findings_of(read_plan(document))
    about = (f for f in found if f.check_id == check_id and f"{f.element.room}/{f.element.id}" == part)
    return {finding.level for finding in about}


@pytest.mark.parametrize("kind", STORES)
def test_whatever_stores_energy_is_judged_by_its_place(kind: str) -> None:
    patch, part = STORES[kind]
    assert levels(patch, {}, "station-place", part) == set()
    for wrong, (spot, level) in WRONG.items():
        outdoors = part.startswith("vehicles") and wrong in ("rain", "rain not known", "dust")
        assert levels(patch, spot, "station-place", part) == (set() if outdoors else {level}), wrong


@pytest.mark.parametrize("kind", ["station", "pack beside it"])
def test_cells_that_are_charged_are_judged_by_the_cold_of_their_place(kind: str) -> None:
    patch, part = STORES[kind]
    assert levels(patch, {}, "batt-cold", part) == set()
    assert levels(patch, {"coldest_c": -5.0}, "batt-cold", part) == {"caution"}
    assert levels(patch, {"coldest_c": None}, "batt-cold", part) == {"cannot_judge"}


@pytest.mark.parametrize("kind", BURNS)
def test_whatever_burns_is_judged_by_its_place(kind: str) -> None:
    patch, part, check_id = BURNS[kind]
    assert levels(patch, {}, check_id, part) == set()
    for wrong, (spot, level) in EXHAUST.items():
        said = "cannot_judge" if kind == "hybrid that may" else level
        assert levels(patch, spot, check_id, part) == {said}, wrong


STEADY: Json = {"kind": "steady", "watts": 800.0}
COLD: Json = {"kind": "thermostatic", "mode": "cool", "loss_w_per_k": 100.0, "capacity_wh_per_k": 1000.0,
              "set_c": 24.0, "output_w": 3000.0, "run_w": 800.0}  # fmt: skip
BOX: Json = {"name": "box", "contents_kg": 20.0, "loss_w_per_k": 2.0, "set_c": 4.0}
MOTORS: dict[str, Json] = {
    "compressor": {"compressor": True},
    "pump": {"role": "pump"},
    "tool": {"role": "tool"},
    "refrigerator": {"behaviour": {"kind": "refrigerating", "on_w": 800.0, "compartments": {"box": BOX}}},
    "air conditioner": {"behaviour": COLD},
    "by its plate": {"locked_rotor_a": 40.0},
}


@pytest.mark.parametrize("kind", MOTORS)
def test_a_motor_is_one_by_its_class_and_no_start_is_said_only_where_there_is_none(kind: str) -> None:
    spec = {"name": "it", "circuit_id": "fridge", "behaviour": STEADY, **MOTORS[kind]}
    load = Load.model_validate_json(json.dumps(spec))
    assert is_motor(load)
    soft = load.model_copy(update={"soft_start": True})
    assert start_of(soft) is None
    assert (start_of(load) is None) == (kind == "by its plate")
    weak = merged(
        station(rated_va=1000.0, leg_va=500.0),
        {"loads": {"it": spec}, "circuits": {"fridge": {"mark": "keep"}}},
    )
    document = apply_patch(PLANS["foothill"], weak)
    said = {f.check_id for f in findings_of(read_plan(document)) if f.element.id == "it"}
    assert {"start-trip", "motor-sag"} & said


#: What a kind of feed is → the check that speaks of it while nobody has answered anything.
OF_A_KIND = {
    "interlocked": "feed-hold-down",
    "service": "xfer-service-rated",
    "panel": "feed-sign",
    "by_itself": "auto-capacity",
}


@pytest.mark.parametrize("kind", [kind for kind in TRAITS if kind != "cords"])
def test_every_kind_of_feed_is_asked_by_what_it_is(kind: Kind) -> None:
    traits = TRAITS[kind]
    own: Json = {} if traits.breaker else {"breaker_spaces": []}
    own |= {"circuit_ids": ["fridge", "internet"]} if traits.wired else {}
    bare = feed(kind=kind, neutral_switched="yes", survey=None, **own)
    document = apply_patch(PLANS["foothill"], merged(bare, {"leads": {"inlet": {"survey": None}}}))
    found = findings_of(read_plan(document))
    said = {finding.check_id for finding in found}
    assert {check for trait, check in OF_A_KIND.items() if getattr(traits, trait)} <= said
    assert "neutral-floating-switched" in said
    assert bool(traits.refused) == bool({"feed-no-transfer", "feed-male-plug"} & said)
