"""The chain of elements from the station to the panel, and which of them governs."""

from dataclasses import dataclass

from weary_cedar.core.electrical.ampacity import cord_ampacity_a
from weary_cedar.core.plan import Feed, Plan, Station


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


def feed_limits(plan: Plan, feed: Feed, station: Station) -> FeedLimits:
    """Collect the elements of a feed and find the tightest per leg.

    Args:
        plan: the plan, for the supply system.
        feed: the feed.
        station: its source.

    Returns:
        All elements with their ratings in A per leg; the leg limit is the least of them times the
        leg voltage, the total limit the station's own rating.

    Source: ratings of plates; cord by NFPA 70 table 400.5(A)(1), from memory.
    """
    volts = plan.site.leg_volts
    receptacle = station.receptacles[feed.receptacle_id]
    thinnest = max(cord.awg for cord in feed.cords)
    elements = (
        LegElement("station-leg", f"{station.name}, one leg", station.leg_limit_va / volts),
        LegElement("receptacle", f"receptacle {receptacle.kind}", receptacle.rating_a),
        LegElement("cord", f"cord, AWG {thinnest}", cord_ampacity_a(thinnest)),
        LegElement("inlet", "inlet", feed.inlet_a),
        LegElement("feed-breaker", "feed breaker", feed.breaker_a),
    )
    tightest = min(elements, key=lambda element: element.rating_a)
    return FeedLimits(elements, tightest.rating_a * volts, station.rated_va, tightest, volts)
