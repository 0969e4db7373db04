"""Needs as people type them."""

import pytest

from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.plan import Cycling, Steady
from weary_cedar.formats.need_lines import read_need_lines
from weary_cedar.formats.quantity import read_quantity


def test_lines() -> None:
    fridge, router, lamp, pump = read_need_lines(
        "fridge 1.6 kWh/day, 130 W, start 1100 W\n\n# comment\nrouter: 18 W\nlamp 240 Wh/d\n"
        "well pump 1,150 W start 5.4 kVA"
    )
    assert isinstance(fridge.behaviour, Cycling)
    assert fridge.behaviour.on_w == 130
    assert fridge.behaviour.duty == pytest.approx(1600 / 24 / 130)
    assert fridge.start is not None
    assert fridge.start.va == 1100
    assert router.behaviour == Steady(watts=18)
    assert lamp.behaviour == Steady(watts=10)
    assert (pump.name, pump.behaviour) == ("well pump", Steady(watts=1150))
    assert pump.start is not None
    assert pump.start.va == pytest.approx(5400)


def test_csv() -> None:
    freezer, router = read_need_lines("name;running_w;wh_day;start_w\nfreezer;95,5;1100;800\nrouter;18;;\n")
    assert isinstance(freezer.behaviour, Cycling)
    assert freezer.behaviour.on_w == 95.5
    assert freezer.behaviour.duty == pytest.approx(1100 / 24 / 95.5)
    assert freezer.start is not None
    assert router.behaviour == Steady(watts=18)


@pytest.mark.parametrize(
    ("text", "field", "right"),
    [
        ("fridge", "/line/1", "a name, then watts"),
        ("router 18 W\nfridge 3 bananas", "/line/2", "not a unit known here"),
        ("130 W", "/line/1", "a name"),
        ("fridge 130 W, 5 kWh/day", "/line/1", "at most 3,120 Wh a day"),
        ("fridge 12 A", "/line/1", "power or daily"),
        ("", "/", "at least one line"),
    ],
)
def test_wrong_lines_are_named(text: str, field: str, right: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_need_lines(text)
    problem = refused.value.problems[0]
    assert problem.field == field
    assert right in problem.right


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("1.5 kW", 1500),
        ("30A", 30),
        ("40 ft", 12.192),
        ("1,200 W", 1200),
        ("1,2 kW", 1200),
        ("½ hp", None),
        ("", None),
    ],
)
def test_quantities(text: str, value: float | None) -> None:
    if value is None:
        with pytest.raises(InvalidInput):
            read_quantity(text, "/x")
    else:
        assert read_quantity(text, "/x").value == pytest.approx(value)


def test_a_plain_number_is_not_guessed() -> None:
    with pytest.raises(InvalidInput, match="with its unit"):
        read_quantity("7.2", "/watts", "power", "daily")
    assert read_quantity("7.2", "/watts", "power").value == 7.2
