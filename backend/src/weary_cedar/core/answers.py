"""A plan from the answers to a few questions; every answer may be “not yet”, and nothing is added unasked."""

import math
from collections.abc import Mapping
from datetime import date, datetime, time
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.beginning import PANEL_ID, WantedLoad, house_with, on_breakers
from weary_cedar.core.decide.string_layout import layouts
from weary_cedar.core.electrical.ampacity import cord_ampacity_a, receptacle
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.gear import ac_inputs, gear_library, station_of_class
from weary_cedar.core.plan import (
    TRAITS,
    Cord,
    Feed,
    Generator,
    Kind,
    Lead,
    Link,
    Load,
    Outlet,
    Pack,
    Plan,
    Receptacle,
    Site,
    SolarArray,
    Station,
    ToFeed,
    ToInput,
    ToLoads,
    Vehicle,
    Weather,
)
from weary_cedar.core.plan.base import Celsius, Name
from weary_cedar.core.plan.reading import read_part
from weary_cedar.core.plan.site import System, Units
from weary_cedar.core.supply.sun import array_day
from weary_cedar.core.tables import Row, table

#: An engine lasts on this share of its rating. Common practice.
LASTING_SHARE = 0.8
#: A transfer switch of the usual size takes so many circuits. Common practice.
SWITCH_CIRCUITS = 6
#: The cord from a source, as it is mostly sold, m (25 ft). Common practice.
CORD_M = 7.62
#: The coldest month is near the middle of January, that of the south half a year later.
COLDEST_DAY = 15

Reach = Literal[
    "interlock_inlet", "transfer_switch", "transfer_panel", "appliance_switch", "bridged", "cords"
]


