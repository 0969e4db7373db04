"""Every check in words: the page of the docs is the one that the tables and functions make."""

from pathlib import Path

import pytest

from weary_cedar.core.checks.explained import catalogue_page, explained, in_words
from weary_cedar.core.checks.registry import catalogue
from weary_cedar.core.errors import NotFound

PAGE = Path(__file__).parents[4] / "docs" / "checks.md"


def test_the_page_is_made_from_the_checks() -> None:
    assert PAGE.read_text() == catalogue_page(), "make catalogue"


@pytest.mark.parametrize("check_id", list(catalogue()))
def test_every_check_says_when_it_speaks_and_where_it_is_from(check_id: str) -> None:
    item = explained(check_id)
    assert item.condition.endswith((".", "!"))
    assert item.asks or not item.condition.startswith("By the answer")
    assert item.source
    assert item.level in in_words(item)[1]


def test_what_it_needs_to_know_comes_from_its_own_lines() -> None:
    assert "where it stands" in explained("gen-outdoors").needs
    assert "gauge, metal and length of the wire from the inlet" in explained("inlet-feed").needs


def test_a_check_that_there_is_not_names_its_neighbours() -> None:
    with pytest.raises(NotFound, match="pv-voltage"):
        explained("pv-volts")
