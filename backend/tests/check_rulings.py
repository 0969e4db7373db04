"""Rows for the tests of checks, as in `check_rows`: motors by their class, turns at one inlet, what stores
energy wherever it is, hours that lie beside each other, people who are away.

Limits are those of the catalogue: codes from memory, the rest common practice with no source.
"""

from check_plans import (
    ALONE,
    BRIDGED,
    CHAIN,
    LEAD,
    LINKED_CHARGING,
    NO_DRYER,
    PLANS,
    TWO_POLE_OFF,
    Json,
    array,
    circuits,
    external,
    lead,
    loads,
    merged,
    recharge,
    second,
    station,
    vehicle,
)
from check_rows import Row, row


def pump(on_w: float, **more: object) -> Json:
    """A pump of which nobody said how it starts."""
    own = {"name": "sump pump", "circuit_id": "garage", "role": "pump", "power_factor": 1.0}
    return loads(sump={**own, "behaviour": {"kind": "cycling", "on_w": on_w, "duty": 0.1}, **more})


def other_at_the_inlet(answer: str | None) -> Json:
    """A second cord at the inlet, from the generator; whether both can be plugged in is answered so."""
    source = {"kind": "generator", "id": "inverter-2k", "outlet": "duplex"}
    own = {**LEAD, "source": source, "survey": {**LEAD["survey"], "exclusive": answer}}
    return {"leads": {"other": own}}


#: A switch with circuits of its own beside the interlock of the panel.
OWN_SWITCH: Json = second(kind="transfer_switch", breaker_spaces=[], circuit_ids=["garage"])
#: A switch for the whole panel before its main; whether one device keeps both apart is answered so.
PANEL_SWITCH: Json = second(kind="transfer_panel", breaker_spaces=[])
NOTHING_APART: Json = {"leads": {"two": {"survey": {**LEAD["survey"], "exclusive": "no"}}}}
#: An annex with an inlet of its own, behind a main that is interlocked with it or not.
ANNEX: Json = merged(
    second(panel_id="annex", breaker_spaces=[1, 3]),
    {"panels": {"annex": {"name": "Annex", "spaces": 8, "fed_from": "dryer"}}},
    circuits(dryer={"mark": "room"}),
)
OWN_MAIN: Json = {"panels": {"annex": {"survey": {"own-main-interlocked": "yes"}}}}
#: An outlet of one hot on an inlet of both legs.
ONE_HOT: Json = merged(
    BRIDGED, TWO_POLE_OFF, station(output="120", receptacles={"l14-30": {"kind": "L5-30"}})
)
JOINING: Json = lead(adapters=[{"source_end": "L5-30", "load_end": "L14-30", "rating_a": 30.0}])
#: A garage that can be under water, beside the bench that cannot.
FLOODED: Json = {"places": {"pit": {"name": "pit", "kind": "basement", "below_flood_level": "yes"}}}
DRY: Json = {"places": {"pit": {"name": "pit", "kind": "basement", "below_flood_level": "no"}}}
#: A 40 A breaker for a charger, with a heater beside it that runs for long or not.
BESIDE: Json = {"name": "oil heater", "circuit_id": "dryer", "power_factor": 1.0}


def heater(watts: float, hours: float) -> Json:
    task = {"kind": "job", "earliest": "08:00:00", "latest": "09:00:00"}
    steps = [{"watts": watts, "minutes": 60.0 * hours}]
    return merged(NO_DRYER, loads(heater={**BESIDE, "behaviour": {**task, "steps": steps}}))


