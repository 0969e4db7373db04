"""What was done and read at the panel, row by row, with the time of the act. Rows are only ever added."""

import re
from datetime import datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints, WithJsonSchema

from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan.base import Id, Noun
from weary_cedar.core.plan.reading import parse, read_part

RECORD_VERSION: Literal[1] = 1
#: Rows of one file; a week of ticks is some hundreds.
MOST_ROWS = 5_000


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


def read_record(text: str | bytes, plan_id: str) -> Record:
    """A record out of its text.

    Args:
        text: JSON, from a file, pasted, or sent by a page.
        plan_id: the plan that it should be of.

    Returns:
        The record.

    Raises:
        NotReadable: it is not a JSON object.
        InvalidPlan: fields are wrong; names each with its value and what would be right.
        InvalidInput: it is of another plan.
    """
    found = read_part(Record, parse(text))
    if found.plan_id != plan_id:
        problem = Problem("/plan_id", shown(found.plan_id), f"a record of this plan, {plan_id}")
        raise InvalidInput(str(problem), (problem,))
    return found
