"""Moving and swapping breakers."""

import pytest
from builders import circuit, house

from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.moves import move_breaker

PLAN = read_plan(
    house(
        {
            "a": circuit([1]),
            "b": circuit([3]),
            "two": circuit([5, 7]),
            "c": circuit([6]),
            "d": circuit([8]),
            "upper": circuit([9], half="upper"),
            "lower": circuit([9], half="lower"),
        },
        {},
    )
)


def spaces(plan: Plan) -> dict[str, tuple[int, ...]]:
    return {key: item.spaces for key, item in plan.circuits.items()}


@pytest.mark.parametrize(
    ("key", "to", "moved"),
    [
        ("a", 11, {"a": (11,)}),
        ("a", 3, {"a": (3,), "b": (1,)}),
        ("two", 6, {"two": (6, 8), "c": (5,), "d": (7,)}),
        ("two", 8, {"two": (8, 10), "d": (5,)}),
        ("two", 22, {"two": (22, 24)}),
        ("upper", 11, {"upper": (11,)}),
        ("a", 1, {}),
    ],
)
def test_what_is_there_comes_to_the_place_that_becomes_free(
    key: str, to: int, moved: dict[str, tuple[int, ...]]
) -> None:
    after = move_breaker(PLAN, key, to)
    assert spaces(after) == spaces(PLAN) | moved
    read_plan(after.model_dump(mode="json", exclude_none=True))


@pytest.mark.parametrize(
    ("key", "to", "right"),
    [
        ("a", 25, "spaces 1 to 24"),
        ("a", 0, "spaces 1 to 24"),
        ("two", 23, "spaces 1 to 24"),
        ("a", 2, "interlock keeps it there"),
        ("a", 5, "two-pole breaker is there"),
        ("upper", 1, "tandem is not exchanged"),
    ],
)
def test_moves_that_cannot_be(key: str, to: int, right: str) -> None:
    with pytest.raises(InvalidInput, match=right):
        move_breaker(PLAN, key, to)


@pytest.mark.parametrize(
    ("words", "taken", "found"),
    [
        ("Küche, links!", set(), "k-che-links"),
        ("!!!", set(), "part"),
        ("a", {"a", "a-2"}, "a-3"),
        ("x" * 50, set(), "x" * 30),
    ],
)
def test_ids_from_words(words: str, taken: set[str], found: str) -> None:
    assert free_id(words, taken) == found
