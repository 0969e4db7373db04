"""Rows of a session as CSV: one row a line, in and out the same."""

import csv
import io
from itertools import islice

from pydantic import ValidationError

from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.log.session import Session, SessionRow
from weary_cedar.core.plan.said import said
from weary_cedar.formats.cells import as_text, from_text
from weary_cedar.formats.text_file import table_rows

COLUMNS = (
    "id", "at", "entered", "kind", "part", "pack", "what", "value", "turn", "place", "told", "text",
    "corrects", "by",
)  # fmt: skip
NEEDED = ("id", "at", "kind", "told")
#: Words that a spreadsheet must not run.
WORDS = ("told", "text", "by", "id", "part", "pack", "corrects")
MOST_ROWS = 100_000


def write_rows(session: Session) -> str:
    """Rows of a session, in the order in which they came."""
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    writer.writeheader()
    for row in session.rows:
        told = row.model_dump(mode="json")
        cells = {name: "" if told[name] is None else str(told[name]) for name in COLUMNS}
        writer.writerow({name: as_text(cell) if name in WORDS else cell for name, cell in cells.items()})
    return out.getvalue()


def read_rows(text: str) -> list[SessionRow]:
    """Rows out of a CSV with a head; columns in any order.

    Raises:
        InvalidInput: names line and column, what stands there, and what would be right.
    """
    text = text.lstrip("\ufeff")
    first = text.partition("\n")[0]
    rows = table_rows(text, max(",;\t", key=first.count))
    head = [name.strip().lower() for name in next(rows, (0, []))[1]]
    lacking = [name for name in NEEDED if name not in head]
    if lacking:
        problem = Problem("/1", shown(first), f"a head with {', '.join(NEEDED)}")
        raise InvalidInput(f"The head lacks {', '.join(lacking)}.", (problem,))
    found: list[SessionRow] = []
    problems: list[Problem] = []
    for number, cells in islice(rows, MOST_ROWS):
        told = {name: cell for name, cell in zip(head, cells, strict=False) if name in COLUMNS}
        told = {name: from_text(cell) if name in WORDS else cell.strip() for name, cell in told.items()}
        if not any(told.values()):
            continue
        filled = {name: cell for name, cell in told.items() if cell != ""}
        filled.setdefault("entered", filled.get("at", ""))
        try:
            found.append(SessionRow.model_validate(filled))
        except ValidationError as error:
            problems += [
                Problem(
                    f"/{number}/{item['loc'][0] if item['loc'] else ''}",
                    shown(item["input"]),
                    said(dict(item)),
                )
                for item in error.errors()[:1]
            ]
    if problems:
        raise InvalidInput(str(problems[0]), tuple(problems[:50]))
    return found
