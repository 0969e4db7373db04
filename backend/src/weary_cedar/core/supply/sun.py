"""What an array gives in the course of a clear day: sun position and irradiance by pvlib."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from threading import Lock
from typing import Any, Final
from zoneinfo import ZoneInfo

from weary_cedar.core.electrical.pv_string import CELL_ABOVE_AIR_K
from weary_cedar.core.plan import Facing, HourlySun, Shade, Site, SolarArray

#: Power of a silicon module by the temperature of its cells, % per K. Common practice.
POWER_PERCENT_PER_K: Final = -0.35
#: Irradiance of standard test conditions, W/m².
STANDARD_W_M2 = 1000.0
#: Samples are this far apart, min.
STEP_MIN: Final = 10
#: What is left of a clear day's power under another sky. Estimates, from memory.
DAY_FACTORS: Final = {
    "clear": 1.0,
    "haze": 0.8,
    "smoke": 0.6,
    "broken_cloud": 0.6,
    "overcast": 0.22,
    "rain": 0.05,
    "snow_on_panels": 0.0,
}


@dataclass(frozen=True)
class SunSample:
    """A stretch of a day: when it begins, s after midnight of the site's clock; light and warmth."""

    t_s: float
    length_s: float
    plane_w_m2: float
    cell_c: float
    #: Share of the plate's power that the module gives, before what its input takes.
    share: float


#: The library must not be loaded by two threads at once: it imports itself in a circle.
_LOADING = Lock()


def sun_library() -> tuple[Any, Any]:
    """The modules `irradiance` and `location` of pvlib; takes seconds the first time."""
    with _LOADING:
        from pvlib import irradiance, location
    return irradiance, location


def array_day(site: Site, array: SolarArray, day: date, air_c: float = 20.0) -> list[SunSample]:
    """What each module of an array gives in the course of a clear day.

    Args:
        site: latitude, longitude and time zone.
        array: tilt and azimuth, fixed or moved by hand; shade, soiling and other losses.
        day: local date.
        air_c: air by day, °C.

    Returns:
        Samples of the day, in order. Share = E/1000 · (1 + γ(T_cell − 25)) · (1 − soiling) ·
        (1 − losses) · face · (1 − shade), with T_cell = T_air + 30·E/1000.

    Source: plane-of-array irradiance by pvlib: Ineichen clear sky with monthly Linke turbidity,
        Hay and Davies sky, albedo 0.2. The losses are common practice (60 to 80 % of plate at best).
    """
    return array_samples(site, array, day, lambda _: air_c)


def array_samples(
    site: Site,
    array: SolarArray,
    day: date,
    air_c: Callable[[float], float],
    factor: float = 1.0,
    block: tuple[date, int] | None = None,
) -> list[SunSample]:
    """As `array_day`, with air by the hour and another sky.

    Args:
        site: latitude, longitude and time zone.
        array: tilt and azimuth, fixed or moved by hand; shade, soiling and other losses.
        day: local date.
        air_c: air by seconds after midnight, °C.
        factor: what is left of a clear day's light.
        block: first day and number of days that are asked for together; worked out at once.

    Returns:
        Samples of the day, in order.

    Source: as `array_day`; factors of kinds of days are estimates.
    """
    stretches = _facings(array)
    first, days = block or (day, 1)
    faces = {facing: _plane(site, facing[1], facing[2], first, days, day) for facing in stretches}
    samples = []
    for index, (t_s, _) in enumerate(faces[stretches[0]]):
        facing = stretches[0]
        if len(stretches) > 1:
            facing = max((item for item in stretches if item[0] <= t_s), default=stretches[-1])
        light = faces[facing][index][1] * factor
        if light <= 0:
            samples.append(SunSample(t_s, 60.0 * STEP_MIN, 0.0, 0.0, 0.0))
            continue
        cell_c, share = _given(array, light, air_c(t_s + 30.0 * STEP_MIN), t_s)
        samples.append(SunSample(t_s, 60.0 * STEP_MIN, light, cell_c, share))
    return samples


def _given(array: SolarArray, light: float, air_c: float, at_s: float) -> tuple[float, float]:
    """Temperature of the cells, °C, and share of the plate's power, at light on the plane, W/m²."""
    cell_c = air_c + CELL_ABOVE_AIR_K * light / STANDARD_W_M2
    kept = 1 + POWER_PERCENT_PER_K / 100 * (cell_c - 25.0)
    for percent in (array.soiling_percent, array.losses_percent, _shaded(array.shade, at_s)):
        kept *= 1 - percent / 100
    return cell_c, max(0.0, light / STANDARD_W_M2 * kept * array.face_factor)


