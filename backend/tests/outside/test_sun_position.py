"""Sun and irradiance against published figures that share nothing with the library that computes them.

Sources: NREL/TP-560-34302 (Reda and Andreas), table A5.1 example, from memory: 17 October 2003,
12:30:30 at UTC-7, 39.742476° N, 105.1786° W, 1830.14 m, 820 mbar, 11 °C: zenith 50.11162°, azimuth
194.34024°. Haurwitz (1945) clear-sky irradiance on the level, 1098·cos z·exp(−0.057/cos z) W/m²,
from memory. Declination by Cooper (1969), 23.45°·sin(360·(284 + n)/365), from memory.
"""

import math
from datetime import date

import pandas as pd
import pytest
from pvlib.location import Location

from weary_cedar.core.plan import Site, SolarArray
from weary_cedar.core.supply.sun import array_day

PLATE = {"watts": 400.0, "voc_v": 41.5, "vmp_v": 34.0, "isc_a": 12.0, "imp_a": 11.0}


def test_the_published_example() -> None:
    """The library as the program calls it, with the example's height and pressure."""
    place = Location(39.742476, -105.1786, tz="Etc/GMT+7", altitude=1830.14)
    times = pd.DatetimeIndex([pd.Timestamp("2003-10-17 12:30:30", tz="Etc/GMT+7")])
    sun = place.get_solarposition(times, pressure=82_000.0, temperature=11.0).iloc[0]
    assert sun["apparent_zenith"] == pytest.approx(50.11162, abs=0.01)
    assert sun["azimuth"] == pytest.approx(194.34024, abs=0.01)


def noon_zenith(latitude: float, day: date) -> float:
    declination = 23.45 * math.sin(math.radians(360 * (284 + day.timetuple().tm_yday) / 365))
    return latitude - declination


@pytest.mark.parametrize("day", [date(2026, 1, 15), date(2026, 4, 15), date(2026, 7, 15), date(2026, 10, 13)])
@pytest.mark.parametrize("latitude", [30.0, 40.0, 47.0])
def test_level_noon_light(latitude: float, day: date) -> None:
    """On the level at solar noon, against Haurwitz at Cooper's declination: within 12 per cent."""
    site = Site(name="x", latitude=latitude, longitude=0.0, time_zone="UTC")
    array = SolarArray.model_validate({"name": "a", "module": PLATE, "tilt_deg": 0.0})
    best = max(sample.plane_w_m2 for sample in array_day(site, array, day))
    cosine = math.cos(math.radians(noon_zenith(latitude, day)))
    assert best == pytest.approx(1098 * cosine * math.exp(-0.057 / cosine), rel=0.12)


@pytest.mark.parametrize("day", [date(2026, 1, 15), date(2026, 3, 21), date(2026, 10, 13)])
def test_a_plane_square_to_the_noon_sun_is_the_best(day: date) -> None:
    """Geometry: among tilts to the south, noon light is greatest near the sun's zenith angle."""
    site = Site(name="x", latitude=40.0, longitude=0.0, time_zone="UTC")
    best = {}
    for tilt in range(0, 91, 5):
        array = SolarArray.model_validate({"name": "a", "module": PLATE, "tilt_deg": float(tilt)})
        best[tilt] = max(sample.plane_w_m2 for sample in array_day(site, array, day))
    assert max(best, key=lambda tilt: best[tilt]) == pytest.approx(noon_zenith(40.0, day), abs=6)
