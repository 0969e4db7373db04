"""Tables that the code reads: CSV with units in the column names and a source for every row."""

import csv
from functools import cache
from importlib import resources

Row = dict[str, str]


@cache
def table(name: str) -> tuple[Row, ...]:
    """Rows of a table by name, as text; the columns say their units."""
    text = resources.files(__package__).joinpath(f"{name}.csv").read_text("utf-8")
    return tuple(csv.DictReader(text.splitlines()))


def told_source(row: Row) -> str:
    """In words, where the figures of a row come from."""
    origin = source(row["source_id"])
    return origin["title"] + (", from memory" if origin["from_memory"] == "yes" else "")


def source(source_id: str) -> Row:
    """Where the figures of a row come from."""
    return next(row for row in table("sources") if row["source_id"] == source_id)