def measured_samples(
    site: Site, array: SolarArray, start: datetime, sun: HourlySun, air_c: Callable[[float], float]
) -> list[SunSample]:
    """What each module of an array gives under the sun of a weather file.

    Args:
        site: latitude, longitude and time zone.
        array: tilt and azimuth, fixed or moved by hand; shade, soiling and other losses.
        start: of the first hour, with its offset.
        sun: irradiance by the hour.
        air_c: air by seconds from the start, °C.

    Returns:
        A sample an hour, by seconds from the start.

    Source: as `array_day`, with the file's irradiance instead of a clear sky; sun at the middle of the hour.
    """
    zone = ZoneInfo(site.time_zone)
    stretches = _facings(array)
    planes = {item: measured_plane(site, item[1], item[2], start, sun) for item in stretches}
    samples = []
    for index in range(len(sun.ghi_w_m2)):
        t_s = 3600.0 * index
        local = (start + timedelta(seconds=t_s)).astimezone(zone)
        of_day = _seconds(local.time())
        facing = max((item for item in stretches if item[0] <= of_day), default=stretches[-1])
        light = planes[facing][index]
        cell_c, share = _given(array, light, air_c(t_s + 1800.0), of_day) if light > 0 else (0.0, 0.0)
        samples.append(SunSample(t_s, 3600.0, light, cell_c, share))
    return samples


def measured_plane(
    site: Site, tilt_deg: float, azimuth_deg: float, start: datetime, sun: HourlySun
) -> list[float]:
    """Light on a plane by the hour, W/m², from irradiance by the hour.

    Source: pvlib's solar position and Hay and Davies sky, albedo 0.2.
    """
    import pandas as pd

    irradiance, location = sun_library()
    hours = pd.to_timedelta([index + 0.5 for index in range(len(sun.ghi_w_m2))], unit="h")
    middle = pd.DatetimeIndex(pd.Timestamp(start.astimezone(UTC)) + hours)
    seen = location.Location(site.latitude, site.longitude, tz="UTC").get_solarposition(middle)
    light = irradiance.get_total_irradiance(
        tilt_deg,
        azimuth_deg,
        seen["apparent_zenith"],
        seen["azimuth"],
        pd.Series(sun.dni_w_m2, index=middle),
        pd.Series(sun.ghi_w_m2, index=middle),
        pd.Series(sun.dhi_w_m2, index=middle),
        dni_extra=irradiance.get_extra_radiation(middle),
        model="haydavies",
        albedo=0.2,
    )["poa_global"].fillna(0.0)
    return [max(0.0, float(value)) for value in light]


def _seconds(at: time) -> float:
    return at.hour * 3600.0 + at.minute * 60.0 + at.second


def _facings(array: SolarArray) -> list[tuple[float, float, float]]:
    """(from s, tilt, azimuth); before the first of the day the array stands as the evening left it."""
    moved: Sequence[Facing] = array.moved
    if not moved:
        return [(0.0, array.tilt_deg, array.azimuth_deg)]
    return sorted((_seconds(item.at), item.tilt_deg, item.azimuth_deg) for item in moved)


def _shaded(shades: Sequence[Shade], t_s: float) -> float:
    """Percent lost to shade at a time of day; the most of those that overlap."""
    lost = 0.0
    for shade in shades:
        begins, ends = _seconds(shade.begins), _seconds(shade.ends)
        inside = begins <= t_s < ends if begins <= ends else t_s >= begins or t_s < ends
        lost = max(lost, shade.share_percent if inside else 0.0)
    return lost


def _plane(
    site: Site, tilt_deg: float, azimuth_deg: float, first: date, days: int, day: date
) -> list[tuple[float, float]]:
    """(s after midnight, W/m² on the plane at the middle of the stretch) of one day of a block."""
    place = (site.latitude, site.longitude, site.time_zone)
    light = _clear_planes(*place, tilt_deg, azimuth_deg, first, days)
    per_day = 24 * 60 // STEP_MIN
    begin = (day - first).days * per_day
    return [(60.0 * STEP_MIN * index, light[begin + index]) for index in range(per_day)]


@lru_cache(maxsize=64)
def _clear_planes(
    latitude: float, longitude: float, zone: str, tilt_deg: float, azimuth_deg: float, first: date, days: int
) -> list[float]:
    """W/m² on the plane at the middle of every stretch of the days, one day after the other."""
    import pandas as pd

    irradiance, location = sun_library()
    per_day = 24 * 60 // STEP_MIN
    midnights = [
        datetime.combine(first + timedelta(days=number), time(), tzinfo=ZoneInfo(zone)).astimezone(UTC)
        for number in range(days)
    ]
    steps = pd.to_timedelta([STEP_MIN * (index + 0.5) for index in range(per_day)], unit="min")
    middle = pd.DatetimeIndex([m for midnight in midnights for m in midnight + steps]).tz_convert(zone)
    place = location.Location(latitude, longitude, tz=zone)
    sun = place.get_solarposition(middle)
    sky = place.get_clearsky(middle, model="ineichen", solar_position=sun)
    light = irradiance.get_total_irradiance(
        tilt_deg,
        azimuth_deg,
        sun["apparent_zenith"],
        sun["azimuth"],
        sky["dni"],
        sky["ghi"],
        sky["dhi"],
        dni_extra=irradiance.get_extra_radiation(middle),
        model="haydavies",
        albedo=0.2,
    )["poa_global"].fillna(0.0)
    return [max(0.0, float(value)) for value in light]
