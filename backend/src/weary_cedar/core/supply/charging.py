"""How long charging takes, with its taper."""

import math

from weary_cedar.core.errors import InvalidInput, Problem


def charge_hours(
    cell_wh: float,
    cell_w: float,
    from_share: float,
    to_share: float,
    knee: float = 0.95,
    end: float = 0.35,
    taper_ref_w: float | None = None,
) -> float:
    """Hours to charge between two shares of full.

    Args:
        cell_wh: energy of the cells from 0 to 100 %, Wh.
        cell_w: power into the cells that the source gives, W, above 0.
        from_share: charge at the start, 0 to 1.
        to_share: charge at the end, 0 to 1.
        knee: charge from which the battery takes less, below 1.
        end: fraction of `taper_ref_w` that it takes at full, above 0.
        taper_ref_w: what the battery takes below the knee, W; `cell_w` where not given.

    Returns:
        Hours. Power is min(cell_w, taper_ref_w · f), f = 1 up to the knee, then linear in charge
        down to `end`; while the battery limits, t = (1 − knee)·Wh/(ref·(1 − end)) · ln(f₁/f₂).

    Raises:
        InvalidInput: figures outside their range.

    Source: common practice of the trade (a linear taper); the integral is in closed form.

    >>> round(charge_hours(10_240, 1638, 0, 0.8, 0.8, 0.35), 1)
    5.0
    >>> round(charge_hours(10_240, 1638, 0.8, 1.0, 0.8, 0.35), 1)
    2.0
    """
    for field, value, ok, right in (
        ("/cell_w", cell_w, cell_w > 0, "above 0"),
        ("/knee", knee, 0 <= knee < 1, "from 0 and below 1"),
        ("/end", end, 0 < end <= 1, "above 0 and at most 1"),
    ):
        if not ok:
            raise InvalidInput(f"{field}: got {value:g}; {right}", (Problem(field, f"{value:g}", right),))
    reference = cell_w if taper_ref_w is None else taper_ref_w

    def fraction(share: float) -> float:
        return 1.0 if share <= knee else 1 - (1 - end) * (share - knee) / (1 - knee)

    limit = cell_w / reference
    if limit > 1:
        steady, bound_from = reference, knee
    elif end >= limit or end == 1:
        steady, bound_from = cell_w, 1.0
    else:
        steady, bound_from = cell_w, knee + (1 - limit) * (1 - knee) / (1 - end)
    hours = max(0.0, min(to_share, bound_from) - from_share) * cell_wh / steady
    begin = max(from_share, bound_from)
    if to_share > begin:
        slope = (1 - end) / (1 - knee)
        hours += cell_wh / (reference * slope) * math.log(fraction(begin) / fraction(to_share))
    return hours
