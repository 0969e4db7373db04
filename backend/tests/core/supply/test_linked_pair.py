"""A linked pair: worked case, and a run of two batteries by small steps."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from weary_cedar.core.supply.linked_pair import pair_hours


def test_the_worked_case() -> None:
    """3.5 kWh units at 56 and 99 %, the fuller on the busy leg, 1,143 and 114 W at the cells (practice)."""
    found = pair_hours(0.56 * 3500, 0.99 * 3500, 114.0, 1143.0)
    assert found.stops_h == pytest.approx(3.0, abs=0.05)
    assert found.left_share == pytest.approx(0.82, abs=0.01)
    assert found.equal_h == pytest.approx(3.1, abs=0.05)
    assert found.in_proportion_h == pytest.approx(4.3, abs=0.05)
    share = 0.99 / (0.99 + 0.56)
    assert (1257 * share, 1257 * (1 - share)) == pytest.approx((803, 454), abs=1)


@given(st.floats(50, 8000), st.floats(50, 8000), st.floats(5, 2000), st.floats(5, 2000))
def test_against_small_steps(a_wh: float, b_wh: float, a_w: float, b_w: float) -> None:
    found = pair_hours(a_wh, b_wh, a_w, b_w)
    step_h, hours, a, b = found.stops_h / 500, 0.0, a_wh, b_wh
    while a - a_w * step_h >= -1e-6 and b - b_w * step_h >= -1e-6:
        a, b, hours = a - a_w * step_h, b - b_w * step_h, hours + step_h
    assert hours == pytest.approx(found.stops_h, rel=3e-3)
    assert max(a / a_wh, b / b_wh) == pytest.approx(found.left_share, abs=4e-3)
    assert found.stops_h <= found.in_proportion_h * (1 + 1e-9)


def test_a_leg_without_any_draw_is_refused() -> None:
    with pytest.raises(ValueError, match="idle included"):
        pair_hours(1000.0, 1000.0, 0.0, 100.0)