class Asked(BaseModel):
    """A frozen part of the answers."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class StationAnswer(Asked):
    """A class of the library, or the five figures of its plate; its packs; one, two, or two linked."""

    class_id: str | None = Field(default=None, max_length=60)
    name: Name | None = None
    output: Literal["120/240", "120", "230"] = "120/240"
    rated_va: Annotated[float, Field(ge=10, le=100_000)] | None = None
    nameplate_wh: Annotated[float, Field(ge=1, le=1_000_000)] | None = None
    outlet: Annotated[str, Field(max_length=40)] = "L14-30"
    charge_w: Annotated[float, Field(ge=1, le=50_000)] | None = None
    packs: Annotated[int, Field(ge=0, le=20)] = 0
    pack_wh: Annotated[float, Field(ge=1, le=1_000_000)] | None = None
    units: Literal["one", "two", "linked"] = "one"
    #: The outlet of the kit that links two.
    kit_outlet: Annotated[str, Field(max_length=40)] = "L14-30"


class ModulesAnswer(Asked):
    """A class of solar modules, and how many; where there are two stations, on each."""

    class_id: str = Field(max_length=60)
    count: Annotated[int, Field(ge=1, le=100)]


class NeedAnswer(Asked):
    """An appliance of the library that was ticked, and whether it must run."""

    appliance_id: str = Field(max_length=60)
    room: Annotated[str, Field(max_length=40)] = ""
    mark: Literal["keep", "room", "off"] = "keep"


class Answers(Asked):
    """What someone says about house, gear, and what must run; whatever is absent is not known yet."""

    climate_id: str | None = Field(default=None, max_length=60)
    system: System | None = None
    latitude: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude: Annotated[float, Field(ge=-180, le=180)] | None = None
    time_zone: str | None = Field(default=None, max_length=60)
    units: Literal["us", "metric"] | None = None
    coldest_c: Celsius | None = None
    station: StationAnswer | None = None
    modules: ModulesAnswer | None = None
    engine_class: str | None = Field(default=None, max_length=60)
    car_class: str | None = Field(default=None, max_length=60)
    reach: Reach | None = None
    needs: Annotated[tuple[NeedAnswer, ...], Field(max_length=200)] = ()
    hours: Annotated[float, Field(ge=1, le=744)] = 72.0

    @property
    def house_system(self) -> System:
        """Volts and legs of the house: as said, else what is usual in its climate."""
        return _system_of(self)


class Climate(BaseModel):
    """A climate to begin from, without a map."""

    model_config = ConfigDict(frozen=True)

    climate_id: str
    name: str
    system: System
    latitude: float
    longitude: float
    time_zone: str
    design_low_c: float
    units: Literal["us", "metric"]


def climates() -> list[Climate]:
    """Climates of the list."""
    return [
        Climate.model_validate({key: row[key] for key in Climate.model_fields}) for row in table("climates")
    ]


def plan_from_answers(name: str, start: datetime, answers: Answers, house: Plan | None = None) -> Plan:
    """A plan out of what was answered.

    Args:
        name: of the plan.
        start: of the outage, local time.
        answers: what is known.
        house: its panels, breakers and what hangs on them, where those are known already.

    Returns:
        The plan: gear only where someone has it; modules in the layout that harvests most on a clear day;
        an engine with a lead into the station's input, at most at 80 % of its rating, or to the inlet where
        there is no station; a car for which no lead is said stands unplugged.

    Raises:
        InvalidInput: a class, climate or appliance that there is not; a panel that is full.

    Source: common practice of the trade.
    """
    split = answers.house_system == "split_phase_120_240"
    known = house or house_with(name, start, {}, {}, split_phase=split)
    found, loads = on_breakers([_wanted(need) for need in answers.needs], known, split_phase=split)
    plan = house_with(name, start, found, loads, split_phase=split)
    panels = {key: panel for key, panel in known.panels.items() if key != PANEL_ID}
    plan = plan.model_copy(update={"panels": {**plan.panels, **panels}})
    plan = plan.model_copy(
        update={"site": _site(name, answers.house_system, answers), "outage": _outage(plan, answers)}
    )
    stations = _stations(answers, split)
    plan = plan.model_copy(update={"stations": stations, "generators": _engines(answers)})
    plan = plan.model_copy(update={"links": _links(answers, stations)})
    plan = plan.model_copy(update={"vehicles": _vehicles(answers)})
    plan = plan.model_copy(update={"arrays": _arrays(plan, answers)})
    return _charged(_reached(plan, answers))


# -------------------------------------------------------------------- where


def _row(name: str, key: str, wanted: str, field: str) -> Row:
    """A row of a table by its id.

    Raises:
        InvalidInput: there is none.
    """
    row = next((row for row in table(name) if row[key] == wanted), None)
    if row is None:
        some = ", ".join(row[key] for row in table(name)[:8])
        problem = Problem(field, shown(wanted), f"one of {some} …")
        raise InvalidInput(str(problem), (problem,))
    return row


def _climate(answers: Answers) -> Row | None:
    if answers.climate_id is None:
        return None
    return _row("climates", "climate_id", answers.climate_id, "/answers/climate_id")


def _system_of(answers: Answers) -> System:
    if answers.system is not None:
        return answers.system
    row = _climate(answers)
    return (
        "single_phase_230"
        if row is not None and row["system"] == "single_phase_230"
        else "split_phase_120_240"
    )


def _site(name: str, system: System, answers: Answers) -> Site:
    row = _climate(answers)
    units = answers.units or ("metric" if system == "single_phase_230" else "us")
    if answers.units is None and row is not None and row["units"] == "metric":
        units = "metric"
    told: dict[str, object] = {"name": name, "system": system}
    if units == "metric":
        wire: Literal["awg", "mm2"] = "mm2" if system == "single_phase_230" else "awg"
        units_of = Units(temperature="c", length="m", volume="l", wire=wire)
        told["units"] = units_of.model_dump()
    if row is not None:
        told |= {key: float(row[key]) for key in ("latitude", "longitude", "design_low_c")}
        told["time_zone"] = row["time_zone"]
    own = {"latitude": answers.latitude, "longitude": answers.longitude, "time_zone": answers.time_zone}
    told |= {key: value for key, value in own.items() if value is not None}
    if answers.coldest_c is not None:
        told["design_low_c"] = answers.coldest_c
    return read_part(Site, told)


def _outage(plan: Plan, answers: Answers) -> object:
    row, outage = _climate(answers), plan.outage
    weather = outage.weather if row is None else weather_of(row, outage.start_local.date())
    return outage.model_copy(update={"length_s": answers.hours * 3600.0, "weather": weather})


def weather_of(climate: Row, day: date) -> Weather:
    """Temperatures of a climate on a day of the year, between its winter and its summer.

    Args:
        climate: a row of the climates.
        day: of the year.

    Returns:
        Low and high of the day, °C, by the cosine of the year.

    Source: common practice; round figures, to be replaced by a forecast.
    """
    days = day.timetuple().tm_yday - COLDEST_DAY
    if float(climate["latitude"]) < 0:
        days -= 182
    summer = 0.5 * (1 - math.cos(2 * math.pi * days / 365.25))

    def between(which: str) -> float:
        winter_c, summer_c = float(climate[f"winter_{which}_c"]), float(climate[f"summer_{which}_c"])
        return round(winter_c + summer * (summer_c - winter_c))

    return Weather(low_c=between("low"), high_c=between("high"), coldest_at=time(6))


# -------------------------------------------------------------------- gear


def _stations(answers: Answers, split: bool) -> dict[str, Station]:
    said = answers.station
    if said is None:
        return {}
    packs_wh = said.pack_wh
    if said.class_id is not None:
        row = _row("stations", "class_id", said.class_id, "/answers/station/class_id")
        station = station_of_class(said.class_id)
        packs_wh = packs_wh or (float(row["pack_wh"]) if row["pack_wh"] else None)
    else:
        station = _by_plate(said, split)
    if said.name is not None:
        station = station.model_copy(update={"name": said.name})
    if said.packs and packs_wh is None:
        problem = Problem("/answers/station/pack_wh", "nothing", "what one pack holds, in Wh")
        raise InvalidInput(str(problem), (problem,))
    packs = {
        f"pack-{number}": Pack(name=f"pack {number}", nameplate_wh=packs_wh or 1.0)
        for number in range(1, said.packs + 1)
    }
    own = station.model_copy(update={"packs": packs})
    if said.units == "one":
        return {"station": own}
    second = own.model_copy(update={"name": f"{own.name}, second"[:80]})
    return {"station": own, "station-2": second}


def _links(answers: Answers, stations: Mapping[str, Station]) -> dict[str, Link]:
    """The kit that links two units of 120 V, one on each leg."""
    said = answers.station
    if said is None or said.units != "linked":
        return {}
    row = receptacle(said.kit_outlet)
    if row is None:
        problem = Problem("/answers/station/kit_outlet", shown(said.kit_outlet), "a kind such as L14-30")
        raise InvalidInput(str(problem), (problem,))
    if stations["station"].output != "120":
        right = "two units of 120 V: only these are linked, one on each leg"
        problem = Problem("/answers/station/units", "linked", right)
        raise InvalidInput(str(problem), (problem,))
    outlet = Receptacle(kind=said.kit_outlet, rating_a=float(row["rating_a"]))
    kit = Link(name="linked pair", leg_a="station", leg_b="station-2", receptacles={"outlet": outlet})
    return {"pair": kit}


def _by_plate(said: StationAnswer, split: bool) -> Station:
    missing = [key for key in ("rated_va", "nameplate_wh") if getattr(said, key) is None]
    row = receptacle(said.outlet)
    problems = [Problem(f"/answers/station/{key}", "nothing", "the figure on its plate") for key in missing]
    if row is None:
        problems.append(
            Problem("/answers/station/outlet", shown(said.outlet), "a kind such as L14-30 or 5-20")
        )
    if problems or row is None:
        raise InvalidInput(f"{len(problems)} figures are missing: {problems[0]}", tuple(problems))
    output = said.output if split else "230"
    rated = said.rated_va or 0.0
    return Station.model_validate(
        {
            "name": said.name or f"{rated / 1000:g} kVA station",
            "output": output,
            "rated_va": rated,
            "nameplate_wh": said.nameplate_wh,
            "receptacles": {"outlet": Receptacle(kind=said.outlet, rating_a=float(row["rating_a"]))},
            "ac_inputs": ac_inputs(output, said.charge_w) if said.charge_w else {},
        }
    )


def _engines(answers: Answers) -> dict[str, Generator]:
    if answers.engine_class is None:
        return {}
    _row("generators", "class_id", answers.engine_class, "/answers/engine_class")
    classes = {item.class_id: item.generator for item in gear_library().generators}
    return {"engine": classes[answers.engine_class]}


def _vehicles(answers: Answers) -> dict[str, Vehicle]:
    if answers.car_class is None:
        return {}
    _row("vehicles", "class_id", answers.car_class, "/answers/car_class")
    return {"car": {item.class_id: item.vehicle for item in gear_library().vehicles}[answers.car_class]}


def _arrays(plan: Plan, answers: Answers) -> dict[str, SolarArray]:
    """Modules in the layout that harvests most; not joined where there is no input that is known."""
    said = answers.modules
    if said is None:
        return {}
    _row("modules", "class_id", said.class_id, "/answers/modules/class_id")
    array = {item.class_id: item.array for item in gear_library().modules}[said.class_id]
    own = {"name": f"{said.count} × {array.name}", "series": said.count}
    station = plan.stations.get("station")
    inputs = station.dc_inputs if station else {}
    input_id = next((key for key, entry in inputs.items() if entry.kind == "solar"), None)
    if station is None or input_id is None:
        return {"modules": array.model_copy(update={**own, "station_id": "station" if station else None})}
    own |= {"station_id": "station", "input_id": input_id}
    sun = array_day(plan.site, array, plan.outage.start_local.date(), plan.outage.weather.high_c)
    cold_c = plan.site.design_low_c
    tried = layouts(array.module, said.count, inputs[input_id], -20.0 if cold_c is None else cold_c, sun)
    best = next((item for item in tried if item.fits), None)
    if best is not None:
        own |= {"series": best.series, "parallel": best.parallel}
    first = array.model_copy(update=own)
    if "station-2" not in plan.stations:
        return {"modules": first}
    second = {"name": f"{first.name}, second"[:80], "station_id": "station-2"}
    return {"modules": first, "modules-2": first.model_copy(update=second)}


# -------------------------------------------------------------------- how it reaches the house


def _wanted(need: NeedAnswer) -> WantedLoad:
    return WantedLoad(need.appliance_id, need.room, need.mark)


def _best_outlet(outlets: Mapping[str, Receptacle], *, both_legs: bool) -> str:
    """The outlet that a feed begins at: one of both legs where these are wanted, else the largest."""

    def rank(key: str) -> tuple[bool, float]:
        row = receptacle(outlets[key].kind)
        wide = row is not None and row["volts"] == "120/240"
        return wide == both_legs, outlets[key].rating_a

    return max(sorted(outlets), key=rank)


def cord_for(amps: float) -> Cord:
    """The thinnest cord that carries so many amps, of the usual length.

    Source: NFPA 70 table 400.5(A)(1), from memory.
    """
    gauges = [gauge for gauge in (14, 12, 10, 8, 6, 4) if cord_ampacity_a(gauge) >= amps]
    return Cord.model_validate({"length_m": CORD_M, "awg": gauges[0] if gauges else 4, "usual": True})


def _reached(plan: Plan, answers: Answers) -> Plan:
    """The plan with its feed, and with a lead from what is there: a station, else an engine."""
    kind, split = answers.reach, plan.site.split_phase
    if kind is None:
        return plan
    sources: list[tuple[Literal["link", "station", "generator"], str, Mapping[str, Receptacle]]] = [
        *(("link", key, part.receptacles) for key, part in plan.links.items()),
        *(("station", key, part.receptacles) for key, part in plan.stations.items()),
        *(("generator", key, part.receptacles) for key, part in plan.generators.items()),
    ]
    whole = TRAITS[kind].whole
    found = next(iter(sources), None)
    outlet_id = _best_outlet(found[2], both_legs=split and whole) if found and found[2] else None
    outlet = found[2][outlet_id] if found and outlet_id else None
    source = Outlet(kind=found[0], id=found[1], outlet=outlet_id) if found and outlet_id else None
    amps = outlet.rating_a if outlet else (30.0 if split else 16.0)
    configuration = outlet.kind if outlet else ("L14-30" if split else "CEE 7")
    if kind == "cords":
        return _by_cord(plan, source, configuration, amps)
    feed = Feed(
        kind=kind,
        inlet=configuration,
        inlet_a=amps,
        panel_id=PANEL_ID,
        breaker_a=amps,
        breaker_spaces=_free_spaces(plan, kind),
        circuit_ids=_switched(plan, kind),
        neutral_switched="no" if TRAITS[kind].breaker else "unknown",
    )
    leads = {}
    if source is not None:
        leads = {"lead": Lead(source=source, cords=(cord_for(amps),), to=ToFeed(feed_id="feed"))}
    return plan.model_copy(update={"feeds": {"feed": feed}, "leads": leads})


def _by_cord(plan: Plan, source: Outlet | None, configuration: str, amps: float) -> Plan:
    """The plan with what has a plug on a cord from the source."""
    plugs = tuple(key for key, load in plan.loads.items() if _has_plug(plan, load))
    if source is None or not plugs:
        return plan
    marks = {key: plan.circuits[plan.loads[key].circuit_id or ""].mark for key in plugs}
    loads = {
        key: load.model_copy(update={"mark": marks[key]}) if key in plugs else load
        for key, load in plan.loads.items()
    }
    end = ToLoads(load_ids=plugs, plug=configuration, plug_a=amps)
    lead = Lead(source=source, cords=(cord_for(amps),), to=end)
    return plan.model_copy(update={"leads": {"cords": lead}, "loads": loads})


def _has_plug(plan: Plan, load: Load) -> bool:
    """Whether a load hangs on a plug at home: not what is wired in, nor on two poles."""
    circuit = plan.circuits.get(load.circuit_id or "")
    return circuit is not None and circuit.poles == 1 and load.role not in ("heat", "pump")


def _switched(plan: Plan, kind: Kind) -> tuple[str, ...]:
    """Circuits that a switch takes: those that must run first, one pole each, as many as it has."""
    if not TRAITS[kind].wired:
        return ()
    wanted = [key for key, circuit in plan.circuits.items() if circuit.mark != "off" and circuit.poles == 1]
    wanted.sort(key=lambda key: (plan.circuits[key].mark != "keep", plan.circuits[key].order))
    if TRAITS[kind].single:
        heat = [load.circuit_id for load in plan.loads.values() if load.role == "heat" and load.circuit_id]
        wanted = [key for key in wanted if key in heat] or wanted
        return tuple(wanted[:1])
    return tuple(wanted[:SWITCH_CIRCUITS])


def _free_spaces(plan: Plan, kind: Kind) -> tuple[int, ...]:
    """Spaces for the breaker of a feed: two of a side in a panel of two legs, else one."""
    if not TRAITS[kind].breaker:
        return ()
    own = [circuit for circuit in plan.circuits.values() if circuit.panel_id == PANEL_ID]
    taken = {space for circuit in own for space in circuit.spaces}
    poles = 2 if plan.site.split_phase else 1
    most = plan.panels[PANEL_ID].spaces
    for first in (2, *range(1, most + 1)):
        spaces = tuple(first + 2 * index for index in range(poles))
        if spaces[-1] <= most and not set(spaces) & taken:
            return spaces
    right = (
        "a free place for the feed's breaker: two spaces of one side; leave a breaker out, or say it later"
    )
    raise InvalidInput(f"The panel is full: {right}.", (Problem("/answers/reach", kind, right),))


def _charged(plan: Plan) -> Plan:
    """The plan with a lead from its engine into its station, or to the feed where there is no station."""
    engine, station = plan.generators.get("engine"), plan.stations.get("station")
    if engine is None or station is None or not engine.receptacles:
        return plan
    wide = engine.output == "120/240"
    wanted = {"230": (230,), "120/240": (240, 120), "120": (120,)}[engine.output]
    fits = [
        (volts, key) for volts in wanted for key, entry in station.ac_inputs.items() if entry.volts == volts
    ]
    if not fits:
        return plan
    volts, input_id = fits[0]
    entry = station.ac_inputs[input_id]
    outlet_id = _best_outlet(engine.receptacles, both_legs=wide and volts == 240)
    rating = min(engine.receptacles[outlet_id].rating_a, entry.carries_a)
    most_w = min(entry.most_w, LASTING_SHARE * engine.rated_w, LASTING_SHARE * rating * volts)
    setting = max(1.0, math.floor(most_w / 10) * 10.0)
    steps = [step for step in entry.steps_w if step <= setting]
    if entry.steps_w:
        setting = max(steps, default=min(entry.steps_w))
    lead = Lead(
        source=Outlet(kind="generator", id="engine", outlet=outlet_id),
        to=ToInput(station_id="station", input_id=input_id, setting_w=setting),
    )
    return plan.model_copy(update={"leads": {**plan.leads, "charging": lead}})
