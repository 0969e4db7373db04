"""Cells of a CSV that a spreadsheet shows as text and does not run."""

import re

#: What a spreadsheet may take for a formula, and cells that already carry the mark against that.
RUNS = re.compile(r"^'*[=+\-@\t\r]")
MARKED = re.compile(r"^'+[=+\-@\t\r]")


def as_text(words: str) -> str:
    """Words as a cell: marked with an apostrophe where a spreadsheet would run them.

    >>> as_text("=1+1"), as_text("Kitchen"), as_text("'=1")
    ("'=1+1", 'Kitchen', "''=1")
    """
    return f"'{words}" if RUNS.match(words) else words


def from_text(cell: str) -> str:
    """The words of a cell that `as_text` wrote; of others, the cell.

    >>> from_text("'=1+1"), from_text("'tis"), from_text(as_text("'=1"))
    ('=1+1', "'tis", "'=1")
    """
    return cell[1:] if MARKED.match(cell) else cell
