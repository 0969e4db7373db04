"""Routes of what follows from a session: the forecast, what now, what it teaches, how it went."""

from collections.abc import Callable
from datetime import datetime
from typing import Annotated, Any

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from weary_cedar.api.alarms import Alarm, is_fresh
from weary_cedar.api.desk import Desk
from weary_cedar.api.errors import documented
from weary_cedar.api.log import SessionId
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.advice.may_start import MayStart, asked_of, may_start
from weary_cedar.core.advice.schedule import Schedule, schedule
from weary_cedar.core.advice.suggest import Suggestions, suggest
from weary_cedar.core.checks import stops_of
from weary_cedar.core.log.afterwards import Afterwards, afterwards
from weary_cedar.core.log.forecast import SessionForecast, forecast
from weary_cedar.core.log.learn import Lesson, LessonWorth, learn, worth_of
from weary_cedar.core.log.meters import MeterBooks, meter_books
from weary_cedar.core.log.present import present
from weary_cedar.core.log.session import Session
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.base import LocalMoment
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}/sessions", tags=["log"])
#: In so many outages a forecast on a screen is tried.
ON_SCREEN = 20
Now = Annotated[LocalMoment | None, Query()]


@router.get("/{session_id}/forecast", response_model=SessionForecast, responses=documented(404, 422))
def until_when(desk: AtDesk, plan_id: PlanId, session_id: SessionId, now: Now = None) -> Response:
    """Until when it lasts from the last row on, or from a moment."""
    kept = desk.log.as_it_stands(plan_id, session_id)
    at = None if now is None else now.replace(tzinfo=None, microsecond=0)
    told = desk.work(plan_id, _forecast, kept.plan_document, kept.session, at)
    for words in told.alarms:
        desk.alarms.tell(Alarm(plan_id, kept.session.name, words))
    return Response(told.model_dump_json(), media_type="application/json")


def alarms_now(desk: Desk) -> list[Alarm]:
    """Alarms of all sessions that go on, by a forecast each."""
    found = []
    for plan_id, session_id, last in desk.log.newest():
        if not is_fresh(last):
            continue
        kept = desk.log.as_it_stands(plan_id, session_id)
        told = desk.work(plan_id, _forecast, kept.plan_document, kept.session, None)
        found += [Alarm(plan_id, kept.session.name, words) for words in told.alarms]
    return found


@router.get("/{session_id}/lesson", response_model=Lesson, responses=documented(404, 422))
def lesson(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """What a session teaches; nothing in the plan changes."""
    return _of_all(desk, plan_id, session_id, learn)


@router.get("/{session_id}/lesson/worth", response_model=LessonWorth, responses=documented(404, 422))
def lesson_worth(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """The chance that the plan lasts, as it stands and with everything taken over that was learnt."""
    kept = desk.log.get(plan_id, session_id)
    now = desk.store.get(plan_id).document
    return desk.answer_slowly(plan_id, _worth, now, kept.plan_document, kept.session)


@router.get("/{session_id}/start", response_model=MayStart, responses=documented(404, 422))
def start_now(
    desk: AtDesk,
    plan_id: PlanId,
    session_id: SessionId,
    load_id: Annotated[str | None, Query(max_length=64)] = None,
    watts: Annotated[float | None, Query(ge=0.1, le=100_000)] = None,
    start_va: Annotated[float | None, Query(ge=1, le=200_000)] = None,
    lasts_s: Annotated[float | None, Query(ge=60, le=86_400)] = None,
    circuit_id: Annotated[str | None, Query(max_length=64)] = None,
    now: Now = None,
) -> Response:
    """May an appliance be started now, as the house stands by what was read and switched."""
    asked = {
        "load_id": load_id, "watts": watts, "start_va": start_va, "lasts_s": lasts_s,
        "circuit_id": circuit_id,
    }  # fmt: skip
    return _from_now(desk, plan_id, session_id, now, _start_now, asked)


@router.get("/{session_id}/suggestions", response_model=Suggestions, responses=documented(404, 422))
def suggestions_now(desk: AtDesk, plan_id: PlanId, session_id: SessionId, now: Now = None) -> Response:
    """What would make it last from here on; nothing is stored."""
    return _from_now(desk, plan_id, session_id, now, _suggested_now)


@router.get("/{session_id}/schedule", response_model=Schedule, responses=documented(404, 422))
def schedule_now(desk: AtDesk, plan_id: PlanId, session_id: SessionId, now: Now = None) -> Response:
    """When to do what from here on: tonight, and after; nothing is stored."""
    return _from_now(desk, plan_id, session_id, now, _scheduled_now)


@router.get("/{session_id}/meters", response_model=MeterBooks, responses=documented(404, 422))
def meters(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """Meters at several places set against each other: what each section loses, which cannot be right."""
    return _of_all(desk, plan_id, session_id, meter_books)


@router.get("/{session_id}/afterwards", response_model=Afterwards, responses=documented(404, 422))
def how_it_went(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> Response:
    """What was foretold against what was; what surprised; what to take over into the plan."""
    return _of_all(desk, plan_id, session_id, afterwards)


def _from_now(
    desk: Desk, plan_id: str, session_id: str, now: datetime | None, job: Callable[..., bytes], *given: Any
) -> Response:
    """What a job makes of the outage from the last row on, or from a moment."""
    kept = desk.log.as_it_stands(plan_id, session_id)
    at = None if now is None else now.replace(tzinfo=None, microsecond=0)
    return desk.answer_from(plan_id, job, kept.plan_document, kept.session, at, *given)


def _of_all(
    desk: Desk, plan_id: str, session_id: str, make: Callable[[Plan, Session], BaseModel]
) -> Response:
    """What follows from all rows of a session."""
    kept = desk.log.get(plan_id, session_id)
    return desk.answer_from(plan_id, _made, kept.plan_document, kept.session, make)


def _made(document: str, session: Session, make: Callable[[Plan, Session], BaseModel]) -> bytes:
    return make(opened(document).plan, session).model_dump_json().encode()


def _worth(now: str, began: str, session: Session) -> bytes:
    found = opened(now)
    stops = stops_of(found.findings)
    if stops:
        why = f"this must not be energised: {stops[0]}"
        return LessonWorth(sentence=f"No chance to compare: {why}.", why_not=why).model_dump_json().encode()
    return worth_of(found.plan, learn(opened(began).plan, session)).model_dump_json().encode()


def _start_now(document: str, session: Session, now: datetime | None, asked: dict[str, Any]) -> bytes:
    found = present(opened(document).plan, session, now)
    wanted = asked_of(found.plan, **asked)
    return may_start(found.plan, found.run, found.now_s, wanted, found.stops).model_dump_json().encode()


def _suggested_now(document: str, session: Session, now: datetime | None) -> bytes:
    found = present(opened(document).plan, session, now)
    return suggest(found.plan, found.run).model_dump_json().encode()


def _scheduled_now(document: str, session: Session, now: datetime | None) -> bytes:
    found = present(opened(document).plan, session, now)
    return schedule(found.plan, found.run, from_s=found.now_s, outages=0).model_dump_json().encode()


def _forecast(document: str, session: Session, now: datetime | None) -> SessionForecast:
    return forecast(opened(document).plan, session, now, ON_SCREEN)
