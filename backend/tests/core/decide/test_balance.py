"""Balance against brute force on small panels."""

import itertools
from typing import Any

import pytest
from builders import Json, circuit, house, load, steady
from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.decide.balance import least_lean, with_moves
from weary_cedar.core.electrical.split_phase import lean
from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.panel_schedule import panel_schedule
from weary_cedar.core.plan import Plan, read_plan

ROOM = [1, 3, 5, 6, 7, 8, 9, 10, 11, 12]


@st.composite
def panels(draw: st.DrawFn) -> Json:
    spaces = draw(st.lists(st.sampled_from(ROOM), min_size=2, max_size=7, unique=True))
    circuits: Json = {}
    loads: Json = {}
    for index, space in enumerate(spaces):
        key = f"c{index}"
        circuits[key] = circuit(
            [space], draw(st.sampled_from(["keep", "room", "off"])), locked=draw(st.booleans())
        )
        loads[key] = load(key, steady(draw(st.sampled_from([5.0, 40.0, 120.0, 600.0, 601.0, 1500.0]))))
    if len(spaces) > 3 and spaces[0] % 4 in (1, 2) and spaces[1] % 4 in (3, 0):
        circuits["c0"]["multiwire_partner"], circuits["c1"]["multiwire_partner"] = "c1", "c0"
    circuits["two"] = circuit([13, 15])
    loads["two"] = load("two", steady(900.0))
    plan = house(circuits, loads)
    plan["panels"]["main"]["spaces"] = 16
    return plan


def brute_force(plan: Plan, most: int) -> float:
    """Try every choice of breakers to put on the other leg."""
    keys = [k for k, c in plan.circuits.items() if c.poles == 1]
    sums = panel_schedule(plan, "main").circuits
    weight = {k: 0.0 if plan.circuits[k].mark == "off" else sums[k].on_w for k in keys}
    side = {k: plan.circuit_legs(k)[0] for k in keys}
    capacity = {"A": 6, "B": 6}
    best = 2.0
    for count in range(most + 1):
        for moved in itertools.combinations([k for k in keys if not plan.circuits[k].locked], count):
            new = {k: ("B" if side[k] == "A" else "A") if k in moved else side[k] for k in keys}
            partners = ((k, plan.circuits[k].multiwire_partner) for k in keys)
            if any(p is not None and new[k] == new[p] for k, p in partners):
                continue
            if any(list(new.values()).count(leg) > capacity[leg] for leg in "AB"):
                continue
            a, b = (450 + sum(weight[k] for k in keys if new[k] == leg) for leg in "AB")
            best = min(best, lean(a, b))
    return best


@settings(max_examples=60)
@given(panels())
def test_as_good_as_brute_force(document: Json) -> None:
    plan = read_plan(document)
    for moves, answer in enumerate(least_lean(plan, "main", most_moves=4)):
        assert answer.proven
        assert len(answer.moves) <= moves
        assert answer.lean == pytest.approx(brute_force(plan, moves), abs=1e-6)
        after = read_plan(with_moves(plan, answer.moves).model_dump(mode="json", exclude_none=True))
        assert panel_schedule(after, "main").lean_w == pytest.approx(answer.lean, abs=1e-6)


def test_full_panel_of_42_spaces() -> None:
    circuits = {f"c{n}": circuit([n]) for n in range(1, 43) if n not in (2, 4)}
    loads = {key: load(key, steady(37.0 + (n * 7919) % 1493)) for n, key in enumerate(circuits)}
    document: Any = house(circuits, loads)
    document["panels"]["main"]["spaces"] = 42
    answers = least_lean(read_plan(document), "main")
    assert all(answer.proven for answer in answers)
    assert [round(a.lean, 4) for a in answers] == sorted((round(a.lean, 4) for a in answers), reverse=True)


def test_no_legs_no_balance() -> None:
    document = house({"a": circuit([1])}, {"a": load("a", steady(10))})
    document["site"]["system"] = "single_phase_230"
    document["feeds"] = {}
    with pytest.raises(InvalidInput, match="one leg"):
        least_lean(read_plan(document), "main")
