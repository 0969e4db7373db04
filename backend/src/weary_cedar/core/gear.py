"""Generic classes of gear to start from, each with typical figures and where those are from."""

from datetime import time

from pydantic import BaseModel, ConfigDict, TypeAdapter

from weary_cedar.core.plan import (
    TRAITS,
    AcInput,
    Adapter,
    Bank,
    BoxPart,
    Cord,
    CurvePoint,
    DcInput,
    DcOutput,
    EngineRule,
    ExternalBattery,
    Facing,
    FixedWire,
    Generator,
    HandCycleRule,
    Hours,
    IdleCutout,
    Lead,
    Link,
    Module,
    OrderRule,
    Outlet,
    Pack,
    Place,
    PlugRule,
    QuietHours,
    Receptacle,
    ReserveRule,
    SecondFuel,
    Shade,
    ShedRule,
    SolarArray,
    StartRule,
    Station,
    SurplusRule,
    SwapRule,
    TogetherRule,
    ToInput,
    ToLoads,
    TurnRule,
    UtilityRule,
    Vehicle,
    WhileRule,
    kinds_that,
)
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.tables import Row, table, told_source


class StationClass(BaseModel):
    """One class of station."""

    model_config = ConfigDict(frozen=True)

    class_id: str
    station: Station
    pack_wh: float | None
    source: str


def station_classes() -> list[StationClass]:
    """The stations of the gear library."""
    return [_station_class(row) for row in table("stations")]


def station_of_class(class_id: str) -> Station:
    """A station with the typical figures of its class.

    Raises:
        KeyError: no such class.
    """
    return {item.class_id: item.station for item in station_classes()}[class_id]


class GeneratorClass(BaseModel):
    """One class of generator."""

    model_config = ConfigDict(frozen=True)

    class_id: str
    generator: Generator
    source: str


class ModuleClass(BaseModel):
    """One class of solar module, as an array of one."""

    model_config = ConfigDict(frozen=True)

    class_id: str
    array: SolarArray
    source: str


class VehicleClass(BaseModel):
    """One class of vehicle."""

    model_config = ConfigDict(frozen=True)

    class_id: str
    vehicle: Vehicle
    source: str


class ExternalClass(BaseModel):
    """One class of battery that refills a station."""

    model_config = ConfigDict(frozen=True)

    class_id: str
    battery: ExternalBattery
    source: str


class LeadClass(BaseModel):
    """One class of cord, adapter or inlet."""

    model_config = ConfigDict(frozen=True)

    class_id: str
    name: str
    lead: BoxPart
    source: str


class GearLibrary(BaseModel):
    """All classes of gear."""

    model_config = ConfigDict(frozen=True)

    stations: list[StationClass]
    generators: list[GeneratorClass]
    modules: list[ModuleClass]
    vehicles: list[VehicleClass]
    externals: list[ExternalClass]
    leads: list[LeadClass]
    fresh: "Fresh"
    receptacle_kinds: list[str]
    #: Kinds of feed that take spaces of the panel, and those that reach only what is wired to them.
    breaker_kinds: tuple[str, ...] = kinds_that("breaker")
    wired_kinds: tuple[str, ...] = kinds_that("wired")
    #: Kinds of feed, and cords, as one is asked for them.
    feed_kinds: dict[str, str] = {kind: traits.asked for kind, traits in TRAITS.items()}


