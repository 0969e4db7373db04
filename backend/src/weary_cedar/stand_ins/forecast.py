"""A forecast service that makes its weather up, the same for the same place and day."""

import math
import random
from dataclasses import dataclass
from datetime import date, timedelta
from zlib import crc32

from weary_cedar.core.outage.weather import day_curve_c
from weary_cedar.core.plan import Sky

#: How likely a kind of day follows itself; otherwise the next is drawn anew.
STAYS = 0.55
KINDS: tuple[Sky, ...] = ("clear", "haze", "broken_cloud", "overcast", "rain")
#: Hour of the lowest temperature.
COLDEST_H = 6


@dataclass(frozen=True)
class Forecast:
    """Temperature by the hour from midnight of the first day, and the sky by day. Simulated."""

    name: str
    hourly_c: tuple[float, ...]
    sky: tuple[Sky, ...]


def forecast(latitude: float, longitude: float, first: date, days: int) -> Forecast:
    """Weather for some days, made up by a rule with a seed out of place and day.

    Args:
        latitude: of the place, degrees.
        longitude: of the place, degrees.
        first: first day.
        days: how many.

    Returns:
        A plausible course: seasons by latitude, days that resemble the one before. It is no weather.
    """
    seed = crc32(f"{latitude:.2f} {longitude:.2f} {first:%Y-%m-%d}".encode())
    chance = random.Random(seed)
    kind = chance.choice(KINDS)
    sky, hourly, drift = [], [], chance.gauss(0, 3)
    for number in range(days):
        if number and chance.random() > STAYS:
            kind = chance.choice(KINDS)
        drift = 0.7 * drift + chance.gauss(0, 2)
        mean_c, swing_k = _season(latitude, first + timedelta(days=number), kind)
        low, high = mean_c + drift - swing_k / 2, mean_c + drift + swing_k / 2
        frozen = kind == "rain" and high < 0
        sky.append("snow_on_panels" if frozen else kind)
        hourly += [round(day_curve_c(low, high, hour - COLDEST_H), 1) for hour in range(24)]
    return Forecast("simulated forecast", tuple(hourly), tuple(sky))


def _season(latitude: float, day: date, kind: Sky) -> tuple[float, float]:
    """(mean, swing of the day) of a place: colder towards the poles and in their winter."""
    phase = 2 * math.pi * (day.timetuple().tm_yday - 200) / 365.25
    summer = math.cos(phase) * (1 if latitude >= 0 else -1)
    mean_c = 27 - 0.45 * abs(latitude) + 0.3 * abs(latitude) * summer
    return mean_c, {"clear": 13.0, "haze": 11.0, "broken_cloud": 9.0}.get(kind, 5.0)
