"""Outdoor temperature over the outage, held from hour to hour."""

import math
from bisect import bisect_right
from typing import Final

from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.plan.outage import Weather

HOUR_S: Final = 3600.0


def day_curve_c(low_c: float, high_c: float, hours_after_coldest: float) -> float:
    """Temperature on a simple day curve.

    Args:
        low_c: lowest of the day, °C.
        high_c: highest, 12 h later, °C.
        hours_after_coldest: time since the coldest moment, h.

    Returns:
        Cosine between the two, °C.

    Source: a simplification of this program; a table of hourly values is better.

    >>> day_curve_c(0, 10, 12)
    10.0
    """
    return low_c + (high_c - low_c) * (1 - math.cos(math.pi * hours_after_coldest / 12)) / 2


class OutdoorTemperature:
    """Hourly samples from the start of the outage, each held until the next."""

    def __init__(self, weather: Weather, calendar: Calendar) -> None:
        hours = int(calendar.length_s // HOUR_S) + 2
        if weather.hourly_c:
            last = len(weather.hourly_c) - 1
            self._samples = [weather.hourly_c[min(hour, last)] for hour in range(hours)]
        else:
            coldest_s = calendar.moment(1, weather.coldest_at)
            self._samples = [
                day_curve_c(weather.low_c, weather.high_c, ((hour + 0.5) * HOUR_S - coldest_s) / HOUR_S)
                for hour in range(hours)
            ]
        self._starts = [hour * HOUR_S for hour in range(hours)]

    def at(self, t: float) -> float:
        """Temperature at `t` seconds from the start, °C."""
        return self._samples[bisect_right(self._starts, t) - 1]

    def next_change(self, t: float) -> float:
        """When the next sample begins; infinite after the last."""
        index = bisect_right(self._starts, t)
        return self._starts[index] if index < len(self._starts) else math.inf


class Constant:
    """One outdoor temperature for ever."""

    def __init__(self, celsius: float) -> None:
        self._celsius = celsius

    def at(self, t: float) -> float:
        """The same at any moment, °C."""
        return self._celsius

    def next_change(self, t: float) -> float:
        """Never."""
        return math.inf


def mean_outdoor_c(weather: Weather) -> float:
    """Mean outdoor temperature, °C, of the table or of the day curve."""
    if weather.hourly_c:
        return math.fsum(weather.hourly_c) / len(weather.hourly_c)
    return (weather.low_c + weather.high_c) / 2
