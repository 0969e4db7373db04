"""Weather files against pvlib: two typical years of the U.S. National Solar Radiation Database that ship
with its wheel (Sand Point, Alaska, and Greensboro, North Carolina), and an EPW written for the purpose."""

from datetime import date, datetime
from pathlib import Path
from zoneinfo import ZoneInfo

import pvlib
import pytest
from builders import one_load, steady

from weary_cedar.core.errors import NotReadable
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Site, Weather, read_plan
from weary_cedar.core.supply.sun import measured_plane
from weary_cedar.formats.weather_file import read_weather

DATA = Path(pvlib.__file__).parent / "data"
FILES = {
    "703165TY.csv": (55.317, -160.517, "America/Anchorage"),
    "723170TYA.CSV": (36.1, -79.95, "America/New_York"),
}
DAY_S = 86_400.0


def winter(name: str, as_on: date | None = None) -> Weather:
    start = datetime(2027, 1, 12, 6, 0, tzinfo=ZoneInfo(FILES[name][2]))
    return read_weather((DATA / name).read_bytes(), start, 4 * DAY_S, as_on)


@pytest.mark.parametrize("name", FILES)
def test_hours_of_a_typical_year_are_those_of_the_library(name: str) -> None:
    """Rows of TMY3 are named by the end of their hour: the hour from 6 to 7 is the row of 7:00."""
    weather = winter(name)
    table, about = pvlib.iotools.read_tmy3(DATA / name)
    assert len(weather.hourly_c) == 97
    rows = table[(table.index.month == 1) & (table.index.day == 12)]
    of_seven = rows[rows.index.hour == 7].iloc[0]
    assert weather.hourly_c[0] == of_seven["temp_air"]
    assert weather.hourly_sun is not None
    noon = rows[rows.index.hour == 13].iloc[0]
    sun = weather.hourly_sun
    assert (sun.ghi_w_m2[6], sun.dni_w_m2[6], sun.dhi_w_m2[6]) == (noon["ghi"], noon["dni"], noon["dhi"])
    assert about["Name"].strip('"').title() == sun.name


@pytest.mark.parametrize("name", FILES)
def test_light_on_the_horizontal_is_what_was_measured(name: str) -> None:
    """A plane of no tilt has the global irradiance of the file, within how well its parts add up.

    On a wall that no sun reaches half the sky counts, and half of the ground at an albedo of 0.2.
    """
    latitude, longitude, zone = FILES[name]
    site = Site(name="x", latitude=latitude, longitude=longitude, time_zone=zone)
    start = datetime(2027, 6, 12, 0, 0, tzinfo=ZoneInfo(zone))
    sun = read_weather((DATA / name).read_bytes(), start, 7 * DAY_S).hourly_sun
    assert sun is not None
    flat = measured_plane(site, 0.0, 180.0, start, sun)
    assert sum(flat) == pytest.approx(sum(sun.ghi_w_m2), rel=0.05)
    wall = measured_plane(site, 90.0, 0.0, start, sun)
    hours = zip(wall, sun.ghi_w_m2, sun.dhi_w_m2, sun.dni_w_m2, strict=True)
    clouded = [(light, 0.5 * dhi + 0.1 * ghi) for light, ghi, dhi, dni in hours if ghi > 0 and dni == 0]
    told, expected = (sum(column) for column in zip(*clouded, strict=True))
    assert told == pytest.approx(expected, rel=0.02)
    south = measured_plane(site, 40.0, 180.0, start, sun)
    north = measured_plane(site, 40.0, 0.0, start, sun)
    assert sum(south) > sum(north)


