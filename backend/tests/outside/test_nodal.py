"""Split-phase feeders solved once more as a network: nodal equations in NumPy, complex.

Written from Kirchhoff's laws alone; shares nothing with the program. Sources are ideal, loads are
impedances at nominal voltage, so currents are compared at the voltages that come out.
"""

import numpy as np
import pytest

from weary_cedar.core.electrical.conductor import ohms_per_m
from weary_cedar.core.electrical.split_phase import PhaseLoad, leg_currents, open_neutral_volts
from weary_cedar.core.electrical.voltage_drop import cord_loss_w, three_wire_volts

FAR_A, FAR_B, FAR_N = range(3)


def solve(
    legs: tuple[float, float], loads: list[tuple[int, int, complex]], hot: float, neutral: float | None
) -> np.ndarray:
    """Voltages of the far ends of A, B and neutral; `neutral` absent: it is open."""
    matrix = np.zeros((3, 3), complex)
    right = np.zeros(3, complex)
    for node, volts in ((FAR_A, legs[0]), (FAR_B, legs[1])):
        matrix[node, node] += 1 / hot
        right[node] += volts / hot
    if neutral is not None:
        matrix[FAR_N, FAR_N] += 1 / neutral
    for one, other, ohms in loads:
        for node in (one, other):
            matrix[node, node] += 1 / ohms
        matrix[one, other] -= 1 / ohms
        matrix[other, one] -= 1 / ohms
    return np.asarray(np.linalg.solve(matrix, right))


def test_three_wire_cord_at_its_own_currents() -> None:
    """50 ft of AWG 10, about 20 A and 2 A: the light leg rises."""
    ohms = ohms_per_m(10, stranded=False) * 15.24
    volts = solve((120, -120), [(FAR_A, FAR_N, 5.9), (FAR_B, FAR_N, 60.4)], ohms, ohms)
    a, b = (120 - volts[FAR_A].real) / ohms, (120 + volts[FAR_B].real) / ohms
    ours = three_wire_volts(120, a, b, ohms, ohms)
    theirs = abs(volts[FAR_A] - volts[FAR_N]), abs(volts[FAR_B] - volts[FAR_N])
    assert ours == pytest.approx(theirs, rel=1e-12)
    assert ours[1] > 120 > ours[0]
    lost = (120 - volts[FAR_A]) ** 2 / ohms + (-120 - volts[FAR_B]) ** 2 / ohms + volts[FAR_N] ** 2 / ohms
    assert cord_loss_w(a, b, a - b, ohms) == pytest.approx(lost.real, rel=1e-12)


@pytest.mark.parametrize(("a_w", "b_w"), [(1000, 300), (60, 1500), (700, 700)])
def test_open_neutral(a_w: float, b_w: float) -> None:
    loads: list[tuple[int, int, complex]] = [(FAR_A, FAR_N, 120**2 / a_w), (FAR_B, FAR_N, 120**2 / b_w)]
    volts = solve((120, -120), loads, 1e-9, None)
    theirs = abs(volts[FAR_A] - volts[FAR_N]), abs(volts[FAR_B] - volts[FAR_N])
    assert open_neutral_volts(120**2 / a_w, 120**2 / b_w) == pytest.approx(theirs, rel=1e-6)


@pytest.mark.parametrize("bridged", [False, True])
def test_neutral_of_unlike_power_factors(bridged: bool) -> None:
    """1,200 W at 0.6 on A, 1,200 W at 1 on B, 2,000 W across; and with one hot on both legs."""
    a, b, across = PhaseLoad(1200, 1600), PhaseLoad(1200), PhaseLoad(2000)
    z_a = 120**2 / complex(1200, -1600)
    loads: list[tuple[int, int, complex]] = [(FAR_A, FAR_N, z_a), (FAR_B, FAR_N, 12.0), (FAR_A, FAR_B, 28.8)]
    hot = neutral = 1e-7
    legs = (120.0, 120.0 if bridged else -120.0)
    volts = solve(legs, loads, hot, neutral)
    ours = leg_currents(a, b, across, bridged=bridged)
    assert ours.a == pytest.approx(abs(legs[0] - volts[FAR_A]) / hot, rel=1e-5)
    assert ours.b == pytest.approx(abs(legs[1] - volts[FAR_B]) / hot, rel=1e-5)
    assert ours.neutral == pytest.approx(abs(volts[FAR_N]) / neutral, rel=1e-5)
