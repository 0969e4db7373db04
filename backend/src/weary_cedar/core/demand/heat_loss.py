"""How much heat a house loses, and what its furnace or boiler then takes in electricity."""

from dataclasses import dataclass
from typing import Final

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.tables import table

#: Cycles per hour of a furnace at half load. Common practice of thermostats for forced air.
CYCLES_AT_HALF: Final = 3.0


def loss_from_fuel(fuel: str, amount: float, degree_days_k: float, efficiency: float) -> float:
    """Heat loss coefficient from last winter's fuel.

    Args:
        fuel: key of the fuel table.
        amount: used over the winter, in the fuel's unit.
        degree_days_k: heating degree days of the same time, K·d.
        efficiency: of the heater, above 0 up to 1.

    Returns:
        W/K, fuel heat · η / (24 h · degree days).

    Raises:
        InvalidInput: unknown fuel, or figures that cannot be.

    Source: degree-day method of heating handbooks; heat contents from memory.

    >>> round(loss_from_fuel("electricity", 9600, 2000, 1.0))
    200
    """
    rows = {row["fuel"]: row for row in table("fuels")}
    if fuel not in rows:
        problem = Problem("/fuel", fuel, f"should be one of {', '.join(rows)}")
        raise InvalidInput(str(problem), (problem,))
    for field, value, ok in (
        ("/amount", amount, amount > 0),
        ("/degree_days_k", degree_days_k, degree_days_k > 0),
        ("/efficiency", efficiency, 0 < efficiency <= 1),
    ):
        if not ok:
            right = "should be above 0 and at most 1" if field == "/efficiency" else "should be above 0"
            raise InvalidInput(f"{field}: got {value:g}; {right}", (Problem(field, f"{value:g}", right),))
    return amount * float(rows[fuel]["kwh_per_unit"]) * 1000 * efficiency / (24 * degree_days_k)


def loss_from_run_fraction(
    run_fraction: float, output_w: float, indoor_c: float, outdoor_c: float, gain_w: float = 0.0
) -> float:
    """Heat loss coefficient from the share of time that the heater ran.

    Args:
        run_fraction: above 0, below 1.
        output_w: heat output while running, W.
        indoor_c: indoor temperature, °C.
        outdoor_c: outdoor temperature, °C, lower.
        gain_w: heat from people, sun and appliances, W.

    Returns:
        W/K, (x·output + gain)/(T_in − T_out).

    Raises:
        InvalidInput: a fraction outside (0, 1), or outdoors not colder.

    Source: heat balance of a house.

    >>> loss_from_run_fraction(0.4, 15000, 20, -5, 0)
    240.0
    """
    if not 0 < run_fraction < 1:
        problem = Problem("/run_fraction", f"{run_fraction:g}", "should be above 0 and below 1")
        raise InvalidInput(str(problem), (problem,))
    if outdoor_c >= indoor_c:
        problem = Problem("/outdoor_c", f"{outdoor_c:g}", f"should be below the {indoor_c:g} °C indoors")
        raise InvalidInput(str(problem), (problem,))
    return (run_fraction * output_w + gain_w) / (indoor_c - outdoor_c)


def run_fraction(
    loss_w_per_k: float, indoor_c: float, outdoor_c: float, gain_w: float, output_w: float
) -> float:
    """Share of time that the heater runs.

    Args:
        loss_w_per_k: heat loss coefficient, W/K.
        indoor_c: set point, °C.
        outdoor_c: outdoor temperature, °C.
        gain_w: free heat, W.
        output_w: heat output, W.

    Returns:
        need/output, from 0 to 1.

    Source: heat balance.

    >>> round(run_fraction(200, 20, 0, 400, 12000), 3)
    0.3
    """
    need_w = loss_w_per_k * (indoor_c - outdoor_c) - gain_w
    return min(1.0, max(0.0, need_w / output_w))


def cycles_per_hour(x: float, at_half: float = CYCLES_AT_HALF) -> float:
    """Cycles per hour of a thermostat.

    Args:
        x: run fraction, 0 to 1.
        at_half: cycles per hour at half load.

    Returns:
        4·n₅₀·x·(1 − x).

    Source: common practice of thermostats (parabola of cycle rate).

    >>> cycles_per_hour(0.5)
    3.0
    """
    return 4 * at_half * x * (1 - x)


@dataclass(frozen=True)
class HeatingDay:
    """A day of heating at one outdoor temperature."""

    outdoor_c: float
    run_fraction: float
    cycles_per_hour: float
    electrical_wh: float
    short: bool


def heating_day(
    outdoor_c: float,
    loss_w_per_k: float,
    indoor_c: float,
    gain_w: float,
    output_w: float,
    run_w: float,
    extra_wh_per_cycle: float,
    standby_w: float = 0.0,
    cycles_at_half: float = CYCLES_AT_HALF,
) -> HeatingDay:
    """What a heater takes in electricity on a day.

    Args:
        outdoor_c: mean outdoor temperature, °C.
        loss_w_per_k: heat loss coefficient, W/K.
        indoor_c: set point, °C.
        gain_w: free heat, W.
        output_w: heat output, W.
        run_w: electrical power while it heats, W.
        extra_wh_per_cycle: of igniter, inducer and purging in each cycle, Wh.
        standby_w: always drawn, W.
        cycles_at_half: cycles per hour at half load.

    Returns:
        Run fraction, cycles per hour, Wh of the day; `short` when it cannot keep up.

    Source: heat balance and the cycle formula.

    >>> round(heating_day(0, 200, 20, 400, 12000, 600, 5).electrical_wh)
    4622
    """
    x = run_fraction(loss_w_per_k, indoor_c, outdoor_c, gain_w, output_w)
    rate = cycles_per_hour(x, cycles_at_half)
    wh = 24 * (x * run_w + rate * extra_wh_per_cycle + standby_w)
    return HeatingDay(outdoor_c, x, rate, wh, loss_w_per_k * (indoor_c - outdoor_c) - gain_w > output_w)


def setback_saving(indoor_c: float, setback_c: float, hours: float, outdoor_c: float) -> float:
    """Share of heat saved by setting back at night, in the long run.

    Args:
        indoor_c: set point by day, °C.
        setback_c: set point by night, °C.
        hours: of the night, h.
        outdoor_c: mean outdoor temperature, °C, below both.

    Returns:
        Share from 0 to 1; an upper bound, since the house cools only slowly.

    Source: degree hours.

    >>> round(setback_saving(20, 16, 8, 0), 3)
    0.067
    """
    if outdoor_c >= indoor_c:
        return 0.0
    lowest = max(setback_c, outdoor_c)
    return max(0.0, hours / 24 * (indoor_c - lowest) / (indoor_c - outdoor_c))