#: The whole supply is an engine that rests at night.
BIG: Json = {
    "name": "large generator", "rated_w": 6_000.0, "starting_w": 7_500.0, "output": "120/240", "waveform": "inverter",
    "neutral": "floating", "place_id": "woodshed", "tank_l": 20.0, "on_hand_l": 200.0, "auto_start": True,
    "locked_out": "yes", "quiet": {"begins": "22:00:00", "ends": "07:00:00"}, "survey": {"cool-refuel": "yes"},
    "receptacles": {"out": {"kind": "L14-30", "rating_a": 30.0, "gfci": "no"}},
}  # fmt: skip
ON_THE_ENGINE: Json = merged(
    ALONE,
    {
        "generators": {"big": BIG},
        "leads": {"inlet": {"source": {"kind": "generator", "id": "big", "outlet": "out"}}},
    },
)
#: Everyone away for all of it.
GONE: Json = {"outage": {"occupancy": {"gone": [{"at_s": 7_200.0, "for_s": 2_000_000.0}]}}}
#: 12 V lead-acid that helps the station along.
OLD_BATTERY: Json = {
    "kind": "lead_acid",
    "wh": 500.0,
    "in_series": 2,
    "equal_charge": "yes",
    "gives_w": 300.0,
}

#: Nothing is marked keep, so that no sum of what is kept tells of the pump's start on all that runs.
ROOM: Json = {
    key: {"mark": "room"} for key, c in PLANS["foothill"]["circuits"].items() if c["mark"] == "keep"
}
ALL_ROOM: Json = merged(
    CHAIN,
    {
        "stations": {"other": {"nameplate_wh": 60_000.0, "rated_va": 9_000.0}},
        "leads": {"wall": {"to": {"setting_w": 100.0, "when": "always"}}},
        "strategy": {"shedding": "none"},
        "circuits": ROOM,
    },
)
#: Two jobs of one circuit at the same hour, or hours apart.
AT_NIGHT: Json = {"earliest": "22:00:00", "latest": "22:30:00"}


def two_jobs(second_job: Json) -> Json:
    job: Json = {
        "kind": "job",
        "earliest": "08:00:00",
        "latest": "08:30:00",
        "steps": [{"watts": 900.0, "minutes": 240.0}],
    }
    one = {"circuit_id": "internet", "power_factor": 1.0}
    return merged(circuits(internet={"breaker_a": 15.0}), loads(
        drier={"name": "boot drier", **one, "behaviour": job},
        press={"name": "press", **one, "behaviour": {**job, "steps": [{"watts": 800.0, "minutes": 60.0}], **second_job}},
    ))  # fmt: skip


#: Little charge, no sun, no fuel: dark in the second night, and the freezer thaws.
LITTLE: Json = {
    "outage": {"start_charge_percent": {"station": 30.0}},
    "arrays": {"ground": {"shade": [{"begins": "00:00:00", "ends": "23:59:00"}]}},
    "generators": {"inverter-2k": {"on_hand_l": 0.0}},
}
#: The station in an open shed in which nobody has measured.
IN_THE_SHED: Json = {
    "places": {"garage-bench": {"kind": "outdoors", "wet": "no", "coldest_c": None, "hottest_c": None}}
}


def frost(low_c: float) -> Json:
    """Weather of the outage."""
    return {"outage": {"weather": {"low_c": low_c, "high_c": max(low_c, 10.0)}}}


