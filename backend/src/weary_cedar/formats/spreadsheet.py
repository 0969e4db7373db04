"""Spreadsheets (Office Open XML): rows of cells out, and in from the first sheet."""

import io
import zipfile
from collections.abc import Sequence

from openpyxl import Workbook, load_workbook
from openpyxl.styles import Font

from weary_cedar.core.errors import NotReadable, Problem, shown

#: How a file of this kind begins: it is an archive.
MAGIC = b"PK"
WIDEST = 40
MOST_COLUMNS = 60


def as_spreadsheet(title: str, head: Sequence[str], rows: Sequence[Sequence[str]]) -> bytes:
    """One sheet with a row of names; every cell is text, none is run.

    Args:
        title: of the sheet.
        head: names of the columns.
        rows: cells, already marked where a spreadsheet would run them.
    """
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = title
    sheet.freeze_panes = "A2"
    for column, name in enumerate(head, start=1):
        cell = sheet.cell(1, column, name)
        cell.font = Font(bold=True)
        width = max([len(name), *(len(row[column - 1]) for row in rows)])
        sheet.column_dimensions[cell.column_letter].width = min(WIDEST, width + 2)
    for number, row in enumerate(rows, start=2):
        for column, words in enumerate(row, start=1):
            sheet.cell(number, column, words).data_type = "s"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def spreadsheet_rows(content: bytes, most: int) -> list[tuple[int, list[str]]]:
    """Rows of the first sheet as text, each with its number.

    Args:
        content: the file.
        most: rows that are read at most.

    Raises:
        NotReadable: it is no such file.
    """
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        return [
            (number, ["" if cell is None else _told(cell) for cell in cells[:MOST_COLUMNS]])
            for number, cells in enumerate(book.worksheets[0].iter_rows(max_row=most, values_only=True), 1)
        ]
    except (zipfile.BadZipFile, KeyError, ValueError, IndexError, OSError, SyntaxError) as error:
        right = "a spreadsheet (.xlsx) or a CSV"
        problem = Problem("/file", shown(content[:20]), right)
        raise NotReadable(f"This is not a spreadsheet that can be read: {right}.", (problem,)) from error


def _told(cell: object) -> str:
    if isinstance(cell, float):
        return f"{cell:.10g}"
    return str(cell).removesuffix(" 00:00:00")
