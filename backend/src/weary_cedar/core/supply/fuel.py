"""What a generator burns."""

#: Petrol: no-load flow by rating, L/h per kW, and slope, L/kWh. From memory.
NO_LOAD_L_PER_KW_H, SLOPE_L_PER_KWH = 0.1, 0.5


def petrol_l(rated_w: float, load_w: float, hours: float) -> float:
    """Petrol that a generator burns at a load.

    Args:
        rated_w: rating, W.
        load_w: load, W.
        hours: running time, h.

    Returns:
        Litres, (0.1 · kW rated + 0.5 · kW load) · h.

    Source: typical of small petrol generators, from memory.

    >>> petrol_l(2000, 1000, 2)
    1.4
    """
    return (NO_LOAD_L_PER_KW_H * rated_w + SLOPE_L_PER_KWH * load_w) / 1000 * hours
