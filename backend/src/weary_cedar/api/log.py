"""Routes of the log: sessions of a plan, lines as people say them, the forecast, what they teach."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import uuid4
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Path, Query, Response
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.log.forecast import SessionForecast, forecast
from weary_cedar.core.log.learn import Lesson, learn
from weary_cedar.core.log.said import understood
from weary_cedar.core.log.session import Session, SessionRow, begun, read_session
from weary_cedar.core.plan.base import LocalMoment
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}/sessions", tags=["log"])
SessionId = Annotated[str, Path(pattern=r"^[a-z0-9]{1,40}$", examples=["0123456789abcdef"])]
#: In so many outages a forecast on a screen is tried.
ON_SCREEN = 20


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
    """A session with its rows, and the revision of the plan that it keeps."""

    id: str
    revision: int
    session: Session


class Line(BaseModel):
    """A line as it is typed, and when; by the clock of the site, now if absent."""

    line: Annotated[str, Field(max_length=300)]
    now: LocalMoment | None = None
    #: The row that it stands for.
    corrects: Annotated[str, Field(max_length=60)] = ""


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
    return SessionView(id=key, revision=stored.revision, session=made)


@router.get("/{session_id}", responses=documented(404, 422))
def session(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> SessionView:
    """A session with its rows; as a file it is read by the command line, too."""
    kept = desk.log.get(plan_id, session_id)
    return SessionView(id=kept.id, revision=kept.revision, session=kept.session)


@router.post("/{session_id}/heard", responses=documented(404, 413, 422))
def hear(desk: AtDesk, plan_id: PlanId, session_id: SessionId, told: Line) -> Heard:
    """What is understood of a line; nothing is added."""
    kept = desk.log.get(plan_id, session_id)
    return desk.work(plan_id, _heard, kept.plan_document, told)


@router.post("/{session_id}/rows", responses=documented(404, 413, 422, 507))
def add_rows(desk: AtDesk, plan_id: PlanId, session_id: SessionId, told: Line) -> Heard:
    """Add what a line says, if all of it is understood."""
    kept = desk.log.get(plan_id, session_id)
    if told.corrects and told.corrects not in {row.id for row in kept.session.rows}:
        problem = Problem("/corrects", shown(told.corrects), "the id of a row of this session")
        raise InvalidInput(str(problem), (problem,))
    found = desk.work(plan_id, _heard, kept.plan_document, told)
    if found.questions or not found.rows:
        return found
    desk.log.add(plan_id, session_id, found.rows)
    return found.model_copy(update={"added": True})


@router.get("/{session_id}/forecast", response_model=SessionForecast, responses=documented(404, 422))
def until_when(
    desk: AtDesk, plan_id: PlanId, session_id: SessionId, now: Annotated[LocalMoment | None, Query()] = None
) -> Response:
    """Until when it lasts from the last row on, or from a moment."""
    kept = desk.log.get(plan_id, session_id)
    at = None if now is None else now.replace(tzinfo=None, microsecond=0)
    return desk.answer_from(plan_id, _forecast, kept.plan_document, kept.session.model_dump_json(), at)


@router.get("/{session_id}/lesson", response_model=Lesson, responses=documented(404, 422))
def lesson(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """What a session teaches; nothing in the plan changes."""
    kept = desk.log.get(plan_id, session_id)
    return desk.answer_from(plan_id, _lesson, kept.plan_document, kept.session.model_dump_json())


def _now(zone: str) -> datetime:
    return datetime.now(ZoneInfo(zone)).replace(tzinfo=None, microsecond=0)


def _begun(document: str, new: NewSession) -> Session:
    plan = opened(document).plan
    begins = (new.begins or _now(plan.site.time_zone)).replace(tzinfo=None, microsecond=0)
    return begun(plan, new.name, begins, new.kind)


def _heard(document: str, told: Line) -> Heard:
    plan = opened(document).plan
    now = (told.now or _now(plan.site.time_zone)).replace(tzinfo=None, microsecond=0)
    said = understood(plan, told.line, now)
    rows = [
        SessionRow(
            id=uuid4().hex[:12], at=said.at, entered=now, text=told.line, corrects=told.corrects,
            **row.model_dump(),
        )
        for row in said.rows
    ]  # fmt: skip
    return Heard(rows=rows, questions=list(said.questions))


def _forecast(document: str, session: str, now: datetime | None) -> bytes:
    plan = opened(document).plan
    return forecast(plan, read_session(session.encode()), now, ON_SCREEN).model_dump_json().encode()


def _lesson(document: str, session: str) -> bytes:
    return learn(opened(document).plan, read_session(session.encode())).model_dump_json().encode()
