"""Text that nobody would write: refused by its line, or read; what is not linear would take minutes."""

from collections.abc import Callable
from datetime import datetime
from functools import partial
from typing import Any

import pytest

from weary_cedar.core import beginning
from weary_cedar.core.demand.measured import analyse_series
from weary_cedar.core.demand.sequence import find_sequence
from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.plan import Plan
from weary_cedar.formats.breakers import table_as_csv, written
from weary_cedar.formats.meter_csv import propose_columns, read_series
from weary_cedar.formats.need_lines import read_need_lines
from weary_cedar.formats.plate_line import KINDS, read_plate
from weary_cedar.formats.quantity import read_quantity
from weary_cedar.formats.text_file import text_of
from weary_cedar.stand_ins.meter import MeterUnit, meter_csv, meter_series
from weary_cedar.workshop.breaker_tables import GivenTable, with_schedule, with_table

PLAN = beginning.empty_plan("House", datetime(2026, 1, 1))
HEAD = "spaces,breaker_a,label\n"


def scheduled(text: str, plan: Plan = PLAN) -> Plan:
    return with_schedule(plan, "main", text.encode())


N = 16_000
READERS: dict[str, Callable[[str], Any]] = {
    "needs": read_need_lines,
    "labels": lambda text: with_table(PLAN, GivenTable(text=text)),
    "schedule": scheduled,
    "quantity": lambda text: read_quantity(text, "/x"),
    **{kind: partial(read_plate, kind) for kind in KINDS},
}


@pytest.mark.parametrize("reader", READERS)
@pytest.mark.parametrize(
    "text",
    ["9" * N, "1," * N, "1,234" * 3_000, " " * N, "1." * N, "1 W " * 4_000, "1k" * 8_000, "1 2 " * 4_000],
    ids=lambda text: text[:6],
)
def test_long_lines_are_refused_by_name(reader: str, text: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        READERS[reader](text)
    assert refused.value.problems[0].field.startswith("/")
    assert len(refused.value.problems[0].value) <= 70


@pytest.mark.parametrize(
    ("reader", "text", "words"),
    [
        ("labels", "1 lamp\n" * 20_000, "at most 5,000 lines"),
        ("needs", "fridge 130 W\n" * 20_000, "at most 5,000 lines"),
        ("needs", "fridge 999999999 W", "/line/1: got fridge 999999999 W; should be from 0 to 100,000"),
        ("needs", "saw start 0.1 VA, 90 W", "a start of nothing is none"),
        ("needs", "name,w\n" + "x" * 200_000 + ",1\n", "field larger than field limit"),
        ("schedule", HEAD + "1,20,lights\n" * 20_000, "at most 500 breakers"),
        ("schedule", HEAD + '1,20,"lights\n3,20,bath\n', "quotation marks"),
        ("schedule", HEAD + '1,20,"lights"x\n', "Row 2 cannot be read"),
        ("schedule", HEAD + "1,20," + "x" * 200_000, "at most 128 kB"),
        ("schedule", HEAD + "1,20," + "x" * 90, "/row/2/label"),
        ("schedule", HEAD + "99999999999999999999,20,lights", "/row/2/spaces"),
        ("schedule", HEAD + "1," + "9" * 400 + ",lights", "/row/2/breaker_a"),
    ],
)
def test_what_is_wrong_is_named_with_its_line(reader: str, text: str, words: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        READERS[reader](text)
    told = [refused.value.detail, *map(str, refused.value.problems)]
    assert any(words in line for line in told), told


@pytest.mark.parametrize("ends", ["\n", "\r\n", "\r"])
def test_any_line_ends(ends: str) -> None:
    rows = ends.join(["spaces,breaker_a,label", "1,20,Lights", "3,15,Bath", ""])
    found = scheduled(rows).circuits
    assert [circuit.label for circuit in found.values()] == ["Lights", "Bath"]
    assert len(READERS["labels"](ends.join(["1 lights 20 A", "", "3 bath 15 A"])).circuits) == 2
    assert len(read_need_lines(ends.join(["fridge 130 W", "# note", "saw 1 kW"]))) == 2
    assert text_of(b"\xff") == "ÿ"


@pytest.mark.parametrize(
    "label", ["=1+1", "+49 123", "-5", "@home", "'=1", "'tis", "''-x", 'a;b,"c"', "\u202ex"]
)
def test_cells_that_a_spreadsheet_would_run_come_back_as_they_were(label: str) -> None:
    with_label = scheduled(f"{HEAD}1,20,Lights\n")
    circuit = with_label.circuits["lights"].model_copy(update={"label": label, "outlets": (label,)})
    plan = with_label.model_copy(update={"circuits": {"lights": circuit}})
    told = table_as_csv(written(plan, "main"))
    cells = told.splitlines()[1].split(",")
    assert not any(cell.lstrip('"').startswith(("=", "+", "-", "@")) for cell in cells)
    assert scheduled(told, plan).circuits == plan.circuits


def meter(count: int, step_s: float, figure: Callable[[int], object], head: str = "time,power_w") -> bytes:
    return "\n".join([head, *(f"{i * step_s},{figure(i)}" for i in range(count))]).encode()


def analysed(content: bytes) -> Any:
    data = read_series(content, propose_columns(content))
    return analyse_series(data.t_s, data.watts)


def test_a_meter_of_short_cycles_is_read() -> None:
    content = meter(200_000, 1, lambda i: 100 * (i % 2))
    data = read_series(content, propose_columns(content))
    found = analyse_series(data.t_s, data.watts)
    assert (found.cycles, found.cycles_seen) == (True, 99_999)
    with pytest.raises(InvalidInput, match="at least one call"):
        find_sequence(data.t_s, data.watts)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (meter(500, 60, lambda i: 1000 - i, "time,energy_kwh"), "a counter that rises"),
        (meter(500, 0, lambda i: i), "at least ten samples"),
        (meter(500, 60, lambda i: "1e9"), "at most 100,000 W"),
        (meter(500, 60, lambda i: '"1'), "cannot be read"),
        (meter(500, 60, lambda i: "nan"), "table of a meter"),
        (meter(500, 60, lambda i: "9" * 5_000), "a column of watts"),
        (b"time,power\n" + b"9" * 3_000_000, "table of a meter"),
        (
            (",".join(["t", "w"] * 500) + "\n" + (",".join(["1", "2"] * 500) + "\n") * 5).encode(),
            "at most 200 columns",
        ),
        (b"a\x00b", "not a text file"),
        (
            meter(30, 1, lambda i: 60 if 5 < i < 25 else 0).replace(b"29,0", b"29,0\n") * 1,
            "at least ten minutes",
        ),
    ],
)
def test_meters_that_are_none(content: bytes, words: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        analysed(content)
    assert words in f"{refused.value.detail} {refused.value.problems}"


@pytest.mark.parametrize("unit", ["W", "kW", "kWh"])
@pytest.mark.parametrize("european", [False, True])
def test_every_unit_of_the_stand_in_is_read(unit: MeterUnit, european: bool) -> None:
    series = meter_series("refrigerator", 2.0, 30.0)
    written = meter_csv(series, datetime(2026, 10, 10, 8), european=european, unit=unit).encode()
    how = propose_columns(written)
    assert (how.unit, how.unit_sure) == (unit, True)
    found = analysed(written)
    assert found.wh_day == pytest.approx(series.truth.wh_day, rel=0.01)
    assert found.on_w == pytest.approx(series.truth.on_w, rel=0.05)
    assert found.duty == pytest.approx(series.truth.duty, abs=0.03)
