"""Resistance of copper conductors."""

import math

#: Resistivity of annealed copper at 20 °C (100 % IACS), Ω·m: 1/58 Ω·mm²/m.
COPPER_OHM_M = 1.0 / 58.0 * 1e-6
#: Temperature coefficient of annealed copper, per K, at 20 °C.
COPPER_ALPHA = 0.00393
#: Resistance of aluminium building wire over that of copper (61 % IACS). From memory.
ALUMINIUM = 1.64
#: Extra length of the wires of a stranded conductor.
STRANDED = 1.02


def awg_diameter_mm(awg: int) -> float:
    """Diameter of a solid AWG conductor.

    Args:
        awg: gauge number, 0 to 40.

    Returns:
        Diameter in mm, 0.127 · 92^((36 − n)/39).

    Raises:
        ValueError: gauge outside the range.

    Source: ASTM B258 (definition of the American wire gauge).

    >>> round(awg_diameter_mm(10), 3)
    2.588
    """
    if not 0 <= awg <= 40:
        raise ValueError("the gauge should be from 0 to 40")
    return float(0.127 * 92 ** ((36 - awg) / 39))


def ohms_per_m(awg: int, temperature_c: float = 20.0, *, stranded: bool = True) -> float:
    """Direct-current resistance of one copper conductor per metre.

    Args:
        awg: gauge number.
        temperature_c: conductor temperature, °C.
        stranded: flexible cords are stranded (2 % more resistance).

    Returns:
        Ω/m, ρ/A · (1 + α(T − 20)) · 1.02 if stranded.

    Raises:
        ValueError: gauge outside the range.

    Source: ASTM B258 diameters, annealed copper 1/58 Ω·mm²/m at 20 °C with α = 0.00393/K.

    >>> round(ohms_per_m(10, stranded=False) * 304.8, 4)
    0.9989
    """
    area_m2 = math.pi / 4 * (awg_diameter_mm(awg) / 1000) ** 2
    warm = 1 + COPPER_ALPHA * (temperature_c - 20.0)
    return COPPER_OHM_M / area_m2 * warm * (STRANDED if stranded else 1.0)


def metal_factor(metal: str) -> float:
    """Resistance of a conductor's metal over that of copper.

    Args:
        metal: "copper" or "aluminium".

    Returns:
        1 for copper, 1.64 for aluminium (61 % IACS).

    Source: ASTM B230 conductivity of electrical aluminium, from memory.

    >>> metal_factor("aluminium")
    1.64
    """
    return ALUMINIUM if metal == "aluminium" else 1.0