class Fresh(BaseModel):
    """Parts of gear before anything was read off their plates: typical sizes, all else not known."""

    model_config = ConfigDict(frozen=True)

    pack: Pack = Pack(name="pack", nameplate_wh=2000.0)
    receptacle: Receptacle = Receptacle(kind="5-20", rating_a=20.0)
    ac_input: AcInput = AcInput(most_w=1500.0)
    dc_input: DcInput = DcInput(high_v=60.0, most_a=15.0, most_w=500.0)
    dc_output: DcOutput = DcOutput()
    curve_point: CurvePoint = CurvePoint(multiple=3.0, seconds=0.1)
    idle_cutout: IdleCutout = IdleCutout()
    bank: Bank = Bank(nominal_v=51.2, lowest_v=48.0)
    facing: Facing = Facing(at=time(8), tilt_deg=40.0, azimuth_deg=110.0)
    shade: Shade = Shade(begins=time(15), ends=time(18))
    second_fuel: SecondFuel = SecondFuel(fuel="propane")
    quiet: QuietHours = QuietHours(begins=time(22), ends=time(7))
    away: Hours = Hours(begins=time(8), ends=time(17))
    cord: Cord = Cord(length_m=7.62, awg=10)
    adapter: Adapter = Adapter(
        source_end="L14-30",
        load_end="L14-30",
        rating_a=30.0,
        passes_neutral="unknown",
        passes_ground="unknown",
    )
    wire: FixedWire = FixedWire(length_m=6.1, awg=10)
    place: Place = Place(name="New place", kind="garage")
    charging: Lead = Lead(source=Outlet(kind="generator", id="a"), to=ToInput(station_id="a", input_id="a"))
    to_loads: Lead = Lead(
        source=Outlet(kind="station", id="a", outlet="a"), cords=(Cord(length_m=7.62, awg=14),), to=ToLoads()
    )
    link: Link = Link(name="linked pair", leg_a="a", leg_b="b")
    engine_rule: EngineRule = EngineRule(generator_id="a")
    plug_rule: PlugRule = PlugRule(lead_id="a")
    shed_rule: ShedRule = ShedRule(circuit_ids=("a",))
    surplus_rule: SurplusRule = SurplusRule(load_ids=("a",))
    while_rule: WhileRule = WhileRule(load_ids=("a",), sun_above_w=1000.0)
    together_rule: TogetherRule = TogetherRule(load_ids=("a", "b"))
    hand_cycle_rule: HandCycleRule = HandCycleRule(load_ids=("a",))
    reserve_rule: ReserveRule = ReserveRule(circuit_ids=("a",))
    utility_rule: UtilityRule = UtilityRule()
    swap_rule: SwapRule = SwapRule(lead_id="a")
    order_rule: OrderRule = OrderRule()
    start_rule: StartRule = StartRule(load_id="a")
    turn_rule: TurnRule = TurnRule(array_id="a")


def gear_library() -> GearLibrary:
    """The gear library, in the order of its tables."""
    return GearLibrary(
        stations=station_classes(),
        generators=[_generator_class(row) for row in table("generators")],
        modules=[_module_class(row) for row in table("modules")],
        vehicles=[_vehicle_class(row) for row in table("vehicles")],
        externals=[_external_class(row) for row in table("externals")],
        leads=[_lead_class(row) for row in table("leads")],
        fresh=Fresh(),
        receptacle_kinds=[row["kind"] for row in table("receptacles")],
    )


def _figures(row: Row, *names: str) -> dict[str, float]:
    """The figures that a row has."""
    return {name: float(row[name]) for name in names if row[name]}


def _external_class(row: Row) -> ExternalClass:
    told = {name: row[name] for name in ("name", "kind")}
    counts = {name: int(row[name]) for name in ("in_series", "parallel", "cycle_life")}
    figures = _figures(row, "wh", "lowest_v", "highest_v", "gives_w", "weight_kg")
    battery = ExternalBattery.model_validate({**told, **counts, **figures})
    return ExternalClass(class_id=row["class_id"], battery=battery, source=told_source(row))


def _lead_class(row: Row) -> LeadClass:
    told = {name: row[name] for name in ("part", "name", "source_end", "load_end", "kind") if row[name]}
    counts = {name: int(row[name]) for name in ("awg", "conductors") if row[name]}
    figures = _figures(row, "length_m", "rating_a", "overcurrent_a", "weight_kg")
    lead: BoxPart = TypeAdapter(BoxPart).validate_python({**told, **counts, **figures})
    return LeadClass(class_id=row["class_id"], name=row["name"], lead=lead, source=told_source(row))


def _receptacles(text: str) -> dict[str, Receptacle]:
    found: dict[str, Receptacle] = {}
    for part in text.split(";"):
        kind, _, rating = part.strip().rpartition(" ")
        found[free_id(kind, found)] = Receptacle(kind=kind, rating_a=float(rating))
    return found


GENERATOR_FIGURES = (
    "healthy_minimum_share",
    "tank_l",
    "distortion_percent",
    "hertz_swing",
    "weight_kg",
    "noise_db",
)


