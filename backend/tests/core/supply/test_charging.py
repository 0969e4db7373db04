"""Charging with its taper: worked cases, and the integral by small steps."""

import pytest

from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.supply.charging import charge_hours


@pytest.mark.parametrize(
    ("cell_wh", "cell_w", "taper_ref_w", "hours"),
    [
        (6000, 7000, 1e9, 51 / 60),  # 51 min before losses; practice
        (6144, 6144 / 7250 * 1783, 1e5, 4.07),  # 1,783 W from the wall, 7.25 kWh in; hardly tapered; practice
    ],
)
def test_charging(cell_wh: float, cell_w: float, taper_ref_w: float, hours: float) -> None:
    assert charge_hours(cell_wh, cell_w, 0, 1, taper_ref_w=taper_ref_w) == pytest.approx(hours, abs=0.05)


def test_this_units_taper() -> None:
    """10,240 Wh: 0–80 % in 5 h, 80–100 % in 2 h; knee 0.80, end 0.35 of 1,638 W (practice)."""
    assert charge_hours(10_240, 1638, 0, 0.8, 0.8, 0.35) == pytest.approx(5, abs=0.01)
    assert charge_hours(10_240, 1638, 0.8, 1, 0.8, 0.35) == pytest.approx(2, abs=0.03)


@pytest.mark.parametrize("cell_w", [300.0, 700.0, 1200.0, 1638.0, 3000.0])
@pytest.mark.parametrize(("start", "stop"), [(0.0, 1.0), (0.85, 0.97), (0.3, 0.8)])
def test_closed_form_against_small_steps(cell_w: float, start: float, stop: float) -> None:
    knee, end, reference, steps = 0.8, 0.35, 1638.0, 20_000
    width = (stop - start) / steps
    hours = 0.0
    for index in range(steps):
        share = start + (index + 0.5) * width
        fraction = 1.0 if share <= knee else 1 - (1 - end) * (share - knee) / (1 - knee)
        hours += width * 10_240 / min(cell_w, reference * fraction)
    assert charge_hours(10_240, cell_w, start, stop, knee, end, reference) == pytest.approx(hours, rel=1e-5)


@pytest.mark.parametrize(("cell_w", "knee", "end"), [(0, 0.9, 0.3), (100, 1.0, 0.3), (100, 0.9, 0)])
def test_figures_that_cannot_be(cell_w: float, knee: float, end: float) -> None:
    with pytest.raises(InvalidInput):
        charge_hours(1000, cell_w, 0, 1, knee, end)
