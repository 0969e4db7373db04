"""Conductors: ASTM B258 and NEC chapter 9 table 8 (the latter from memory); drop: hand and practice."""

import pytest

from weary_cedar.core.electrical.conductor import ohms_per_m
from weary_cedar.core.electrical.voltage_drop import cord_loss_w, three_wire_volts, two_wire_drop_v

FOOT = 0.3048


@pytest.mark.parametrize(
    ("awg", "at_20", "solid_75", "stranded_75"),
    [
        (14, 2.525, 3.07, 3.14),
        (12, 1.588, 1.93, 1.98),
        (10, 0.9989, 1.21, 1.24),
        (8, 0.6282, 0.764, 0.778),
        (6, 0.3951, None, 0.491),
    ],
)
def test_ohms_per_1000_ft(awg: int, at_20: float, solid_75: float | None, stranded_75: float) -> None:
    """At 20 °C by ASTM B258; table 8 of chapter 9 has 75 °C, and no solid wire thicker than AWG 8."""
    per_kft = 1000 * FOOT
    assert ohms_per_m(awg, stranded=False) * per_kft == pytest.approx(at_20, rel=1e-3)
    if solid_75 is not None:
        assert ohms_per_m(awg, 75, stranded=False) * per_kft == pytest.approx(solid_75, rel=7e-3)
    assert ohms_per_m(awg, 75) * per_kft == pytest.approx(stranded_75, rel=7e-3)


def test_three_cords_in_a_row() -> None:
    """Common practice: 0.385 Ω loop; at 2.5 A 0.96 V and 2.4 W."""
    solid = [(25, 14), (50, 10), (50, 12)]
    loop = 2 * sum(feet * FOOT * ohms_per_m(awg, stranded=False) for feet, awg in solid)
    assert loop == pytest.approx(0.385, abs=0.002)
    assert two_wire_drop_v(2.5, loop / 2, loop / 2) == pytest.approx(0.96, abs=0.01)
    assert cord_loss_w(2.5, 0, 2.5, loop / 2) == pytest.approx(2.4, abs=0.02)


def test_the_light_leg_rises() -> None:
    ohms = 50 * FOOT * ohms_per_m(10, stranded=False)
    assert three_wire_volts(120, 20, 2, ohms, ohms) == pytest.approx((118.1, 120.8), abs=0.05)


def test_gauge_outside_the_range() -> None:
    with pytest.raises(ValueError, match="gauge"):
        ohms_per_m(41)