RULINGS: list[Row] = [
    # Whatever trips in the run is a finding, if no other tells it.
    row("run-trips", ALL_ROOM, {}),
    # What the run does that hurts is a finding: dark while all sleep, warm food, an engine without fuel.
    row("run-dark", LITTLE, {}),
    row("run-warm", LITTLE, {}),
    row("run-dry", {"generators": {"inverter-2k": {"on_hand_l": 3.0}}}, {"generators": {"inverter-2k": {"on_hand_l": 60.0}}}),
    row("compressor-wait", {"strategy": {"swap_s": 240.0}}, {}, plan="orchard"),
    # The plan's weather counts where it is worse than what is said of site or place.
    row("pv-voltage", merged(array(series=10), frost(-50.0)), merged(array(series=10), frost(-5.0)), level="caution"),
    row("batt-cold", merged(IN_THE_SHED, frost(-15.0)), merged(IN_THE_SHED, frost(5.0)), IN_THE_SHED),
    row("station-place", merged(IN_THE_SHED, frost(-15.0)), merged(IN_THE_SHED, frost(5.0))),
    # A mark takes no hazard from a circuit that a charger hangs on.
    row("loop-self-charge", merged(recharge(when="strategy"), circuits(dryer={"mark": "off"})), recharge()),
    row("wire-breaker", merged(recharge(), circuits(dryer={"mark": "off", "awg": 12})), circuits(dryer={"mark": "off", "awg": 12})),
    # Jobs of other hours are not together.
    row("continuous-80", two_jobs({}), two_jobs(AT_NIGHT)),
    # A motor is one by its class; its class's start is taken where none is said.
    row("start-trip", pump(1_100.0), pump(400.0), level="caution"),
    row("start-trip", pump(2_200.0), pump(400.0), level="stop"),
    row("start-trip", pump(1_100.0), pump(1_100.0, start={"va": 1_500.0, "seconds": 0.5}), level="caution"),
    row("start-trip", pump(1_100.0), pump(1_100.0, role=None), level="caution"),
    row("motor-sag", pump(900.0), pump(200.0)),
    row("chain-start", merged(CHAIN, pump(1_500.0)),
        merged(CHAIN, pump(1_500.0), {"stations": {"other": {"rated_va": 20_000.0}}})),
    # Two leads at one inlet take turns by their nature; answered that both can be plugged in, they do not.
    row("feed-two-sources", other_at_the_inlet("no"), other_at_the_inlet(None)),
    row("feed-two-sources", other_at_the_inlet("no"), other_at_the_inlet("yes")),
    # Switches that break before they make.
    row("feed-two-sources", merged(PANEL_SWITCH, NOTHING_APART), OWN_SWITCH),
    row("feed-two-sources", merged(PANEL_SWITCH, NOTHING_APART), PANEL_SWITCH),
    row("two-inlet-interlock", ANNEX, merged(ANNEX, OWN_MAIN)),
    # One hot into an inlet of both legs: only with the adapter that joins them.
    row("volt-freq-mismatch", ONE_HOT, merged(ONE_HOT, JOINING)),
    # Wires in walls are judged warm: 24 m of AWG 14 with 900 W lose 2.5 % at 20 °C and 3.02 % at 75 °C.
    row("cord-drop", merged(circuits(garage={"length_m": 24.0, "awg": 14}), loads(door={"behaviour": {"watts": 900.0}})),
        merged(circuits(garage={"length_m": 19.0, "awg": 14}), loads(door={"behaviour": {"watts": 900.0}}))),
    # Each thing that stores energy has a place of its own.
    row("station-place", merged(FLOODED, external(place_id="pit")), merged(DRY, external(place_id="pit")), level="stop"),
    row("station-place", merged(FLOODED, vehicle(place_id="pit")), vehicle(place_id="meadow"), level="stop"),
    row("station-place", {"places": {"bed": {"name": "bedroom", "kind": "bedroom"}}, **external(place_id="bed")}),
    row("station-place", merged(FLOODED, station(packs={"pack": {"place_id": "pit"}})), DRY, level="stop"),
    # What lasts for hours beside charging counts for a quarter more.
    row("charge-circuit", merged(heater(1_400.0, 4.0), recharge(setting_w=4_600.0)),
        merged(heater(1_400.0, 1.0), recharge(setting_w=4_600.0)), level="caution"),
    # Everyone away and what must run is dark for too long, for whatever reason.
    row("unattended", merged(ON_THE_ENGINE, GONE), ON_THE_ENGINE),
    # Lead-acid from elsewhere that is half empty for a day.
    row("lead-acid-rest", external(**OLD_BATTERY), external(**{**OLD_BATTERY, "kind": "lithium"})),
    # A pair that stops giving while it charges passes nothing on.
    row("passthrough-cap",
        merged(LINKED_CHARGING, {"links": {"pair": {"ac_charging": "allowed"}}},
               {"stations": {"left": {"ac_inputs": {"wall": {"passes_through": True, "cap_a": 3.0}}}}}),
        merged(LINKED_CHARGING, {"stations": {"left": {"ac_inputs": {"wall": {"passes_through": True, "cap_a": 3.0}}}}}),
        plan="canal"),
]  # fmt: skip
