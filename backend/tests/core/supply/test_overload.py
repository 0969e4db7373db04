"""Overload curve and account: points from memory of the class; the arithmetic by hand."""

import math

import pytest

from weary_cedar.core.outage.tree import BREAKER_CURVE
from weary_cedar.core.plan import CurvePoint
from weary_cedar.core.plan.overload_curve import DEFAULT_CURVE
from weary_cedar.core.supply.overload import OverloadAccount, OverloadCurve

CURVE = OverloadCurve(DEFAULT_CURVE)


@pytest.mark.parametrize(
    ("multiple", "seconds"),
    [(1.0, math.inf), (1.05, math.inf), (1.10, 600), (1.15, 180), (1.28, 10), (1.5, 1), (2.0, 0.2)],
)
def test_points_of_the_curve(multiple: float, seconds: float) -> None:
    assert CURVE.seconds(multiple) == pytest.approx(seconds)


def test_between_and_beyond_the_points() -> None:
    assert CURVE.seconds(1.125) == pytest.approx(math.sqrt(600 * 180))
    assert 600 < CURVE.seconds(1.0501) < 2100
    assert CURVE.seconds(9.0) == 0.01
    assert CURVE.carried_multiple(math.sqrt(0.2)) == pytest.approx(1.75)
    assert CURVE.carried_multiple(1e6) == 1.05


def test_practice_of_one_unit() -> None:
    """Practice: 7,200 W carries 9,300 W about 10 s; 4,600 W does not drop 5,000 W within 60 s."""
    assert CURVE.seconds(9300 / 7200) == pytest.approx(10, rel=0.15)
    assert CURVE.seconds(5000 / 4600) > 60
    assert CURVE.seconds(4300 / 4600) == math.inf


def test_a_curve_of_one_point() -> None:
    single = OverloadCurve([CurvePoint(multiple=1.2, seconds=30)])
    assert single.seconds(1.2) == pytest.approx(30)
    assert single.seconds(1.0) == math.inf
    only_lasting = OverloadCurve([CurvePoint(multiple=1.1)])
    assert (only_lasting.seconds(1.1), only_lasting.seconds(5)) == (math.inf, 0.01)
    assert only_lasting.carried_multiple(0.5) == 1.1


def test_account_fills_and_empties() -> None:
    account = OverloadAccount(CURVE)
    assert account.load(1.15) == pytest.approx(180)
    account.advance(90)
    assert account.level == pytest.approx(0.5)
    assert account.load(1.10) == pytest.approx(300)
    account.load(1.03)
    account.advance(1000)
    assert account.level == pytest.approx(0.5)
    account.load(1.0)
    account.advance(15)
    assert account.level == pytest.approx(0.25)
    account.advance(100)
    assert account.level == 0


def test_times_after_which_a_breaker_has_tripped_at_the_latest() -> None:
    """UL 489, from memory, up to 50 A: an hour at 135 %, two minutes at 200 % (to 30 A)."""
    assert BREAKER_CURVE.seconds(1.35) == pytest.approx(3_600.0)
    assert BREAKER_CURVE.seconds(2.0) == pytest.approx(120.0)
    assert BREAKER_CURVE.seconds(1.0) == math.inf
