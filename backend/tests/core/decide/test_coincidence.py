"""The chance that a start meets too much: against all combinations by hand, and against drawing."""

import itertools
import math

import pytest
from builders import circuit, cycling, house, job, load, one_load, steady
from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.decide.coincidence import (
    Beside,
    beside,
    chance_in_the_outage,
    chance_over,
    starts_in,
)
from weary_cedar.core.plan import read_plan


def by_hand(others: list[Beside], start_va: float, legs: list[int], limit_va: float) -> float:
    """Every combination in plain Python, as the definition has it."""
    chance = 0.0
    for on in itertools.product((0, 1), repeat=len(others)):
        likely = math.prod(o.likely if is_on else 1 - o.likely for o, is_on in zip(others, on, strict=True))
        over = False
        for leg in legs:
            watts = sum(o.watts[leg] for o, is_on in zip(others, on, strict=True) if is_on)
            reactive = sum(o.vars[leg] for o, is_on in zip(others, on, strict=True) if is_on)
            over = over or math.hypot(watts, reactive) + start_va > limit_va
        chance += likely if over else 0.0
    return chance


OTHERS = [
    Beside(0.4, (300.0, 0.0), (225.0, 0.0)),
    Beside(0.35, (0.0, 700.0), (0.0, 300.0)),
    Beside(0.05, (450.0, 450.0), (300.0, 300.0)),
    Beside(1.0, (120.0, 0.0), (0.0, 0.0)),
    Beside(0.0, (5000.0, 5000.0), (0.0, 0.0)),
    Beside(0.2, (0.0, 900.0), (0.0, 0.0)),
]


@pytest.mark.parametrize("limit_va", [500.0, 1500.0, 1800.0, 2200.0, 2600.0, 9000.0])
@pytest.mark.parametrize("legs", [[0], [1], [0, 1]])
def test_exact_for_a_few(legs: list[int], limit_va: float) -> None:
    assert chance_over(OTHERS, 1300.0, legs, limit_va) == pytest.approx(
        by_hand(OTHERS, 1300.0, legs, limit_va)
    )


def test_drawn_for_many_within_its_error() -> None:
    """Twenty alike: a binomial sum (textbook); over when more than six run."""
    many = [Beside(0.25, (100.0,), (0.0,))] * 20
    exact = sum(math.comb(20, k) * 0.25**k * 0.75 ** (20 - k) for k in range(7, 21))
    drawn = chance_over(many, 400.0, [0], 1050.0)
    assert drawn == pytest.approx(exact, abs=4 * math.sqrt(exact * (1 - exact) / 40_000))
    assert chance_over(many, 400.0, [0], 1050.0) == drawn


def test_nothing_else_and_certainty() -> None:
    assert chance_over([], 900.0, [0], 1000.0) == 0.0
    assert chance_over([], 1100.0, [0], 1000.0) == 1.0
    assert chance_in_the_outage(0.5, 2) == 0.75


def test_duty_and_starts_of_a_load() -> None:
    plan = read_plan(one_load(cycling(100.0, 0.25, 3600.0), load={"power_factor": 0.8}))
    item = beside(plan, plan.loads["only"], ("A",), ("A", "B"))
    assert (item.likely, item.watts) == (0.25, (100.0, 0.0))
    assert item.vars[0] == pytest.approx(75.0)
    assert starts_in(plan, plan.loads["only"]) == 48.0
    daily = read_plan(one_load(job("08:00:00", "10:00:00", (500.0, 30.0))))
    once = read_plan(one_load(job("08:00:00", "10:00:00", (500.0, 30.0), daily=False)))
    always = read_plan(one_load(steady(5.0)))
    assert [starts_in(p, p.loads["only"]) for p in (daily, once, always)] == [2.0, 1.0, 1.0]


def test_a_two_pole_load_is_on_both_legs() -> None:
    document = house({"pump": circuit([5, 7])}, {"pump": load("pump", cycling(900.0, 0.1, 1800.0))})
    plan = read_plan(document)
    assert beside(plan, plan.loads["pump"], ("A", "B"), ("A", "B")).watts == (450.0, 450.0)


def test_a_thermostat_starts_as_its_cycles_say() -> None:
    """4·n₅₀·x(1 − x) an hour: three at half, none when it never stops."""
    spec = {
        "kind": "thermostatic",
        "loss_w_per_k": 200.0,
        "gain_w": 0.0,
        "set_c": 20.0,
        "output_w": 8000.0,
        "run_w": 500.0,
    }
    weather = {"weather": {"low_c": 0.0, "high_c": 0.0}}
    plan = read_plan(one_load(spec, outage=weather))
    assert starts_in(plan, plan.loads["only"]) == pytest.approx(48 * 3.0, rel=0.01)


@settings(max_examples=60)
@given(
    likely=st.lists(st.floats(0, 1), min_size=1, max_size=7),
    watts=st.lists(st.floats(0, 3000), min_size=7, max_size=7),
    start_va=st.floats(0, 6000),
    limit_va=st.floats(100, 8000),
)
def test_any_few_loads_against_all_combinations(
    likely: list[float], watts: list[float], start_va: float, limit_va: float
) -> None:
    others = [Beside(p, (w, 0.0), (w / 3, 0.0)) for p, w in zip(likely, watts, strict=False)]
    found = chance_over(others, start_va, [0], limit_va)
    assert found == pytest.approx(by_hand(others, start_va, [0], limit_va), abs=1e-9)
    assert chance_over(others, start_va, [0], limit_va + 500) <= found + 1e-12


def test_a_chance_that_rounding_carries_over_one_stays_a_chance() -> None:
    """Sums of weights may be 1 + 2e-16; to a broken power that once was a complex number."""
    assert chance_in_the_outage(1.0 + 2e-16, 2.5) == 1.0
    assert chance_in_the_outage(-1e-17, 0.3) == 0.0
    others = [Beside(0.1 + n / 100, (500.0,), (0.0,)) for n in range(12)]
    assert 0.999 < chance_over(others, 1.0, [0], 0.5) <= 1.0
