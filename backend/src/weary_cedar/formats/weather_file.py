"""Weather files: EPW and TMY3, read by pvlib; the hours of an outage out of a typical year."""

import io
import math
from datetime import date, datetime, timedelta, timezone
from typing import Any

from weary_cedar.core.errors import NotReadable, Problem
from weary_cedar.core.plan import HourlySun, Weather
from weary_cedar.formats.text_file import text_of

#: Columns of pvlib's readers.
AIR, LIGHT = "temp_air", ("ghi", "dni", "dhi")
MOST_HOURS = 1_000


def read_weather(content: bytes, start: datetime, length_s: float, as_on: date | None = None) -> Weather:
    """The weather of an outage out of a file of a typical year.

    Args:
        content: an EPW or a TMY3 file.
        start: of the outage, with its offset.
        length_s: of the outage, s.
        as_on: day of the year whose weather the first day has; the day of the start if absent.

    Returns:
        Temperature and irradiance by the hour from the start. Files hold local standard time; an hour of
        TMY3 is named by its end, one of EPW by its number. 29 February has the weather of the day before.

    Raises:
        NotReadable: neither of the two, or hours that are missing.
    """
    name, rows, offset_h = _rows(text_of(content))
    zone = timezone(timedelta(hours=offset_h))
    first = start.astimezone(zone).replace(minute=0, second=0, microsecond=0)
    shift = _of_any_year(as_on) - _of_any_year(first.date()) if as_on is not None else timedelta(0)
    hours = min(MOST_HOURS, math.ceil(length_s / 3600.0) + 1)
    found = [_hour(rows, first + shift + timedelta(hours=index)) for index in range(hours)]
    sun = HourlySun(
        name=name[:80],
        ghi_w_m2=tuple(row[1] for row in found),
        dni_w_m2=tuple(row[2] for row in found),
        dhi_w_m2=tuple(row[3] for row in found),
    )
    return Weather(hourly_c=tuple(row[0] for row in found), hourly_sun=sun)


def _of_any_year(day: date) -> date:
    return date(2001, day.month, min(day.day, 28) if day.month == 2 else day.day)


#: Month, day and hour of standard time → °C, and W/m² global, direct, diffuse.
Rows = dict[tuple[int, int, int], tuple[float, float, float, float]]


def _rows(text: str) -> tuple[str, Rows, float]:
    """(name of the place, rows, hours from UTC)."""
    from pvlib import iotools

    epw = text.lstrip().upper().startswith("LOCATION,")
    reader = iotools.read_epw if epw else iotools.read_tmy3
    try:
        table, about = reader(io.StringIO(text))
        offset_h = float(about["TZ"])
        name = str(about["city"] if epw else about["Name"]).strip().strip('"').title()
        named_by_end = timedelta(0) if epw else timedelta(hours=1)
        columns = [[float(value) for value in table[column]] for column in (AIR, *LIGHT)]
    except Exception as error:
        told = f"{type(error).__name__}: {str(error)[:120]}"
        problem = Problem("/file", told, "an EPW or TMY3 file of a year, as it was downloaded")
        raise NotReadable("This is no weather file that can be read.", (problem,)) from None
    rows: Rows = {}
    for at, *values in zip(table.index, *columns, strict=True):
        moment = at.to_pydatetime() - named_by_end
        rows[moment.month, moment.day, moment.hour] = _sound(moment, values)
    return name or "weather file", rows, offset_h


def _sound(at: datetime, values: list[Any]) -> tuple[float, float, float, float]:
    """A row whose figures can be; both formats write a figure out of range where one is missing."""
    air, *light = values
    if not -60 <= air <= 60 or not all(-1 <= value <= 2_000 for value in light):
        problem = Problem("/file", f"{at:%d %b %H:00}: {values}", "−60 to 60 °C, and 0 to 2,000 W/m²")
        raise NotReadable("A figure of the weather file is missing or cannot be.", (problem,))
    ghi, dni, dhi = (max(0.0, value) for value in light)
    return air, ghi, dni, dhi


def _hour(rows: Rows, at: datetime) -> tuple[float, float, float, float]:
    day = 28 if (at.month, at.day) == (2, 29) else at.day
    found = rows.get((at.month, at.day, at.hour)) or rows.get((at.month, day, at.hour))
    if found is None:
        problem = Problem("/file", f"{at:%d %b %H:00}", "a row for every hour of the year")
        raise NotReadable("The weather file has no row for an hour of the outage.", (problem,))
    return found
