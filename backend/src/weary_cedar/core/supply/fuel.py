"""What a generator burns."""

from weary_cedar.core.plan import Fuel, Generator
from weary_cedar.core.tables import table


def flow(generator: Generator) -> tuple[float, float] | None:
    """Fuel flow of a generator: no-load litres an hour, and litres for every kWh given.

    Args:
        generator: with its own figures, or else those of its fuel and rating.

    Returns:
        (L/h, L/kWh); nothing for gas from a pipe.

    Source: generator_fuels.csv (0.1 L/h per rated kW and 0.5 L/kWh for petrol), from memory.
    """
    typical = typical_flow(generator.fuel, generator.rated_w)
    own = (generator.no_load_l_per_h, generator.l_per_kwh)
    if typical is None:
        return None if own[0] is None or own[1] is None else (own[0], own[1])
    return (typical[0] if own[0] is None else own[0], typical[1] if own[1] is None else own[1])


def typical_flow(fuel: Fuel, rated_w: float) -> tuple[float, float] | None:
    """Flow of a fuel's class: no-load litres an hour by rating, and litres for every kWh.

    Args:
        fuel: of the engine.
        rated_w: rating, W.

    Returns:
        (L/h, L/kWh); nothing for gas from a pipe.

    Source: generator_fuels.csv, from memory.

    >>> typical_flow("petrol", 2000)
    (0.2, 0.5)
    """
    for row in table("generator_fuels"):
        if row["fuel"] == fuel:
            return float(row["no_load_l_per_kw_h"]) * rated_w / 1000, float(row["l_per_kwh"])
    return None


def burned_l(no_load_l_per_h: float, l_per_kwh: float, load_w: float, hours: float) -> float:
    """Fuel that a generator burns at a load.

    Args:
        no_load_l_per_h: running with nothing on, L/h.
        l_per_kwh: for every kWh given.
        load_w: load, W.
        hours: running time, h.

    Returns:
        Litres, (no-load + slope · kW) · h.

    Source: linear fuel flow of an engine, common practice.

    >>> burned_l(0.2, 0.5, 1000, 2)
    1.4
    """
    return (no_load_l_per_h + l_per_kwh * load_w / 1000) * hours
