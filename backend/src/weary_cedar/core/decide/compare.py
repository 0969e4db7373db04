"""Options of gear side by side, at this house's load."""

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import Generator, Plan, Station
from weary_cedar.core.supply.fuel import petrol_l
from weary_cedar.core.supply.overload import OverloadCurve
from weary_cedar.core.supply.station_energy import delivered_wh, runtime_h, usable_wh

#: Wall to cells, where nothing was measured. Common practice (0.83 to 0.93).
CHARGE_EFFICIENCY = 0.88
#: A start is judged for this long, s.
START_S = 0.5


class Option(BaseModel):
    """One station with its packs, alone or as one of a linked pair, at a stated mean load."""

    model_config = ConfigDict(frozen=True)

    name: str
    output: str
    cell_wh: float
    delivered_wh: float
    runtime_h: float | None
    leg_va: float
    start_va: float
    idle_share: float
    recharge_h: float | None
    weight_kg: float | None
    noise_db: float | None
    price_per_kwh: float | None
    price_per_kwh_life: float | None
    moves_with_you: bool
    generator_h_day: float | None = None
    fuel_l_day: float | None = None


def linked_pair(unit: Station) -> Station:
    """Two 120 V units joined by their maker's kit, seen as one source of 120/240 V.

    Energy, rating, idle draw, price and weight double; a leg has one unit. What this cannot show is
    that the first unit to be empty stops both: the legs must be balanced for it to hold.
    """
    double = {
        name: 2 * getattr(unit, name) if getattr(unit, name) is not None else None
        for name in ("rated_va", "nameplate_wh", "cell_wh", "idle_w", "sleep_w", "price", "weight_kg")
    }
    packs = {key: pack.model_copy(update={"count": 2 * pack.count}) for key, pack in unit.packs.items()}
    more = {"name": f"two linked: {unit.name}", "output": "120/240", "leg_va": unit.leg_limit_va}
    # Linked units are charged one by one: the kit refuses AC charging while they are on.
    return unit.model_copy(update={**double, **more, "packs": packs})


def compare(stations: list[Station], mean_w: float, generator: Generator | None = None) -> list[Option]:
    """Compare stations at a mean AC load.

    Args:
        stations: the options; packs included.
        mean_w: mean AC load of the house, W.
        generator: to pair each option with, if any.

    Returns:
        For each: energy from full to cut-off as it arrives, how long that lasts, limit of a leg,
        start carried for half a second on a leg, share of idle draw, hours from empty to full at
        its largest AC input, price per delivered kWh once and over its cycle life; with a generator
        its hours a day and litres that keep up with this load.

    Source: linear loss model and charge efficiency of 0.88, common practice; prices as given.
    """
    return [_option(station, mean_w, generator) for station in stations]


def _option(station: Station, mean_w: float, generator: Generator | None) -> Option:
    window = usable_wh(station.total_cell_wh, 100.0, station.cutoff_percent)
    arrives = delivered_wh(window, mean_w, station.inverter_efficiency, station.idle_w)
    hours = runtime_h(window, mean_w, station.inverter_efficiency, station.idle_w)
    draw = mean_w / station.inverter_efficiency + station.idle_w
    wall_w = max((entry.most_w for entry in station.ac_inputs.values()), default=0.0)
    kwh = arrives / 1000.0
    price = station.price / kwh if station.price and kwh > 0 else None
    carried = OverloadCurve(station.overload_curve).carried_multiple(START_S)
    return Option(
        name=station.name,
        output=station.output,
        cell_wh=station.total_cell_wh,
        delivered_wh=arrives,
        runtime_h=hours if hours < 1e6 else None,
        leg_va=station.leg_limit_va,
        start_va=carried * station.leg_limit_va,
        idle_share=station.idle_w / draw if draw > 0 else 0.0,
        recharge_h=station.total_cell_wh / (CHARGE_EFFICIENCY * wall_w) if wall_w > 0 else None,
        weight_kg=station.weight_kg,
        noise_db=station.noise_db,
        price_per_kwh=price,
        price_per_kwh_life=price / station.cycle_life if price and station.cycle_life else None,
        moves_with_you=station.weight_kg is None or station.weight_kg <= 50.0,
        **_with_generator(station, draw, generator),
    )


def _with_generator(station: Station, draw_w: float, generator: Generator | None) -> dict[str, float]:
    """Hours a day that a generator charges to keep up, and litres of petrol (from memory)."""
    if generator is None:
        return {}
    volts = (240, 230, 120) if generator.output in ("120/240", "230") else (120,)
    fitting = [entry.most_w for entry in station.ac_inputs.values() if entry.volts in volts]
    charge_w = min(max(fitting, default=0.0), generator.rated_w)
    if charge_w <= 0:
        return {}
    hours = 24.0 * draw_w / (CHARGE_EFFICIENCY * charge_w)
    return {"generator_h_day": hours, "fuel_l_day": petrol_l(generator.rated_w, charge_w, hours)}


def mean_load_w(plan: Plan) -> float:
    """Mean AC load of what the plan carries, W."""
    from weary_cedar.core.decide.needs import need_list

    return need_list(plan).wh_day / 24.0
