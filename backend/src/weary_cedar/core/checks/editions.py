"""Codes and their editions: which clause a check goes by in a house, how it differs, how sure that is."""

from collections.abc import Iterator
from functools import cache

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import Site
from weary_cedar.core.tables import Row, table

#: The codes that clauses are cited of, in the edition of the catalogue.
CITED = {"NFPA 70": "us_2023", "BS 7671": "uk_18"}
LOOK_UP = ", look it up first"
SURE_WORDS = {"H": "at least 95 % sure", "M": "about 80 % sure", "L": "look it up first"}


class Clause(BaseModel):
    """What a check goes by, cited from memory: for a person with the book."""

    model_config = ConfigDict(frozen=True)

    check_id: str
    title: str
    level: str
    #: Code, edition and clause in words, as a finding tells them.
    source: str
    sure: str
    differs: str
    amendment: str

    @property
    def lines(self) -> list[str]:
        """It as lines of text: what it is about, and what is known of it."""
        differs = f"{self.differs[:1].lower()}{self.differs[1:]}"
        known = "; ".join(filter(None, (self.sure, differs)))
        local = f"local rule: {self.amendment}" if self.amendment else ""
        first = ": ".join(filter(None, (f"{self.title} [{self.check_id}]", self.source)))
        return [first, *(f"    {words}" for words in (known, local) if words)]


def clauses(site: Site) -> tuple[Clause, ...]:
    """Every clause that is cited from memory, in the edition that the house goes by.

    Args:
        site: of the plan, with its code and its local amendments.

    Returns:
        In the order of the catalogue; amendments that speak of another check come after them.

    Source: the catalogue and its table of editions, all of it from memory.
    """
    rows = {row["check_id"]: row for row in table("checks")}
    listed = [key for key, row in rows.items() if row["from_memory"] == "yes" or key in site.amendments]
    return (
        *(_clause(rows[key], site) for key in listed),
        *(
            Clause(check_id=key, title=key, level="note", source="", sure="", differs="", amendment=words)
            for key, words in site.amendments.items()
            if key not in rows
        ),
    )


def _clause(row: Row, site: Site) -> Clause:
    return Clause(
        check_id=row["check_id"],
        title=row["title"],
        level=row["level"],
        source=told_source(row, site).removesuffix(LOOK_UP),
        sure=SURE_WORDS.get(_sure(row, site), ""),
        differs=differs(row, site.code_that_counts),
        amendment=site.amendments.get(row["check_id"], ""),
    )


def told_source(row: Row, site: Site | None = None) -> str:
    """Where a check is from, in words: "NFPA 70 (2023) 702.5, from memory".

    Args:
        row: of the catalogue.
        site: the house, whose code may be another edition or another code than the one cited.
    """
    memory = ", from memory" if row["from_memory"] == "yes" else ""
    code = CITED.get(row["source"]) if site is None else site.code_that_counts
    cited = CITED.get(row["source"])
    other = _difference(row["check_id"], code or "")
    edition, clause = row["edition"], row["clause"]
    if cited == "us_2023" and code in ("us_2020", "us_2026") and (other or code == "us_2020"):
        edition, clause = code.removeprefix("us_"), other["clause"] if other else clause
    said = " ".join(part for part in (row["source"], f"({edition})" if edition else "", clause) if part)
    return f"{said}{memory}{_apart(cited, code, other)}{_first(row, cited, code)}"


def _apart(cited: str | None, code: str | None, other: Row | None) -> str:
    """How the code of the house stands to what is cited."""
    if cited is None or code == cited:
        return ""
    if cited == "us_2023" and code == "us_2020":
        return "" if other else ", as in 2023 as far as known"
    if cited == "us_2023" and code == "us_2026":
        return "" if other else ", not compared with 2026"
    return "; another code rules here"


def _first(row: Row, cited: str | None, code: str | None) -> str:
    compared = cited is None or code in (cited, "us_2020")
    return "" if compared and row["sure"] != "L" else LOOK_UP if row["sure"] else ""


def _sure(row: Row, site: Site) -> str:
    """How sure a clause is in the edition of the house: never surer than the comparison of editions."""
    cited, code = CITED.get(row["source"]), site.code_that_counts
    other = _difference(row["check_id"], code)
    least = other["sure"] if other else row["sure"]
    if cited is None or code == cited:
        return least
    return max(least, "M" if code == "us_2020" else "L", key="HML".index)


def differs(row: Row, code: str) -> str:
    """How a clause differs in an edition, as far as known."""
    other = _difference(row["check_id"], code)
    return other["differs"] if other else ""


def known_differences(check_id: str) -> Iterator[tuple[str, str]]:
    """Every edition in which a check's clause is known to differ, and how."""
    for (found, code), row in _differences().items():
        if found == check_id:
            yield CODE_WORDS[code], f"{row['differs']} ({row['clause']}, {SURE_WORDS[row['sure']]})"


CODE_WORDS = {
    "us_2020": "NFPA 70 of 2020",
    "us_2023": "NFPA 70 of 2023",
    "us_2026": "NFPA 70 of 2026",
    "uk_18": "BS 7671, 18th edition",
    "other": "another code",
}


def code_words(site: Site) -> str:
    """The code of a house in words, and where it was only taken for granted."""
    words = CODE_WORDS[site.code_that_counts]
    return f"{words}, counted: the plan does not say which" if site.code == "unknown" else words


def _difference(check_id: str, code: str) -> Row | None:
    return _differences().get((check_id, code))


@cache
def _differences() -> dict[tuple[str, str], Row]:
    return {(row["check_id"], row["code"]): row for row in table("code_editions")}
