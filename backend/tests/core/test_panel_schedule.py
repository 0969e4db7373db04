"""The panel schedule: places and sums, by hand."""

import pytest
from builders import circuit, cycling, house, job, load, steady

from weary_cedar.core.panel_schedule import panel_schedule
from weary_cedar.core.plan import read_plan


def test_places_and_sums() -> None:
    plan = read_plan(
        house(
            {
                "a": circuit([1], "keep"),
                "b": circuit([3], "room"),
                "both": circuit([5, 7], "keep"),
                "dark": circuit([6], "off"),
            },
            {
                "a": load("a", cycling(600, 0.5, 1200)),
                "b": load("b", job("07:00:00", "08:00:00", (1000, 30), (200, 60))),
                "both": load("both", steady(2000)),
                "dark": load("dark", steady(900)),
            },
        )
    )
    schedule = panel_schedule(plan, "main")
    kinds = {cell.space: (cell.kind, cell.leg) for row in schedule.rows for cell in row}
    assert [kinds[n] for n in (1, 2, 3, 4, 5, 7, 9)] == [
        ("circuit", "A"),
        ("feed", "A"),
        ("circuit", "B"),
        ("feed", "B"),
        ("circuit", "A"),
        ("second_pole", "B"),
        ("empty", "A"),
    ]
    a, b = schedule.legs["A"], schedule.legs["B"]
    assert (a.keep_w, a.room_w, b.keep_w, b.room_w) == (1600, 0, 1000, 1000)
    assert b.room_wh_day == pytest.approx(700)
    assert a.keep_wh_day == pytest.approx(300 * 24 + 1000 * 24)
    assert a.most_a == pytest.approx(1600 / 120)
    assert a.limit_a == 25
    assert schedule.neutral_a == pytest.approx(400 / 120)
    assert schedule.lean_w == pytest.approx(0.2)
    assert schedule.circuits["dark"].on_w == 900


def test_a_single_phase_board_has_one_leg() -> None:
    document = house({"a": circuit([1])}, {"a": load("a", steady(460))})
    document["site"]["system"] = "single_phase_230"
    document["feeds"] = {}
    schedule = panel_schedule(read_plan(document), "main")
    assert list(schedule.legs) == ["L"]
    assert schedule.legs["L"].most_a == pytest.approx(2.0)
    assert (schedule.legs["L"].limit_a, schedule.lean_w) == (None, 0.0)
