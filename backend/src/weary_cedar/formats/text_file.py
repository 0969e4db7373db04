"""Text of a file, whatever line ends and marks it has."""

import csv
import io
from collections.abc import Iterator

from weary_cedar.core.errors import InvalidInput, NotReadable, Problem


def text_of(content: bytes) -> str:
    """Text of a file in UTF-8, or else in Latin-1 as older programs write it.

    Args:
        content: the file.

    Returns:
        Its text with plain line feeds, without a byte order mark.

    Raises:
        NotReadable: binary data.

    >>> text_of(b"a\\rb\\r\\nc")
    'a\\nb\\nc'
    """
    if b"\x00" in content:
        raise NotReadable("This is not a text file.", (Problem("/file", "binary data", "a text file"),))
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = content.decode("latin-1")
    return with_line_feeds(text)


def with_line_feeds(text: str) -> str:
    """Text with plain line feeds, whatever ends its lines now."""
    return text.replace("\r\n", "\n").replace("\r", "\n")


#: Longest line that is read where people type lines: longer ones are no line of a person.
LONGEST_LINE = 1_000
#: Most lines that are read at once.
MOST_LINES = 5_000


def numbered_lines(text: str) -> list[tuple[int, str]]:
    """Lines that say something, with their numbers; empty ones and those that begin with # are passed over.

    Args:
        text: with any kind of line ends.

    Raises:
        InvalidInput: a line that is too long, or too many lines, by number.
    """
    lines = with_line_feeds(text).split("\n")
    found = [
        (number, line)
        for number, line in enumerate(lines, start=1)
        if line.strip() and not line.lstrip().startswith("#")
    ]
    problems = [
        Problem(
            f"/line/{number}", f"{len(line):,} characters", f"at most {LONGEST_LINE:,} characters in a line"
        )
        for number, line in found
        if len(line) > LONGEST_LINE
    ]
    if len(found) > MOST_LINES:
        problems.append(Problem("/", f"{len(found):,} lines", f"at most {MOST_LINES:,} lines at once"))
    if problems:
        raise InvalidInput(f"{len(problems)} of the lines cannot be read: {problems[0]}", tuple(problems))
    return found


def table_rows(text: str, delimiter: str) -> Iterator[tuple[int, list[str]]]:
    """Rows of a table with the number of the line that each ends at.

    Args:
        text: the table; any kind of line ends.
        delimiter: what stands between cells.

    Raises:
        InvalidInput: a quotation mark that is never closed or stands inside a cell, or a cell of more
            than 128 kB, with the line.
    """
    reader = csv.reader(io.StringIO(with_line_feeds(text)), delimiter=delimiter, strict=True)
    while True:
        try:
            cells = next(reader)
        except StopIteration:
            return
        except csv.Error as error:
            right = "cells with both of their quotation marks, or none, and of at most 128 kB"
            problem = Problem(f"/row/{reader.line_num}", str(error), right)
            raise InvalidInput(f"Row {reader.line_num} cannot be read: {error}.", (problem,)) from None
        yield reader.line_num, cells