def _generator_class(row: Row) -> GeneratorClass:
    generator = Generator.model_validate(
        {
            "name": row["name"],
            "rated_w": float(row["rated_w"]),
            "starting_w": float(row["starting_w"]),
            "output": row["output"],
            "waveform": row["waveform"],
            "auto_start": row["waveform"] == "standby",
            "neutral": row["neutral"],
            "receptacles": _receptacles(row["receptacles"]),
            "fuel": row["fuel"],
            **_figures(row, *GENERATOR_FIGURES),
        }
    )
    return GeneratorClass(class_id=row["class_id"], generator=generator, source=told_source(row))


def _module_class(row: Row) -> ModuleClass:
    figures = (
        "watts",
        "voc_v",
        "vmp_v",
        "isc_a",
        "imp_a",
        "voc_percent_per_k",
        "vmp_percent_per_k",
        "series_fuse_a",
    )
    module = Module.model_validate({name: float(row[name]) for name in figures})
    array = SolarArray(name=row["name"], module=module, lead_m=7.62, weight_kg=float(row["weight_kg"]))
    return ModuleClass(class_id=row["class_id"], array=array, source=told_source(row))


def _vehicle_class(row: Row) -> VehicleClass:
    told = {name: row[name] for name in ("name", "kind", "outlet")}
    figures = _figures(row, "most_w", "socket_fuse_a", "usable_kwh", "tank_l", "kwh_per_l")
    vehicle = Vehicle.model_validate({**told, **figures})
    return VehicleClass(class_id=row["class_id"], vehicle=vehicle, source=told_source(row))


STATION_FIGURES = (
    "cutoff_percent",
    "inverter_efficiency",
    "idle_w",
    "sleep_w",
    "weight_kg",
    "noise_db",
)


def _bank(row: Row) -> Bank | None:
    if not row["bank_v"]:
        return None
    nominal_v, lowest_v, charge_v = (float(part) for part in row["bank_v"].split())
    return Bank(nominal_v=nominal_v, lowest_v=lowest_v, charge_v=charge_v)


def _station_class(row: Row) -> StationClass:
    station = Station.model_validate(
        {
            "name": row["name"],
            "output": row["output"],
            "rated_va": float(row["rated_va"]),
            "leg_va": float(row["leg_va"]),
            "receptacles": _receptacles(row["receptacles"]),
            "nameplate_wh": float(row["nameplate_wh"]),
            "cycle_life": int(row["cycle_life"]),
            "bank": _bank(row),
            **_figures(row, *STATION_FIGURES),
            "ac_inputs": ac_inputs(row["output"], float(row["charge_w"])),
            "dc_inputs": _dc_inputs(row),
            "idle_cutout": IdleCutout(threshold_w=float(row["idle_cutout_w"]))
            if row["idle_cutout_w"]
            else None,
        }
    )
    return StationClass(
        class_id=row["class_id"],
        station=station,
        pack_wh=float(row["pack_wh"]) if row["pack_wh"] else None,
        source=told_source(row),
    )


def ac_inputs(output: str, charge_w: float) -> dict[str, AcInput]:
    """Typical AC inputs of a station: 120 V at 15 A, 240 V where it has both legs; 230 V at 16 A.

    Args:
        output: "120/240", "120" or "230".
        charge_w: most that it takes from the wall, W.

    Returns:
        Inputs by id.

    Source: common practice of the class.
    """
    if output == "230":
        return {"wall": AcInput(volts=230, most_w=charge_w, cap_a=16.0)}
    inputs = {"wall-120": AcInput(volts=120, most_w=min(1800.0, charge_w), cap_a=15.0)}
    if output == "120/240":
        inputs["wall-120"] = inputs["wall-120"].model_copy(update={"passes_through": False})
        inputs["wall-240"] = AcInput(volts=240, most_w=charge_w, cap_a=30.0)
    return inputs


def _dc_inputs(row: Row) -> dict[str, DcInput]:
    low_v, high_v, most_a, most_w = (float(part) for part in row["sun"].split())
    return {"sun": DcInput(low_v=low_v, high_v=high_v, most_a=most_a, most_w=most_w)}
