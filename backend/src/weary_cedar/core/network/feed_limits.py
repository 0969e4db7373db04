"""The chain of elements from the station to the panel, and which of them governs."""

from collections.abc import Sequence
from dataclasses import dataclass

from weary_cedar.core.electrical.ampacity import largest_breaker_a, wire_ampacity_a
from weary_cedar.core.electrical.conductor import metal_factor, ohms_per_m
from weary_cedar.core.electrical.flexible_cord import area_mm2, carries_a, cord_ohms_per_m
from weary_cedar.core.plan import BREAKER_KINDS, Adapter, Cord, Feed, Hookup, Plan, Receptacle, Station


@dataclass(frozen=True, slots=True)
class LegElement:
    """Something that carries each leg's current, with its rating in A."""

    key: str
    name: str
    rating_a: float


@dataclass(frozen=True, slots=True)
class FeedLimits:
    """Limits of one feed: per leg and in total, in VA, with the element that governs each leg."""

    elements: tuple[LegElement, ...]
    leg_va: float
    total_va: float
    leg_element: LegElement
    leg_volts: float


def feed_limits(plan: Plan, feed: Hookup) -> FeedLimits:
    """Collect the elements of a feed and find the tightest per leg.

    Args:
        plan: the plan, for the supply system and the source; of a linked pair the weaker unit counts.
        feed: the feed.

    Returns:
        All elements with their ratings in A per leg; the leg limit is the least of them times the
        leg voltage, the total limit the station's own rating (of a linked pair, those of both).

    Source: ratings of plates; cord by NFPA 70 table 400.5(A)(1), from memory.
    """
    volts = plan.site.leg_volts
    source = plan.source(feed)
    if isinstance(source, Station):
        units = plan.source_units(feed).values() or [source]
        leg_va, total_va = min(unit.leg_limit_va for unit in units), sum(unit.rated_va for unit in units)
        link = plan.link_of(feed)
        leg_va *= 2 if link is not None and link.kind == "parallel" else 1
    else:
        leg_va, total_va = source.leg_limit_w, source.rated_w
    elements = [
        LegElement("station-leg", f"{source.name}, one leg", leg_va / volts),
        *way_elements(feed, plan.outlet(feed)),
    ]
    tightest = min(elements, key=lambda element: element.rating_a)
    return FeedLimits(tuple(elements), tightest.rating_a * volts, total_va, tightest, volts)


def way_elements(feed: Hookup, receptacle: Receptacle) -> list[LegElement]:
    """What a feed adds to the limits of its source: each with its rating in A per leg.

    Source: as `feed_limits`.
    """
    elements = [LegElement("receptacle", f"receptacle {receptacle.kind}", receptacle.rating_a)]
    if feed.cords:
        thinnest = min(feed.cords, key=area_mm2)
        elements.append(LegElement("cord", f"cord, {thinnest.size}", carries_a(thinnest)))
    elements += [
        LegElement("adapter", adapter_name(adapter), adapter_a(adapter)) for adapter in feed.adapters
    ]
    elements.append(LegElement("inlet", "plug" if feed.kind == "cords" else "inlet", feed.inlet_a))
    if feed.breaker_a is not None:
        name = "breaker of the strip" if feed.kind == "cords" else "feed breaker"
        breaks = feed.kind == "cords" or feed.kind in BREAKER_KINDS
        key, name = ("feed-breaker", name) if breaks else ("switch-input", "input of the switch")
        elements.append(LegElement(key, name, feed.breaker_a))
    wire_a = fixed_wire_a(feed)
    if wire_a is not None:
        elements.append(LegElement("wire", "wire of the inlet", wire_a))
    return elements


def adapter_name(adapter: Adapter) -> str:
    """An adapter in words."""
    return adapter.name or f"adapter {adapter.source_end} to {adapter.load_end}"


def adapter_a(adapter: Adapter) -> float:
    """What an adapter may carry, A: the least of its rating and of a breaker inside it."""
    return min(adapter.rating_a, adapter.overcurrent_a or adapter.rating_a)


def fixed_wire_a(feed: Hookup | Feed) -> float | None:
    """What the wire of the inlet carries, A; nothing where it is not known.

    Source: as `wire_ampacity_a`, by the column that is marked, else the careful one; a small conductor no
    more than the breaker that it allows.
    """
    if feed.wire is None or feed.wire.awg is None:
        return None
    own = wire_ampacity_a(feed.wire.awg, feed.wire.metal, feed.wire.column)
    most = largest_breaker_a(feed.wire.awg, feed.wire.metal, feed.wire.column)
    return None if own is None or most is None else min(own, most)


def fixed_wire_breaker_a(feed: Hookup | Feed) -> float | None:
    """Largest overcurrent device that the wire of the inlet allows, A; nothing where it is not known.

    Source: as `largest_breaker_a`.
    """
    wire = feed.wire
    if wire is None or wire.awg is None:
        return None
    return largest_breaker_a(wire.awg, wire.metal, wire.column)


def cord_ohms(cords: Sequence[Cord]) -> float:
    """Resistance of one conductor of some cords in a row, Ω at 20 °C.

    Source: as `ohms_per_m`, stranded copper.
    """
    return sum(cord_ohms_per_m(cord) * cord.counted_m for cord in cords)


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
