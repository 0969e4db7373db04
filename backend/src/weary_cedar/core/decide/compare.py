"""Options of gear side by side, at this house's load."""

from typing import Any

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import Generator, Plan, Station
from weary_cedar.core.supply.charging import charge_hours
from weary_cedar.core.supply.fuel import burned_l, flow
from weary_cedar.core.supply.overload import OverloadCurve
from weary_cedar.core.supply.station_energy import delivered_wh, runtime_h, usable_wh

#: A start is judged for this long, s.
START_S = 0.5
#: A piece of more than this is not carried by one person. Common practice.
MOVED_KG = 50.0


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
    recharge_sun_h: float | None
    weight_kg: float | None
    noise_db: float | None
    price_per_kwh: float | None
    price_per_kwh_life: float | None
    moves_with_you: bool
    generator_h_day: float | None = None
    fuel_l_day: float | None = None
    fuel_days: float | None = None


class LinkedPair(Station):
    """Two 120 V units joined by their maker's kit, seen as one source of 120/240 V."""

    unit: Station


def linked_pair(unit: Station) -> LinkedPair:
    """Two of a 120 V unit, joined by their maker's kit.

    Energy, rating, idle draw, price and weight double; a leg has one unit. What this cannot show is that
    the first unit to be empty stops both: the legs must be balanced for it to hold.
    """
    double: dict[str, float | None] = {
        name: 2 * getattr(unit, name) if getattr(unit, name) is not None else None
        for name in ("rated_va", "nameplate_wh", "cell_wh", "sleep_w", "price", "weight_kg")
    }
    double |= {"idle_w": 2 * unit.idle_draw_w}
    packs = {key: pack.model_copy(update={"count": 2 * pack.count}) for key, pack in unit.packs.items()}
    more = {"name": f"two linked: {unit.name}", "output": "120/240", "leg_va": unit.leg_limit_va}
    pair: dict[str, Any] = {name: getattr(unit, name) for name in Station.model_fields}
    pair.update(double, **more, packs=packs, unit=unit)
    return LinkedPair.model_construct(**pair)


def compare(stations: list[Station], mean_w: float, generator: Generator | None = None) -> list[Option]:
    """Compare stations at a mean AC load.

    Args:
        stations: the options; packs included.
        mean_w: mean AC load of the house, W.
        generator: to pair each option with, if any.

    Returns:
        For each: energy from full to cut-off as it arrives, how long that lasts, limit of a leg,
        start carried for half a second on a leg, share of idle draw, hours from empty to full at
        its largest AC input and at all its solar inputs, taper included; price of station and packs
        per delivered kWh, once and over its cycle life; with a generator its hours a day, the
        litres that keep up with this load, and the days that its fuel lasts.

    Source: linear loss model and linear taper, common practice; prices as given.
    """
    return [_option(station, mean_w, generator) for station in stations]


def _option(station: Station, mean_w: float, generator: Generator | None) -> Option:
    window = usable_wh(station.total_cell_wh, 100.0, station.cutoff_percent)
    arrives = delivered_wh(window, mean_w, station.inverter_efficiency, station.idle_draw_w)
    hours = runtime_h(window, mean_w, station.inverter_efficiency, station.idle_draw_w)
    draw = mean_w / station.inverter_efficiency + station.idle_draw_w
    kwh = arrives / 1000.0
    owned = [(station.price, station.weight_kg, 1)]
    owned += [(pack.price, pack.weight_kg, pack.count) for pack in station.packs.values()]
    paid = _sum_of([(price, count) for price, _, count in owned])
    price = paid / kwh if paid and kwh > 0 else None
    carried = OverloadCurve(station.curve).carried_multiple(START_S)
    return Option(
        name=station.name,
        output=station.output,
        cell_wh=station.total_cell_wh,
        delivered_wh=arrives,
        runtime_h=hours if hours < 1e6 else None,
        leg_va=station.leg_limit_va,
        start_va=carried * station.leg_limit_va,
        idle_share=station.idle_draw_w / draw if draw > 0 else 0.0,
        recharge_h=_wall_h(station),
        recharge_sun_h=_sun_h(station),
        weight_kg=_sum_of([(weight, count) for _, weight, count in owned]),
        noise_db=station.noise_db,
        price_per_kwh=price,
        price_per_kwh_life=price / station.cycle_life if price and station.cycle_life else None,
        moves_with_you=all(weight is None or weight <= MOVED_KG for weight in _pieces_kg(station)),
        **_with_generator(station, draw, generator),
    )


def _wall_h(station: Station) -> float | None:
    """Hours from empty to full by the wall; linked units one after the other, as their kits want it."""
    if isinstance(station, LinkedPair):
        one = _wall_h(station.unit)
        return None if one is None else 2 * one
    return full_charge_h(station, station.most_charge_w)


def _sun_h(station: Station) -> float | None:
    """Hours from empty to full by all its solar inputs at their most; each linked unit has its own."""
    unit = station.unit if isinstance(station, LinkedPair) else station
    sun_w = sum(entry.most_w * entry.efficiency for entry in unit.dc_inputs.values())
    return full_charge_h(unit, min(sun_w, unit.max_charge_w or sun_w))


def _pieces_kg(station: Station) -> list[float | None]:
    """What each piece weighs that is carried by itself, kg."""
    head = station.unit if isinstance(station, LinkedPair) else station
    return [head.weight_kg, *(pack.weight_kg for pack in station.packs.values())]


def _sum_of(parts: list[tuple[float | None, int]]) -> float | None:
    """The sum of what all parts cost or weigh; nothing where one of them is not known."""
    if any(value is None for value, _ in parts):
        return None
    return sum(value * count for value, count in parts if value is not None)


def _with_generator(station: Station, draw_w: float, generator: Generator | None) -> dict[str, float | None]:
    """Hours a day that a generator charges to keep up, litres a day, days that the fuel lasts."""
    if generator is None:
        return {}
    volts = (240, 230, 120) if generator.output in ("120/240", "230") else (120,)
    fitting = [entry.most_w for entry in station.ac_inputs.values() if entry.volts in volts]
    wall_w = min(max(fitting, default=0.0), generator.rated_w)
    cell_w = min(wall_w * station.charge_efficiency, station.most_charge_w)
    if cell_w <= 0:
        return {}
    hours = 24.0 * draw_w / cell_w
    flows = flow(generator)
    if flows is None:
        return {"generator_h_day": hours}
    litres = burned_l(*flows, cell_w / station.charge_efficiency, hours)
    days = generator.on_hand_l / litres if generator.on_hand_l is not None and litres > 0 else None
    return {"generator_h_day": hours, "fuel_l_day": litres, "fuel_days": days}


def full_charge_h(station: Station, cell_w: float) -> float | None:
    """Hours from empty to full at a power into the cells, taper included; nothing without any.

    Args:
        station: with its taper; its largest AC charge is the reference where none is given.
        cell_w: into the cells, W.

    Source: as `charge_hours`.
    """
    if cell_w <= 0:
        return None
    taper = station.tapers
    reference = taper.reference_w or station.most_charge_w or cell_w
    return charge_hours(
        station.total_cell_wh, cell_w, 0.0, 1.0, taper.knee_percent / 100, taper.end_percent / 100, reference
    )


def mean_load_w(plan: Plan) -> float:
    """Mean AC load of what the plan carries, W."""
    from weary_cedar.core.decide.needs import need_list

    return need_list(plan).wh_day / 24.0
