"""Whole plans of unusual kinds, sound and dangerous: all their stops, cautions and open points.

Every question of the survey is answered as the person at the house would find it when all is well;
what is left is what the plan itself says.
"""

import copy

import pytest
from builders import Json, job, load
from check_plans import merged
from whole_houses import (
    BANK,
    BY_CORD,
    CAR,
    CHAIN,
    CHANGEOVER,
    DUPLEX,
    FLAT,
    FLAT_UNIT,
    HOUSE,
    KIT,
    L14,
    LONE,
    MODULES,
    ONE_HOT,
    PUT_BY,
    SIX,
    SMALL,
    SUB,
    SUN,
    SWITCHED,
    THIN,
    THREE,
    TT30,
    TT_LEAD,
    TWO,
    UNIT,
    UNPLUGGED,
    WALL,
    WALL_240,
    charge,
    cords,
    engine,
    flat_cords,
    inlet,
    lead,
    small,
    unit,
)

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.checks.survey import asked
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch

Expected = tuple[set[str], set[str], set[str]]
NONE: Expected = (set(), set(), set())
#: Name → the house, and what is on top of it; the first are sound, each of a kind of its own.
PLANS: dict[str, tuple[Json, Json]] = {
    "a station on an interlocked inlet": (HOUSE, UNIT),
    "an engine alone on the inlet": (HOUSE, {"generators": {"set": engine()}, "feeds": {"inlet": inlet()},
        "leads": {"in": lead("generator", "set")}}),
    "a bonded engine on a switch that takes the neutral along": (HOUSE,
        {"generators": {"set": engine(neutral="bonded")}, "feeds": {"inlet": SWITCHED},
        "leads": {"in": lead("generator", "set")}}),
    "a station and an engine that take turns at one inlet": (HOUSE, merged(UNIT,
        {"generators": {"set": engine()}, "leads": {"swap": lead("generator", "set")}})),
    "an engine that charges the station behind the inlet": (HOUSE, merged(UNIT,
        {"generators": {"set": engine()}, "stations": {"unit": {"ac_inputs": WALL_240}},
        "leads": {"ch": charge("generator", "set", outlet="l14", watts=3000.0)}})),
    "appliances by cord": (HOUSE, merged(SMALL, BY_CORD)),
    "a car's outlet for the refrigerator": (HOUSE, merged(UNPLUGGED, {"vehicles": {"car": CAR},
        "leads": {"c": cords("fridge", "router", "lights", kind="vehicle", id="car", outlet=None,
        to={"end": "loads", "load_ids": ["fridge", "router", "lights"]})}})),
    "a linked pair by its kit's own outlet": (HOUSE, KIT),
    "two units side by side": (HOUSE, merged(KIT, {"links": {"pair": {"kind": "parallel"}}})),
    "one hot on both legs, two-pole breakers and shared neutrals off": (HOUSE, merged(ONE_HOT, LONE,
        {"feeds": {"inlet": inlet(kind="bridged", inlet="TT-30")}, "leads": {"in": TT_LEAD}})),
    "six circuits on a switch of one hot": (HOUSE, merged(ONE_HOT, {"feeds": {"inlet": {**SIX,
        "inlet": "TT-30"}}, "leads": {"in": TT_LEAD}})),
    "the furnace on a switch of its own": (HOUSE, merged(SMALL, {"circuits": {"fridge": {"mark": "off"},
        "router": {"mark": "off"}, "lights": {"mark": "off"}},
        "feeds": {"inlet": inlet(kind="appliance_switch", inlet="5-20", inlet_a=20.0, breaker_a=15.0,
        breaker_spaces=[], wire={"length_m": 1.0, "awg": 12}, circuit_ids=["furnace"])},
        "leads": {"in": lead(id="small", outlet="duplex", cords=THIN)}})),
    "an inlet on a sub-panel with a main of its own": (HOUSE, merged(UNIT, SUB,
        {"circuits": {"furnace": {"mark": "off"}, "router": {"mark": "off"}}})),
    "a chain of two on cords": (HOUSE, CHAIN),
    "modules on the meadow": (HOUSE, merged(UNIT, MODULES)),
    "a bank built up from parts": (HOUSE, merged(UNIT, {"stations": {"unit": {"bank": BANK}}})),
    "a battery from elsewhere on an input for direct current": (HOUSE, merged(UNIT,
        {"stations": {"unit": {"dc_inputs": SUN}}, "externals": {"pack": {"name": "pack", "wh": 500.0,
        "lowest_v": 36.0, "highest_v": 54.0, "fuse_at_battery": "yes", "station_id": "unit",
        "input_id": "sun"}}})),
    "a flat with a refrigerator by cord": (FLAT, merged(FLAT_UNIT, {"leads": {"c": flat_cords("fridge",
        "router", "light")}})),
    "a flat behind a two-pole changeover": (FLAT, merged(FLAT_UNIT, CHANGEOVER)),
    "a bonded engine in a 230 V house": (FLAT, merged(FLAT_UNIT, CHANGEOVER,
        {"stations": {"small": {"neutral": "bonded"}}})),
    "nothing at all yet": (HOUSE, {}),
    "a standby set with load management": (HOUSE, {"generators": {"set": engine(rated_w=11000.0,
        starting_w=13000.0, auto_start=True, locked_out="yes", fuel="natural_gas",
        receptacles={"l14": {"kind": "14-50", "rating_a": 50.0, "gfci": "no"}})},
        "feeds": {"inlet": inlet(kind="automatic", inlet="14-50", inlet_a=50.0, breaker_a=50.0,
        breaker_spaces=[], wire={"length_m": 6.0, "awg": 6})}, "leads": {"in": lead("generator", "set",
        cords=[])}}),
    "an engine of 30 A into an inlet of 50 A": (HOUSE, {"generators": {"set": engine()},
        "feeds": {"inlet": inlet(inlet="14-50", inlet_a=50.0, breaker_a=50.0, wire={"length_m": 5.0,
        "awg": 6})}, "leads": {"in": lead("generator", "set", adapters=[{"source_end": "L14-30",
        "load_end": "14-50", "rating_a": 30.0}])}}),
    "two houses of panels, a station each": (HOUSE, merged(UNIT, SUB, {"stations": {"two": unit(name="two")},
        "feeds": {"inlet": inlet(), "sub": inlet(panel_id="sub")}, "circuits": {"feeder": {"mark": "off"}},
        "leads": {"sub": lead(id="two", feed="sub")}})),
    "a battery-only car in the garage": (HOUSE, merged(UNIT, {"places": {"garage": {"name": "Garage",
        "kind": "garage"}}, "vehicles": {"car": {**CAR, "place_id": "garage"}}})),
    "a van that charges a station by its 12 V socket": (HOUSE, merged(UNIT,
        {"stations": {"unit": {"dc_inputs": {"car": {"kind": "socket_12v", "low_v": 11.0, "high_v": 30.0,
        "most_a": 8.0, "most_w": 100.0}}}}, "vehicles": {"car": {**CAR, "outlet": "socket_12v",
        "socket_fuse_a": 15.0, "draws_w": 100.0}}, "leads": {"ch": charge("vehicle", "car", input="car",
        watts=100.0)}})),
    "a heater on its own cord": (HOUSE, merged(SMALL, BY_CORD, {"loads": {"warm": {"name": "oil heater",
        "behaviour": job("18:00:00", "19:00:00", (700.0, 120.0))}}, "leads": {"h": cords("warm")}})),
    "an engine of 9 kW with 40 A on a leg": (HOUSE, {"generators": {"set": engine(rated_w=9600.0,
        starting_w=12000.0)}, "feeds": {"inlet": inlet()}, "leads": {"in": lead("generator", "set")},
        "loads": {"router": {"behaviour": {"watts": 4800.0}}}}),
    "a bonded engine on the house's bond": (HOUSE, {"generators": {"set": engine(neutral="bonded")},
        "feeds": {"inlet": inlet()}, "leads": {"in": lead("generator", "set")}}),
    "a bonded engine behind a ground-fault outlet": (HOUSE, {"generators": {"set": engine(neutral="bonded",
        receptacles={"l14": {**L14["l14"], "gfci": "yes"}})}, "feeds": {"inlet": inlet()},
        "leads": {"in": lead("generator", "set")}}),
    "an engine whose neutral nobody knows": (HOUSE, {"generators": {"set": engine(neutral="unknown")},
        "feeds": {"inlet": inlet()}, "leads": {"in": lead("generator", "set")}}),
    "a bond behind a ground-fault outlet, through a station": (HOUSE, merged(UNIT,
        {"generators": {"set": engine(neutral="bonded", receptacles={"l14": {**L14["l14"], "gfci": "yes"}})},
        "stations": {"unit": {"ac_inputs": WALL_240}}, "leads": {"ch": charge("generator", "set", outlet="l14",
        watts=3000.0)}})),
    "a bond through two stations": (HOUSE, merged(UNIT, {"stations": {"unit": {"ac_inputs": WALL},
        "far": small(name="far", neutral="bonded")}, "leads": {"ch": charge("station", "far", outlet="duplex",
        watts=300.0)}})),
    "a station that passes on nobody knows what": (HOUSE, merged(UNIT, {"generators": {"set": engine(neutral="bonded")},
        "stations": {"unit": {"ac_inputs": WALL_240, "neutral_in_bypass": "unknown"}},
        "leads": {"ch": charge("generator", "set", outlet="l14", watts=3000.0)}})),
    "a wire of two conductors to a four-wire inlet": (HOUSE, merged(UNIT,
        {"feeds": {"inlet": {"wire": {"conductors": 2}}}})),
    "a shared neutral over two panels": (HOUSE, merged(UNIT, SUB, PUT_BY,
        {"circuits": {"left": {"panel_id": "sub", "spaces": [1], "mark": "room"}}})),
    "a feeder over its sub-panel's bus": (HOUSE, merged(UNIT, SUB, {"feeds": {"inlet": inlet()},
        "panels": {"sub": {"bus_a": 50.0}}, "circuits": {"feeder": {"mark": "keep"}}})),
    "two heaters on cords of one outlet": (HOUSE, merged(SMALL, BY_CORD,
        {"stations": {"small": {"rated_va": 3600.0}}, "loads": {"warm": {"name": "one",
        "behaviour": job("18:00:00", "19:00:00", (1500.0, 60.0))}, "hot": {"name": "two",
        "behaviour": job("18:00:00", "19:00:00", (1400.0, 60.0))}}, "leads": {"h": cords("warm"),
        "i": cords("hot")}})),
    "a heater beside other things on one circuit": (HOUSE, merged(UNIT, {"loads": {"warm": load("router",
        job("18:00:00", "19:00:00", (1500.0, 60.0)), role="heat")}})),
    "a charger too much for its engine": (HOUSE, merged(UNIT, {"generators": {"set": engine(rated_w=1600.0,
        starting_w=2000.0, output="120", receptacles=DUPLEX)}, "stations": {"unit": {"ac_inputs": WALL}},
        "leads": {"ch": charge("generator", "set", outlet="duplex", watts=1800.0)}})),
    "a chain whose first station cannot start the last one's freezer": (HOUSE, merged(CHAIN,
        {"stations": {"far": {"rated_va": 600.0}}})),
    "a chain on a thin cord": (HOUSE, merged(CHAIN, {"leads": {"chain": {"cords": [{"length_m": 5.0,
        "awg": 18}], "to": {"setting_w": 1700.0}}}})),
    "a chain over the cap of its inlet": (HOUSE, merged(CHAIN,
        {"loads": {"router": {"behaviour": {"watts": 1900.0}}}})),
    "a car's outlet over its watts": (HOUSE, merged(UNPLUGGED, {"vehicles": {"car": {**CAR, "most_w": 400.0}},
        "loads": {"router": {"behaviour": {"watts": 380.0}}}, "leads": {"c": cords("fridge", "router",
        "lights", kind="vehicle", id="car", outlet=None, to={"end": "loads", "load_ids": ["fridge", "router",
        "lights"]})}})),
    "a hybrid that may start beside a window": (HOUSE, merged(UNPLUGGED, {"vehicles": {"car": {**CAR,
        "kind": "hybrid", "may_start_engine": "yes"}}, "places": {"yard": {"opening_m": 3.0}},
        "leads": {"c": cords("fridge", "router", "lights", kind="vehicle", id="car", outlet=None,
        to={"end": "loads", "load_ids": ["fridge", "router", "lights"]})}})),
    "two hots on the legs without a link": (HOUSE, merged(TWO, {"stations": {"small": {"receptacles": TT30},
        "far": {"receptacles": TT30}}, "feeds": {"a": inlet(kind="half_leg", inlet="TT-30",
        breaker_spaces=[2]), "b": inlet(kind="half_leg", inlet="TT-30", breaker_spaces=[4])},
        "leads": {"a": lead(id="small", outlet="tt", cords=THREE, feed="a"), "b": lead(id="far", outlet="tt",
        cords=THREE, feed="b")}})),
    "one hot on both legs with all closed": (HOUSE, merged(ONE_HOT, {"feeds": {"inlet": inlet(kind="bridged",
        inlet="TT-30")}, "leads": {"in": TT_LEAD}, "circuits": {"left": {"mark": "room"},
        "right": {"mark": "room"}, "well": {"mark": "keep"}}})),
    "one hot on one leg, a lamp on the other": (HOUSE, merged(ONE_HOT,
        {"feeds": {"inlet": inlet(kind="half_leg", inlet="TT-30", breaker_spaces=[2])},
        "leads": {"in": TT_LEAD}})),
    "two inlets with an interlock each": (HOUSE, merged(UNIT, {"generators": {"set": engine()},
        "feeds": {"two": inlet(breaker_spaces=[10, 12])}, "leads": {"two": lead("generator", "set", feed="two",
        survey={"exclusive": "no"})}})),
    "an automatic set beside a station": (HOUSE, merged(UNIT,
        {"generators": {"set": engine(auto_start=True)}})),
    "a charger on the station's own circuit": (HOUSE, merged(UNIT, {"stations": {"unit": {"ac_inputs": WALL}},
        "leads": {"ch": charge("circuit", "router", to={"when": "always"})}})),
    "a charger on a kitchen circuit with a kettle": (HOUSE, merged(UNIT,
        {"stations": {"unit": {"ac_inputs": WALL, "neutral_in_bypass": "floating"}},
        "leads": {"ch": charge("circuit", "left", to={"when": "grid"})}})),
    "four modules on the coldest morning": (HOUSE, merged(UNIT, MODULES, {"arrays": {"roof": {"series": 4}}})),
    "a bank without a fuse": (HOUSE, merged(UNIT, {"stations": {"unit": {"bank": {**BANK, "fuse_a": None, "fused": "no"}}}})),
    "a flat whose changeover leaves the neutral": (FLAT, merged(FLAT_UNIT, CHANGEOVER,
        {"feeds": {"inlet": {"neutral_switched": "no"}}})),
    "a flat with two class I appliances by cord": (FLAT, merged(FLAT_UNIT, {"loads": {"washer": load("sockets",
        job("10:00:00", "11:00:00", (800.0, 40.0)), protection_class="I")}, "leads": {"c": flat_cords("fridge",
        "router", "light", "washer")}})),
    "an American engine in a flat": (FLAT, merged(FLAT_UNIT, {"generators": {"set": engine()},
        "leads": {"c": flat_cords("fridge", "router", "light") | {"source": {"kind": "generator", "id": "set",
        "outlet": "l14"}}}})),
    "a station on the way out": (HOUSE, merged(UNIT, {"places": {"bench": {"escape_route": "yes"}}})),
    "an adapter without ground, far from the fuse": (HOUSE, merged(SMALL, BY_CORD,
        {"leads": {"c": {"adapters": [{"source_end": "5-20", "load_end": "5-20", "rating_a": 10.0,
        "passes_ground": "no"}]}}})),
    "a pump on a station too small for it": (HOUSE, merged(UNIT, {"circuits": {"well": {"mark": "keep"}},
        "stations": {"unit": {"rated_va": 2400.0}}})),
}  # fmt: skip
#: What must be said of those that are not sound: stops, cautions, and what cannot be judged.
EXPECTED: dict[str, Expected] = {
    "a linked pair by its kit's own outlet": (set(), {"leg-lean"}, set()),
    "an engine of 9 kW with 40 A on a leg": ({"cord-ampacity", "leg-over", "receptacle-over"},
        {"continuous-80"}, set()),
    "a bonded engine on the house's bond": (set(), {"neutral-double-bond"}, set()),
    "a bonded engine behind a ground-fault outlet": ({"neutral-gfci-bond"}, set(), set()),
    "an engine whose neutral nobody knows": (set(), set(), {"neutral-unknown"}),
    "a bond behind a ground-fault outlet, through a station": ({"neutral-gfci-bond"}, set(), set()),
    "a bond through two stations": (set(), {"neutral-double-bond"}, set()),
    "a station that passes on nobody knows what": (set(), set(), {"neutral-unknown"}),
    "a wire of two conductors to a four-wire inlet": ({"neutral-open"}, set(), set()),
    "a shared neutral over two panels": ({"multiwire-split", "neutral-crossed"}, set(), set()),
    "a feeder over its sub-panel's bus": (set(), {"bus-sum"}, set()),
    "two heaters on cords of one outlet": ({"receptacle-over"}, set(), set()),
    "a heater beside other things on one circuit": (set(), {"continuous-80"}, set()),
    "a charger too much for its engine": (set(), {"gen-load"}, set()),
    "a chain whose first station cannot start the last one's freezer": (set(), {"chain-start"}, set()),
    "a chain on a thin cord": ({"adapter-unprotected", "cord-ampacity"}, set(), set()),
    "a chain over the cap of its inlet": ({"leg-over", "passthrough-cap", "total-over"}, {"motor-sag"}, set()),
    "a car's outlet over its watts": ({"leg-over", "start-trip", "total-over"}, {"motor-sag"}, set()),
    "a hybrid that may start beside a window": ({"vehicle-start"}, set(), set()),
    "two hots on the legs without a link": ({"pair-unsynced"}, set(), set()),
    "one hot on both legs with all closed": ({"bridged-240", "bridged-multiwire"}, set(), set()),
    "one hot on one leg, a lamp on the other": (set(), {"blind-spot"}, set()),
    "two inlets with an interlock each": ({"two-inlet-interlock"}, set(), set()),
    "an automatic set beside a station": (set(), set(), {"auto-start-source"}),
    "a charger on the station's own circuit": ({"charge-circuit", "loop-self-charge"}, set(), set()),
    "a charger on a kitchen circuit with a kettle": ({"charge-circuit"}, set(), set()),
    "four modules on the coldest morning": ({"pv-voltage"}, set(), set()),
    "a bank without a fuse": ({"dc-fuse"}, set(), set()),
    "a flat whose changeover leaves the neutral": (set(), {"uk-neutral-switch"}, set()),
    "a flat with two class I appliances by cord": (set(), {"uk-cord-many"}, set()),
    "an American engine in a flat": ({"adapter-unprotected", "volt-freq-mismatch"}, {"joint-misfit"},
        {"leg-over", "start-trip", "total-over"}),
    "a station on the way out": (set(), {"station-place"}, set()),
    "an adapter without ground, far from the fuse": ({"adapter-unprotected", "ground-missing"}, set(), set()),
    "a pump on a station too small for it": (set(), {"start-trip", "motor-sag"}, set()),
}  # fmt: skip


