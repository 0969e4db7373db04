"""Quick sums of the trade, by name: each a few figures in, a few figures out."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from weary_cedar.core.decide.how_long import AS_TYPED
from weary_cedar.core.electrical.conductor import ohms_per_m
from weary_cedar.core.electrical.dc_side import cable_and_fuse_a, dc_amps, precharge_resistor
from weary_cedar.core.electrical.motor_start import motor_start
from weary_cedar.core.electrical.pv_string import COEFFICIENT_WANTED, beyond_the_table, coldest_string_v
from weary_cedar.core.electrical.split_phase import PhaseLoad, leg_currents, open_neutral_volts, phase_load
from weary_cedar.core.electrical.voltage_drop import two_wire_drop_v
from weary_cedar.core.errors import InvalidInput, NotFound, Problem, shown
from weary_cedar.core.plan.solar import Module
from weary_cedar.core.supply.charging import charge_hours
from weary_cedar.core.supply.fuel import burned_l, typical_flow
from weary_cedar.core.supply.station_energy import cell_wh_of_discharge, delivered_wh, runtime_h

Figures = Mapping[str, float]
TRANSFER_EFFICIENCY = 0.9
HOURS_A_DAY = 24.0


@dataclass(frozen=True)
class Given:
    """A figure that goes in: unit in SI or the trade's own, default, least and greatest."""

    key: str
    label: str
    unit: str
    default: float
    least: float = 0.0
    most: float = 1e9


@dataclass(frozen=True)
class Found:
    """A figure that comes out."""

    label: str
    value: float
    unit: str


@dataclass(frozen=True)
class Sum:
    """One sum: its name, what it answers, what goes in, how, and where the formula is from."""

    name: str
    title: str
    given: tuple[Given, ...]
    work: Callable[[Figures], list[Found]]
    source: str
    #: Room of the plan that it is about; nothing where any will do.
    room: str | None = None
    #: What its answer is about, where another figure of the plan could be taken for it.
    basis: str = ""


def work_out(name: str, figures: Mapping[str, float]) -> list[Found]:
    """Do a sum.

    Args:
        name: of the sum.
        figures: by key, in the unit of each; defaults stand in for those left out.

    Returns:
        What comes out.

    Raises:
        NotFound: no such sum.
        InvalidInput: an unknown figure, or one outside its range; every one is named.
    """
    found = SUMS.get(name)
    if found is None:
        problem = Problem("/name", shown(name), f"one of {', '.join(SUMS)}")
        raise NotFound(f"There is no sum “{name}”.", (problem,))
    known = {item.key: item for item in found.given}
    problems = [
        Problem(f"/{key}", shown(key), f"one of {', '.join(known)}") for key in figures if key not in known
    ]
    values = {item.key: figures.get(item.key, item.default) for item in found.given}
    for key, value in values.items():
        item = known[key]
        if not (math.isfinite(value) and item.least <= value <= item.most):
            right = f"from {item.least:g} to {item.most:g} {item.unit}".rstrip()
            problems.append(Problem(f"/{key}", f"{value:g}", right))
    if problems:
        raise InvalidInput(str(problems[0]), tuple(problems))
    return found.work(values)


def _runtime(f: Figures) -> list[Found]:
    window = f["energy"] * (f["charge"] - f["cutoff"]) / 100
    eta = f["efficiency"] / 100
    hours = runtime_h(max(0.0, window), f["load"], eta, f["idle"])
    delivered = delivered_wh(max(0.0, window), f["load"], eta, f["idle"])
    return [Found("lasts", min(hours, 1e6), "h"), Found("arrives as AC", delivered, "Wh")]


def _readings(f: Figures) -> list[Found]:
    lower = min(f["first"], f["second"])
    left = f["delivered"] * lower / 100
    return [
        Found("lower reading", lower, "%"),
        Found("left to use", left, "Wh"),
        Found("lasts", left / f["load"], "h"),
    ]


def _cord(f: Figures) -> list[Found]:
    ohms = ohms_per_m(round(f["awg"])) * f["length"]
    drop = two_wire_drop_v(f["amps"], ohms, ohms)
    return [
        Found("drop", drop, "V"),
        Found("of the voltage", 100 * drop / f["volts"], "%"),
        Found("lost in it", drop * f["amps"], "W"),
        Found("loop that a meter reads", 2 * ohms, "Ω"),
    ]


