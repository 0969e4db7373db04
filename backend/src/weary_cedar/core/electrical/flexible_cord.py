"""What a flexible cord carries and takes, by gauge or by square millimetres."""

import math
from typing import Final

from weary_cedar.core.electrical.ampacity import cord_ampacity_a
from weary_cedar.core.electrical.conductor import COPPER_OHM_M, STRANDED, awg_diameter_mm
from weary_cedar.core.plan import Cord

#: mm² → A of a flexible cord with two or three cores. BS 7671 table 4F3A, from memory.
METRIC_CORD_A: Final = {
    0.5: 3.0,
    0.75: 6.0,
    1.0: 10.0,
    1.5: 16.0,
    2.5: 25.0,
    4.0: 32.0,
    6.0: 40.0,
    10.0: 55.0,
}


def area_mm2(cord: Cord) -> float:
    """Cross-section of a conductor of a cord, mm².

    Args:
        cord: with a gauge or square millimetres.

    Source: ASTM B258 for gauges.
    """
    if cord.mm2 is not None:
        return cord.mm2
    assert cord.awg is not None
    return math.pi / 4 * awg_diameter_mm(cord.awg) ** 2


def carries_a(cord: Cord) -> float:
    """Ampacity of a cord, A.

    Args:
        cord: with a gauge or square millimetres.

    Returns:
        Of a metric cord that of the next thinner size of the table; 0 below its thinnest.

    Source: NFPA 70 (2023) table 400.5(A)(1) column B for gauges, BS 7671 table 4F3A for mm²; from memory.
    """
    if cord.mm2 is None:
        assert cord.awg is not None
        return cord_ampacity_a(cord.awg)
    return max((amps for size, amps in METRIC_CORD_A.items() if size <= cord.mm2), default=0.0)


def cord_ohms_per_m(cord: Cord) -> float:
    """Direct-current resistance of one conductor of a cord, Ω/m at 20 °C.

    Args:
        cord: with a gauge or square millimetres.

    Returns:
        ρ/A · 1.02: cords are stranded.

    Source: annealed copper 1/58 Ω·mm²/m; as `ohms_per_m`.
    """
    return COPPER_OHM_M / (area_mm2(cord) * 1e-6) * STRANDED
