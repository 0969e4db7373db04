"""The order in which circuits come back: against every order there is, and by hand."""

import itertools

from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.network.bringing_back import Branch, chosen, fitting_order
from weary_cedar.core.network.carrying import NOTHING, Bearer, Draw
from weary_cedar.core.plan.overload_curve import DEFAULT_CURVE
from weary_cedar.core.supply.overload import OverloadCurve

CURVE = OverloadCurve(DEFAULT_CURVE)


def one_leg(runs: float, starts: float) -> Branch:
    return Branch(Draw(runs, 0.0), Draw(starts, 0.0, 0.5))


def by_hand(order: tuple[str, ...], branches: dict[str, Branch], bears: Bearer) -> bool:
    """Whether every start of an order, and what runs after it, is carried."""
    on = NOTHING
    for key in order:
        branch = branches[key]
        if bears.over(Draw(on.a + branch.starts.a, on.b + branch.starts.b, branch.starts.seconds)):
            return False
        on = Draw(on.a + branch.runs.a, on.b + branch.runs.b)
        if bears.over(on):
            return False
    return True


def test_largest_start_less_running_comes_first() -> None:
    """4,000 W carried, 3,000/2,800 and 2,500/200 start/run: the larger start first fails, this works."""
    flat = Bearer(4_000.0, 4_000.0, 4_000.0, None, 1.0)
    branches = {"heavy": one_leg(2_800.0, 3_000.0), "light": one_leg(200.0, 2_500.0)}
    assert not by_hand(("heavy", "light"), branches, flat)
    assert fitting_order(branches, flat) == ["light", "heavy"]


def test_what_runs_least_may_come_first() -> None:
    """Both orders work; the one with the larger start over what runs is first, though it runs with less."""
    flat = Bearer(9_000.0, 9_000.0, 9_000.0, None, 1.0)
    branches = {"a": one_leg(1_400.0, 1_500.0), "b": one_leg(100.0, 2_000.0)}
    assert fitting_order(branches, flat) == ["b", "a"]


def test_what_finds_no_room_stays_off_the_least_wanted_first() -> None:
    flat = Bearer(1_000.0, 1_000.0, 1_000.0, None, 1.0)
    branches = {key: one_leg(400.0, 500.0) for key in ("a", "b", "c")}
    found = chosen(branches, ["c", "b", "a"], flat)
    assert (found.order, found.stay_off) == (("a", "b"), ("c",))
    nothing = chosen({"x": one_leg(2_000.0, 2_000.0)}, ["x"], flat)
    assert (nothing.order, nothing.stay_off) == ((), ("x",))


va = st.integers(0, 30).map(lambda n: n * 100.0)
branch = st.builds(
    lambda a, b, more_a, more_b: Branch(Draw(a, b), Draw(a + more_a, b + more_b, 0.5)), va, va, va, va
)


@settings(max_examples=150, deadline=None)
@given(st.lists(branch, min_size=1, max_size=5), st.sampled_from([3_000.0, 5_000.0, 8_000.0]))
def test_an_order_is_found_whenever_there_is_one(found: list[Branch], total: float) -> None:
    """Against all orders, with two legs, a total, and a curve for starts."""
    branches = {str(n): item for n, item in enumerate(found)}
    bears = Bearer(total * 0.45, total, total * 0.5, CURVE, 1.0)
    order = fitting_order(branches, bears)
    any_order = any(by_hand(item, branches, bears) for item in itertools.permutations(branches))
    assert (order is not None) == any_order
    if order is not None:
        assert by_hand(tuple(order), branches, bears)


def test_eight_branches_against_all_of_their_orders() -> None:
    """Two legs that need one another: 40,320 orders, by hand."""
    sizes = [
        (300, 0, 900),
        (0, 400, 700),
        (700, 0, 200),
        (0, 600, 900),
        (200, 200, 500),
        (100, 0, 0),
        (0, 100, 0),
    ]
    branches = {
        str(n): Branch(Draw(a, b), Draw(a + more / 2, b + more, 0.4)) for n, (a, b, more) in enumerate(sizes)
    }
    branches["7"] = Branch(Draw(0.0, 300.0), Draw(1_300.0, 300.0, 0.4))
    for total in (2_900.0, 3_000.0, 3_300.0):
        bears = Bearer(total, total, total * 0.48, CURVE, 1.0)
        order = fitting_order(branches, bears)
        exists = any(by_hand(item, branches, bears) for item in itertools.permutations(branches))
        assert (order is not None) == exists, total
