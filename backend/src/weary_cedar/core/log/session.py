"""A session: what really happens in an outage or a test, row by row; rows are appended, never changed."""

from collections.abc import Sequence
from datetime import UTC, datetime
from hashlib import blake2b
from typing import Annotated, Any, Literal
from zoneinfo import ZoneInfo

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.plan import Plan, read_part
from weary_cedar.core.plan.base import LocalMoment
from weary_cedar.core.plan.reading import parse

#: Of the form in which a session is written.
SESSION_VERSION = 1

RowKind = Literal["reading", "act", "happening", "remark"]
What = Literal[
    "", "charge", "in_w", "out_w", "sun_w", "leg_a_w", "leg_b_w", "wh", "volts", "hertz", "amps", "fuel_l",
    "temperature_c", "shown_h", "loss_week", "trip", "dark", "alarm", "grid_back", "grid_gone", "calibrated",
]  # fmt: skip
#: Where a meter was: at the cells, an output, a leg, either end of a cord, a plug, the wall, an input.
Place = Literal["", "cells", "output", "leg_a", "leg_b", "cord_near", "cord_far", "plug", "wall", "input"]
Text = Annotated[str, Field(max_length=300)]


class Understood(BaseModel):
    """What was understood of a line: what it is about, and its value in SI."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: RowKind
    #: In words, as it is shown before it counts.
    told: Text
    #: Room and id, such as loads/fridge; and the pack of a station.
    part: Annotated[str, Field(max_length=90)] = ""
    pack: Annotated[str, Field(max_length=40)] = ""
    what: What = ""
    value: Annotated[float | None, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] = None
    turn: Literal["", "on", "off"] = ""
    #: Where it was read, if that was said.
    place: Place = ""


class SessionRow(Understood):
    """A row: when it was, when it was entered, by the clock of the site, and as it was typed."""

    id: Annotated[str, Field(min_length=1, max_length=60)]
    at: LocalMoment
    entered: LocalMoment
    text: Text = ""
    #: The row that this one stands for.
    corrects: Annotated[str, Field(max_length=60)] = ""
    #: Who or what it came from, where nobody typed it here: a device, a station that is followed, a sheet.
    by: Annotated[str, Field(max_length=60)] = ""


class Session(BaseModel):
    """An outage, or a test with the utility up, as it goes."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    session_version: Literal[1] = 1
    name: Annotated[str, Field(min_length=1, max_length=80)]
    kind: Literal["outage", "test"] = "outage"
    begins: LocalMoment
    #: Name of the plan, and a checksum of it, so that another one is noticed.
    plan_name: Annotated[str, Field(max_length=80)] = ""
    plan_sum: Annotated[str, Field(max_length=32)] = ""
    #: The plan itself, where the session goes on without its file.
    plan: dict[str, Any] | None = None
    rows: Annotated[tuple[SessionRow, ...], Field(max_length=100_000)] = ()

    def standing(self) -> list[SessionRow]:
        """Rows that count, in the order of what they are about: not those that another one corrects."""
        gone = {row.corrects for row in self.rows if row.corrects}
        return sorted((row for row in self.rows if row.id not in gone), key=lambda row: row.at)

    def with_rows(self, rows: Sequence[SessionRow]) -> "Session":
        """The session with rows that it does not have yet, by their ids: two copies of one merge."""
        known = {row.id for row in self.rows}
        return self.model_copy(update={"rows": (*self.rows, *(row for row in rows if row.id not in known))})

    def seconds(self, plan: Plan, at: datetime) -> float:
        """How long after the beginning a moment of the site's clock is, s; daylight saving counts."""
        zone = ZoneInfo(plan.site.time_zone)
        first, then = (moment.replace(tzinfo=zone).astimezone(UTC) for moment in (self.begins, at))
        return (then - first).total_seconds()


def sum_of(plan: Plan) -> str:
    """A checksum of a plan."""
    return blake2b(plan.model_dump_json(exclude_none=True).encode(), digest_size=8).hexdigest()


def begun(plan: Plan, name: str, begins: datetime, kind: Literal["outage", "test"] = "outage") -> Session:
    """A session that begins from a plan."""
    return Session(name=name, kind=kind, begins=begins, plan_name=plan.name, plan_sum=sum_of(plan))


def read_session(content: bytes) -> Session:
    """A session from a file.

    Raises:
        InvalidInput: what is wrong, by field.
    """
    return read_part(Session, parse(content))