def _string(f: Figures) -> list[Found]:
    module = Module(
        watts=100.0, voc_v=f["voc"], vmp_v=f["voc"], isc_a=1.0, imp_a=1.0, voc_percent_per_k=f["beta"] or None
    )
    if beyond_the_table(module, f["coldest"]):
        wanted = f"should be known below −40 °C, where the table of the code ends: {COEFFICIENT_WANTED}"
        problem = Problem("/beta", shown(f["beta"]), wanted)
        raise InvalidInput(str(problem), (problem,))
    series = round(f["series"])
    volts = coldest_string_v(module, series, f["coldest"])
    spread = coldest_string_v(module, series, f["coldest"], with_tolerance=True)
    most = 0
    while most < 60 and coldest_string_v(module, most + 1, f["coldest"], with_tolerance=True) <= f["limit"]:
        most += 1
    return [
        Found("in the cold", volts, "V"),
        Found("with the plate's 3 % (practice)", spread, "V"),
        Found("most in series", most, ""),
    ]


def _charging(f: Figures) -> list[Found]:
    share = f["charger"] / 100
    power = f["wall"] * share
    start, stop = f["from"] / 100, f["to"] / 100
    hours = charge_hours(f["energy"], power, start, stop, f["knee"] / 100, f["end"] / 100, f["taper"] or None)
    wall = max(0.0, stop - start) * f["energy"] / share
    return [Found("takes", hours, "h"), Found("from the wall", wall, "Wh")]


def _discharge(f: Figures) -> list[Found]:
    if f["from"] <= f["to"]:
        problem = Problem("/to", f"{f['to']:g}", f"below the {f['from']:g} % that it began with")
        raise InvalidInput(str(problem), (problem,))
    cells = cell_wh_of_discharge(
        f["delivered"], f["load"], f["efficiency"] / 100, f["idle"], f["from"], f["to"]
    )
    return [Found("cells really give", cells, "Wh")]


def _dc(f: Figures) -> list[Found]:
    amps = dc_amps(f["load"], f["efficiency"] / 100, f["idle"], f["volts"])
    return [
        Found("out of the battery", amps, "A"),
        Found("cable and fuse at least", cable_and_fuse_a(amps), "A"),
    ]


def _motor(f: Figures) -> list[Found]:
    start = motor_start(f["volts"], f["hp"] or None, None, f["locked"] or None, f["running"] or None)
    share = 100 * start.high_va / f["rated"]
    return [
        Found("start at least", start.low_va, "VA"),
        Found("start at most", start.high_va, "VA"),
        Found("of the station's rating", share, "%"),
    ]


def _generator(f: Figures) -> list[Found]:
    hours = f["daily"] / (f["charge"] * f["charger"] / 100)
    flow = typical_flow("petrol", f["rated"]) or (0.0, 0.0)
    no_load = f["no_load"] or flow[0]
    litres = burned_l(no_load, f["slope"], f["charge"], hours)
    tank_h = f["tank"] / burned_l(no_load, f["slope"], f["charge"], 1.0)
    return [
        Found("runs a day", hours, "h"),
        Found("burns a day", litres, "L"),
        Found("a tank lasts, charging", tank_h, "h"),
    ]


def _vehicle(f: Figures) -> list[Found]:
    tank_wh = 1000 * f["tank"] * f["per_l"]
    return [
        Found("a tank gives", tank_wh, "Wh"),
        Found("carries the load for", (f["battery"] + tank_wh) / f["load"], "h"),
    ]


def _packs(f: Figures) -> list[Found]:
    need = (f["daily"] / (f["efficiency"] / 100) + HOURS_A_DAY * f["idle"]) * f["days"] - f["sun"] * f["days"]
    window = 1 - f["cutoff"] / 100
    lacking = max(0.0, need - f["have"] * window)
    return [
        Found("at the cells", max(0.0, need), "Wh"),
        Found("packs", math.ceil(lacking / (f["pack"] * window)), ""),
    ]


def _external(f: Figures) -> list[Found]:
    arrives = f["energy"] * TRANSFER_EFFICIENCY * f["count"]
    return [Found("gets into the station", arrives, "Wh"), Found("lasts longer by", arrives / f["draw"], "h")]


def _precharge(f: Figures) -> list[Found]:
    ohms, amps, watts = precharge_resistor(f["volts"], f["farads"], f["seconds"])
    return [Found("resistor", ohms, "Ω"), Found("peak", amps, "A"), Found("peak", watts, "W")]


def _cost(f: Figures) -> list[Found]:
    once = f["price"] / (f["delivered"] / 1000)
    return [Found("a kWh of storage", once, ""), Found("a kWh over its life", once / f["cycles"], "")]


