"""Cells in the run: courses, taper, order of offers; against small steps and the worked cases."""

import pytest

from weary_cedar.core.exact.course import after, hours_to
from weary_cedar.core.plan import Station
from weary_cedar.core.supply.charging import charge_hours
from weary_cedar.core.supply.unit import Offer, Unit


def unit(stored_wh: float, **more: object) -> Unit:
    spec: dict[str, object] = {
        "name": "unit",
        "rated_va": 3000.0,
        "nameplate_wh": 10_240.0,
        "idle_w": 0.0,
        "sleep_w": 0.0,
        "self_discharge_percent_per_week": 0.0,
        "inverter_efficiency": 1.0,
        **more,
    }
    plan_station = Station.model_validate(spec)
    made = Unit("unit", plan_station, 100.0 * stored_wh / plan_station.total_cell_wh)
    made.offers = [Offer(made, "sun", "s", 0, 1.0), Offer(made, "wall", "w", 2, 0.8)]
    return made


def hours_until(cells: Unit, goal_wh: float, out_w: float = 0.0) -> float:
    """Follow the unit's own marks until a charge is reached, h."""
    t = 0.0
    for _ in range(50):
        cells.settle(t)
        cells.look()
        if cells.stored_wh >= goal_wh * (1 - 1e-9):
            return t / 3600
        cells.carry(t, out_w, on=True, passes=False)
        t = cells.due_s
    raise AssertionError("it does not get there")


TAPER = {"knee_percent": 80.0, "end_percent": 35.0, "reference_w": 1638.0}


def test_a_taper_by_its_worked_case() -> None:
    """0 to 80 % in 5 h, the rest in 2 h; common practice, and the closed form of the charging sum."""
    cells = unit(0.0, taper=TAPER)
    cells.offers[0].give(5_000.0)
    assert hours_until(cells, 8_192.0) == pytest.approx(5.0, abs=0.01)
    whole = hours_until(unit_with(5_000.0), 10_240.0)
    assert whole == pytest.approx(charge_hours(10_240, 5_000, 0, 1, 0.8, 0.35, 1_638.0), rel=1e-9)
    assert whole == pytest.approx(7.0, abs=0.03)


def unit_with(watts: float) -> Unit:
    cells = unit(0.0, taper=TAPER)
    cells.offers[0].give(watts)
    return cells


@pytest.mark.parametrize("watts", [600.0, 1_000.0, 1_638.0, 3_000.0])
def test_charging_against_the_closed_form(watts: float) -> None:
    """A slow charge is hardly tapered: it bends only where the cells take less than is offered."""
    found = hours_until(unit_with(watts), 10_240.0)
    assert found == pytest.approx(charge_hours(10_240, watts, 0, 1, 0.8, 0.35, 1_638.0), rel=1e-9)


def test_sun_first_then_the_wall_and_the_last_yields() -> None:
    cells = unit(9_700.0, taper=TAPER)
    cells.offers[0].give(700.0)
    cells.offers[1].give(1_000.0)
    cells.carry(0.0, 100.0, on=True, passes=False)
    takes = cells.limit_w(9_700.0)
    assert cells.used_w(cells.offers[0]) == pytest.approx(700.0)
    assert cells.used_w(cells.offers[1]) == pytest.approx(takes + 100.0 - 700.0)
    assert cells.offers[1].now_w() == pytest.approx((takes - 600.0) / 0.8)
    before = cells.stored_wh
    cells.settle(600.0)
    sun, wall = (offer.taken_wh for offer in cells.offers)
    assert sun == pytest.approx(700.0 / 6)
    assert cells.stored_wh - before == pytest.approx(sun + 0.8 * wall - 100.0 / 6, rel=1e-12)


def test_full_takes_what_is_drawn_and_cold_cells_nothing() -> None:
    for cells in (unit(10_240.0), unit(5_000.0)):
        cells.blocked = not cells.full
        cells.offers[0].give(900.0)
        cells.carry(0.0, 250.0, on=True, passes=False)
        assert cells.used_w(cells.offers[0]) == pytest.approx(250.0)
        cells.settle(3_600.0)
        assert cells.stored_wh == cells.start_wh
        assert (cells.offers[0].offered_wh, cells.offers[0].taken_wh) == pytest.approx((900.0, 250.0))


@pytest.mark.parametrize(("a", "b"), [(120.0, 0.0), (500.0, -0.4), (-90.0, 0.02)])
def test_a_course_and_its_inverse(a: float, b: float) -> None:
    """Against ten thousand Euler steps, and the time to a value that was reached."""
    value, hours = 300.0, 1.7
    steps = value
    for _ in range(10_000):
        steps += (a + b * steps) * hours / 10_000
    reached = after(value, a, b, hours)
    assert reached == pytest.approx(steps, rel=1e-3)
    assert hours_to(value, reached, a, b) == pytest.approx(hours, rel=1e-9)
