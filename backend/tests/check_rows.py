"""Rows for the tests of checks: what triggers each, what is just inside, and what is missing.

Rows are merge patches on a demo plan. Limits are those of the catalogue: codes from memory, the rest common
practice with no source.
"""

from check_plans import (
    ALONE,
    BRIDGED,
    CHAIN,
    CORDS,
    DUSTY,
    HUT_PANEL,
    INPUT_20,
    LASTING,
    LINKED_CHARGING,
    NO_CHANGEOVER,
    NO_DRYER,
    OUTLET_20,
    PAIR_ON,
    PLANS,
    SUB,
    SWITCH,
    TWO_ON_INTERNET,
    TWO_POLE_OFF,
    Json,
    array,
    bank,
    beside,
    box_adapter,
    circuits,
    external,
    feed,
    hut,
    lead,
    loads,
    merged,
    recharge,
    second,
    station,
    survey,
    vehicle,
)

from weary_cedar.core.checks.registry import catalogue

#: An iron that was left on, and a house with nobody in it from the first day until long after.
IRON: Json = {
    "name": "iron",
    "circuit_id": "living",
    "role": "hot",
    "behaviour": {"kind": "steady", "watts": 1_100.0},
}
AWAY_LONG: Json = {"outage": {"occupancy": {"gone": [{"at_s": 3_600.0, "for_s": 2_000_000.0}]}}}

Row = tuple[str, str, Json, Json | None, Json | None, str]


def row(
    check_id: str, bad: Json, inside: Json | None = None, missing: Json | None = None, **more: str
) -> Row:
    """`inside` absent: the demo as it is. `missing` absent: nothing that it could lack."""
    level = more.get("level", catalogue()[check_id]["level"])
    return check_id, more.get("plan", "foothill"), bad, inside, missing, level


def asked(check_id: str, room: str, key: str, question: str, base: Json | None = None, **more: str) -> Row:
    """A question of the survey: no, yes, no answer."""
    base = base or {}
    no, yes, none = (merged(base, survey(room, key, question, answer)) for answer in ("no", "yes", None))
    return row(check_id, no, yes, none, **more)


ENGINE: Json = {"kind": "engine", "generator_id": "inverter-2k"}


def away(leaves: str, returns: str) -> Json:
    """Nobody at home from one hour to another; the outage begins at 18 h."""
    window = {"leaves": f"{leaves}:00", "returns": f"{returns}:00"}
    return {"outage": {"occupancy": {"away": [window]}}}


#: Adapters before and after the cords, so that these end in TT-30 on both sides.
BOTH_ENDS_30: list[Json] = [
    {"source_end": "L14-30", "load_end": "TT-30", "rating_a": 30.0, "sits_at": "source"},
    {"source_end": "TT-30", "load_end": "L14-30", "rating_a": 30.0},
]
HUT_CORD: Json = PLANS["hut"]["leads"]["cords"]
ONE_ON_CORDS: Json = {"leads": {"cords": {"to": {"circuit_ids": ["freezer"], "load_ids": []}}}}
OTHER_3600: Json = {"stations": {"other": {"rated_va": 3_600.0}}}
STRONG_PLUG: Json = {"plug": "TT-30", "plug_a": 30.0}
STRIP_15: Json = {"to": {"overcurrent_a": 15.0}}


def behind_adapter(rating_a: float, breaker_a: float | None = None) -> Json:
    """The engine's charging lead, from an outlet of 20 A, with an adapter of a rating and a breaker."""
    adapter = {"source_end": "5-20", "load_end": "5-15", "rating_a": rating_a, "overcurrent_a": breaker_a}
    return {"leads": {"from-generator": {"adapters": [adapter]}}}


#: Two cords at one outlet of 30 A, each with 2,400 W that are kept.
TWO_CORDS: Json = merged(
    CORDS,
    {
        "leads": {
            "second": {
                **PLANS["foothill"]["leads"]["inlet"],
                "to": {"end": "loads", "load_ids": ["internet"]},
            }
        }
    },
    loads(fridge={"behaviour": {"on_w": 2_400.0}}, internet={"behaviour": {"watts": 2_400.0}}),
    station(receptacles={"tt-30": {"kind": "TT-30", "rating_a": 30.0}}),
)
#: Only a refrigerator by cord: off for 27.9 of every 45 minutes.
FRIDGE_ALONE: Json = merged(
    CORDS, lead(to={"circuit_ids": ["fridge"]}), loads(fridge={"behaviour": {"defrost": None}})
)
FREEZER_ALONE: Json = merged(CORDS, lead(to={"circuit_ids": ["freezer"]}))
#: The generator charges again, but only when it is nearly over.
LATE_CHARGE: Json = {
    **PLANS["foothill"]["leads"]["from-generator"],
    "to": {**PLANS["foothill"]["leads"]["from-generator"]["to"], "setting_w": 100.0},
}


#: The generator charges the station, which passes its 120 V through to the panel.
PASSING: Json = station(ac_inputs={"wall-120": {"passes_through": True}})
BONDED_BEHIND: Json = merged(
    PASSING,
    {"generators": {"inverter-2k": {"neutral": "bonded"}}},
    {"leads": {"from-generator": {"source": {"outlet": "duplex"}}}},
)
PLAIN_OUTLET: Json = {"generators": {"inverter-2k": {"receptacles": {"duplex": {"gfci": "no"}}}}}

