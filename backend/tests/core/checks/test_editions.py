"""Editions of codes: clauses told in that of the house, differences and doubt said, amendments beside them.

What the books say is from memory; that the words follow it is what is checked here.
"""

import pytest
from check_plans import PLANS, Json
from pydantic import TypeAdapter

from weary_cedar.core.checks import findings_of
from weary_cedar.core.checks.editions import CODE_WORDS, clauses, code_words, told_source
from weary_cedar.core.checks.registry import catalogue
from weary_cedar.core.plan import Site, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.tables import table


def house(code: str = "unknown", **more: object) -> Site:
    return TypeAdapter(Site).validate_python({"name": "house", "code": code, **more})


@pytest.mark.parametrize(
    ("check_id", "code", "said"),
    [
        ("feed-no-transfer", "unknown", "NFPA 70 (2023) 702.5, from memory"),
        ("feed-no-transfer", "us_2023", "NFPA 70 (2023) 702.5, from memory"),
        ("feed-no-transfer", "us_2020", "NFPA 70 (2020) 702.5, from memory, as in 2023 as far as known"),
        (
            "feed-no-transfer",
            "us_2026",
            "NFPA 70 (2023) 702.5, from memory, not compared with 2026, look it up first",
        ),
        (
            "feed-no-transfer",
            "uk_18",
            "NFPA 70 (2023) 702.5, from memory; another code rules here, look it up first",
        ),
        ("cord-drop", "us_2020", "NFPA 70 (2020) 210.19(A) note, and NEMA MG-1, from memory"),
        ("auto-capacity", "us_2026", "NFPA 70 (2026) 702.4(B)(2), from memory, look it up first"),
        ("batt-vent", "us_2023", "NFPA 70 (2023) 480, from memory, look it up first"),
        ("uk-neutral-switch", "uk_18", "BS 7671 (18th) 551.6, from memory"),
        (
            "uk-neutral-switch",
            "other",
            "BS 7671 (18th) 551.6, from memory; another code rules here, look it up first",
        ),
        ("pair-gfci", "other", "UL 943, from memory"),
        ("hog", "us_2026", "practice"),
    ],
)
def test_a_clause_is_told_in_the_edition_of_the_house(check_id: str, code: str, said: str) -> None:
    assert told_source(catalogue()[check_id], house(code)) == said


@pytest.mark.parametrize("code", sorted(CODE_WORDS))
def test_all_that_is_from_memory_is_listed_and_never_surer_than_known(code: str) -> None:
    memory = {row["check_id"]: row for row in table("checks") if row["from_memory"] == "yes"}
    found = clauses(house(code))
    assert [clause.check_id for clause in found] == list(memory)
    assert all("from memory" in clause.source and clause.sure for clause in found)
    cited = {"us_2023": "NFPA 70", "uk_18": "BS 7671"}.get(code)
    for clause in found:
        row = memory[clause.check_id]
        if row["source"] in ("NFPA 70", "BS 7671") and row["source"] != cited:
            assert clause.sure != "at least 95 % sure"


def test_every_known_difference_is_of_a_check_and_of_an_edition() -> None:
    rows = table("code_editions")
    assert {row["check_id"] for row in rows} <= set(catalogue())
    assert {row["code"] for row in rows} <= set(CODE_WORDS)
    assert all(row["from_memory"] == "yes" and row["sure"] in ("M", "L") and row["differs"] for row in rows)


def test_what_local_rules_add_stands_with_its_finding_and_in_the_list() -> None:
    site: Json = {
        "amendments": {"not-tested": "The town wants it tried yearly.", "parking": "None at night."}
    }
    plan = read_plan(apply_patch(PLANS["foothill"], {"site": site}))
    said = {finding.check_id: finding.amendment for finding in findings_of(plan)}
    assert said.pop("not-tested") == "The town wants it tried yearly."
    assert set(said.values()) == {""}
    assert {c.check_id: c.amendment for c in clauses(plan.site) if c.amendment} == site["amendments"]


def test_a_code_that_nobody_named_is_said_to_be_counted() -> None:
    assert code_words(house()) == "NFPA 70 of 2023, counted: the plan does not say which"
    assert code_words(house(system="single_phase_230")).startswith("BS 7671, 18th edition, counted")
    assert code_words(house("us_2020")) == "NFPA 70 of 2020"
