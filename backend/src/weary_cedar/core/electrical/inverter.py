"""What an inverter takes from its cells."""


def cell_draw_w(ac_w: float, efficiency: float, idle_w: float) -> float:
    """Power out of the cells while AC is on.

    Args:
        ac_w: AC power delivered, W.
        efficiency: slope of the inverter, above 0 up to 1.
        idle_w: idle draw, W.

    Returns:
        P_ac/η + P_idle in W.

    Raises:
        ValueError: efficiency outside (0, 1].

    Source: common practice (linear loss model of an inverter).

    >>> round(cell_draw_w(64.6, 1.0, 50.0), 1)
    114.6
    """
    if not 0 < efficiency <= 1:
        raise ValueError("efficiency should be above 0 and at most 1")
    return ac_w / efficiency + idle_w
