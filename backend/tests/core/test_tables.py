"""Tables that the code reads: units in the names, sources that resolve, values that can be."""

from importlib import resources

import pytest

from weary_cedar.core.tables import source, table

NAMES = sorted(
    item.name.removesuffix(".csv")
    for item in resources.files("weary_cedar.core.tables").iterdir()
    if item.name.endswith(".csv")
)
#: These name the source of each row themselves.
OWN_SOURCE = ("sources", "checks", "survey", "code_editions")


@pytest.mark.parametrize("name", NAMES)
def test_rows_are_whole_and_sources_resolve(name: str) -> None:
    rows = table(name)
    assert rows
    for row in rows:
        assert None not in row, row
        assert None not in row.values(), row
        if name not in OWN_SOURCE:
            assert source(row["source_id"])["kind"] in ("practice", "standard", "handbook")
    key = next(iter(rows[0]))
    if key.endswith("_id") and name not in ("heater_steps", "rooms", "code_editions"):
        assert len({row[key] for row in rows}) == len(rows)


def test_catalogue_of_checks() -> None:
    for row in table("checks"):
        assert row["level"] in ("stop", "caution", "note", "cannot_judge")
        assert all(row[column] for column in ("title", "why", "remedy", "source", "family"))
        assert row["answerable"] in ("yes", "no")
        assert row["who"] in ("today", "outage", "electrician")
        assert row["who"] == "electrician" or "electrician" not in row["remedy"] or row["who"] == "today"
        assert row["why"].endswith(".")
        assert row["remedy"].endswith(".")
        if "NFPA" in row["source"]:
            assert (row["edition"], row["from_memory"]) == ("2023", "yes")
            assert row["clause"]
            assert row["sure"] in ("H", "M", "L")
    never = "feed-no-transfer feed-male-plug feed-two-sources neutral-open ground-missing pair-unsynced "
    never += "pv-grid-tie-island gen-outdoors pv-voltage dc-fuse uk-earth-island"
    answerable = {row["check_id"] for row in table("checks") if row["answerable"] == "yes"}
    assert not set(never.split()) & answerable


def test_survey_points_at_checks() -> None:
    checks = {row["check_id"] for row in table("checks")}
    assert {row["check_id"] for row in table("survey")} <= checks
    assert all(row["bad"] == "no" and row["statement"].endswith(".") for row in table("survey"))
