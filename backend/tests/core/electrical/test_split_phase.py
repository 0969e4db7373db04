"""Legs and neutral: hand computation from Kirchhoff's laws (and OpenDSS, see outside/)."""

import pytest

from weary_cedar.core.electrical.split_phase import (
    PhaseLoad,
    lean,
    leg_currents,
    open_neutral_volts,
    phase_load,
)

NONE = PhaseLoad(0.0)


@pytest.mark.parametrize(
    ("a", "b", "across", "bridged", "expected"),
    [
        (PhaseLoad(1000), PhaseLoad(300), PhaseLoad(2000), False, (16.67, 10.83, 5.83)),
        (PhaseLoad(1000), PhaseLoad(300), PhaseLoad(2000), True, (8.33, 2.50, 10.83)),
        (phase_load(1200, 0.6), phase_load(1200, 1.0), NONE, False, (16.67, 10.0, 13.33)),
        (phase_load(1200, 0.6), phase_load(2000, 1.0), NONE, False, (16.67, 16.67, 14.91)),
        (PhaseLoad(2950), PhaseLoad(114), NONE, False, (24.58, 0.95, 23.63)),
        (NONE, NONE, PhaseLoad(5764), False, (24.02, 24.02, 0.0)),
        (NONE, NONE, PhaseLoad(7078), False, (29.49, 29.49, 0.0)),
    ],
)
def test_currents(
    a: PhaseLoad, b: PhaseLoad, across: PhaseLoad, bridged: bool, expected: tuple[float, ...]
) -> None:
    found = leg_currents(a, b, across, bridged=bridged)
    assert (found.a, found.b, found.neutral) == pytest.approx(expected, abs=0.006)


def test_open_neutral_and_lean() -> None:
    volts = open_neutral_volts(120**2 / 1000, 120**2 / 300)
    assert volts == pytest.approx((55.4, 184.6), abs=0.1)
    assert lean(2950, 114) == pytest.approx(0.961, abs=0.001)
    assert lean(0, 0) == 0
    with pytest.raises(ValueError, match="zero"):
        open_neutral_volts(0, 0)
    with pytest.raises(ValueError, match="power factor"):
        phase_load(100, 0)
