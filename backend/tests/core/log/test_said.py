"""Lines as people say them: what is understood is shown before it counts; what is not clear is asked."""

from datetime import datetime

import pytest

from weary_cedar.core.log.said import understood
from weary_cedar.demo import demo_plan

NOW = datetime(2026, 10, 14, 21, 40)
HOUSE = demo_plan("foothill")
DUPLEX = demo_plan("canal")

#: Line → (what, value in SI, part) of readings, as of the house with one station and a pack.
READINGS: dict[str, list[tuple[str, float, str]]] = {
    "main 64": [("charge", 64, "station")],
    "main 64, pack 68": [("charge", 64, "station"), ("charge", 68, "station/pack")],
    "main 64 and pack 68": [("charge", 64, "station"), ("charge", 68, "station/pack")],
    "main at 64 %": [("charge", 64, "station")],
    "head unit 64%": [("charge", 64, "station")],
    "head 71 percent": [("charge", 71, "station")],
    "pack 68": [("charge", 68, "station/pack")],
    "expansion pack 55%": [("charge", 55, "station/pack")],
    "pack is at 55": [("charge", 55, "station/pack")],
    "main 64; pack 68": [("charge", 64, "station"), ("charge", 68, "station/pack")],
    "Main 64.5": [("charge", 64.5, "station")],
    "main 64,5": [("charge", 64.5, "station")],
    "station 80 %": [("charge", 80, "station")],
    "in 290 W": [("in_w", 290, "")],
    "in 290w": [("in_w", 290, "")],
    "input 290 watts": [("in_w", 290, "")],
    "in 290": [("in_w", 290, "")],
    "charging 1.2 kW": [("in_w", 1200, "")],
    "charging at 1,200 W": [("in_w", 1200, "")],
    "out 450 W": [("out_w", 450, "")],
    "output 450w": [("out_w", 450, "")],
    "out 0.45 kW": [("out_w", 450, "")],
    "drawing 300 W": [("out_w", 300, "")],
    "load 300w": [("out_w", 300, "")],
    "using 1.1 kW": [("out_w", 1100, "")],
    "in 290 W, out 450 W": [("in_w", 290, ""), ("out_w", 450, "")],
    "sun 180 W": [("sun_w", 180, "")],
    "solar 180w": [("sun_w", 180, "")],
    "pv 0.4 kW": [("sun_w", 400, "")],
    "panels 95 W": [("sun_w", 95, "")],
    "leg a 400 W": [("leg_a_w", 400, "")],
    "leg b 300 W": [("leg_b_w", 300, "")],
    "L1 400 W, L2 300 W": [("leg_a_w", 400, ""), ("leg_b_w", 300, "")],
    "fridge 130 W": [("out_w", 130, "loads/fridge")],
    "refrigerator 0.13 kw": [("out_w", 130, "loads/fridge")],
    "furnace 620 W": [("out_w", 620, "loads/furnace")],
    "fuel 8 l": [("fuel_l", 8, "generators/inverter-2k")],
    "fuel 8 litres": [("fuel_l", 8, "generators/inverter-2k")],
    "fuel 2 gal": [("fuel_l", 7.570823568, "generators/inverter-2k")],
    "gas 2 gallons": [("fuel_l", 7.570823568, "generators/inverter-2k")],
    "tank 1.5 gal": [("fuel_l", 5.678117676, "generators/inverter-2k")],
    "fuel 2": [("fuel_l", 7.570823568, "generators/inverter-2k")],
    "freezer 20 F": [("temperature_c", -6.667, "loads/freezer")],
    "freezer 20 °F": [("temperature_c", -6.667, "loads/freezer")],
    "freezer -5 C": [("temperature_c", -5, "loads/freezer")],
    "freezer −12 °C": [("temperature_c", -12, "loads/freezer")],
    "freezer 20": [("temperature_c", -6.667, "loads/freezer")],
    "fridge 41 F": [("temperature_c", 5, "loads/fridge")],
    "fridge 38": [("temperature_c", 3.333, "loads/fridge")],
    "freezer at 14 degrees F": [("temperature_c", -10, "loads/freezer")],
    "119.8 V": [("volts", 119.8, "")],
    "121 volts": [("volts", 121, "")],
    "59.9 Hz": [("hertz", 59.9, "")],
    "60 hertz": [("hertz", 60, "")],
    "3.4 A": [("amps", 3.4, "")],
    "shows 14 h left": [("shown_h", 14, "")],
    "display 14 hours": [("shown_h", 14, "")],
    "remaining 9.5 h": [("shown_h", 9.5, "")],
    "90 min remaining": [("shown_h", 1.5, "")],
    "meter 1.4 kWh": [("wh", 1400, "")],
    "fridge 0.62 kWh": [("wh", 620, "loads/fridge")],
    "main 64, pack 68, in 290 W, out 450 W": [
        ("charge", 64, "station"), ("charge", 68, "station/pack"), ("in_w", 290, ""), ("out_w", 450, ""),
    ],
}  # fmt: skip

