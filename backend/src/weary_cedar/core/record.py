"""What was done and read at the panel, row by row, with the time of the act. Rows are only ever added.

A row that cannot be taken in stands in nobody's way: the others are, and it is said what is wrong with it.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, StringConstraints, WithJsonSchema

from weary_cedar.core.errors import InvalidInput, InvalidPlan, Problem, shown
from weary_cedar.core.plan.base import Id, Noun
from weary_cedar.core.plan.reading import parse, read_part

RECORD_VERSION: Literal[1] = 1
#: Rows of one file; a week of ticks is some hundreds.
MOST_ROWS = 20_000
#: Half of a character, as JSON writes it: one of a pair without the other.
HALF = re.compile(
    r"\\u[dD][89abAB][0-9a-fA-F]{2}(?!\\u[dD][c-fC-F])|(?<!\\u[dD][89abAB]..)\\u[dD][c-fC-F][0-9a-fA-F]{2}"
)


def _in_these_years(value: datetime) -> datetime:
    if value.tzinfo is None:
        raise ValueError("should say its offset, such as 2026-11-27T03:10:00Z")
    if not 2000 <= value.year <= 2200:
        raise ValueError("should be a moment from 2000 to 2200")
    return value


Moment = Annotated[
    datetime,
    AfterValidator(_in_these_years),
    WithJsonSchema({"type": "string", "format": "date-time", "examples": ["2026-11-27T03:10:00Z"]}),
]


def _a_name(value: str) -> str:
    if not re.fullmatch(r"[A-Za-z0-9-]{8,64}", value):
        raise ValueError("should be 8 to 64 letters, digits and hyphens")
    return value


RowId = Annotated[str, StringConstraints(max_length=400), AfterValidator(_a_name)]
Words = Annotated[str, StringConstraints(max_length=400)]
Typed = Annotated[str, StringConstraints(max_length=40)]


class RecordEntry(Noun):
    """One thing that was done, or taken back, at a step of a sheet."""

    id: RowId = Field(description="made where it was done; a row that is there already counts once")
    kind: Literal["done", "undone", "left_off", "deviates", "tripped"] = Field(
        default="done",
        description="done; taken back; left off; not as written, or a reading that does not fit; it tripped",
    )
    at: Moment = Field(description="of the act, by the clock of the device")
    sheet: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    revision: Annotated[int, Field(ge=0, le=10_000_000)] = Field(
        description="of the plan of the sheet; 0 of a file in no data folder"
    )
    fingerprint: Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{0,16}$")] = Field(
        default="", description="of the steps of the sheet: others are another sheet, whatever its name"
    )
    step: Annotated[int, Field(ge=1, le=2_000)]
    action: Words = Field(description="what the step said")
    read: Annotated[dict[Words, Typed], Field(max_length=20)] = Field(
        default_factory=dict, description="by the place of the reading, as typed"
    )
    undoes: RowId | None = Field(default=None, description="the row that is taken back")


class Record(Noun):
    """Rows of one plan, as a device gives them back."""

    record: Literal[1] = RECORD_VERSION
    plan_id: Id
    rows: Annotated[tuple[RecordEntry, ...], Field(max_length=MOST_ROWS)]


@dataclass(frozen=True)
class RefusedRow:
    """A row that cannot be taken in: its place, its id where it has one, and what is wrong with it."""

    index: int
    id: str
    problems: tuple[Problem, ...]


@dataclass(frozen=True)
class ReadRecord:
    """Rows of one plan that were read, and those that could not be."""

    rows: tuple[RecordEntry, ...]
    refused: tuple[RefusedRow, ...]


def read_record(text: str | bytes, plan_id: str) -> ReadRecord:
    """A record out of its text.

    Args:
        text: JSON, from a file, pasted, or sent by a page; half a character in it stands as a question mark.
        plan_id: the plan that it should be of.

    Returns:
        Its rows, and what is wrong with those that cannot be taken in.

    Raises:
        NotReadable: it is not a JSON object.
        InvalidPlan: it is no record, or none of its rows can be taken in; names each field with its value
            and what would be right.
        InvalidInput: it is of another plan.
    """
    words = text if isinstance(text, str) else text.decode("utf-8-sig", "replace")
    data = parse(HALF.sub(r"\\ufffd", words))
    try:
        return _of_plan(read_part(Record, data), plan_id, ())
    except InvalidPlan as error:
        wrong = _wrong_rows(data, error.problems)
        if not wrong or len(wrong) == len(data["rows"]):
            raise
    rows = [row for index, row in enumerate(data["rows"]) if index not in wrong]
    refused = tuple(RefusedRow(index, _id_of(data["rows"][index]), wrong[index]) for index in sorted(wrong))
    return _of_plan(read_part(Record, {**data, "rows": rows}), plan_id, refused)


def _of_plan(found: Record, plan_id: str, refused: tuple[RefusedRow, ...]) -> ReadRecord:
    if found.plan_id != plan_id:
        problem = Problem("/plan_id", shown(found.plan_id), f"a record of this plan, {plan_id}")
        raise InvalidInput(str(problem), (problem,))
    return ReadRecord(found.rows, refused)


def _id_of(row: object) -> str:
    found = row.get("id") if isinstance(row, Mapping) else None
    return found if isinstance(found, str) else ""


def _wrong_rows(data: dict[str, Any], problems: tuple[Problem, ...]) -> dict[int, tuple[Problem, ...]]:
    """By its place what is wrong with each row; nothing where something besides the rows is wrong."""
    found: dict[int, list[Problem]] = {}
    for problem in problems:
        _, room, index, *_ = [*problem.field.split("/"), "", "", ""]
        if room != "rows" or not index.isdecimal():
            return {}
        found.setdefault(int(index), []).append(problem)
    return {index: tuple(some) for index, some in found.items() if index < len(data["rows"])}


def differs(known: str, sent: RecordEntry) -> bool:
    """Whether a row that is known already, as its JSON, is another one than that which was sent."""
    return RecordEntry.model_validate_json(known) != sent


def of_another(index: int, row: RecordEntry) -> RefusedRow:
    """A row whose id another row has already."""
    problem = Problem(f"/rows/{index}/id", shown(row.id), "an id of its own: another row here has it")
    return RefusedRow(index, row.id, (problem,))
