"""Meter files: any column names, and hostile ones."""

from dataclasses import replace
from datetime import datetime

import numpy as np
import pytest

from weary_cedar.core.demand.measured import analyse_series
from weary_cedar.core.errors import InvalidInput, NotReadable, WearyCedarError
from weary_cedar.formats.meter_csv import propose_columns, read_series
from weary_cedar.stand_ins.meter import meter_csv, meter_series

START = datetime(2026, 10, 24, 12, 0, 0)
SERIES = meter_series("refrigerator", days=2, step_s=30.0, seed=2)
PLAIN = meter_csv(SERIES, START)


def rows(make: object) -> str:
    return "\n".join(make(t, w) for t, w in zip(SERIES.t_s.tolist(), SERIES.watts.tolist(), strict=True))  # type: ignore[operator]


def local(t: float) -> str:
    """Wall clock of a zone that sets its clocks back an hour 40,000 s after the start."""
    shown = START.timestamp() + t - (3600 if t >= 40_000 else 0)
    return datetime.fromtimestamp(shown).strftime("%Y-%m-%d %H:%M:%S")


COUNTER = np.cumsum(SERIES.watts * 30 / 3600 / 1000)
FILES = {
    "plain": PLAIN,
    "european": meter_csv(SERIES, START, european=True),
    "preamble": "Exported by a meter\nSerial 42\n\n" + PLAIN,
    "kilowatts": "when_time,load_kw\n" + rows(lambda t, w: f"{int(1.79e9 + t)},{w / 1000:.5f}"),
    "milliseconds": "Timestamp\tWatts\n" + rows(lambda t, w: f"{int((1.79e9 + t) * 1000)}\t{w:.1f}"),
    "elapsed": "elapsed seconds;volts;power W\n"
    + rows(lambda t, w: f"{t:.0f};120,5;{w:.1f}".replace(".", ",")),
    "american": "Date,Power (W)\n"
    + rows(lambda t, w: f"{datetime.fromtimestamp(START.timestamp() + t):%m/%d/%Y %H:%M:%S},{w:.1f}"),
    "counter": "time,energy_kwh\n"
    + "\n".join(
        f"{t:.0f},{c if t < 90_000 else c - 1:.6f}" for t, c in zip(SERIES.t_s.tolist(), COUNTER, strict=True)
    ),
    "duplicates": PLAIN.splitlines()[0]
    + "\n"
    + "\n".join(line for line in PLAIN.splitlines()[1:] for _ in range(2)),
    "clock set back": "time,watts\n" + rows(lambda t, w: f"{local(t)},{w:.1f}"),
    "a few bad rows": PLAIN.replace("T13:00:00,", "T13:00:00,err "),
    "windows": "\ufeff" + PLAIN.replace("\n", "\r\n"),
}


@pytest.mark.parametrize("name", FILES)
def test_every_shape_says_the_same(name: str) -> None:
    content = FILES[name].encode()
    how = propose_columns(content)
    assert how.unit_sure
    data = read_series(content, how)
    found = analyse_series(data.t_s, data.watts)
    assert found.wh_day == pytest.approx(SERIES.truth.wh_day, rel=0.01)
    assert found.duty == pytest.approx(SERIES.truth.duty, abs=0.02)
    mended = {
        "counter": "resets",
        "duplicates": "duplicates",
        "clock set back": "clock_changes",
        "a few bad rows": "bad_rows",
    }
    for kind in ("resets", "duplicates", "clock_changes", "bad_rows"):
        assert (getattr(data, kind) > 0) == (mended.get(name) == kind), kind


def test_watts_or_kilowatts_is_asked_where_it_matters() -> None:
    text = "time,reading\n" + "\n".join(f"{t},{7.2 if t % 7 else 0.1}" for t in range(0, 4000, 30))
    how = propose_columns(text.encode())
    assert not how.unit_sure
    data = read_series(text.encode(), replace(how, unit="kW"))
    assert data.watts.max() == pytest.approx(7200)


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"\x89PNG\r\n\x1a\n\x00\x00", "not a text file"),
        (b"", "not a table"),
        (b"hello\nworld\n", "not a table"),
        (b"name,size\na1,17\nb2,18\nc3,19\n", "a column of times"),
        (b"time,note\n2026-01-01 10:00,ok1\n2026-01-01 10:01,ok2\n2026-01-01 10:02,ok3\n", "watts"),
        (PLAIN[:20_000].encode() + b"\n" + b"oops,never\n" * 60, "Row"),
    ],
)
def test_what_is_no_meter_series_is_refused_with_the_row(content: bytes, told: str) -> None:
    with pytest.raises((InvalidInput, NotReadable)) as refused:
        read_series(content, propose_columns(content))
    assert isinstance(refused.value, WearyCedarError)
    assert told in str(refused.value) + refused.value.problems[0].right


def test_a_column_that_is_not_there() -> None:
    how = replace(propose_columns(PLAIN.encode()), value="amps")
    with pytest.raises(InvalidInput, match="should be one of timestamp, power_w"):
        read_series(PLAIN.encode(), how)


def test_a_week_at_one_hertz() -> None:
    """600,000 rows are read and analysed; the time is printed, not judged (see make bench)."""
    series = meter_series("refrigerator", days=7, step_s=1.0, seed=4)
    content = meter_csv(series, START).encode()
    data = read_series(content, propose_columns(content))
    found = analyse_series(data.t_s, data.watts)
    assert data.rows == 604_800
    assert found.start_w == pytest.approx(840, rel=0.05)
    assert found.wh_day == pytest.approx(series.truth.wh_day, rel=0.01)
