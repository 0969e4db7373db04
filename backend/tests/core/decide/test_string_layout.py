"""String layouts: what fits the window, what a day harvests, what is clipped."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.decide.string_layout import Layout, layouts
from weary_cedar.core.plan import DcInput, Module
from weary_cedar.core.supply.sun import SunSample

#: Ten hours at one light: share of the plate and temperature of the cells.
DAY = [SunSample(3600.0 * hour, 3600.0, 800.0, 45.0, 0.7) for hour in range(8, 18)]


def module(voc_v: float = 41.53, **more: float) -> Module:
    figures = {"watts": 400.0, "vmp_v": 34.0, "isc_a": 12.0, "imp_a": 11.5, "voc_percent_per_k": -0.28}
    return Module.model_validate({"voc_v": voc_v, **figures, **more})


def by_shape(found: list[Layout]) -> dict[tuple[int, int], Layout]:
    return {(item.series, item.parallel): item for item in found}


@pytest.mark.parametrize("voc_v", [45.0, 52.0])
def test_two_modules_on_a_small_input(voc_v: float) -> None:
    """60 V, 25 A: in series a stop, in parallel it passes (practice)."""
    entry = DcInput(low_v=12.0, high_v=60.0, most_a=25.0, most_w=800.0)
    found = by_shape(layouts(module(voc_v, isc_a=10.0, imp_a=9.5), 2, entry, 10.0, DAY))
    assert not found[2, 1].fits
    assert "over the 60 V" in found[2, 1].why_not
    assert found[1, 2].fits


def test_layouts_are_ranked_by_what_a_day_harvests() -> None:
    entry = DcInput(low_v=60.0, high_v=150.0, most_a=15.0, short_circuit_a=20.0, most_w=1600.0)
    found = layouts(module(), 6, entry, -10.0, DAY)
    assert [(x.series, x.parallel) for x in found if x.fits] == [(3, 1)]
    assert [x.day_wh for x in found] == sorted((x.day_wh for x in found), reverse=True)
    assert all(x.why_not and x.day_wh == x.clipped_wh == 0 for x in found if not x.fits)


def test_clipping_by_hand() -> None:
    """Two of 400 W at a share of 0.7: 560 W offered. The input takes 500 W, or 8 A at 34 V less heat."""
    wide = DcInput(low_v=12.0, high_v=150.0, most_a=40.0, most_w=500.0)
    found = by_shape(layouts(module(), 2, wide, 0.0, DAY))
    assert found[2, 1].day_wh == pytest.approx(5000)
    assert found[2, 1].clipped_wh == pytest.approx(600)
    assert found[1, 1].day_wh == pytest.approx(2800)
    narrow = wide.model_copy(update={"most_a": 8.0, "most_w": 5000.0})
    volts = 34.0 - 1.1 * 0.0028 * 41.53 * 20  # 1.1 of the plate's open-circuit slope, volt for volt
    found = by_shape(layouts(module(), 2, narrow, 0.0, DAY))
    assert found[2, 1].day_wh == pytest.approx(10 * 2 * 8 * volts)
    assert found[1, 2].day_wh == pytest.approx(10 * 8 * volts)
    assert found[2, 1].clipped_wh < found[1, 2].clipped_wh


def test_a_string_that_does_not_start_in_the_heat() -> None:
    entry = DcInput(low_v=33.0, high_v=60.0, most_a=40.0, most_w=5000.0)
    (found,) = layouts(module(), 1, entry, 0.0, DAY)
    assert "under the 33 V" in found.why_not


@settings(max_examples=80)
@given(
    count=st.integers(1, 9),
    low_v=st.floats(5, 100),
    span_v=st.floats(5, 400),
    most_a=st.floats(3, 40),
    most_w=st.floats(100, 4000),
)
def test_no_layout_takes_more_than_it_offers_or_its_input_allows(
    count: int, low_v: float, span_v: float, most_a: float, most_w: float
) -> None:
    entry = DcInput(low_v=low_v, high_v=low_v + span_v, most_a=most_a, most_w=most_w)
    found = layouts(module(), count, entry, -15.0, DAY)
    assert {(x.series, x.parallel) for x in found} == {
        (s, p) for s in range(1, count + 1) for p in range(1, count + 1) if s * p <= count
    }
    for item in found:
        offered = 10 * item.series * item.parallel * 400 * 0.7
        assert item.day_wh <= 10 * most_w + 1e-9
        assert item.clipped_wh >= -1e-9
        if item.fits:
            assert item.day_wh + item.clipped_wh == pytest.approx(offered)
            assert entry.high_v is not None
            assert item.coldest_v <= entry.high_v
            assert item.hottest_v >= entry.least_v
    best = [x.day_wh for x in found if x.fits]
    assert best == sorted(best, reverse=True)
