"""Two linked units: each battery is drained by its own leg, and the first to be empty stops both."""

from dataclasses import dataclass


@dataclass(frozen=True)
class PairHours:
    """When a pair stops, what is left in the other unit then, and what balanced legs would give."""

    stops_h: float
    left_share: float
    equal_h: float
    in_proportion_h: float


def pair_hours(stored_a_wh: float, stored_b_wh: float, draw_a_w: float, draw_b_w: float) -> PairHours:
    """How long a linked pair carries its two legs.

    Args:
        stored_a_wh: usable energy of the unit on leg A, Wh at the cells.
        stored_b_wh: of the unit on leg B.
        draw_a_w: mean draw of leg A at its cells, idle included, W, above 0.
        draw_b_w: of leg B, above 0.

    Returns:
        Hours until the first unit is empty, min(E_A/P_A, E_B/P_B); the share of the other unit's energy
        that is stranded then; hours with both legs drawing alike, and with draws in the proportion
        of what is stored, (E_A + E_B)/(P_A + P_B): the longest possible.

    Raises:
        ValueError: a draw that is not above 0.

    Source: follows from how the kits work (common practice).

    >>> found = pair_hours(1960, 3465, 114, 1143)
    >>> round(found.stops_h, 1), round(found.in_proportion_h, 1)
    (3.0, 4.3)
    """
    if min(draw_a_w, draw_b_w) <= 0:
        raise ValueError("each leg should draw something, idle included")
    hours = (stored_a_wh / draw_a_w, stored_b_wh / draw_b_w)
    stops = min(hours)
    longest = max(hours)
    mean_w = (draw_a_w + draw_b_w) / 2
    return PairHours(
        stops_h=stops,
        left_share=1 - stops / longest if longest > 0 else 0.0,
        equal_h=min(stored_a_wh, stored_b_wh) / mean_w,
        in_proportion_h=(stored_a_wh + stored_b_wh) / (2 * mean_w),
    )
