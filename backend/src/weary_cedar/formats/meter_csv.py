"""Series of plug-in meters as CSV: which column is time, which is power, in what units."""

import io
import re
from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING, Literal

import numpy as np
from numpy.typing import NDArray

from weary_cedar.core.errors import InvalidInput, NotReadable, Problem
from weary_cedar.formats.text_file import table_rows, text_of

if TYPE_CHECKING:
    import pandas as pd

PowerUnit = Literal["W", "kW", "Wh", "kWh"]
FACTORS: dict[str, float] = {"W": 1.0, "kW": 1000.0, "Wh": 1.0, "kWh": 1000.0}
TIME_NAMES = re.compile(r"time|date|stamp|zeit|datum|uhr|fecha|heure|clock|^t$|elapsed|second", re.IGNORECASE)
POWER_NAMES = re.compile(r"power|watt|leistung|puissance|potencia|\bk?w\b|_k?w$|\bload\b", re.IGNORECASE)
ENERGY_NAMES = re.compile(r"k?wh\b|_k?wh$|energy|energie", re.IGNORECASE)
NUMERIC = re.compile(r"^[-+]?\d{1,20}([.,]\d{1,20})?([eE][-+]?\d{1,2})?$")
#: Formats of time that are tried, besides ISO 8601 and plain numbers.
FORMATS = (
    "%d.%m.%Y %H:%M:%S",
    "%d.%m.%Y %H:%M",
    "%m/%d/%Y %H:%M:%S",
    "%m/%d/%Y %H:%M",
    "%d/%m/%Y %H:%M:%S",
    "%d/%m/%Y %H:%M",
    "%m/%d/%Y %I:%M:%S %p",
    "%Y/%m/%d %H:%M:%S",
)
SNIFFED_ROWS = 400
SNIFFED_BYTES = 200_000
#: Meters write a few columns.
MOST_COLUMNS = 200
#: No load of a plan draws more, W.
MOST_W = 100_000.0
#: More bad rows than this share and it is not a meter series.
MOST_BAD = 0.02
HOUR_S = 3600.0


@dataclass(frozen=True)
class MeterColumns:
    """How a file is read: proposed by the program, confirmed by the person."""

    delimiter: str
    decimal: Literal[".", ","]
    header_row: int
    columns: tuple[str, ...]
    time: str
    time_format: str
    value: str
    unit: PowerUnit
    unit_sure: bool
    first_rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True)
class MeterData:
    """Times in s from the first sample, watts held from each, and what was mended."""

    t_s: NDArray[np.float64]
    watts: NDArray[np.float64]
    rows: int
    bad_rows: int
    duplicates: int
    resets: int
    clock_changes: int


def propose_columns(content: bytes) -> MeterColumns:
    """Look at the beginning of a file and say how it might be read.

    Args:
        content: the file.

    Returns:
        A proposal. `unit_sure` is false where neither name nor size tells W from kW: ask.

    Raises:
        NotReadable: not text, or no table in it.
        InvalidInput: no column of times or none of figures, with the row.
    """
    lines = text_of(_beginning(content)).split("\n")[:SNIFFED_ROWS]
    delimiter, header_row = _table_shape(lines)
    rows = [cells for _, cells in table_rows("\n".join(lines[header_row:]), delimiter)]
    header = [name.strip() for name in rows[0]] if rows else []
    if len(header) > MOST_COLUMNS:
        raise _refused(header_row + 1, f"{len(header)} columns", f"at most {MOST_COLUMNS} columns")
    body = [row for row in rows[1:] if len(row) == len(header)]
    if len(body) < 2:
        raise _refused(header_row + 2, lines[-1] if lines else "", "rows with a time and a power")
    cells = [[row[i].strip() for row in body] for i in range(len(header))]
    decimal: Literal[".", ","] = "," if delimiter != "," and _decimal_comma(cells) else "."
    time = _time_column(header, cells)
    if time is None:
        raise _refused(header_row + 2, delimiter.join(body[0]), "a column of times")
    value = _value_column(header, cells, time)
    if value is None:
        raise _refused(
            header_row + 2, delimiter.join(body[0]), "a column of watts, kilowatts or kilowatt hours"
        )
    unit, sure = _unit(header[value], cells[value], decimal)
    return MeterColumns(
        delimiter=delimiter,
        decimal=decimal,
        header_row=header_row,
        columns=tuple(header),
        time=header[time],
        time_format=_time_format(cells[time]) or "",
        value=header[value],
        unit=unit,
        unit_sure=sure,
        first_rows=tuple(tuple(row) for row in body[:5]),
    )


