"""Cells of the table of breakers: its columns, by the many names that people give them."""

import re
from collections.abc import Iterator
from dataclasses import dataclass, field

from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.formats.breakers.lines import cells_of_line
from weary_cedar.formats.cells import from_text
from weary_cedar.formats.spreadsheet import spreadsheet_rows
from weary_cedar.formats.text_file import numbered_lines, table_rows, with_line_feeds


@dataclass(frozen=True)
class Column:
    """A column: its name in files, what stands above it, what belongs in it, other names that it has."""

    key: str
    title: str
    right: str
    also: str = ""


COLUMNS = (
    Column("id", "id", "as it was written; none for a new breaker"),
    Column("panel", "panel", "the name of its panel", "board|location"),
    Column(
        "spaces",
        "space",
        "one space such as 5, or two such as 5 7; 9a and 9b are the halves of a tandem",
        "space|ckt|circuit|circuit no|circuit number|breaker no|breaker "
        "number|no|number|#|position|slot|cct",
    ),
    Column("half", "half", "upper or lower"),
    Column("poles", "poles", "1 or 2", "pole|p"),
    Column("breaker_a", "amps", "amps, such as 20, or nothing where they are not known",
           "amps|a|breaker|rating|size|trip|breaker size|amperage|ocpd"),
    Column("label", "label", "what stands at the breaker, at most 80 letters",
           "description|name|serves|circuit description|circuit name"),
    Column("mark", "mark", "keep, room or off", "runs|priority|must run"),
    Column("order", "order", "a whole number, 1 is the last to go"),
    Column("multiwire_partner", "shares a neutral with", "the space of the other breaker, such as 19",
           "mwbc|mwbc with|multiwire|shares neutral with|shared neutral|partner"),
    Column("protection", "protection", "none, gfci, afci, gfci_afci or rcd", "type|breaker type"),
    Column("wire", "wire", "a gauge such as 12 AWG or 2.5 mm2", "gauge|awg|cable|conductor|wire size|mm2"),
    Column("metal", "metal", "copper or aluminium", "conductor metal"),
    Column("length", "length", "one way, such as 40 ft or 12 m", "run|wire length|length of wire"),
    Column("terminals", "terminals", "60 or 75 (°C)"),
    Column("plate_rule", "plate rules breaker", "yes, no or unknown"),
    Column("feeds", "feeds panel", "the name of the panel that it feeds", "feeds panel|feeder to"),
    Column("loads", "what hangs on it", "names with a semicolon between",
           "load|appliance|appliances|on it|equipment|devices"),
    Column("draw", "draws", "watts, amps or Wh a day for each, such as 130 W, 6 A or 1.6 kWh/day",
           "watts|w|power|running watts|load w|load amps|load a|wattage"),
    Column("start", "start", "watts or VA, such as 1100 VA", "start va|start w|inrush|surge|starting "
                                                             "watts|peak"),
    Column("sure", "how sure", "measured, plate, estimate or library", "basis|origin|source|confidence"),
    Column("clamp_a", "clamp, A", "amps as the clamp meter shows them",
           "clamp|measured amps|measured a|clamp amps|reading|reading a|measured"),
    Column("read_on", "read on", "a day such as 2026-10-14", "when|date|read|measured on|read at"),
    Column("locked", "stays in its space", "yes or no"),
    Column("outlets", "outlets found on it", "names with a semicolon between", "outlet|receptacles"),
    Column("answers", "answers", "question=yes, no or unknown, with a semicolon between"),
)  # fmt: skip
TITLES = {column.key: column.title for column in COLUMNS}
#: A panel has at most 84 spaces with two halves each; a house has a few panels.
MOST_ROWS = 500


def _plain(name: str) -> str:
    """A name of a column without case, units and marks."""
    bare = re.sub(r"\(.*?\)|[?*]|(?<=\w)\s*#", " ", name.casefold())
    return re.sub(r"[\s_\-/.:]+", " ", bare).strip()


