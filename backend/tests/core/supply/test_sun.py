"""A clear day of an array: shares of the plate, shade, hours moved by hand."""

import json
import subprocess
import sys
from datetime import date
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.plan import Site, SolarArray
from weary_cedar.core.supply.sun import SunSample, array_day

DAY = date(2026, 10, 13)
SITE = Site(name="x", latitude=38.9, longitude=-120.8, time_zone="America/Los_Angeles")
PLATE = {"watts": 500.0, "voc_v": 41.5, "vmp_v": 34.8, "isc_a": 14.9, "imp_a": 14.4}


def day(on: date = DAY, air_c: float = 20.0, **more: Any) -> list[SunSample]:
    array = SolarArray.model_validate_json(json.dumps({"name": "a", "module": PLATE, **more}))
    return array_day(SITE, array, on, air_c)


def wh_per_w(samples: list[SunSample]) -> float:
    return sum(sample.share * sample.length_s / 3600 for sample in samples)


def test_a_day_is_whole_and_dark_at_night() -> None:
    samples = day()
    assert sum(sample.length_s for sample in samples) == 86_400
    assert all(sample.share == 0 for sample in samples if not 6 * 3600 <= sample.t_s < 19 * 3600)
    assert all(sample.share >= 0 for sample in samples)


@pytest.mark.parametrize("on", [date(2026, 4, 20), date(2026, 6, 21), DAY])
def test_default_losses_show_60_to_80_per_cent_at_best(on: date) -> None:
    """A 500 W panel in good sun gives 380 to 390 W; 2,000 W on the ground 1,190 to 1,240 W (practice)."""
    assert 0.60 <= max(sample.share for sample in day(on=on, air_c=25.0)) <= 0.80


def test_facing_decides_when() -> None:
    east, west = day(azimuth_deg=90.0), day(azimuth_deg=270.0)
    best = [max(samples, key=lambda sample: sample.share).t_s / 3600 for samples in (east, west)]
    assert best[0] < 11.5
    assert best[1] > 14
    follow = [
        {"at": f"{hour:02}:00:00", "tilt_deg": 45.0, "azimuth_deg": 15.0 * hour} for hour in range(7, 19)
    ]
    fixed = day(tilt_deg=45.0)
    assert wh_per_w(day(moved=follow)) > 1.15 * wh_per_w(fixed)


def test_before_the_first_move_it_stands_as_the_evening_left_it() -> None:
    moved = [
        {"at": "12:00:00", "tilt_deg": 10.0, "azimuth_deg": 180.0},
        {"at": "15:00:00", "tilt_deg": 45.0, "azimuth_deg": 240.0},
    ]
    evening = day(tilt_deg=45.0, azimuth_deg=240.0)
    both = day(moved=moved)
    assert all(a == b for a, b in zip(both, evening, strict=True) if not 12 * 3600 <= a.t_s < 15 * 3600)


@pytest.mark.parametrize(
    ("more", "factor"),
    [
        ({"face_factor": 0.71}, 0.71),
        ({"soiling_percent": 13.0}, 0.87 / 0.97),
        ({"losses_percent": 0.0}, 1 / 0.85),
        ({"shade": [{"begins": "00:00:00", "ends": "23:59:59", "share_percent": 40.0}]}, 0.6),
        ({"shade": [{"begins": "22:00:00", "ends": "05:00:00"}]}, 1.0),
    ],
)
def test_each_loss_is_a_factor(more: dict[str, Any], factor: float) -> None:
    assert wh_per_w(day(**more)) == pytest.approx(factor * wh_per_w(day()), rel=1e-6)


def test_the_most_of_shades_that_overlap() -> None:
    half = {"begins": "10:00:00", "ends": "12:00:00", "share_percent": 50.0}
    all_of_it = {"begins": "11:00:00", "ends": "12:00:00", "share_percent": 100.0}
    samples = {sample.t_s / 3600: sample.share for sample in day(shade=[half, all_of_it])}
    plain = {sample.t_s / 3600: sample.share for sample in day()}
    assert samples[10.0] == pytest.approx(plain[10.0] / 2)
    assert samples[11.0] == 0


def test_days_on_which_the_clock_changes() -> None:
    """A day of 24 samples an hour begins at midnight of the clock, whatever the clock does later."""
    for on in (date(2026, 3, 8), date(2026, 11, 1)):
        assert len(day(on=on)) == 144
        assert wh_per_w(day(on=on)) > 2


@settings(max_examples=25)
@given(
    tilt=st.floats(0, 90),
    azimuth=st.floats(0, 359),
    soiling=st.floats(0, 100),
    shade=st.floats(0, 100),
    air_c=st.floats(-30, 45),
)
def test_shares_stay_within_what_light_allows(
    tilt: float, azimuth: float, soiling: float, shade: float, air_c: float
) -> None:
    """Never below nothing; never more than the light and the cold give; more dirt or shade is never more."""
    hours = [{"begins": "00:00:00", "ends": "23:59:59", "share_percent": shade}]
    samples = day(air_c=air_c, tilt_deg=tilt, azimuth_deg=azimuth, soiling_percent=soiling, shade=hours)
    clean = day(air_c=air_c, tilt_deg=tilt, azimuth_deg=azimuth, soiling_percent=0.0)
    for sample, best in zip(samples, clean, strict=True):
        assert 0 <= sample.share <= best.share + 1e-12
        assert best.share <= sample.plane_w_m2 / 1000 * 1.25


def test_two_threads_may_ask_for_the_sun_at_once() -> None:
    """In a fresh process, so that nothing is loaded yet."""
    program = """
import threading
from weary_cedar.core.supply.sun import sun_library
found = []
ask = [threading.Thread(target=lambda: found.append(sun_library())) for _ in range(4)]
for thread in ask: thread.start()
for thread in ask: thread.join()
assert len(found) == 4, found
"""
    asked = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=False)
    assert asked.returncode == 0, asked.stderr
