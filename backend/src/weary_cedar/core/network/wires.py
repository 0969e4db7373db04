"""What the wires and cords of a lead carry, and their resistance."""

from collections.abc import Sequence

from weary_cedar.core.electrical.ampacity import largest_breaker_a, wire_ampacity_a
from weary_cedar.core.electrical.conductor import metal_factor, ohms_per_m
from weary_cedar.core.electrical.flexible_cord import cord_ohms_per_m
from weary_cedar.core.plan import Cord, FixedWire, Hookup


def fixed_wire_a(wire: FixedWire | None) -> float | None:
    """What the wire of an inlet carries, A; nothing where it is not known.

    Source: as `wire_ampacity_a`, by the column that is marked, else the careful one; a small conductor no
    more than the breaker that it allows.
    """
    if wire is None or wire.awg is None:
        return None
    own = wire_ampacity_a(wire.awg, wire.metal, wire.column)
    most = largest_breaker_a(wire.awg, wire.metal, wire.column)
    return None if own is None or most is None else min(own, most)


def fixed_wire_breaker_a(wire: FixedWire | None) -> float | None:
    """Largest overcurrent device that the wire of an inlet allows, A; nothing where it is not known.

    Source: as `largest_breaker_a`.
    """
    if wire is None or wire.awg is None:
        return None
    return largest_breaker_a(wire.awg, wire.metal, wire.column)


def cord_ohms(cords: Sequence[Cord]) -> float:
    """Resistance of one conductor of some cords in a row, Ω at 20 °C.

    Source: as `ohms_per_m`, stranded copper.
    """
    return sum(cord_ohms_per_m(cord) * cord.counted_m for cord in cords)


#: A wire in a wall is counted as warm as its cable may be, a cord as lying in a cold yard, °C. Common
#: practice.
WIRE_C, CORD_C = 75.0, 20.0


def fixed_wire_ohms(wire: FixedWire, warm_c: float) -> float | None:
    """Resistance of one conductor of the wire of an inlet, Ω; nothing where gauge or length is not known.

    Args:
        wire: of a feed.
        warm_c: its temperature, °C.

    Source: as `ohms_per_m`, solid.
    """
    if wire.awg is None or wire.length_m is None:
        return None
    return ohms_per_m(wire.awg, warm_c, stranded=False) * metal_factor(wire.metal) * wire.length_m


#: Device before a grounding conductor of copper, at most, A → its least size, AWG. NFPA 70 (2023) table
#: 250.122, from memory.
GROUND_AWG = ((15.0, 14), (20.0, 12), (60.0, 10), (100.0, 8), (200.0, 6))


def ground_wire_ohms(feed: Hookup) -> float:
    """Resistance of the grounding conductor in the wire of the inlet, Ω at 20 °C.

    Source: the least size of table 250.122, from memory, never thicker than the wire's own conductors.
    """
    wire = feed.wire
    if wire is None:
        return 0.0
    device_a = feed.breaker_a or feed.inlet_a
    least = next((awg for most_a, awg in GROUND_AWG if device_a <= most_a), GROUND_AWG[-1][1])
    per_m = ohms_per_m(max(least, wire.counted("awg")), stranded=False) * metal_factor(wire.metal)
    return float(per_m * wire.counted("length_m"))


def one_way_ohms(feed: Hookup, wire_c: float = 20.0) -> float:
    """Resistance of one conductor of a feed from the source to the panel or appliance, Ω.

    Source: as `ohms_per_m`: cords stranded and at 20 °C, the wire of the inlet solid and as warm as said.
    """
    ohms = cord_ohms(feed.cords)
    if feed.wire is not None:
        wire = feed.wire
        per_m = ohms_per_m(wire.counted("awg"), wire_c, stranded=False) * metal_factor(wire.metal)
        ohms += per_m * wire.counted("length_m")
    return ohms