def looked_at(base: Json, patch: Json) -> list[Finding]:
    """Findings of a plan, every question of the survey answered well."""
    document = copy.deepcopy(apply_patch(base, patch))
    for row, key in asked(read_plan(document)):
        part = document["site"] if row["room"] == "site" else document[row["room"]][key]
        part.setdefault("survey", {}).setdefault(row["question_id"], "yes")
    return findings_of(read_plan(document))


@pytest.mark.parametrize("name", PLANS)
def test_all_of_it_and_nothing_more(name: str) -> None:
    found = looked_at(*PLANS[name])
    levels = ("stop", "caution", "cannot_judge")
    told = tuple({f.check_id for f in found if f.level == level} for level in levels)
    assert told == EXPECTED.get(name, (set(), set(), set())), [f"{f.level} {f.check_id}" for f in found]


def test_both_halves_on_the_one_hot_of_a_switch_are_a_stop() -> None:
    """Wherever their spaces are: on one leg of the switch the shared neutral carries the sum."""
    pair: Json = {"circuits": {"left": {"multiwire_partner": "right", "mark": "keep"},
                               "right": {"multiwire_partner": "left", "mark": "keep"}}}  # fmt: skip
    for circuit_ids, found in ((["left", "right"], True), (["fridge", "router"], False)):
        switch: Json = {
            "feeds": {"inlet": {**SIX, "inlet": "TT-30", "circuit_ids": circuit_ids}},
            "leads": {"in": TT_LEAD},
        }
        plan = read_plan(apply_patch(HOUSE, merged(ONE_HOT, merged(pair, switch))))
        stops = [f for f in findings_of(plan) if f.check_id == "multiwire-same-leg"]
        assert bool(stops) == found
        for stop in stops:
            assert stop.level == "stop"
            assert stop.figures[0].value == 2 * (stop.figures[0].limit or 0.0)


def test_the_downstream_carries_on_and_its_load_is_not_left_off() -> None:
    """The first station trips by the start behind it; what started goes on at the one that it hangs on."""
    run = run_outage(
        read_plan(apply_patch(*PLANS["a chain whose first station cannot start the last one's freezer"]))
    )
    trips = [event for event in run.events if event.kind == "trip"]
    assert {event.part for event in trips} == {"far"}
    assert len(trips) > 2
    assert not [event for event in run.events if event.kind == "left_off"]
    assert not [share.name for share in run.loads.values() if share.failed_at_s is not None]
