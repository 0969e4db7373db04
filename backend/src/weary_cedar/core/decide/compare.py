"""Options of gear side by side, at this house's load."""

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import Plan, Station
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


def compare(stations: list[Station], mean_w: float) -> list[Option]:
    """Compare stations at a mean AC load.

    Args:
        stations: the options; packs included.
        mean_w: mean AC load of the house, W.

    Returns:
        For each: energy from full to cut-off as it arrives, how long that lasts, limit of a leg,
        start carried for half a second on a leg, share of idle draw, hours from empty to full at
        its largest AC input, price per delivered kWh once and over its cycle life.

    Source: linear loss model and charge efficiency of 0.88, common practice; prices as given.
    """
    return [_option(station, mean_w) for station in stations]


def _option(station: Station, mean_w: float) -> Option:
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
    )


def mean_load_w(plan: Plan) -> float:
    """Mean AC load of what the plan carries, W."""
    from weary_cedar.core.decide.needs import need_list

    return need_list(plan).wh_day / 24.0
