"""Courses as fine as a screen can show: no peak is lost, short ones stay whole."""

import pytest
from builders import circuit, cycling, house, load

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.thinned import rows_kept, thinned
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import demo_plan


def restless() -> RunResult:
    loads = {key: load(key, cycling(200.0 + 50 * n, 0.4, 300.0 + 37 * n)) for n, key in enumerate("abc")}
    document = house({key: circuit([1 + 2 * n]) for n, key in enumerate("abc")}, loads)
    document["stations"]["unit"]["nameplate_wh"] = 100_000.0
    return run_outage(read_plan(document))


def test_short_courses_stay_whole() -> None:
    result = run_outage(demo_plan("hut"))
    assert thinned(result) == result


def test_a_long_course_keeps_its_peaks_and_its_ends() -> None:
    whole = restless()
    few = thinned(whole, rows=100, stretches=50)
    assert len(few.series.t_s) < len(whole.series.t_s) / 2
    for name in ("a_va", "b_va", "stored_wh", "neutral_a"):
        every, kept = getattr(whole.series, name), getattr(few.series, name)
        ends = (max(every), min(every), every[0], every[-1])
        assert (max(kept), min(kept), kept[0], kept[-1]) == tuple(round(value, 3) for value in ends)
    assert len(few.load_series["a"].t_s) < len(whole.load_series["a"].t_s)
    assert len(few.batteries["unit"].stored_wh) == len(few.batteries["unit"].t_s)
    assert few.verdict == whole.verdict
    assert few.events == whole.events


def test_every_stretch_keeps_its_least_and_greatest() -> None:
    """Twelve rows: of six and of five the first, the last and both extremes; the last row of all."""
    values = [5.0, 1.0, 7.0, 9.0, 4.0, 3.0, 2.0, 8.0, 6.0, 0.5, 4.0, 0.0]
    assert rows_kept([float(n) for n in range(12)], [values], 2) == [0, 1, 3, 5, 6, 7, 9, 10, 11]
    assert rows_kept([], [], 2) == []
    assert rows_kept([1.0], [[2.0]], 2) == [0]


@pytest.mark.parametrize("stretches", [1, 3, 7, 50])
def test_kept_rows_are_rows(stretches: int) -> None:
    whole = restless().series
    kept = rows_kept(whole.t_s, [whole.a_va], stretches)
    assert kept == sorted(set(kept))
    assert {0, len(whole.t_s) - 1} <= set(kept)
    assert len(kept) <= 4 * (stretches + 1)
