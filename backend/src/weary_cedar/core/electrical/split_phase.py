"""Currents and voltages of a 120/240 V split-phase feed."""

import math
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class PhaseLoad:
    """Power taken by loads together: `watts` real, `vars` reactive (lagging positive)."""

    watts: float
    vars: float = 0.0

    @property
    def va(self) -> float:
        """Apparent power, |P + jQ|."""
        return math.hypot(self.watts, self.vars)

    def __add__(self, other: "PhaseLoad") -> "PhaseLoad":
        return PhaseLoad(self.watts + other.watts, self.vars + other.vars)


def phase_load(watts: float, power_factor: float = 1.0) -> PhaseLoad:
    """Real and reactive power of a load with lagging power factor.

    Args:
        watts: real power, W, 0 or more.
        power_factor: above 0, up to 1.

    Returns:
        P and Q with Q = P·tan(acos(pf)).

    Raises:
        ValueError: power factor outside (0, 1].

    Source: definition of power factor (any textbook of alternating current).

    >>> round(phase_load(1200, 0.6).vars)
    1600
    """
    if not 0 < power_factor <= 1:
        raise ValueError("power factor should be above 0 and at most 1")
    return PhaseLoad(watts, watts * math.sqrt(1.0 - power_factor * power_factor) / power_factor)


@dataclass(frozen=True, slots=True)
class LegCurrents:
    """Currents of a split-phase feed in A."""

    a: float
    b: float
    neutral: float


def leg_currents(
    leg_a: PhaseLoad, leg_b: PhaseLoad, across: PhaseLoad, leg_volts: float = 120.0, *, bridged: bool = False
) -> LegCurrents:
    """Currents in both legs and the neutral.

    Angles are taken against each leg's own voltage; the 240 V loads put the same current on both
    legs and none on the neutral. With both legs fed from one 120 V hot (bridged) the legs are in
    phase: 240 V loads get no voltage and the neutral carries the sum.

    Args:
        leg_a: 120 V loads of leg A.
        leg_b: 120 V loads of leg B.
        across: 240 V loads between the legs.
        leg_volts: volts from leg to neutral.
        bridged: both legs from one hot conductor.

    Returns:
        |I_A|, |I_B| and |I_N| in A. I_N = |Ī_A − Ī_B| of the 120 V loads; bridged |Ī_A + Ī_B|.

    Source: Kirchhoff's current law on phasors; checked against OpenDSS in the tests.

    >>> c = leg_currents(PhaseLoad(1000), PhaseLoad(300), PhaseLoad(2000))
    >>> round(c.a, 2), round(c.b, 2), round(c.neutral, 2)
    (16.67, 10.83, 5.83)
    """
    a = complex(leg_a.watts, -leg_a.vars) / leg_volts
    b = complex(leg_b.watts, -leg_b.vars) / leg_volts
    both = 0j if bridged else complex(across.watts, -across.vars) / (2 * leg_volts)
    neutral = a + b if bridged else a - b
    return LegCurrents(abs(a + both), abs(b + both), abs(neutral))


def lean(a: float, b: float) -> float:
    """How lopsided two legs are: |A − B| / max(A, B), 0 for equal or empty legs.

    Args:
        a: watts or watt-hours of leg A, 0 or more.
        b: the same of leg B.

    Returns:
        A fraction from 0 (balanced) to 1 (all on one leg).

    Source: definition used throughout this program.

    >>> lean(1000, 300)
    0.7
    """
    most = max(a, b)
    return abs(a - b) / most if most > 0 else 0.0


def open_neutral_volts(ohms_a: complex, ohms_b: complex, across_volts: float = 240.0) -> tuple[float, float]:
    """Voltages on each leg's loads when the neutral is open.

    Args:
        ohms_a: impedance of all 120 V loads of leg A together, Ω.
        ohms_b: the same of leg B.
        across_volts: volts from leg to leg.

    Returns:
        |V_A| and |V_B|; V_A = 240·Z_A/(Z_A + Z_B).

    Raises:
        ValueError: both impedances are zero.

    Source: series circuit; checked against OpenDSS in the tests.

    >>> va, vb = open_neutral_volts(120**2 / 1000, 120**2 / 300)
    >>> round(va), round(vb)
    (55, 185)
    """
    total = ohms_a + ohms_b
    if total == 0:
        raise ValueError("at least one impedance should not be zero")
    return abs(across_volts * ohms_a / total), abs(across_volts * ohms_b / total)