#: Kettle and plate of one circuit at the same hour.
TOGETHER: Json = merged(
    station(rated_va=12_000.0),
    loads(
        kettle={
            "behaviour": {
                "earliest": "19:00:00",
                "latest": "19:01:00",
                "steps": [{"watts": 1250.0, "minutes": 60.0}],
            }
        },
        induction={
            "behaviour": {
                "earliest": "19:00:00",
                "latest": "19:01:00",
                "steps": [{"watts": 1250.0, "minutes": 60.0}],
            }
        },
    ),
)

ROWS: list[Row] = [
    # ------------------------------------------------------------ feeds
    row("feed-no-transfer", feed(kind="no_transfer"), feed(kind="transfer_panel", breaker_spaces=[])),
    row("feed-male-plug", feed(kind="receptacle_backfeed", breaker_spaces=[])),
    row("feed-two-sources", second(kind="hybrid", breaker_spaces=[]),
        second(kind="hybrid", breaker_spaces=[], survey={"exclusive": "yes"})),
    row("two-inlet-interlock", second(), second(survey={"exclusive": "yes"})),
    row("feed-upstream", merged(SUB, survey("panels", "sub", "own-main-interlocked", "no")),
        merged(SUB, survey("panels", "sub", "own-main-interlocked", "yes")), SUB),
    asked("panel-no-main", "panels", "main", "single-main"),
    row("auto-start-source", merged(second(kind="automatic", breaker_spaces=[]),
        {"generators": {"inverter-2k": {"locked_out": "no"}}}),
        merged(second(kind="automatic", breaker_spaces=[]), {"generators": {"inverter-2k": {"locked_out": "yes"}}})),
    row("auto-start-source", {"generators": {"inverter-2k": {"auto_start": True, "locked_out": "no"}}},
        {"generators": {"inverter-2k": {"auto_start": True, "locked_out": "yes"}}},
        {"generators": {"inverter-2k": {"auto_start": True}}}),
    asked("pv-grid-tie-island", "arrays", "ground", "breaker-locked",
          array(kind="grid_tied", station_id=None, input_id=None)),
    asked("pv-grid-tie-island", "site", "", "nothing-grid-tied"),
    asked("feed-hold-down", "feeds", "inlet", "retainer"),
    asked("breaker-line-load", "feeds", "inlet", "no-line-load"),
    asked("interlock-unlisted", "feeds", "inlet", "kit-listed"),
    asked("interlock-unlisted", "feeds", "inlet", "kit-bought", level="stop"),
    asked("feed-sign", "feeds", "inlet", "sign"),
    row("auto-capacity", feed(kind="automatic", breaker_spaces=[]),
        feed(kind="automatic", breaker_spaces=[], survey={"load-management": "yes"})),
    asked("xfer-service-rated", "feeds", "inlet", "service-rated", feed(kind="transfer_panel", breaker_spaces=[])),
    row("xfer-afci", merged(SWITCH, circuits(hall={"protection": "afci"})), SWITCH),
    row("multiwire-split", merged(SWITCH, feed(circuit_ids=["counter-left"])),
        merged(SWITCH, feed(circuit_ids=["counter-left", "counter-right"]))),
    row("multiwire-same-leg", circuits(counter_right={"spaces": [13]}, bath={"spaces": [11]})),
    row("multiwire-gfci", circuits(counter_left={"protection": "gfci"}), circuits(internet={"protection": "gfci"})),
    row("multiwire-same-leg", circuits(counter_left={"multiwire_partner": None}, counter_right={"spaces": [13]},
        bath={"spaces": [11]})),
    row("multiwire-split", merged(SWITCH, circuits(counter_right={"multiwire_partner": None}),
        feed(circuit_ids=["counter-right"])), merged(SWITCH, feed(circuit_ids=["counter-left", "counter-right"]))),
    asked("multiwire-tie", "circuits", "counter-left", "tied"),
    asked("neutral-crossed", "panels", "main", "own-neutrals"),
    row("neutral-crossed", merged(SUB, circuits(counter_left={"panel_id": "sub", "spaces": [5]}, dryer={"mark": "room"})), SUB),
    asked("subpanel-rebond", "panels", "sub", "neutral-separate", SUB),
    row("loop-self-charge", recharge(from_id="fridge", when="always"), recharge(from_id="fridge", when="grid")),
    row("compressor-wait", {"outage": {"changeover_after_s": 299.0}}, {"outage": {"changeover_after_s": 300.0}}),
    row("left-on-heat", merged(feed(kind="automatic", breaker_spaces=[]), away("17:00", "20:00")),
        merged(feed(kind="automatic", breaker_spaces=[]), away("08:00", "12:00"))),
    row("left-on-heat", merged(feed(kind="automatic", breaker_spaces=[]), away("17:00", "20:00")), away("17:00", "20:00")),
    # ------------------------------------------------------------ neutral
    row("neutral-floating-switched", feed(neutral_switched="yes"),
        merged(feed(neutral_switched="yes"), station(neutral="bonded"))),
    row("neutral-double-bond", station(neutral="bonded")),
    row("neutral-gfci-bond", station(neutral="bonded", receptacles={"l14-30": {"gfci": "yes"}})),
    row("neutral-unknown", station(neutral="changes"), station(neutral="floating"),
        station(neutral="unknown"), level="cannot_judge"),
    row("neutral-unknown", station(neutral="switchable"),
        merged(station(neutral="switchable"), survey("leads", "inlet", "neutral-set", "yes")),
        merged(station(neutral="switchable"), survey("leads", "inlet", "neutral-set", "no")), level="cannot_judge"),
    row("neutral-none", {}, {"stations": {"near": {"neutral": "bonded"}, "far": {"neutral": "bonded"}}}, plan="hut"),
    row("neutral-none", {"stations": {"near": {"neutral": "bonded"}}},
        {"stations": {"near": {"neutral": "bonded", "neutral_in_bypass": "bonded"}}}, plan="hut"),
    row("neutral-parallel", recharge(), recharge(kind="generator", from_id="inverter-2k", when="strategy"),
        merged(recharge(), station(neutral_in_bypass="unknown"))),
    row("neutral-parallel", merged(recharge(), circuits(dryer={"protection": "gfci"})),
        merged(recharge(), station(neutral_in_bypass="floating")), level="stop"),
    row("neutral-gfci-bond", BONDED_BEHIND, merged(BONDED_BEHIND, station(neutral_in_bypass="floating"))),
    row("neutral-double-bond", merged(BONDED_BEHIND, PLAIN_OUTLET),
        merged(BONDED_BEHIND, PLAIN_OUTLET, station(ac_inputs={"wall-120": {"passes_through": False}}))),
    row("neutral-unknown", merged(BONDED_BEHIND, {"generators": {"inverter-2k": {"receptacles": {"duplex": {"gfci": "unknown"}}}}}),
        PASSING, level="cannot_judge"),
    row("neutral-unknown", merged(BONDED_BEHIND, station(neutral_in_bypass="unknown")),
        merged(PASSING, station(neutral_in_bypass="unknown")), level="cannot_judge"),
    row("bond-plug", lead(bonding_plug="yes"), lead(bonding_plug="no"), merged(CORDS, lead(bonding_plug="yes"))),
    # ------------------------------------------------------------ sources
    row("gen-outdoors", {"places": {"woodshed": {"opening_m": 6.0}}}, {"places": {"woodshed": {"opening_m": 6.096}}},
        {"places": {"woodshed": {"opening_m": None}}}),
    row("vehicle-start", vehicle(kind="hybrid", may_start_engine="yes", place_id="garage-bench"),
        vehicle(kind="hybrid", may_start_engine="yes"), vehicle(kind="hybrid", place_id="garage-bench")),
    row("vehicle-start", merged(vehicle(kind="hybrid", may_start_engine="yes"), {"places": {"meadow": {"opening_m": 2.0}}}),
        merged(vehicle(kind="hybrid", may_start_engine="yes"), {"places": {"meadow": {"opening_m": 6.1}}})),
    row("vehicle-12v", vehicle(outlet="socket_12v", draws_w=165.0, socket_fuse_a=15.0, socket_v=13.6),
        vehicle(outlet="socket_12v", draws_w=163.0, socket_fuse_a=15.0, socket_v=13.6)),
    row("vehicle-12v", vehicle(outlet="battery_12v", fuse_at_battery="yes", draws_w=601.0, supply_12v_w=600.0),
        vehicle(outlet="battery_12v", fuse_at_battery="yes", draws_w=600.0, supply_12v_w=600.0), level="caution"),
    asked("gen-refuel", "generators", "inverter-2k", "cool-refuel"),
    row("vehicle-12v", vehicle(outlet="socket_12v", draws_w=145.0, socket_fuse_a=15.0),
        vehicle(outlet="socket_12v", draws_w=144.0, socket_fuse_a=15.0), vehicle(outlet="socket_12v", draws_w=90.0)),
    row("neutral-open", feed(inlet="6-50"), feed(inlet="14-50"), feed(inlet="homemade")),
    row("neutral-open", feed(wire={"conductors": 2}), feed(wire={"conductors": 3})),
    row("neutral-open", {"feeds": {"feed": {"inlet": "6-50"}}}, {}, {"feeds": {"feed": {"inlet": "homemade"}}}, plan="canal"),
    row("ground-missing", feed(inlet="10-50"), feed(inlet="14-50"), feed(inlet="homemade")),
    row("ground-missing", feed(inlet="10-30"), feed(inlet="14-30"),
        lead(adapters=[{"source_end": "L14-30", "load_end": "14-30", "rating_a": 30.0, "passes_ground": "unknown"}])),
    row("cord-conductors", lead(cords=[{"length_m": 7.6, "awg": 10, "conductors": 3}])),
    row("cord-conductors", lead(cords=[{"length_m": 7.6, "awg": 10, "conductors": 2}], adapters=BOTH_ENDS_30),
        lead(cords=[{"length_m": 7.6, "awg": 10, "conductors": 3}], adapters=BOTH_ENDS_30)),
    row("adapter-unprotected", lead(adapters=[{"source_end": "L14-30", "load_end": "L14-30", "rating_a": 20.0}]),
        lead(adapters=[{"source_end": "L14-30", "load_end": "L14-30", "rating_a": 20.0, "overcurrent_a": 20.0}])),
    row("adapter-unprotected", lead(cords=[{"length_m": 5.0, "awg": 12}]), lead(cords=[{"length_m": 5.0, "awg": 10}])),
    row("adapter-unprotected", merged(OUTLET_20, lead(cords=[{"length_m": 5.0, "awg": 18}])),
        merged(OUTLET_20, lead(cords=[{"length_m": 5.0, "awg": 16}]))),
    row("adapter-unprotected", lead(cords=[{"length_m": 5.0, "awg": 14}], adapters=[box_adapter("load")]),
        lead(cords=[{"length_m": 5.0, "awg": 14}], adapters=[box_adapter("source")])),
    asked("parallel-cords", "leads", "inlet", "one-outlet"),
    row("pair-unsynced", merged(second(kind="half_leg"), feed(kind="half_leg"))),
    row("pair-gfci", {"stations": {"left": {"receptacles": {"l5-30": {"gfci": "yes"}}}}}, None,
        {"stations": {"left": {"receptacles": {"l5-30": {"gfci": "unknown"}}}}}, plan="canal"),
    row("inverter-not-groundable", station(isolated="unknown"), merged(CORDS, station(isolated="no"))),
    row("volt-freq-mismatch", station(hertz=50), station(hertz=60)),
    row("volt-freq-mismatch", station(output="120"), merged(BRIDGED, station(output="120"))),
    row("volt-freq-mismatch", {"feeds": {"feed": {"inlet": "L5-30", "kind": "transfer_panel", "circuit_ids": []}}}, {},
        plan="canal"),
    row("volt-freq-mismatch", merged(SWITCH, station(output="120"), feed(circuit_ids=["well"])),
        merged(SWITCH, station(output="120"))),
    row("volt-freq-mismatch", merged(SWITCH, station(output="120"), feed(circuit_ids=["counter-left", "counter-right"])),
        merged(SWITCH, feed(circuit_ids=["counter-left", "counter-right"]))),
    asked("system-208", "site", "", "not-208"),
    asked("legs-unverified", "site", "", "legs-measured"),
    asked("panel-condition", "panels", "main", "dry-and-cool"),
    row("wet-no-gfci", loads(freezer={"place_id": "meadow"}),
        merged(loads(freezer={"place_id": "meadow"}), circuits(freezer={"protection": "gfci"}))),
    row("wet-no-gfci", merged(CORDS, loads(furnace={"place_id": "meadow"})),
        merged(CORDS, loads(furnace={"place_id": "meadow"}), station(receptacles={"l14-30": {"gfci": "yes"}}))),
    asked("no-volt-gfci", "loads", "freezer", "resets-itself", circuits(freezer={"protection": "gfci"})),
    asked("cord-route", "leads", "inlet", "cord-in-the-open"),
    asked("cord-coiled", "leads", "inlet", "cord-unwound"),
    row("furnace-cord", CORDS, merged(CORDS, lead(to={"circuit_ids": ["fridge"]}))),
    asked("polarity", "leads", "inlet", "polarity-checked", CORDS),
    row("bridged-multiwire", merged(BRIDGED, PAIR_ON), merged(BRIDGED, circuits(counter_right={"mark": "off"}))),
    row("bridged-240", BRIDGED, merged(BRIDGED, TWO_POLE_OFF), level="stop"),
    row("bridged-neutral", merged(BRIDGED, {"panels": {"main": {"neutral_bus_a": 29.0}}}),
        merged(BRIDGED, {"panels": {"main": {"neutral_bus_a": 31.0}}})),
    row("half-leg-backfeed", feed(kind="half_leg"), merged(feed(kind="half_leg"), TWO_POLE_OFF)),
    asked("medical", "loads", "chargers", "second-source", loads(chargers={"role": "life_support"})),
    asked("medical", "loads", "chargers", "second-source", loads(chargers={"role": "sleep_apnoea"}), level="caution"),
    row("station-place", {"places": {"garage-bench": {"hottest_c": 41.0}}}, {"places": {"garage-bench": {"hottest_c": 40.0}}}),
    row("station-place", {"places": {"garage-bench": {"coldest_c": -10.5}}}, {"places": {"garage-bench": {"coldest_c": -10.0}}}),
    asked("station-place", "stations", "station", "air-around"),
    row("station-place", {"places": {"garage-bench": {"kind": "bedroom"}}}, None, station(place_id=None)),
    row("fault-current", {}, {"feeds": None, "leads": None}),
    # ------------------------------------------------------------ limits
    row("leg-over", loads(internet={"behaviour": {"watts": 2900.0}}), level="stop"),
    row("leg-over", circuits(counter_left={"mark": "keep"}, bath={"mark": "keep"}, garage={"mark": "keep"})),
    row("leg-over", {"loads": {"aquarium-heater": {"behaviour": {"on_w": 3500.0}}}}, {}, plan="canal", level="stop"),
    row("leg-over", circuits(counter_left={"mark": "keep"}, bath={"mark": "keep"}, garage={"mark": "keep"}), {},
        station(output="120"), level="caution"),
    row("total-over", {"stations": {"left": {"rated_va": 300.0, "leg_va": 3000.0}, "right": {"rated_va": 300.0}}}, {},
        {"stations": {"left": {"output": "230"}}}, plan="canal", level="stop"),
    row("start-trip", {"loads": {"aquarium-heater": {"start": {"va": 6000.0, "seconds": 0.5}}}}, {}, plan="canal"),
    row("total-over", merged(station(leg_va=6000.0, rated_va=6000.0, receptacles={"l14-30": {"rating_a": 30.0}}),
        loads(internet={"behaviour": {"watts": 2900.0}}, hall={"behaviour": {"watts": 2900.0}})), level="stop"),
    row("start-trip", loads(freezer={"start": {"va": 9000.0, "seconds": 0.4}})),
    row("start-trip", loads(freezer={"start": {"va": 4600.0, "seconds": 0.4}}), level="caution"),
    row("motor-sag", loads(freezer={"locked_rotor_a": 50.0}), loads(freezer={"locked_rotor_a": 10.0})),
    row("motor-sag", loads(well={"start": {"seen_on": []}})),
    row("motor-sag", loads(freezer={"start": None, "locked_rotor_a": 50.0}), loads(freezer={"start": None})),
    row("receptacle-over", {"generators": {"inverter-2k": {"receptacles": {"other": {"kind": "5-15", "rating_a": 15.0}}}}},
        {}, level="cannot_judge"),
    row("motor-sag", loads(well={"start": {"seen_on": [{"kind": "generator", "id": "inverter-2k"}]}})),
    row("chain-start", merged(CHAIN, loads(well={"start": {"va": 5400.0, "seconds": 0.6}})),
        merged(CHAIN, {"stations": {"other": {"rated_va": 9000.0}}})),
    row("chain-start", merged(CHAIN, OTHER_3600, loads(well={"start": {"va": 4_600.0, "seconds": 0.6}})),
        merged(CHAIN, OTHER_3600, loads(well={"start": {"va": 3_000.0, "seconds": 0.6}}))),
    row("receptacle-over", TWO_CORDS,
        merged(TWO_CORDS, {"leads": {"inlet": {"to": STRONG_PLUG}, "second": {"source": {"outlet": "tt-30"}, "to": STRONG_PLUG}}}),
        station(receptacles={"l14-30": {"kind": "own make"}})),
    row("receptacle-over", station(receptacles={"l14-30": {"rating_a": 40.0}}), None,
        station(receptacles={"l14-30": {"kind": "own make"}})),
    row("continuous-80", loads(internet={"behaviour": {"watts": 1500.0}, "power_factor": 1.0}),
        loads(internet={"behaviour": {"watts": 1500.0}, "power_factor": 1.0, "continuous": False})),
    row("continuous-80", TWO_ON_INTERNET, merged(TWO_ON_INTERNET, circuits(internet={"breaker_a": 20.0}))),
    row("continuous-80", LASTING, merged(LASTING, feed(breaker_a=40.0), station(receptacles={"l14-30": {"kind": "14-50",
        "rating_a": 50.0}}))),
    row("continuous-80", merged(LASTING, feed(breaker_a=40.0)), merged(LASTING, feed(breaker_a=40.0),
        station(receptacles={"l14-30": {"continuous": "yes"}}))),
    row("charge-circuit", merged(NO_DRYER, recharge(setting_w=7300.0)),
        merged(NO_DRYER, recharge(setting_w=5700.0)), level="stop"),
    row("charge-circuit", merged(NO_DRYER, recharge(setting_w=7078.0)), level="caution"),
    row("charge-circuit", recharge(setting_w=3000.0), recharge(setting_w=1500.0), level="stop"),
    row("charge-circuit", recharge(setting_w=1750.0), recharge(setting_w=1500.0), level="caution"),
    row("inlet-feed", feed(inlet_a=20.0), feed(inlet_a=50.0)),
    row("adapter-unprotected", TWO_CORDS, merged(TWO_CORDS, {"leads": dict.fromkeys(("inlet", "second"), STRIP_15)})),
    row("cord-ampacity", behind_adapter(10.0, 10.0), behind_adapter(15.0, 15.0)),
    row("adapter-unprotected", behind_adapter(15.0), behind_adapter(15.0, 15.0)),
    row("adapter-unprotected",
        merged(behind_adapter(15.0), {"leads": {"from-generator": {"to": {"setting_w": 1_400.0}}}}), behind_adapter(20.0), level="caution"),
    row("bus-sum", merged(feed(kind="transfer_panel", breaker_spaces=[], breaker_a=50.0), {"panels": {"main": {"bus_a": 29.0}}}),
        merged(feed(kind="transfer_panel", breaker_spaces=[], breaker_a=50.0), {"panels": {"main": {"bus_a": 30.0}}})),
    row("inlet-feed", feed(wire={"length_m": 5.0, "awg": 12}), feed(wire={"length_m": 5.0, "awg": 10}), feed(wire=None)),
    row("cord-ampacity", lead(cords=[{"length_m": 5.0, "awg": 14}]), lead(cords=[{"length_m": 5.0, "awg": 12}])),
    row("cord-ampacity", {"leads": {"from-generator": {"cords": [{"length_m": 5.0, "awg": 18}]}}},
        {"leads": {"from-generator": {"cords": [{"length_m": 5.0, "awg": 16}]}}}),
    row("cord-drop", lead(cords=[{"length_m": 40.0, "awg": 12}])),
    row("cord-drop", merged(lead(cords=[{"length_m": 90.0, "awg": 12}]), loads(freezer={"plate_volts": 115.0,
        "locked_rotor_a": 40.0})), loads(freezer={"plate_volts": 115.0, "locked_rotor_a": 40.0}), level="stop"),
    row("cord-drop", merged(circuits(garage={"length_m": 60.0,
        "awg": 14}), loads(door={"behaviour": {"watts": 900.0}})), merged(circuits(garage={"length_m": 60.0, "awg": 6}),
        loads(door={"behaviour": {"watts": 900.0}}))),
    row("cord-drop", {"leads": {"from-generator": {"cords": [{"length_m": 30.0, "awg": 14}]}}},
        {"leads": {"from-generator": {"cords": [{"length_m": 10.0, "awg": 10}]}}}),
    row("cord-drop", merged(loads(well={"plate_volts": 230.0}), circuits(well={"length_m": 300.0, "awg": 12})),
        merged(loads(well={"plate_volts": 230.0}), circuits(well={"length_m": 30.0, "awg": 10})), level="stop"),
    row("wire-breaker", circuits(well={"breaker_a": 30.0, "breaker_by_plate": "no"}),
        circuits(well={"breaker_a": 30.0, "breaker_by_plate": "yes"})),
    row("wire-breaker", circuits(well={"breaker_a": 30.0, "breaker_by_plate": "unknown"}),
        circuits(well={"breaker_a": 20.0, "breaker_by_plate": "unknown"})),
    row("continuous-80", TOGETHER, circuits(counter_left={"breaker_a": 40.0})),
    row("cord-joints", lead(cords=[{"length_m": 5.0, "awg": 10}, {"length_m": 5.0, "awg": 10}])),
    row("joint-misfit", feed(inlet="14-30"), merged(feed(inlet="14-30"),
        lead(adapters=[{"source_end": "L14-30", "load_end": "14-30", "rating_a": 30.0}]))),
    row("joint-misfit", lead(adapters=[box_adapter("load"), {**box_adapter("source"), "load_end": "14-50"}]),
        merged(station(receptacles={"l14-30": {"kind": "5-20"}}), feed(inlet="5-15"))),
    row("wire-breaker", circuits(internet={"awg": 14, "breaker_a": 20.0})),
    row("wire-breaker", feed(wire={"length_m": 5.0, "awg": 12}),
        merged(SWITCH, feed(wire={"length_m": 5.0, "awg": 12})), level="stop"),
    row("wire-breaker", circuits(internet={"awg": 14, "breaker_a": 20.0}),
        circuits(internet={"awg": 14, "breaker_a": 20.0, "breaker_by_plate": "yes"})),
    row("wire-breaker", {"circuits": {"radio": {"mm2": 1.5, "breaker_a": 25.0}}},
        {"circuits": {"radio": {"mm2": 1.5, "breaker_a": 20.0}}},
        {"circuits": {"radio": {"mm2": 2.5, "breaker_a": 32.0}}}, plan="hut"),
    row("wire-breaker", feed(wire={"length_m": 5.0, "awg": 10, "metal": "aluminium"}), feed(wire={"length_m": 5.0, "awg": 8,
        "metal": "aluminium"}), level="stop"),
    row("wire-breaker", feed(breaker_a=50.0, wire={"length_m": 5.0, "awg": 8}),
        feed(breaker_a=50.0, wire={"length_m": 5.0, "awg": 8, "terminals_c": 75}), level="stop"),
    row("wire-breaker", circuits(well={"awg": 8, "breaker_a": 50.0, "breaker_by_plate": "no"}),
        circuits(well={"awg": 8, "breaker_a": 50.0, "breaker_by_plate": "no", "terminals_c": 75})),
    row("wire-breaker", circuits(well={"awg": 8, "breaker_a": 50.0, "breaker_by_plate": "no"}),
        circuits(well={"awg": 8, "breaker_a": 40.0, "breaker_by_plate": "no"})),
    row("bus-sum", {"panels": {"main": {"neutral_bus_a": 29.0}}}, {"panels": {"main": {"neutral_bus_a": 30.0}}}),
    row("bus-sum", merged(feed(kind="transfer_panel", breaker_spaces=[]), {"panels": {"main": {"bus_a": 25.0, "main_a": 25.0}}}),
        merged(feed(kind="transfer_panel", breaker_spaces=[]), {"panels": {"main": {"bus_a": 30.0, "main_a": 30.0}}})),
    row("return-heat", merged(loads(iron=IRON), AWAY_LONG), loads(iron=IRON)),
    row("return-heat", merged(loads(iron=IRON), AWAY_LONG), merged(loads(iron=IRON | {"role": None}), AWAY_LONG)),
    row("bus-sum", {"panels": {"main": {"neutral_bus_a": 29.0}}},
        merged(SWITCH, {"panels": {"main": {"neutral_bus_a": 29.0}}})),
    row("bus-sum", merged(SUB, circuits(dryer={"mark": "room"}), {"panels": {"sub": {"bus_a": 25.0}}}),
        merged(SUB, circuits(dryer={"mark": "room"}), {"panels": {"sub": {"bus_a": 60.0}}})),
    row("leg-lean", circuits(counter_left={"mark": "off"}, counter_right={"mark": "room"}, office={"mark": "off"})),
    row("leg-lean", {}, plan="canal", level="caution"),
    row("gen-waveform", station(refuses=["inverter"]), station(refuses=["conventional"])),
    row("gen-load", {"leads": {"from-generator": {"to": {"setting_w": 1801.0}}}},
        {"leads": {"from-generator": {"to": {"setting_w": 1800.0}}}}),
    row("gen-load", {"generators": {"inverter-2k": {"healthy_minimum_share": 0.9}}}),
    row("passthrough-cap", station(ac_inputs={"wall-120": {"passes_through": True}}),
        station(ac_inputs={"wall-120": {"passes_through": True, "over_cap": "assist"}})),
    row("passthrough-none", station(output_while_charging=False),
        merged(station(output_while_charging=False), {"leads": {"from-generator": {"to": {"when": "grid"}}}})),
    row("passthrough-none", station(receptacles={"l14-30": {"live_while_charging": "no"}}),
        station(receptacles={"l14-30": {"live_while_charging": "yes"}})),
    row("passthrough-none", LINKED_CHARGING, merged(LINKED_CHARGING, {"links": {"pair": {"ac_charging": "allowed"}}}),
        merged(LINKED_CHARGING, {"links": {"pair": {"ac_charging": "unknown"}}}), plan="canal"),
    row("chain-not-full", merged(CHAIN, {"outage": {"start_charge_percent": {"station": 94.0}}}),
        merged(CHAIN, {"outage": {"start_charge_percent": {"station": 95.0}}})),
    row("batt-cold", {"places": {"garage-bench": {"coldest_c": -1.0}}}, {"places": {"garage-bench": {"coldest_c": 0.0}}},
        {"places": {"garage-bench": {"coldest_c": None}}}),
    row("batt-cold", merged({"places": {"garage-bench": {"coldest_c": -1.0}}}, station(chemistry="nmc")),
        merged({"places": {"garage-bench": {"coldest_c": -1.0}}}, station(chemistry="lead_sealed"))),
    row("batt-cold", merged({"places": {"garage-bench": {"coldest_c": -1.0}}}, bank(low_temperature_lockout="no")),
        level="stop"),
    # ------------------------------------------------------------ solar
    row("pv-voltage", array(series=12), array(series=10), {"site": {"design_low_c": None}}),
    row("pv-voltage", array(series=11), array(series=10), level="caution"),
    row("pv-voltage", array(series=12), array(series=9), merged(array(module={"voc_percent_per_k": None}),
        {"site": {"design_low_c": -41.0}})),
    row("pv-window", array(series=2), array(series=3)),
    row("pv-voltage", external(in_series=11, equal_charge="yes"), external(in_series=10, equal_charge="yes"),
        external(input_id=None)),
    row("pv-voltage", array(series=12), array(series=10), array(input_id=None)),
    row("pv-window", external(), external(in_series=2, equal_charge="yes")),
    row("pv-clip", array(series=10)),
    row("pv-isc", {"stations": {"station": {"dc_inputs": {"sun-high": {"short_circuit_a": 16.9}}}}},
        {"stations": {"station": {"dc_inputs": {"sun-high": {"short_circuit_a": 17.0}}}}}, level="stop"),
    row("pv-isc", {"stations": {"station": {"dc_inputs": {"sun-high": {"short_circuit_a": None}}}}},
        {"stations": {"station": {"dc_inputs": {"sun-high": {"short_circuit_a": None, "most_a": 17.0}}}}}),
    row("pv-parallel-fuse", array(parallel=3, string_fuses="no"), array(parallel=3, string_fuses="yes"),
        array(parallel=3)),
    asked("pv-polarity-shared", "arrays", "ground", "polarity-strings"),
    row("pv-polarity-shared", beside(series=3), beside()),
    row("pv-polarity-shared", external(), {}),
    row("pv-isc", merged(beside(), INPUT_20), INPUT_20, level="stop"),
    row("pv-parallel-fuse", merged(beside(parallel=2, string_fuses="no"), array(string_fuses="no")), beside()),
    asked("pv-live-open", "arrays", "ground", "open-dead"),
    row("pv-roof-divert", array(kind="roof")),
    row("pv-lead", array(lead_m=60.0, lead_awg=14)),
    # ------------------------------------------------------------ direct current
    row("dc-cable", bank(cable_a=170.0), bank(cable_a=172.0), bank(cable_a=None)),
    row("dc-fuse", bank(fuse_a=None, fused="no"), bank(), bank(fuse_a=None)),
    row("dc-fuse", bank(fuse_a=None, fused="no"), bank(), bank(fuse_for_dc="unknown")),
    row("dc-fuse", bank(fuse_a=201.0)),
    row("dc-fuse", bank(fuse_interrupts_a=5_999.0), bank(fuse_interrupts_a=6_000.0), bank(fault_a=None)),
    row("dc-fuse", bank(parallel=2, fuse_per_battery="no", joined_apart_v=0.1)),
    row("dc-bms", bank(bms_a=136.0), bank(bms_a=138.0), bank(bms_a=None)),
    row("dc-bms", bank(in_series=5, most_in_series=4), bank(in_series=4, most_in_series=4)),
    row("dc-parallel-delta", bank(parallel=2, fuse_per_battery="yes", joined_apart_v=0.41),
        bank(parallel=2, fuse_per_battery="yes", joined_apart_v=0.4), bank(parallel=2, fuse_per_battery="yes")),
    row("batt-vent", merged(station(chemistry="lead_flooded"), bank(closed_room="yes")),
        merged(station(chemistry="lead_flooded"), bank()),
        merged(station(chemistry="lead_flooded"), bank(closed_room="unknown"))),
    row("dc-source-fuse", vehicle(outlet="battery_12v", fuse_at_battery="no"),
        vehicle(outlet="battery_12v", fuse_at_battery="yes"), vehicle(outlet="battery_12v")),
    row("dc-source-fuse", external(fuse_at_battery="no"), external(), external(fuse_at_battery="unknown")),
    row("dc-parallel-delta", external(in_series=2, equal_charge="no"), external(in_series=2, equal_charge="yes"),
        external(in_series=2)),
    row("dc-precharge", bank(precharge="no"), bank(), bank(precharge="unknown")),
    row("lead-acid-rest", merged(station(chemistry="lead_sealed"), bank()),
        merged(station(chemistry="lead_sealed", cell_wh=900_000.0), bank())),
    # ------------------------------------------------------------ 230 V
    row("uk-earth-island", hut(survey={"own-electrode": "no"}), hut(), hut(survey={"own-electrode": None}), plan="hut"),
    row("uk-neutral-switch", hut(neutral_switched="no"), hut(), hut(neutral_switched="unknown"), plan="hut"),
    row("uk-neutral-switch", merged(hut(neutral_switched="no"), {"site": {"earthing": "tn_s"}}), plan="hut",
        inside=hut(), level="caution"),
    row("uk-float-feed", hut(survey={"island-bond": "no"}), hut(), hut(survey={"island-bond": None}), plan="hut"),
    row("uk-cord-many", {}, {"leads": {"cords": {"to": {"circuit_ids": ["freezer"], "load_ids": []}}}}, plan="hut"),
    row("uk-cord-many", loads(radio={"protection_class": "I"}, freezer={"protection_class": "I"}),
        {"loads": {key: {"protection_class": "II"} for key in PLANS["hut"]["loads"]}}, plan="hut"),
    row("uk-cord-many", merged(ONE_ON_CORDS, {"leads": {"more": {**HUT_CORD, "to": {"end": "loads", "circuit_ids": ["radio"]}}}}),
        ONE_ON_CORDS, plan="hut"),
    row("uk-13a", merged({"stations": {"near": {"receptacles": {"front": {"kind": "BS 1363", "rating_a": 13.0}}}}},
        loads(radio={"behaviour": {"watts": 2310.0}, "power_factor": 1.0})),
        merged({"stations": {"near": {"receptacles": {"front": {"kind": "BS 1363", "rating_a": 13.0}}}}},
        loads(radio={"behaviour": {"watts": 2200.0}, "power_factor": 1.0})), plan="hut"),
    asked("uk-rcd-direction", "feeds", "board", "rcd-both-ways", hut(kind="interlock_inlet", breaker_spaces=[11]),
          plan="hut"),
    row("fault-current", merged(HUT_PANEL, {"circuits": {key: {"protection": "none"} for key in PLANS["hut"]["circuits"]}}),
        {}, plan="hut", level="stop"),
    row("fault-current", merged(HUT_PANEL, {"circuits": {"radio": {"protection": "none"}}}), {}, plan="hut", level="stop"),
    # ------------------------------------------------------------ people
    row("blind-spot", {}, {"circuits": {"kitchen": {"mark": "off"}}}, plan="hut"),
    row("needs-sine", merged(loads(internet={"needs_sine": True}), station(waveform="modified")),
        loads(internet={"needs_sine": True})),
    row("needs-no-gap", loads(internet={"largest_gap_ms": 20.0}),
        merged(loads(internet={"largest_gap_ms": 20.0}), {"outage": {"changeover_after_s": 0.0}})),
    row("needs-no-gap", merged(NO_CHANGEOVER, station(receptacles={"l14-30": {"transfer_gap_ms": 30.0}})),
        merged(NO_CHANGEOVER, station(receptacles={"l14-30": {"transfer_gap_ms": 0.0}}))),
    row("idle-cutout", merged(station(idle_cutout={"threshold_w": 10.0, "after_s": 3_600.0}), FREEZER_ALONE),
        merged(station(idle_cutout={"threshold_w": 10.0, "after_s": 7_200.0}), FREEZER_ALONE)),
    row("no-restart", merged(ALONE, station(auto_restart="no"), {"arrays": {"ground": DUSTY}}), merged(ALONE, station(auto_restart="yes"), {"arrays": {"ground": DUSTY}})),
    row("idle-cutout", merged(station(idle_cutout={"threshold_w": 10.0, "after_s": 1_500.0}), FRIDGE_ALONE),
        merged(station(idle_cutout={"threshold_w": 10.0, "after_s": 1_800.0}), FRIDGE_ALONE)),
    row("no-restart", merged(ALONE, station(auto_restart="no"), {"leads": {"from-generator": LATE_CHARGE}}),
        merged(ALONE, station(auto_restart="no"))),
    row("restart-hazard", loads(door={"role": "tool"}), loads(door={"role": "tool", "drops_on_dip": True})),
    row("rule-never", {"strategy": {"rules": [{"kind": "shed", "circuit_ids": ["dryer"]}]}},
        {"strategy": {"rules": [{"kind": "shed", "circuit_ids": ["office"]}]}}),
    row("rule-never", {"strategy": {"rules": [ENGINE, ENGINE]}}, {"strategy": {"rules": [ENGINE]}}),
    row("rule-never", merged(station(cutoff_percent=20.0, restart_percent=25.0), {"strategy": {"rules": [{**ENGINE, "on_below_percent": 10.0}]}}),
        merged(station(cutoff_percent=5.0), {"strategy": {"rules": [{**ENGINE, "on_below_percent": 10.0}]}})),
    asked("heater-unvented", "loads", "furnace", "flue"),
    row("unattended", merged(ALONE, {"outage": {"occupancy": {"away": [{"leaves": "09:00:00", "returns": "16:00:00"}]}}})),
    row("no-light", loads(hall={"role": None}, **{"lights-down": {"role": None}})),
    asked("gauge-uncalibrated", "stations", "station", "full-cycle"),
    row("all-at-once", {"outage": {"restore": "all_at_once"}}),
    row("hog", merged(circuits(range={"mark": "room"}), station(packs=None)), {}),
    row("night-short", merged(ALONE, {"outage": {"start_charge_percent": {"station": 26.0}}})),
    asked("not-tested", "site", "", "tried-a-day"),
]  # fmt: skip