#: Line → (part, turn) of acts.
ACTS: dict[str, list[tuple[str, str]]] = {
    "fridge off": [("loads/fridge", "off")],
    "fridge on": [("loads/fridge", "on")],
    "Fridge OFF": [("loads/fridge", "off")],
    "the fridge is off": [("loads/fridge", "off")],
    "turned the fridge off": [("loads/fridge", "off")],
    "turned off the fridge": [("loads/fridge", "off")],
    "switched off fridge": [("loads/fridge", "off")],
    "refrigerator back on": [("loads/fridge", "on")],
    "freezer off": [("loads/freezer", "off")],
    "freezer on": [("loads/freezer", "on")],
    "furnace off": [("loads/furnace", "off")],
    "heating off": [("loads/furnace", "off")],
    "heat on": [("loads/furnace", "on")],
    "boiler off": [("loads/furnace", "off")],
    "gas furnace blower on": [("loads/furnace", "on")],
    "tv off": [("loads/television", "off")],
    "television on": [("loads/television", "on")],
    "telly off": [("loads/television", "off")],
    "wifi off": [("loads/internet", "off")],
    "internet on": [("loads/internet", "on")],
    "router on": [("loads/internet", "on")],
    "kettle on": [("loads/kettle", "on")],
    "micro on": [("loads/microwave", "on")],
    "microwave off": [("loads/microwave", "off")],
    "coffee maker on": [("loads/coffee", "on")],
    "coffee off": [("loads/coffee", "off")],
    "induction plate off": [("loads/induction", "off")],
    "well pump off": [("loads/well", "off")],
    "well off": [("loads/well", "off")],
    "dishwasher on": [("loads/dish", "on")],
    "washing machine off": [("loads/washer", "off")],
    "washer on": [("loads/washer", "on")],
    "lights upstairs off": [("loads/lights-up", "off")],
    "lights downstairs on": [("loads/lights-down", "on")],
    "desk and screens off": [("loads/office", "off")],
    "gen on": [("generators/inverter-2k", "on")],
    "gen off": [("generators/inverter-2k", "off")],
    "generator on": [("generators/inverter-2k", "on")],
    "generator started": [("generators/inverter-2k", "on")],
    "started the generator": [("generators/inverter-2k", "on")],
    "generator running": [("generators/inverter-2k", "on")],
    "stopped the generator": [("generators/inverter-2k", "off")],
    "shut down the gen": [("generators/inverter-2k", "off")],
    "genny off": [("generators/inverter-2k", "off")],
    "engine on": [("generators/inverter-2k", "on")],
    "station off": [("stations/station", "off")],
    "output on": [("stations/station", "on")],
    "inverter off": [("stations/station", "off")],
    "panels unplugged": [("arrays/ground", "off")],
    "solar off": [("arrays/ground", "off")],
    "fridge off, freezer on": [("loads/fridge", "off"), ("loads/freezer", "on")],
    "fridge off and tv off": [("loads/fridge", "off"), ("loads/television", "off")],
    "fridge off; gen on": [("loads/fridge", "off"), ("generators/inverter-2k", "on")],
    "charger unplugged": [("leads/from-generator", "off")],
    "plugged in the charger": [("leads/from-generator", "on")],
}

HAPPENINGS: dict[str, str] = {
    "it tripped": "trip", "tripped": "trip", "overload": "trip", "station tripped": "trip",
    "overloaded again": "trip", "it went dark": "dark", "blackout": "dark", "no power": "dark",
    "alarm": "alarm", "co alarm": "alarm", "station is beeping": "alarm", "grid is back": "grid_back",
    "power is back": "grid_back", "utility back": "grid_back", "grid out": "grid_gone",
    "utility is gone": "grid_gone", "mains off": "grid_gone",
}  # fmt: skip

#: Lines that are asked about, and a word of the question.
ASKED: dict[str, str] = {
    "64": "which", "64 %": "which", "soc 64": "which", "battery 64%": "which",
    "main 164": "should be 0 to 100", "pack -3": "should be 0 to 100", "640 W": "in or out",
    "toaster off": "Which part", "lights off": "Which is off", "counter lights off": "Which part",
    "bananas": "not understood", "8 V 9": "", "freezer 250 C": "-60 to 60", "out 90 kW": "0 to 50,000",
    "500 V": "", "900 V": "0 to 600", "12 Hz": "30 to 80",
}  # fmt: skip

