"""The energy of a station: cells, window, idle draw and what arrives as AC."""

from typing import Final

from weary_cedar.core.electrical.inverter import cell_draw_w
from weary_cedar.core.plan.station import Station

HOURS_PER_WEEK: Final = 168.0


def usable_wh(cell_wh: float, from_percent: float, cutoff_percent: float) -> float:
    """Cell energy between a charge and the cut-off.

    Args:
        cell_wh: what the cells give from 100 to 0 %, Wh.
        from_percent: present charge, %.
        cutoff_percent: charge at which AC goes off, %.

    Returns:
        Wh at the cells, never negative.

    Source: definition.

    >>> usable_wh(5000, 100, 10)
    4500.0
    """
    return cell_wh * max(0.0, from_percent - cutoff_percent) / 100.0


def delivered_wh(window_wh: float, mean_w: float, efficiency: float, idle_w: float) -> float:
    """AC energy that arrives at a stated mean load.

    Args:
        window_wh: cell energy from the start charge to cut-off, Wh.
        mean_w: mean AC load, W.
        efficiency: slope of the inverter.
        idle_w: idle draw, W.

    Returns:
        window · P/(P/η + P_idle) in Wh; 0 without load.

    Source: follows from `cell_draw_w`.

    >>> round(delivered_wh(5120, 64.6, 1.0, 50.0))
    2886
    """
    if mean_w <= 0:
        return 0.0
    return window_wh * mean_w / cell_draw_w(mean_w, efficiency, idle_w)


def cell_wh_of_discharge(
    delivered: float, mean_w: float, efficiency: float, idle_w: float, from_percent: float, to_percent: float
) -> float:
    """What the cells really give from 100 to 0 %, by a full-discharge test.

    Args:
        delivered: AC energy that arrived, Wh.
        mean_w: mean AC load of the test, W, above 0.
        efficiency: slope of the inverter.
        idle_w: idle draw, W.
        from_percent: charge at its beginning, %.
        to_percent: charge at its end, %, below.

    Returns:
        Wh at the cells, E · (P/η + P_idle)/P over the share that was used.

    Raises:
        ValueError: a load or a share that is not above 0.

    Source: inverse of `delivered_wh`.

    >>> round(cell_wh_of_discharge(2886, 64.6, 1.0, 50.0, 100, 0))
    5120
    """
    if mean_w <= 0 or from_percent <= to_percent:
        raise ValueError("the load should be above 0, and the charge should fall")
    drawn = delivered * cell_draw_w(mean_w, efficiency, idle_w) / mean_w
    return drawn / ((from_percent - to_percent) / 100.0)


def runtime_h(window_wh: float, mean_w: float, efficiency: float, idle_w: float) -> float:
    """How long a window of cell energy carries a mean AC load.

    Args:
        window_wh: cell energy from the start charge to cut-off, Wh.
        mean_w: mean AC load, W.
        efficiency: slope of the inverter.
        idle_w: idle draw, W.

    Returns:
        Hours; infinite when nothing is drawn.

    Source: energy over power.

    >>> round(runtime_h(5120, 0, 1.0, 50))
    102
    """
    draw_w = cell_draw_w(mean_w, efficiency, idle_w)
    return window_wh / draw_w if draw_w > 0 else float("inf")


def runtime_uncertainty(station: Station, mean_w: float) -> float:
    """How far off a runtime may be, as a fraction of it.

        Args:
            station: with the origin of its idle draw and efficiency.
            mean_w: mean AC load, W.

        Returns:
            0.05 when idle draw and efficiency were measured; from class values 0.06 at 500 W and more,
            0.15 under 150 W, linear between.

        Source: common practice of the trade, no source to cite.

    >>> from weary_cedar.core.plan.station import Station
    >>> runtime_uncertainty(Station(name="x", rated_va=6000, nameplate_wh=5000), 100)
    0.15
    """
    if station.idle_origin == "measured" and station.efficiency_origin == "measured":
        return 0.05
    if mean_w >= 500:
        return 0.06
    if mean_w <= 150:
        return 0.15
    return 0.15 - 0.09 * (mean_w - 150) / 350
