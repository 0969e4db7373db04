"""Currents between battery and inverter, and what joining a battery does."""

from weary_cedar.core.electrical.inverter import cell_draw_w

#: Conductors and fuses on the battery side are chosen with this factor. Common practice.
MARGIN = 1.25
#: Input capacitors of an inverter by its rating, F per VA. Typical, from memory.
FARADS_PER_VA = 6.7e-6
#: Volts by which batteries may differ when they are joined, by nominal voltage. Common practice.
JOINED_APART_V = ((15.0, 0.1), (30.0, 0.2), (64.0, 0.4))


def dc_amps(ac_w: float, efficiency: float, idle_w: float, battery_v: float) -> float:
    """Battery current at an AC load.

    Args:
        ac_w: AC power, W.
        efficiency: slope of the inverter, above 0 up to 1.
        idle_w: idle draw, W.
        battery_v: battery voltage, V, above 0; the lowest for the greatest current.

    Returns:
        A, (P/η + P_idle)/V.

    Raises:
        ValueError: a voltage that is not above 0.

    Source: common practice of the trade.

    >>> dc_amps(3000, 1.0, 0, 24)
    125.0
    """
    if battery_v <= 0:
        raise ValueError("battery voltage should be above 0")
    return cell_draw_w(ac_w, efficiency, idle_w) / battery_v


def cable_and_fuse_a(amps: float) -> float:
    """Least rating of cable and fuse for a battery current: 1.25 · I.

    Args:
        amps: greatest lasting current, A.

    Source: common practice of the trade.

    >>> cable_and_fuse_a(100)
    125.0
    """
    return MARGIN * amps


def may_differ_v(nominal_v: float) -> float:
    """By how much batteries may differ when they are joined in parallel, V.

    Args:
        nominal_v: nominal voltage, V.

    Source: common practice (0.1, 0.2 and 0.4 V on 12, 24 and 48 V).

    >>> may_differ_v(24)
    0.2
    """
    return next((apart for top, apart in JOINED_APART_V if nominal_v <= top), JOINED_APART_V[-1][1])


def precharge_resistor(
    battery_v: float, capacitance_f: float, seconds: float = 3.0
) -> tuple[float, float, float]:
    """A resistor that fills an inverter's capacitors before the battery is joined.

    Args:
        battery_v: V.
        capacitance_f: of the inverter's input, F.
        seconds: time to be full to 95 %, s.

    Returns:
        Ohms (t = 3·R·C), peak amps V/R, and peak watts V²/R.

    Raises:
        ValueError: figures that are not above 0.

    Source: charging of a capacitor through a resistor (textbook).

    >>> [round(x, 1) for x in precharge_resistor(51.2, 0.02)]
    [50.0, 1.0, 52.4]
    """
    if min(battery_v, capacitance_f, seconds) <= 0:
        raise ValueError("voltage, capacitance and time should be above 0")
    ohms = seconds / (3 * capacitance_f)
    return ohms, battery_v / ohms, battery_v**2 / ohms