#: Time in a line → the moment.
TIMES: dict[str, datetime] = {
    "21:10 fridge off": datetime(2026, 10, 14, 21, 10),
    "at 21:10 fridge off": datetime(2026, 10, 14, 21, 10),
    "9:10 pm fridge off": datetime(2026, 10, 14, 21, 10),
    "9 pm fridge off": datetime(2026, 10, 14, 21, 0),
    "fridge off at 21:10": datetime(2026, 10, 14, 21, 10),
    "fridge off at 9:10 pm": datetime(2026, 10, 14, 21, 10),
    "22:30 fridge off": datetime(2026, 10, 13, 22, 30),
    "10 min ago fridge off": datetime(2026, 10, 14, 21, 30),
    "fridge off 2 hours ago": datetime(2026, 10, 14, 19, 40),
    "now fridge off": NOW,
    "fridge off": NOW,
}


def test_there_are_enough_ways_of_saying_it() -> None:
    assert len(READINGS) + len(ACTS) + len(HAPPENINGS) + len(ASKED) + len(TIMES) >= 150


@pytest.mark.parametrize("line", READINGS)
def test_readings(line: str) -> None:
    said = understood(HOUSE, line, NOW)
    assert said.questions == ()
    for row, (what, value, named) in zip(said.rows, READINGS[line], strict=True):
        part = row.part.removeprefix("stations/") if row.what == "charge" else row.part
        assert (row.kind, row.what, f"{part}/pack" if row.pack else part) == ("reading", what, named)
        assert row.value == pytest.approx(value, abs=0.01)


@pytest.mark.parametrize("line", ACTS)
def test_acts(line: str) -> None:
    said = understood(HOUSE, line, NOW)
    assert said.questions == ()
    assert [(row.part, row.turn) for row in said.rows] == ACTS[line]
    assert all(row.kind == "act" and row.told.endswith(f" {row.turn}") for row in said.rows)


@pytest.mark.parametrize("line", HAPPENINGS)
def test_happenings(line: str) -> None:
    (row,) = understood(HOUSE, line, NOW).rows
    assert (row.kind, row.what) == ("happening", HAPPENINGS[line])


@pytest.mark.parametrize("line", [line for line, word in ASKED.items() if word])
def test_what_is_not_clear_is_asked(line: str) -> None:
    said = understood(HOUSE, line, NOW)
    assert said.rows == ()
    assert ASKED[line] in " ".join(said.questions)


@pytest.mark.parametrize("line", TIMES)
def test_when_it_was(line: str) -> None:
    said = understood(HOUSE, line, NOW)
    assert said.at == TIMES[line]
    assert [row.part for row in said.rows] == ["loads/fridge"]


def test_two_stations_are_told_apart() -> None:
    left, right = understood(DUPLEX, "left 40, right 62", NOW).rows
    assert (left.part, left.value, right.part, right.value) == ("stations/left", 40, "stations/right", 62)
    assert "which" in understood(DUPLEX, "64", NOW).questions[0]
    assert understood(DUPLEX, "van off", NOW).rows[0].part == "vehicles/van"


def test_a_breaker_by_its_number_and_a_remark() -> None:
    plan = HOUSE
    circuit_id = plan.loads["fridge"].circuit_id
    assert circuit_id is not None
    space = plan.circuits[circuit_id].spaces[0]
    (row,) = understood(plan, f"breaker {space} off", NOW).rows
    assert (row.part, row.turn) == (f"circuits/{circuit_id}", "off")
    (note,) = understood(plan, "note: neighbour's cord, 2 h", NOW).rows
    assert (note.kind, note.told) == ("remark", "remark: neighbour's cord, 2 h")


def test_what_is_taken_for_granted_is_said() -> None:
    assert "taken as °F" in understood(HOUSE, "freezer 20", NOW).rows[0].told
    assert "taken as gal" in understood(HOUSE, "fuel 2", NOW).rows[0].told
    assert "taken as W" in understood(HOUSE, "in 290", NOW).rows[0].told
    metric = HOUSE.model_copy(
        update={"site": HOUSE.site.model_copy(update={"units": HOUSE.site.units.model_copy(
            update={"temperature": "c", "volume": "l"})})}
    )  # fmt: skip
    assert understood(metric, "freezer -12", NOW).rows[0].value == -12
    assert understood(metric, "fuel 8", NOW).rows[0].value == 8
