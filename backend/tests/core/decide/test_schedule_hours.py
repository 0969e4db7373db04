"""Hours counted ahead: the dynamic programme against trying everything, the bound below both."""

from itertools import product
from random import Random

import numpy as np
import pytest

from weary_cedar.core.decide.schedule import (
    Hourly,
    Movable,
    Told,
    best_hours,
    least_litres,
    least_worth,
    priced,
)
from weary_cedar.core.decide.schedule.hours import START_WORTH, as_usual, counted_hours, energy_between
from weary_cedar.core.outage import run_outage
from weary_cedar.demo import demo_plan


def hours(count: int, dice: Random, *, jobs: bool = True, **more: object) -> Hourly:
    """Half hours at random, in whole steps of the grid, so that nothing lies between its steps."""
    off = [2.0 * dice.randint(-60, 90) for _ in range(count)]
    slots = tuple(sorted(dice.sample(range(count), min(3, count))))
    movable = (
        Movable("wash", 2.0 * dice.randint(10, 60), dice.random() < 0.5, 3600.0, ((slots, slots[0]),)),
    )
    told: dict[str, object] = {
        "edges_s": np.arange(count + 1) * 1800.0,
        "off_wh": np.array(off),
        "on_wh": np.array([wh - 2.0 * dice.randint(20, 120) for wh in off]),
        "room_wh": np.array([max(0.0, wh) * dice.choice((0.0, 0.5)) for wh in off]),
        "litres": np.full(count, 0.25),
        "may_run": np.array([dice.random() < 0.7 for _ in range(count)]),
        "left_wh": np.array([0.0] * (count - 1) + [2.0 * dice.randint(0, 60)]),
        "first_wh": 2.0 * dice.randint(0, 100),
        "floor_wh": 0.0,
        "full_wh": 200.0,
        "stops_wh": 2.0 * dice.randint(70, 100),
        "reaches": np.ones(count),
        "jobs": movable if jobs else (),
        "day": (0,) * count,
        "clock": tuple(range(0, 30 * count, 30)),
        **more,
    }
    return Hourly(**told)  # type: ignore[arg-type]


def everything(hourly: Hourly) -> float:
    """The least of all ways to run the engine and to begin the jobs."""
    begun = [[*days[0][0], None] for job in hourly.jobs for days in [job.days]]
    runs = [(False, True) if may else (False,) for may in hourly.may_run]
    return min(
        priced(hourly, Told(tuple(engine), tuple((n,) for n in chosen))).worth
        for engine in product(*runs)
        for chosen in product(*begun)
    )


@pytest.mark.parametrize("seed", range(25))
def test_the_dynamic_programme_finds_what_trying_everything_finds(seed: int) -> None:
    hourly = hours(8, Random(seed))
    assert priced(hourly, best_hours(hourly)).worth == pytest.approx(everything(hourly), abs=1e-6)


@pytest.mark.parametrize("seed", range(60))
def test_no_hours_cost_less_than_the_bound(seed: int) -> None:
    dice = Random(1000 + seed)
    hourly = hours(24, dice)
    bound = least_worth(hourly)
    assert bound is not None
    assert priced(hourly, best_hours(hourly)).worth >= bound.worth - 1e-6
    engine = tuple(dice.random() < 0.4 and bool(may) for may in hourly.may_run)
    assert priced(hourly, as_usual(hourly, engine)).worth >= bound.worth - 1e-6


def test_the_bound_in_closed_form() -> None:
    """100 Wh are stored and 200 are drawn: an engine that gives 50 in a half hour runs for two of them."""
    hourly = hours(
        4, Random(1), jobs=False, off_wh=np.full(4, 50.0), on_wh=np.zeros(4), room_wh=np.zeros(4),
        may_run=np.ones(4, dtype=bool), left_wh=np.zeros(4), first_wh=100.0,
    )  # fmt: skip
    bound = least_worth(hourly)
    assert bound is not None
    assert bound.litres == pytest.approx(0.5)
    assert bound.worth == pytest.approx(2 * 0.25 * 60 + START_WORTH / 2), "half an engine starts half a time"
    assert least_litres(hourly, 0.0, 0.0, 0.0) == pytest.approx(0.5, abs=0.01)
    assert priced(hourly, best_hours(hourly)).worth == pytest.approx(bound.worth + START_WORTH / 2)


def test_fuel_that_is_not_there_is_not_burned() -> None:
    hourly = hours(
        12, Random(2), jobs=False, off_wh=np.full(12, 60.0), on_wh=np.full(12, -20.0),
        room_wh=np.full(12, 30.0),
        may_run=np.ones(12, dtype=bool), left_wh=np.zeros(12), first_wh=100.0, on_hand_l=1.0,
    )  # fmt: skip
    found = priced(hourly, best_hours(hourly))
    assert found.litres <= 1.0 + 1e-9
    assert sum(best_hours(hourly).engine) <= 4
    bound = least_worth(hourly)
    assert bound is not None
    assert bound.litres <= 1.0 + 1e-9


def test_what_is_marked_room_goes_first_and_where_the_plan_sheds_it() -> None:
    short = hours(1, Random(3), jobs=False, off_wh=np.array([100.0]), on_wh=np.array([100.0]), first_wh=40.0,
                  room_wh=np.array([50.0]), left_wh=np.zeros(1), may_run=np.zeros(1, dtype=bool),
                  litres=np.zeros(1))  # fmt: skip
    found = priced(short, as_usual(short, [False]))
    assert (found.room_wh, found.keep_wh) == (50.0, 10.0)
    shed = hours(1, Random(3), jobs=False, off_wh=np.array([100.0]), on_wh=np.array([100.0]), first_wh=90.0,
                 room_wh=np.array([50.0]), left_wh=np.zeros(1), may_run=np.zeros(1, dtype=bool),
                 litres=np.zeros(1), sheds_wh=95.0)  # fmt: skip
    found = priced(shed, as_usual(shed, [False]))
    assert (found.room_wh, found.keep_wh) == (50.0, 0.0)


def test_half_hours_hold_the_energy_of_the_run() -> None:
    """With cells that never are full nor empty, all that leaves them is what loads take and what is lost."""
    plan = demo_plan("foothill")
    run = run_outage(plan)
    hourly = counted_hours(plan, run, "inverter-2k", 0.0, 0.0)
    assert hourly.edges_s[-1] == run.length_s
    assert all(minutes % 30 == 0 for minutes in hourly.clock[1:])
    assert hourly.full_wh == pytest.approx(run.capacity_wh)
    saved = float((hourly.off_wh - hourly.on_wh).sum())
    assert saved > 0
    quiet = plan.generators["inverter-2k"].quiet
    assert quiet is not None
    for may, minutes in zip(hourly.may_run, hourly.clock, strict=True):
        late = minutes >= quiet.begins.hour * 60 + quiet.begins.minute
        assert not (may and late)
    assert {job.load_id for job in hourly.jobs} <= set(plan.loads)


def test_energy_between_edges() -> None:
    found = energy_between((0.0, 1800.0, 5400.0), (100.0, 0.0, 200.0), np.array([0.0, 3600.0, 7200.0]))
    assert found.tolist() == [50.0, 100.0]