def _cycles(f: Figures) -> list[Found]:
    years = f["cycles"] / max(1e-9, f["daily"] / f["delivered"] * 365.25)
    return [
        Found("lasts", min(years, 1e6), "years"),
        Found("a full cycle every", f["delivered"] / f["daily"], "days"),
    ]


def _legs(f: Figures) -> list[Found]:
    a, b = phase_load(f["a"], f["a_factor"]), phase_load(f["b"], f["b_factor"])
    amps = leg_currents(a, b, PhaseLoad(f["across"]))
    bridged = leg_currents(a, b, PhaseLoad(0.0), bridged=True)
    return [
        Found("leg A", amps.a, "A"),
        Found("leg B", amps.b, "A"),
        Found("neutral", amps.neutral, "A"),
        Found("neutral with one hot on both legs", bridged.neutral, "A"),
    ]


def _open_neutral(f: Figures) -> list[Found]:
    a, b = open_neutral_volts(120**2 / f["a"], 120**2 / f["b"])
    return [Found("leg A gets", a, "V"), Found("leg B gets", b, "V")]


PRACTICE = "common practice"
EFFICIENCY = Given("efficiency", "inverter efficiency", "%", 90.0, 50.0, 100.0)
IDLE = Given("idle", "idle draw", "W", 20.0, 0.0, 1000.0)
LOAD = Given("load", "mean load", "W", 200.0, 0.1, 1e5)
CHARGER = Given("charger", "wall to cells", "%", 90.0, 50.0, 100.0)
ENERGY = Given("energy", "energy of the cells", "Wh", 4000.0, 1.0, 1e7)
CUTOFF = Given("cutoff", "turns off at", "%", 5.0, 0.0, 99.0)
SUMS: dict[str, Sum] = {
    item.name: item
    for item in (
        Sum("runtime", "How long does it last?", (ENERGY, LOAD, IDLE, EFFICIENCY,
            Given("charge", "charge now", "%", 100.0, 0.0, 100.0), CUTOFF), _runtime, PRACTICE, "stations", AS_TYPED),
        Sum("readings", "What is left by two readings?", (Given("delivered", "delivered when full", "Wh", 3000.0, 1.0),
            Given("first", "one reading", "%", 60.0, 0.0, 100.0), Given("second", "the other", "%", 70.0, 0.0, 100.0),
            LOAD), _readings, PRACTICE, "stations", AS_TYPED),
        Sum("cord", "What does a cord take?", (Given("length", "length", "m", 10.0, 0.0, 500.0),
            Given("awg", "gauge", "AWG", 12.0, 0.0, 40.0), Given("amps", "current", "A", 10.0, 0.0, 1000.0),
            Given("volts", "voltage", "V", 120.0, 1.0, 1000.0)), _cord,
            "ASTM B258 diameters, annealed copper, stranded, 20 °C", "leads"),
        Sum("string", "How many volts in the cold?", (Given("voc", "open circuit of a module", "V", 40.0, 0.1, 500.0),
            Given("series", "in series", "", 2.0, 1.0, 60.0), Given("coldest", "coldest", "°C", -20.0, -60.0, 40.0),
            Given("beta", "% per K, 0 for the table", "", 0.0, -2.0, 0.0),
            Given("limit", "input takes", "V", 100.0, 1.0, 2000.0)), _string, "NFPA 70 (2023) 690.7, from memory",
            "arrays"),
        Sum("charging", "How long does it charge?", (ENERGY, Given("wall", "from the wall", "W", 1000.0, 1.0, 1e5),
            Given("from", "from", "%", 10.0, 0.0, 100.0), Given("to", "to", "%", 100.0, 0.0, 100.0),
            Given("knee", "tapers from", "%", 95.0, 1.0, 99.9), Given("end", "down to", "%", 35.0, 1.0, 100.0),
            Given("taper", "of cell watts, 0 for this rate", "W", 0.0, 0.0, 1e5), CHARGER), _charging, PRACTICE,
            "stations"),
        Sum("discharge", "What do the cells really give?", (
            Given("delivered", "arrived as AC", "Wh", 3000.0, 1.0), LOAD, IDLE, EFFICIENCY,
            Given("from", "from", "%", 100.0, 0.0, 100.0), Given("to", "to", "%", 5.0, 0.0, 100.0)), _discharge,
            PRACTICE, "stations"),
        Sum("dc", "What comes out of the battery?", (Given("load", "AC load", "W", 2000.0, 0.0, 1e5), IDLE, EFFICIENCY,
            Given("volts", "battery, lowest", "V", 48.0, 1.0, 1000.0)), _dc, PRACTICE, "stations"),
        Sum("motor", "What does a motor start take?", (Given("hp", "horsepower, 0 if not known", "hp", 0.5, 0.0, 10.0),
            Given("locked", "locked rotor, 0 if not known", "A", 0.0, 0.0, 1e4),
            Given("running", "full load, 0 if not known", "A", 0.0, 0.0, 1e4),
            Given("volts", "voltage", "V", 120.0, 1.0, 1000.0), Given("rated", "station", "VA", 4000.0, 1.0, 1e6)),
            _motor, "NFPA 70 (2023) table 430.248 from memory; factor of 6 common practice", "loads"),
        Sum("generator", "How long does the generator run?", (Given("daily", "a day takes", "Wh", 5000.0, 0.0, 1e6),
            Given("charge", "charging", "W", 1000.0, 1.0, 1e5), CHARGER,
            Given("rated", "generator", "W", 2000.0, 1.0, 1e6),
            Given("no_load", "no-load flow, 0 for petrol by rating", "L/h", 0.0, 0.0, 100.0),
            Given("slope", "flow by energy", "L/kWh", 0.5, 0.01, 20.0), Given("tank", "tank", "L", 5.0, 0.0, 1e4)),
            _generator, "0.1 L/h per rated kW and 0.5 L/kWh for petrol, from memory", "generators"),
        Sum("vehicle", "How long does a vehicle carry it?", (
            Given("tank", "fuel in the tank", "L", 40.0, 0.0, 1e4),
            Given("per_l", "given for each litre", "kWh/L", 1.5, 0.0, 20.0),
            Given("battery", "its battery gives", "Wh", 0.0, 0.0, 1e6), LOAD), _vehicle, PRACTICE, "vehicles"),
        Sum("packs", "How many packs for so many days?", (Given("daily", "a day takes", "Wh", 5000.0, 0.0, 1e6),
            Given("days", "days", "", 3.0, 0.0, 60.0), Given("sun", "sun a day, at the cells", "Wh", 0.0, 0.0, 1e6),
            EFFICIENCY, IDLE, Given("have", "the station itself holds", "Wh", 0.0, 0.0, 1e7),
            Given("pack", "a pack", "Wh", 2000.0, 1.0, 1e6), CUTOFF), _packs, PRACTICE, "stations"),
        Sum("external", "What is an external battery worth?", (Given("energy", "one holds", "Wh", 100.0, 1.0, 1e6),
            Given("count", "how many", "", 4.0, 0.0, 1000.0), Given("draw", "draw at the cells", "W", 100.0, 0.1, 1e5)),
            _external, "transfer efficiency of 0.9, common practice", "externals"),
        Sum("precharge", "Which pre-charge resistor?", (Given("volts", "battery", "V", 48.0, 1.0, 1000.0),
            Given("farads", "input capacitors", "F", 0.02, 1e-6, 10.0), Given("seconds", "full in", "s", 3.0, 0.1, 60.0)),
            _precharge, "charging of a capacitor", "stations"),
        Sum("cost", "What does a kWh cost?", (Given("price", "price", "", 2000.0, 0.0),
            Given("delivered", "delivered when full", "Wh", 3000.0, 1.0), Given("cycles", "full cycles", "", 3000.0, 1.0)),
            _cost, "definition", "stations"),
        Sum("cycles", "How many years of cycles?", (Given("cycles", "full cycles", "", 3000.0, 1.0),
            Given("delivered", "delivered when full", "Wh", 3000.0, 1.0), Given("daily", "used a day", "Wh", 1000.0, 0.1)),
            _cycles, "definition", "stations"),
        Sum("legs", "What is on the legs and the neutral?", (Given("a", "120 V on A", "W", 800.0, 0.0, 1e5),
            Given("a_factor", "power factor on A", "", 1.0, 0.01, 1.0), Given("b", "120 V on B", "W", 500.0, 0.0, 1e5),
            Given("b_factor", "power factor on B", "", 1.0, 0.01, 1.0),
            Given("across", "at 240 V", "W", 0.0, 0.0, 1e5)), _legs, "Kirchhoff"),
        Sum("open-neutral", "What does an open neutral do?", (Given("a", "120 V on A", "W", 800.0, 1.0, 1e5),
            Given("b", "120 V on B", "W", 400.0, 1.0, 1e5)), _open_neutral, "series circuit"),
    )
}  # fmt: skip
