"""How loads behave: cycles with debt and defrost, jobs with windows."""

import json
from typing import Any

import pytest

from weary_cedar.core.demand import CyclingDemand, JobDemand
from weary_cedar.core.plan import Cycling, Defrost, Job, JobStep


def play(demand: Any, until_s: float, power: list[tuple[float, bool]]) -> list[tuple[float, float]]:
    """Change points of what it draws, given when power comes and goes."""
    points: list[tuple[float, float]] = []
    edges = [*power, (until_s, power[-1][1])]
    for at, on in edges:
        while demand.next_s < at:
            moment = demand.next_s
            demand.step(moment)
            points.append((moment, demand.watts if demand.powered else 0.0))
        demand.power(at, on)
        points.append((at, demand.watts if on else 0.0))
    return [p for i, p in enumerate(points) if i == 0 or points[i - 1][1] != p[1]]


def test_cycle_owes_what_it_missed() -> None:
    demand = CyclingDemand(Cycling(on_w=100, duty=0.25, period_s=400), phase=0.5)
    assert play(demand, 1300, [(0, False), (400, True)]) == [
        (0, 0.0),  # the clock goes on at 400 s in mid-cycle, with 200 s off before it
        (600, 100.0),
        (800, 0.0),  # 100 s of its own and 0.25 · 400 = 100 s that it owed
        (1100, 100.0),
        (1200, 0.0),
    ]
    assert demand.unserved_wh(400, 0) == 0


def test_debt_that_is_cut_short_stays_owed() -> None:
    demand = CyclingDemand(Cycling(on_w=360, duty=0.5, period_s=400), phase=0.0)
    play(demand, 1000, [(0, False), (400, True), (500, False)])
    assert demand.unserved_wh(900, 500) == pytest.approx(360 * (200 + 250) / 3600)


def test_always_on_cannot_make_up() -> None:
    demand = CyclingDemand(Cycling(on_w=360, duty=1.0, period_s=400), phase=0.0)
    assert play(demand, 1000, [(0, False), (100, True)]) == [(0, 0.0), (100, 360.0)]
    assert demand.unserved_wh(100, 0) == pytest.approx(10)


def test_defrost_takes_the_place_of_the_cycle() -> None:
    spec = Cycling(on_w=100, duty=0.5, period_s=400, defrost=Defrost(watts=500, seconds=60, every_s=700))
    demand = CyclingDemand(spec, phase=0.0)
    assert play(demand, 1100, [(0, True)])[-5:] == [
        (600, 0.0),
        (700, 500.0),
        (760, 0.0),
        (860, 100.0),
        (1060, 0.0),
    ]
    assert demand.mean_w() == pytest.approx(100 * 0.5 * (1 - 60 / 700) + 500 * 60 / 700)


def test_a_defrost_that_was_cut_short_goes_on() -> None:
    spec = Cycling(on_w=100, duty=0.0, period_s=400, defrost=Defrost(watts=500, seconds=60, every_s=700))
    demand = CyclingDemand(spec, phase=0.0)
    points = play(demand, 1000, [(0, True), (720, False), (900, True)])
    assert points == [(0, 0.0), (700, 500.0), (720, 0.0), (900, 500.0), (940, 0.0)]
    demand.power(1000, False)
    assert demand.watts == 0.0


def test_open_door_runs_on() -> None:
    demand = CyclingDemand(Cycling(on_w=100, duty=0.5, period_s=400), phase=0.5)
    demand.power(0, True)
    demand.hold_on(50, 30)
    assert (demand.watts, demand.next_s) == (100, 80)
    demand.step(80)
    assert (demand.watts, demand.next_s) == (0, 230)


STEPS = (JobStep(watts=1000, minutes=1), JobStep(watts=200, minutes=2))


def a_job(**more: Any) -> Job:
    clock = {"earliest": "08:00:00", "latest": "09:00:00"}
    listed = [step.model_dump() for step in STEPS]
    return Job.model_validate_json(json.dumps({"kind": "job", "steps": listed, **clock, **more}))


@pytest.mark.parametrize(
    ("splittable", "power", "expected"),
    [
        (False, [(0, True)], [(0, 0), (100, 1000), (160, 200), (280, 0), (900, 1000), (960, 200)]),
        (
            False,
            [(0, False), (150, True)],
            [(0, 0), (150, 1000), (210, 200), (330, 0), (900, 1000), (960, 200)],
        ),
        (False, [(0, False), (500, True)], [(0, 0), (900, 1000), (960, 200)]),
        (
            True,
            [(0, True), (130, False), (200, True)],
            [(0, 0), (100, 1000), (130, 0), (200, 1000), (230, 200)],
        ),
        (
            False,
            [(0, True), (130, False), (200, True)],
            [(0, 0), (100, 1000), (130, 0), (200, 1000), (260, 200)],
        ),
    ],
)
def test_job_in_its_window(
    splittable: bool, power: list[tuple[float, bool]], expected: list[tuple[float, float]]
) -> None:
    demand = JobDemand(a_job(splittable=splittable), [(100, 300), (900, 1000)])
    assert play(demand, 1000, power)[: len(expected)] == expected


def test_dropped_job_is_all_unserved() -> None:
    demand = JobDemand(a_job(), [(100, 300)])
    play(demand, 1000, [(0, False), (500, True)])
    assert demand.unserved_wh(200, 0) == pytest.approx(1000 / 60 + 200 * 2 / 60)
    assert not demand.wants


def test_a_job_that_wakes_in_the_second_in_which_power_goes_waits_until_its_latest_hour() -> None:
    item = JobDemand(a_job(), [(100.0, 500.0)])
    item.power(0.0, True)
    item.step(100.0)
    item.power(100.0, False)
    assert item.wants
    assert item.next_s == 500.0
    item.step(500.0)
    assert not item.wants
    assert item.unserved_wh(0.0, 0.0) > 0
