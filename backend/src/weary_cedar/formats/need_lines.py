"""Needs typed or pasted as lines, or as CSV: `fridge 1.6 kWh/day, 130 W, start 1100 W`."""

import csv
import io
import re
from dataclasses import dataclass

from pydantic import ValidationError

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.plan import Cycling, Start, Steady
from weary_cedar.formats.cells import from_text
from weary_cedar.formats.quantity import NUMBER, read_quantity
from weary_cedar.formats.spreadsheet import MAGIC, spreadsheet_rows
from weary_cedar.formats.text_file import (
    LONGEST_LINE,
    MOST_LINES,
    numbered_lines,
    table_rows,
    text_of,
    with_line_feeds,
)

UNIT = r"[a-zA-Z%]+(?:/[a-zA-Z]+)?"
AMOUNT = re.compile(rf"(start|peak|surge)?\s*({NUMBER}\s*(?:{UNIT}))(?![\w/])", re.IGNORECASE)
#: Its breaker, by space: “on breaker 14”, “on 9a”.
BREAKER = re.compile(
    r"\bon (?:breaker |space |circuit )?(\d{1,2}[ab]?)(?![\w.]|,\d|\s*(?:k?w|k?va|k?wh)\b)", re.IGNORECASE
)
SURE = re.compile(r"\((measured|plate|estimate|library)\)", re.IGNORECASE)
ORIGINS = ("measured", "plate", "estimate", "library")
#: Columns of a table of needs that are figures, by what their names end with.
FIGURES = ("w", "va", "kw", "wh", "kwh", "day", "watts", "power")
#: A cycling load whose period nobody said, s. Common practice for refrigeration.
PERIOD_S = 2_400.0


@dataclass(frozen=True)
class TypedNeed:
    """What a line says."""

    name: str
    behaviour: Steady | Cycling
    start: Start | None
    #: The space or label of its breaker, and how sure its figures are; empty where it is not said.
    breaker: str = ""
    origin: str = ""


def read_need_lines(text: str) -> list[TypedNeed]:
    """Read needs, one a line; empty lines and lines that begin with # are passed over.

    Args:
        text: lines, or CSV with a header that has a column `name`.

    Returns:
        Needs in order. Watts with Wh a day make a cycling load with that duty; watts alone or Wh
        alone make a steady one.

    Raises:
        InvalidInput: every line that cannot be read, by its number, with what would be right.
    """
    first = next((line for line in with_line_feeds(text).split("\n") if line.strip()), "")
    is_table = re.match(r"^\s*\"?name\"?\s*[,;\t]", first[:40], re.IGNORECASE)
    lines = _from_csv(text, first) if is_table else numbered_lines(text)
    needs: list[TypedNeed] = []
    problems: list[Problem] = []
    for number, line in lines:
        try:
            needs.append(_read_line(line, f"/line/{number}"))
        except InvalidInput as error:
            problems += error.problems
        except ValidationError as error:
            right = error.errors(include_url=False)[0]["msg"]
            problems.append(Problem(f"/line/{number}", line.strip()[:60], right[:1].lower() + right[1:]))
    if problems:
        raise InvalidInput(f"{len(problems)} of the lines cannot be read: {problems[0]}", tuple(problems))
    if not needs:
        problem = Problem(
            "/", text[:40], "at least one line such as: fridge 1.6 kWh/day, 130 W, start 1100 W"
        )
        raise InvalidInput(str(problem), (problem,))
    return needs


def text_of_table(content: bytes) -> str:
    """A table of needs as CSV, whether it came as that or as a spreadsheet.

    Raises:
        NotReadable: neither.
    """
    if not content.startswith(MAGIC):
        return text_of(content)
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows(
        cells for _, cells in spreadsheet_rows(content, MOST_LINES)
    )
    return out.getvalue()


def _from_csv(text: str, first: str) -> list[tuple[int, str]]:
    """Rows of a CSV as lines, with their numbers in the file; columns that are no figures are passed over."""
    rows = table_rows(text, max(",;\t", key=first.count))
    header: list[str] = []
    lines = []
    for number, cells in rows:
        if not any(cell.strip() for cell in cells):
            continue
        if not header:
            header = [cell.strip().lower() for cell in cells]
            continue
        known = dict(zip(header, (from_text(cell.strip()) for cell in cells), strict=False))
        parts = [known.pop("name", "")]
        for column, value in known.items():
            unit = column.rsplit("_", 1)[-1]
            if column == "breaker" and re.match(r"\d", value):
                parts.append(f"on breaker {value.split()[0]}")
            elif column in ("how_sure", "origin") and value in ORIGINS:
                parts.append(f"({value})")
            elif value and unit in FIGURES and column != "doubt_wh_a_day":
                bare = {"day": "wh/day", "watts": "w", "power": "w"}.get(unit, unit)
                lead = "start " if column.startswith(("start", "peak", "surge")) else ""
                parts.append(f"{lead}{value} {bare}" if re.fullmatch(NUMBER, value) else f"{lead}{value}")
        lines.append((number, ", ".join(part for part in parts if part)))
    return lines


def _read_line(line: str, field: str) -> TypedNeed:
    if len(line) > LONGEST_LINE:
        raise _wrong(field, line, f"at most {LONGEST_LINE:,} characters")
    place, sure = BREAKER.search(line), SURE.search(line)
    line = SURE.sub(" ", BREAKER.sub(" ", line))
    amounts = list(AMOUNT.finditer(line))
    name = (line[: amounts[0].start()] if amounts else line).strip(" ,;:\t")
    example = "a name, then watts, Wh a day and start, such as: fridge 1.6 kWh/day, 130 W, start 1100 W"
    if not name or not amounts:
        raise _wrong(field, line, example)
    running_w = wh_day = start_va = None
    for found in amounts:
        if found[1]:
            start_va = read_quantity(found[2], field, "power", "apparent").value
            continue
        quantity = read_quantity(found[2], field, "power", "daily")
        if quantity.kind == "power":
            running_w = quantity.value
        else:
            wh_day = quantity.value
    if running_w is None and wh_day is None:
        raise _wrong(field, line, "watts or Wh a day")
    if running_w is not None and wh_day is not None and wh_day > 24 * running_w * (1 + 1e-9):
        raise _wrong(field, line, f"at most {24 * running_w:,.0f} Wh a day at {running_w:g} W")
    behaviour: Steady | Cycling
    if running_w is not None and wh_day is not None and running_w > 0:
        behaviour = Cycling(on_w=running_w, duty=wh_day / 24 / running_w, period_s=PERIOD_S)
    else:
        behaviour = Steady(watts=running_w if running_w is not None else (wh_day or 0.0) / 24)
    start = Start(va=start_va) if start_va else None
    return TypedNeed(name[:80], behaviour, start, place[1] if place else "", sure[1].lower() if sure else "")


def _wrong(field: str, line: str, right: str) -> InvalidInput:
    problem = Problem(field, line.strip()[:60], right)
    return InvalidInput(str(problem), (problem,))