NAMES = {
    _plain(name): column.key
    for column in COLUMNS
    for name in (column.key, column.title, *filter(None, column.also.split("|")))
}


@dataclass
class Table:
    """Rows of cells by column, each with its number in what was given, and what was left out."""

    rows: list[tuple[int, dict[str, str]]] = field(default_factory=list)
    columns: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()


def table_of(text: str) -> Table:
    """A table from what was pasted: lines as people type them, CSV, or the cells of a spreadsheet.

    Args:
        text: with a first row of names, or one breaker a line.

    Raises:
        InvalidInput: a line that is too long, too many rows, or marks that are never closed.
    """
    first = next((line for line in with_line_feeds(text.lstrip("\ufeff")).split("\n") if line.strip()), "")
    delimiter = max(",;\t|", key=first.count)
    if delimiter in first and _header(first.split(delimiter)) is not None:
        return csv_table(text)
    rows = [(number, cells_of_line(line)) for number, line in numbered_lines(text)]
    if len(rows) > MOST_ROWS:
        raise _too_many(rows[MOST_ROWS][0])
    used = {key for _, cells in rows for key in cells}
    return Table(rows, tuple(column.key for column in COLUMNS if column.key in used))


def csv_table(text: str) -> Table:
    """A table from CSV with a first row of names.

    Raises:
        InvalidInput: no row of names, too many rows, or marks that are never closed.
    """
    text = with_line_feeds(text.lstrip("\ufeff"))
    first = next((line for line in text.split("\n") if line.strip()), "")
    return _from_rows(table_rows(text, max(",;\t|", key=first.count)))


def xlsx_table(content: bytes) -> Table:
    """A table from the first sheet of a spreadsheet (Office Open XML) that has a row of names.

    Raises:
        NotReadable: it is no such file.
        InvalidInput: no row of names, or too many rows.
    """
    return _from_rows(iter(spreadsheet_rows(content, 2 * MOST_ROWS)))


def _header(cells: list[str]) -> list[str] | None:
    """Columns of a first row: at least two that are known, the label or the space among them."""
    keys = [NAMES.get(_plain(from_text(cell.strip().strip('"'))), "") for cell in cells]
    known = [key for key in keys if key]
    return keys if len(known) > 1 and {"label", "spaces"} & set(known) else None


def _from_rows(rows: Iterator[tuple[int, list[str]]]) -> Table:
    found: list[tuple[int, dict[str, str]]] = []
    keys: list[str] | None = None
    notes: list[str] = []
    first: list[str] = []
    for number, cells in rows:
        if not any(cell.strip() for cell in cells):
            continue
        if keys is None:
            first = first or cells
            keys = _header(cells)
            if keys is None and not found:
                break
            left_out = [cell for cell, key in zip(cells, keys or [], strict=True) if not key and cell.strip()]
            notes = [
                f"A column “{name.strip()[:40]}” is not known here and was left out." for name in left_out
            ]
            twice = sorted({key for key in keys or [] if key and (keys or []).count(key) > 1})
            notes += [
                f"Two columns are “{TITLES[key]}”: the first that says something counts." for key in twice
            ]
            continue
        if len(found) == MOST_ROWS:
            raise _too_many(number)
        told: dict[str, str] = {}
        for key, cell in zip(keys, cells, strict=False):
            if key and not told.get(key):
                told[key] = from_text(cell.strip())
        found.append((number, {**{key: "" for key in keys if key}, **told}))
    if keys is None:
        right = "a row of names with space, amps, label"
        raise InvalidInput(
            f"This is not a table of breakers: {right}.", (Problem("/row/1", shown(", ".join(first)), right),)
        )
    return Table(found, tuple(c.key for c in COLUMNS if c.key in keys), tuple(notes))


def _too_many(number: int) -> InvalidInput:
    problem = Problem(f"/row/{number}", "one more row", f"at most {MOST_ROWS} breakers")
    return InvalidInput(str(problem), (problem,))
