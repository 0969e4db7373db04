"""Meter series against synthetic ones with known truth."""

from statistics import NormalDist

import numpy as np
import pytest

from weary_cedar.core.demand.measured import analyse_series, loss_between_meters, mean_from_totals
from weary_cedar.core.errors import InvalidInput
from weary_cedar.stand_ins.meter import APPLIANCES, meter_series


@pytest.mark.parametrize("name", APPLIANCES)
@pytest.mark.parametrize("step_s", [1.0, 10.0, 60.0])
def test_finds_what_was_put_in(name: str, step_s: float) -> None:
    series = meter_series(name, days=4, step_s=step_s, seed=3)
    truth, found = series.truth, analyse_series(series.t_s, series.watts)
    assert found.wh_day == pytest.approx(truth.wh_day, rel=0.01)
    assert abs(found.wh_day - truth.wh_day) <= found.wh_day_error
    assert found.cycles == truth.cycles
    if truth.cycles:
        assert found.duty == pytest.approx(truth.duty, abs=0.02)
        assert found.on_w == pytest.approx(truth.on_w, rel=0.03)
        assert found.period_s == pytest.approx(truth.period_s, rel=0.1)
    if truth.start_w is not None and step_s == 1.0:
        assert found.start_w == pytest.approx(truth.start_w, rel=0.05)
    if step_s > 5:
        assert found.start_w is None
    assert bool([u for u in found.unusual if "defrost" in u.what]) == truth.defrosts


def test_the_interval_is_that_of_95_in_100() -> None:
    """Cycles of two kinds in turn: 1.96 standard errors of their means (the normal distribution), and 1 %."""
    watts = np.array([200.0, 200.0, 0.0, 0.0, 200.0, 200.0, 0.0, 0.0, 0.0, 0.0] * 40)
    found = analyse_series(np.linspace(0.0, 60.0 * (len(watts) - 1), len(watts)), watts)
    of_cycles = np.array([100.0, 400.0 / 6.0] * 40)[:-1]
    error = of_cycles.std(ddof=1) / np.sqrt(len(of_cycles)) / watts.mean()
    wide = NormalDist().inv_cdf(0.975)
    expected = 24 * watts.mean() * np.hypot(wide * error, 0.01)
    assert found.wh_day_error == pytest.approx(expected, rel=0.02)


def test_gaps_are_left_out() -> None:
    series = meter_series("refrigerator", days=4, step_s=10.0, seed=1)
    keep = (series.t_s < 100_000) | (series.t_s > 160_000)
    whole, holed = (
        analyse_series(series.t_s, series.watts),
        analyse_series(series.t_s[keep], series.watts[keep]),
    )
    assert holed.gap_hours == pytest.approx(60_010 / 3600, abs=0.1)
    assert holed.hours == pytest.approx(whole.hours - holed.gap_hours, abs=0.1)
    assert holed.wh_day == pytest.approx(whole.wh_day, rel=0.05)


def test_few_cycles_are_said_to_be_few() -> None:
    series = meter_series("refrigerator", days=0.1, step_s=10.0, seed=1)
    found = analyse_series(series.t_s, series.watts)
    assert found.cycles_seen < 5
    assert found.wh_day_error > 0.1 * found.wh_day


@pytest.mark.parametrize(
    ("t", "told"), [([0, 1, 2], "ten samples"), ([0, 100, 100, *range(200, 1200, 100)], "rise")]
)
def test_too_little_or_unordered(t: list[float], told: str) -> None:
    with pytest.raises(InvalidInput, match=told):
        analyse_series(np.array(t, float), np.ones(len(t)))


def test_totals_and_two_meters() -> None:
    """Common practice: 2.97 kWh in 46 h; 3.02 kWh in and 2.97 kWh out of a cord."""
    assert mean_from_totals(2.97, 46) == pytest.approx(64.6, abs=0.05)
    assert loss_between_meters(3.02, 2.97, 46) == pytest.approx((50, 1.1), abs=0.05)
    with pytest.raises(InvalidInput, match="/kwh_after"):
        loss_between_meters(1, 2, 3)
    with pytest.raises(InvalidInput, match="/hours"):
        mean_from_totals(1, 0)
