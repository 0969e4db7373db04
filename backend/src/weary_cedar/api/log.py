"""Routes of the log: sessions of a plan, lines as people say them, the forecast, what they teach."""

from datetime import UTC, datetime, timedelta
from typing import Annotated, Literal
from uuid import uuid4
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Path
from pydantic import BaseModel, Field

from weary_cedar.api.door import AtDoor
from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.log.pushed import PushedReadings, rows_of
from weary_cedar.core.log.said import understood
from weary_cedar.core.log.session import Session, SessionRow, begun
from weary_cedar.core.plan.base import LocalMoment
from weary_cedar.store.log import SHOWN_ROWS
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}/sessions", tags=["log"])
SessionId = Annotated[str, Path(pattern=r"^[a-z0-9]{1,40}$", examples=["0123456789abcdef"])]


class NewSession(BaseModel):
    """A session that begins: now, if it is not said when."""

    name: Annotated[str, Field(min_length=1, max_length=80)] = "Outage"
    kind: Literal["outage", "test"] = "outage"
    begins: LocalMoment | None = None


class SessionLine(BaseModel):
    """A session in a list."""

    id: str
    name: str
    kind: Literal["outage", "test"]
    begins: LocalMoment


class SessionView(BaseModel):
    """A session with its newest rows, how many there are, and the revision of the plan that it keeps."""

    id: str
    revision: int
    session: Session
    rows_total: int


class Line(BaseModel):
    """A line as it is typed, and when; by the clock of the site, now if absent."""

    line: Annotated[str, Field(max_length=300)]
    now: LocalMoment | None = None
    ago_s: Annotated[float, Field(ge=0, le=31 * 86_400)] = Field(
        default=0.0,
        description="typed so long ago where no time is said, by two looks at one clock, so that "
        "a phone whose clock is wrong tells the right time",
    )
    #: The row that it stands for.
    corrects: Annotated[str, Field(max_length=60)] = ""
    #: Made where it was typed: sent twice, it counts once.
    row_id: Annotated[str, Field(max_length=50, pattern=r"^[A-Za-z0-9-]*$")] = ""


class Pushed(BaseModel):
    """How many readings were new; what was sent before counts once."""

    new: int


class Heard(BaseModel):
    """What is understood of a line; with questions nothing is added."""

    rows: list[SessionRow]
    questions: list[str]
    added: bool = False


@router.get("", responses=documented(404, 422))
def sessions(desk: AtDesk, plan_id: PlanId) -> list[SessionLine]:
    """Sessions of a plan, the newest first."""
    return [
        SessionLine(id=key, name=item.name, kind=item.kind, begins=item.begins)
        for key, item in desk.log.ids(plan_id)
    ]


@router.post("", status_code=201, responses=documented(404, 413, 422, 507))
def begin_session(desk: AtDesk, plan_id: PlanId, new: NewSession) -> SessionView:
    """Begin a session from the plan as it stands; it keeps that revision."""
    stored = desk.store.get(plan_id)
    made = desk.work(plan_id, _begun, stored.document, new)
    key = desk.log.begin(plan_id, stored.revision, stored.document, made)
    return SessionView(id=key, revision=stored.revision, session=made, rows_total=0)


@router.get("/{session_id}", responses=documented(404, 422))
def session(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> SessionView:
    """A session with its newest rows."""
    kept = desk.log.get(plan_id, session_id, most=SHOWN_ROWS)
    return SessionView(id=kept.id, revision=kept.revision, session=kept.session, rows_total=kept.rows_total)


@router.post("/{session_id}/heard", responses=documented(404, 413, 422))
def hear(desk: AtDesk, plan_id: PlanId, session_id: SessionId, told: Line) -> Heard:
    """What is understood of a line; nothing is added."""
    kept = desk.log.get(plan_id, session_id, most=0)
    return desk.work(plan_id, _heard, kept.plan_document, told)


@router.post("/{session_id}/rows", responses=documented(404, 413, 422, 507))
def add_rows(desk: AtDesk, plan_id: PlanId, session_id: SessionId, told: Line) -> Heard:
    """Add what a line says, if all of it is understood."""
    kept = desk.log.get(plan_id, session_id, most=0)
    if told.corrects and not desk.log.has(session_id, told.corrects):
        problem = Problem("/corrects", shown(told.corrects), "the id of a row of this session")
        raise InvalidInput(str(problem), (problem,))
    found = desk.work(plan_id, _heard, kept.plan_document, told)
    if found.questions or not found.rows:
        return found
    desk.log.add(plan_id, session_id, found.rows)
    if any(row.kind == "act" for row in found.rows):
        desk.following.switched(session_id, desk.log.as_it_stands(plan_id, session_id).session)
    return found.model_copy(update={"added": True})


@router.post("/{session_id}/readings", status_code=201, responses=documented(404, 413, 422, 507))
def push_readings(
    desk: AtDesk, plan_id: PlanId, session_id: SessionId, told: PushedReadings, caller: AtDoor
) -> Pushed:
    """Add readings of a device: a script, a home automation. Where one is wrong, none counts."""
    kept = desk.log.get(plan_id, session_id, most=0)
    rows = desk.work(plan_id, pushed, kept.plan_document, told, caller.name)
    return Pushed(new=desk.log.add(plan_id, session_id, rows))


def now_at(zone: str, ago_s: float = 0.0) -> datetime:
    """The present moment by the clock of a zone, or one so long ago, s."""
    moment = datetime.now(UTC) - timedelta(seconds=ago_s)
    return moment.astimezone(ZoneInfo(zone)).replace(tzinfo=None, microsecond=0)


def _begun(document: str, new: NewSession) -> Session:
    plan = opened(document).plan
    begins = (new.begins or now_at(plan.site.time_zone)).replace(tzinfo=None, microsecond=0)
    return begun(plan, new.name, begins, new.kind)


def _heard(document: str, told: Line) -> Heard:
    plan = opened(document).plan
    now = (told.now or now_at(plan.site.time_zone, told.ago_s)).replace(tzinfo=None, microsecond=0)
    said = understood(plan, told.line, now)
    rows = [
        SessionRow(
            id=f"{told.row_id}-{place}" if told.row_id else uuid4().hex[:12], at=said.at, entered=now,
            text=told.line, corrects=told.corrects, **row.model_dump(),
        )
        for place, row in enumerate(said.rows)
    ]  # fmt: skip
    return Heard(rows=rows, questions=list(said.questions))


def pushed(document: str, told: PushedReadings, by: str) -> list[SessionRow]:
    """Rows out of readings that were sent, of the plan of a document."""
    plan = opened(document).plan
    return rows_of(plan, told.readings, now_at(plan.site.time_zone), by, lambda: uuid4().hex[:12])
