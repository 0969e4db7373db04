"""The chain of elements from the station to the panel, and which of them governs."""

from dataclasses import dataclass
from typing import Final

from weary_cedar.core.electrical.flexible_cord import area_mm2
from weary_cedar.core.network.path import Element, feeding_path
from weary_cedar.core.plan import Cord, Hookup, Plan, Station


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
        *way_elements(plan, feed),
    ]
    tightest = min(elements, key=lambda element: element.rating_a)
    return FeedLimits(tuple(elements), tightest.rating_a * volts, total_va, tightest, volts)


#: Elements of a path as the run knows them, in the order in which the first of two alike governs.
_OF_THE_RUN: Final = ("receptacle", "cord", "adapter", "inlet", "feed-breaker", "switch-input", "wire")


def way_elements(plan: Plan, feed: Hookup) -> list[LegElement]:
    """What a feed adds to the limits of its source: each with its rating in A per leg; the least cord.

    Source: as `feed_limits`.
    """
    path = feeding_path(plan, feed)
    thinnest = min(path.cords, key=area_mm2, default=None)
    elements: list[LegElement] = []
    for found in path.elements:
        named = _named(found, feed)
        if named is None or found.rating_a is None or (found.kind == "cord" and found.part is not thinnest):
            continue
        elements.append(LegElement(*named, found.rating_a))
    if feed.kind == "cords" and feed.breaker_a is not None:
        elements.append(LegElement("feed-breaker", "breaker of the strip", feed.breaker_a))
    return sorted(elements, key=lambda element: _OF_THE_RUN.index(element.key))


def _named(element: Element, feed: Hookup) -> tuple[str, str] | None:
    """Key and name of an element of a path in the run; none of what it does not look at."""
    match element.kind:
        case "outlet":
            return "receptacle", f"receptacle {element.name}"
        case "cord" if isinstance(element.part, Cord):
            return "cord", f"cord, {element.part.size}"
        case "adapter":
            return "adapter", element.name
        case "plug" | "inlet":
            return "inlet", "plug" if feed.kind == "cords" else "inlet"
        case "transfer":
            breaks = feed.traits.breaker
            return ("feed-breaker", "feed breaker") if breaks else ("switch-input", "input of the switch")
        case "wire":
            return "wire", "wire of the inlet"
    return None