def read_series(content: bytes, how: MeterColumns) -> MeterData:
    """Read a whole file as proposed and confirmed.

    Args:
        content: the file.
        how: columns, units and separators.

    Returns:
        Rising times and watts. Rows at the same time count once (the last); a clock set back for
        daylight saving is set forward again; a counter that starts anew counts as a reset.

    Raises:
        InvalidInput: a column that is not there, or too many rows that cannot be read, with the
            first of them.
    """
    for field, name in (("/time", how.time), ("/value", how.value)):
        if name not in how.columns:
            problem = Problem(field, name, f"should be one of {', '.join(how.columns)}")
            raise InvalidInput(str(problem), (problem,))
    import pandas as pd

    try:
        frame = pd.read_csv(
            io.StringIO(text_of(content)),
            sep=how.delimiter,
            skiprows=how.header_row,
            usecols=sorted({how.columns.index(how.time), how.columns.index(how.value)}),
            dtype=str,
            on_bad_lines="skip",
            skip_blank_lines=False,
        )
    except pd.errors.ParserError as error:
        row = int(next(iter(re.findall(r"\d+", str(error))), 0)) + how.header_row + 1
        raise _refused(row, str(error), "cells with both of their quotation marks, or none") from None
    frame.columns = [str(name).strip() for name in frame.columns]
    texts = frame[how.value].str.strip()
    if how.decimal == ",":
        texts = texts.str.replace(",", ".", regex=False)
    figures = pd.to_numeric(texts, errors="coerce").to_numpy(float)
    seconds = _seconds(frame[how.time].str.strip(), how.time_format)
    good = np.isfinite(figures) & np.isfinite(seconds)
    blank = frame.isna().all(axis=1).to_numpy(bool)
    bad = int((~good & ~blank).sum())
    if bad > MOST_BAD * max(1, len(frame)) or good.sum() < 2:
        row = int(np.argmax(~good & ~blank))
        shown = how.delimiter.join(str(cell) for cell in frame.iloc[row].tolist())
        raise _refused(how.header_row + 2 + row, shown, "a time and a figure, as in the rows before")
    return _series(seconds[good], figures[good] * FACTORS[how.unit], how, len(frame), bad)


def _series(
    seconds: NDArray[np.float64], figures: NDArray[np.float64], how: MeterColumns, rows: int, bad: int
) -> MeterData:
    back = np.flatnonzero((np.diff(seconds) < -HOUR_S * 0.8) & (np.diff(seconds) > -HOUR_S * 1.2))
    for place in back:
        seconds[place + 1 :] += HOUR_S
    order = np.argsort(seconds, kind="stable")
    seconds, figures = seconds[order], figures[order]
    last = np.append(np.diff(seconds) > 0, True)
    seconds, figures = seconds[last], figures[last]
    resets = 0
    if how.unit in ("Wh", "kWh"):
        steps, held = np.diff(figures), np.diff(seconds)
        resets = int((steps < 0).sum())
        watts = np.where(steps < 0, 0.0, steps) / held * HOUR_S
        seconds, figures = seconds[:-1][steps >= 0], watts[steps >= 0]
    elif (figures < 0).any():
        figures = np.abs(figures)
    if len(figures) == 0:
        raise _refused(how.header_row + 2, "a counter that only falls", "a counter that rises")
    if figures.max() > MOST_W:
        row = how.header_row + 2 + int(np.argmax(figures))
        raise _refused(row, f"{figures.max():.6g} W", f"at most {MOST_W:,.0f} W: is the unit {how.unit}?")
    return MeterData(seconds - seconds[0], figures, rows, bad, int((~last).sum()), resets, len(back))


def _beginning(content: bytes) -> bytes:
    """The first lines of a file, whole ones if there are some."""
    if len(content) <= SNIFFED_BYTES:
        return content
    beginning = content[:SNIFFED_BYTES]
    last = max(beginning.rfind(b"\n"), beginning.rfind(b"\r"))
    return beginning[:last] if last > 0 else beginning


