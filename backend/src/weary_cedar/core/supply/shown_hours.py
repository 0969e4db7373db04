"""What the display of a station shows as remaining time."""

import math
from collections.abc import Sequence

from weary_cedar.core.plan import Station

#: Less is drawn than what a display takes for something, W.
NOTHING_W = 1.0


def shown_hours(
    station: Station, rows: Sequence[tuple[float, float, float, float]]
) -> tuple[float | None, ...]:
    """Hours that a station's own display shows at every change.

    Args:
        station: its cells, cut-off, and how slowly its display follows the draw (a time constant, s).
        rows: moment, s; stored energy, Wh; draw of its cells, W; what is offered to them, W. Each draw
            holds from its moment to the next one.

    Returns:
        For each row the hours to its cut-off, of the charge in whole per cent by the smoothed draw;
        nothing where more is offered than drawn, or nothing is drawn.

    Formula: s' = (P − s)/τ between two rows, in closed form; hours = (whole % − cut-off) · Wh / s.

    Source: common practice: displays show whole per cent and a load that lags minutes behind.
    """
    lag_s, cap_wh = station.display_time_s, station.total_cell_wh
    shown: list[float | None] = []
    smooth_w = rows[0][2] if rows else 0.0
    for index, (t, stored_wh, draw_w, offered_w) in enumerate(rows):
        if index:
            before, held_w = rows[index - 1][0], rows[index - 1][2]
            share = math.exp(-(t - before) / lag_s) if lag_s > 0 else 0.0
            smooth_w = held_w + (smooth_w - held_w) * share
        now_w = smooth_w if lag_s > 0 else draw_w
        whole = max(0.0, math.floor(100.0 * stored_wh / cap_wh + 0.5) - station.cutoff_percent)
        charging = offered_w > draw_w
        shown.append(None if charging or now_w < NOTHING_W else whole / 100.0 * cap_wh / now_w)
    return tuple(shown)