def test_a_winter_date_changes_sun_and_furnace() -> None:
    def plan(as_on: date) -> tuple[float, float]:
        weather = winter("723170TYA.CSV", as_on)
        document = one_load({"kind": "thermostatic"}, outage={"length_s": 3 * DAY_S})
        document["site"] |= {"latitude": 36.1, "longitude": -79.95, "time_zone": "America/New_York"}
        document["outage"] |= {"weather": weather.model_dump(mode="json", exclude_none=True)}
        document["stations"]["unit"]["dc_inputs"] = {
            "sun": {"high_v": 150.0, "most_a": 15.0, "most_w": 1600.0}
        }
        module = {"watts": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.0}
        array = {"name": "sun", "station_id": "unit", "input_id": "sun", "module": module, "series": 2}
        document["arrays"] = {"sun": array}
        result = run_outage(read_plan(document))
        return result.suns["sun"].offered_wh, result.loads["only"].served_wh

    winter_sun, winter_heat = plan(date(2027, 1, 12))
    summer_sun, summer_heat = plan(date(2027, 7, 12))
    assert summer_sun > 1.2 * winter_sun
    assert winter_heat > 10 * max(1.0, summer_heat)


EPW_HEAD = "LOCATION,Hut Pass,-,CHE,SRC-TMYx,067000,46.60,9.80,1.0,2300.0\n" + "X\n" * 7


def epw_row(month: int, day: int, hour: int, air: float, light: float) -> str:
    figures = (2005, month, day, hour, 0, "?9", air, -9, 60, 77000, 0, 0, 300, *[light] * 3, *[0] * 19)
    return ",".join(map(str, figures)) + "\n"


def epw() -> bytes:
    """A year in which every hour of January is named by its temperature: day + hour / 100."""
    days = ((date.fromordinal(date(2005, 1, 1).toordinal() + n)) for n in range(365))
    rows = (epw_row(d.month, d.day, h, d.day + h / 100, 10.0 * h) for d in days for h in range(1, 25))
    return (EPW_HEAD + "".join(rows)).encode()


def test_an_epw_file_names_its_hours_by_number() -> None:
    start = datetime(2027, 1, 24, 14, 0, tzinfo=ZoneInfo("Europe/Zurich"))
    weather = read_weather(epw(), start, DAY_S)
    assert weather.hourly_c[0] == 24.15, "the hour from 14 to 15 is the fifteenth"
    assert weather.hourly_c[10] == 25.01
    assert weather.hourly_sun is not None
    assert weather.hourly_sun.ghi_w_m2[0] == 150.0
    leap = read_weather(epw(), datetime(2028, 2, 29, 0, 0, tzinfo=ZoneInfo("Europe/Zurich")), 3600.0)
    assert leap.hourly_c[0] == 28.01, "29 February has the weather of the day before"
    summer = read_weather(epw(), datetime(2027, 7, 3, 1, 0, tzinfo=ZoneInfo("Europe/Zurich")), 3600.0)
    assert summer.hourly_c[0] == 3.01, "summer time: 1:00 on the clock is midnight of standard time"


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"time,ghi\n1,2\n", "EPW or TMY3"),
        (b"", "EPW or TMY3"),
        (EPW_HEAD.encode(), "EPW or TMY3|row for an hour"),
        (epw().replace(b",24.15,-9", b",99.9,-9"), "missing or cannot be"),
        (epw().replace(b"2005,1,24,15", b"2005,3,24,15"), "no row for an hour"),
    ],
)
def test_what_cannot_be_read_is_said(content: bytes, words: str) -> None:
    start = datetime(2027, 1, 24, 14, 0, tzinfo=ZoneInfo("Europe/Zurich"))
    with pytest.raises(NotReadable) as refused:
        read_weather(content, start, DAY_S)
    told = f"{refused.value.detail} {[str(problem) for problem in refused.value.problems]}"
    assert any(word in told for word in words.split("|")), told


def test_hours_that_do_not_go_together_are_refused() -> None:
    document = one_load(steady(5))
    sun = {"name": "x", "ghi_w_m2": [1.0, 2.0], "dni_w_m2": [1.0], "dhi_w_m2": [0.0, 0.0]}
    document["outage"]["weather"] = {"hourly_sun": sun}
    with pytest.raises(Exception, match="as many as of ghi_w_m2: 2"):
        read_plan(document)