def _table_shape(lines: list[str]) -> tuple[str, int]:
    """Delimiter, and the row of names: the last one without figures before the figures begin."""
    counts = {d: [line.count(d) for line in lines if line.strip()][-20:] for d in ";\t,"}
    for delimiter in ";\t,":
        if not counts[delimiter] or min(counts[delimiter]) < 1:
            continue
        for index in range(min(len(lines) - 1, 40)):
            here, after = (lines[i].split(delimiter) for i in (index, index + 1))
            names = [cell for cell in here if re.search("[A-Za-z]", cell)]
            figures = [cell for cell in after if re.search(r"\d", cell)]
            if len(here) == len(after) >= 2 and len(names) == len(here) and len(figures) >= 2:
                return delimiter, index
    first = lines[0] if lines else "nothing"
    raise NotReadable(
        "This is not a table of a meter.",
        (
            Problem(
                "/file", first[:60], "rows of times and figures under a row of names, parted by , ; or tab"
            ),
        ),
    )


def _decimal_comma(cells: list[list[str]]) -> bool:
    flat = [cell for column in cells for cell in column[:50]]
    return sum(bool(re.fullmatch(r"[-+]?\d+,\d+", cell)) for cell in flat) > 0


def _time_format(cells: list[str]) -> str | None:
    """Name of the format that reads a column: iso, epoch, epoch_ms, seconds, or a pattern."""
    import pandas as pd

    shown = [cell for cell in cells if cell]
    if not shown:
        return None
    if all(NUMERIC.match(cell) for cell in shown):
        values = [float(cell.replace(",", ".")) for cell in shown]
        if any(b < a for a, b in pairwise(values)):
            return None
        return "epoch_ms" if values[0] > 1e11 else "epoch" if values[0] > 1e8 else "seconds"
    for name in ("ISO8601", *FORMATS):
        parsed = pd.to_datetime(pd.Series(shown), format=name, errors="coerce", utc=True)
        if parsed.notna().mean() >= 1 - MOST_BAD:
            return name
    return None


def _seconds(texts: "pd.Series[str]", name: str) -> NDArray[np.float64]:
    import pandas as pd

    if name in ("epoch", "epoch_ms", "seconds"):
        values = pd.to_numeric(texts.str.replace(",", ".", regex=False), errors="coerce").to_numpy(float)
        return np.asarray(values / 1000 if name == "epoch_ms" else values, float)
    parsed = pd.to_datetime(texts, format=name or "ISO8601", errors="coerce", utc=True)
    since = parsed - pd.Timestamp(0, tz="UTC")
    return np.asarray(since.dt.total_seconds(), float)


def _time_column(header: list[str], cells: list[list[str]]) -> int | None:
    fits = [i for i in range(len(header)) if _time_format(cells[i]) is not None]
    named = [i for i in fits if TIME_NAMES.search(header[i])]
    dated = [i for i in fits if not all(NUMERIC.match(cell) for cell in cells[i] if cell)]
    return next(iter([*named, *dated]), None)


def _value_column(header: list[str], cells: list[list[str]], time: int) -> int | None:
    numeric = [
        i
        for i in range(len(header))
        if i != time and sum(bool(NUMERIC.match(cell)) for cell in cells[i]) >= 0.9 * len(cells[i])
    ]
    for names in (POWER_NAMES, ENERGY_NAMES):
        for i in numeric:
            if names.search(header[i]) and not (
                names is POWER_NAMES and re.search(r"wh", header[i], re.IGNORECASE)
            ):
                return i
    return numeric[0] if len(numeric) == 1 else None


def _unit(name: str, cells: list[str], decimal: str) -> tuple[PowerUnit, bool]:
    lower = name.lower()
    for sign, unit in (("kwh", "kWh"), ("wh", "Wh"), ("kw", "kW")):
        if sign in lower:
            return unit, True  # type: ignore[return-value]
    if "watt" in lower or re.search(r"\bw\b|_w$|\(w\)", lower):
        return "W", True
    most = max((float(c.replace(",", ".")) for c in cells if NUMERIC.match(c)), default=0.0)
    return "W", most >= 30.0


def _refused(row: int, shown: str, right: str) -> InvalidInput:
    problem = Problem(f"/row/{row}", shown[:60], right)
    return InvalidInput(f"Row {row} is not of a meter series: {right}.", (problem,))
