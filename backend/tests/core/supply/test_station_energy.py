"""Runtime and energy: rows marked practice are common practice of the trade, no source to cite."""

import pytest

from weary_cedar.core.electrical.inverter import cell_draw_w
from weary_cedar.core.plan import Station
from weary_cedar.core.supply.station_energy import (
    delivered_wh,
    runtime_h,
    runtime_uncertainty,
    usable_wh,
)


@pytest.mark.parametrize(
    ("window_wh", "load_w", "efficiency", "idle_w", "hours"),
    [
        (5120, 0, 1.0, 50, 102.4),  # practice
        (5120, 64.6, 1.0, 50, 44.7),  # practice: a real run lasted 45 to 46 h
        (5120, 150, 1.0, 50, 25.6),  # practice: guessing the load
        (6500, 88 + 70 + 25, 1.0, 0, 35.5),  # practice: delivered energy, no idle on top
        (512, 40, 1.0, 0, 12.8),  # practice
    ],
)
def test_runtime(window_wh: float, load_w: float, efficiency: float, idle_w: float, hours: float) -> None:
    assert runtime_h(window_wh, load_w, efficiency, idle_w) == pytest.approx(hours, rel=2e-3)


def test_share_delivered() -> None:
    """Practice: 5,200 Wh out, 2,970 Wh into the refrigerator, 57 % delivered."""
    assert delivered_wh(5200, 64.6, 1.0, 48.5) / 5200 == pytest.approx(0.571, abs=0.002)
    assert delivered_wh(5000, 0, 1.0, 50) == 0
    assert usable_wh(6500, 43, 0) == pytest.approx(2795)


def test_overall_efficiency_on_the_dc_side() -> None:
    """Practice: 2,400 W at an overall 0.94 from 25.6 V draws 100 A."""
    assert pytest.approx(100, abs=0.5) == 2400 / 0.94 / 25.6
    assert cell_draw_w(2400, 0.96, 53.2) / 25.6 == pytest.approx(100, abs=0.5)
    with pytest.raises(ValueError, match="efficiency"):
        cell_draw_w(100, 0, 10)


@pytest.mark.parametrize(
    ("mean_w", "expected"), [(60, 0.15), (150, 0.15), (325, 0.105), (500, 0.06), (900, 0.06)]
)
def test_how_sure(mean_w: float, expected: float) -> None:
    typical = Station(name="x", rated_va=6000, nameplate_wh=5000)
    measured = typical.model_copy(update={"idle_origin": "measured", "efficiency_origin": "measured"})
    assert runtime_uncertainty(typical, mean_w) == pytest.approx(expected)
    assert runtime_uncertainty(measured, mean_w) == 0.05
