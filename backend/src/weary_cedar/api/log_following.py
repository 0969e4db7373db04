"""Routes of following: a session takes its readings from a station that tells what it shows."""

import json
from collections.abc import Sequence
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel, Field

from weary_cedar.api.door import AtDoor
from weary_cedar.api.errors import documented
from weary_cedar.api.following import Followed, at_address, simulated
from weary_cedar.api.log import SessionId, pushed
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.log.pushed import PushedReading, PushedReadings
from weary_cedar.core.log.session import Session
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}/sessions", tags=["log"])


class Follow(BaseModel):
    """What to follow: nothing, a simulated station of the plan, or one at an address of this machine."""

    on: bool = True
    address: Annotated[str, Field(max_length=200)] = ""
    station: Annotated[str, Field(max_length=40)] = ""
    seed: Annotated[int, Field(ge=0, le=1_000_000_000)] = 1
    #: Times the real clock; of a simulated one.
    speed: Annotated[float, Field(ge=1, le=600)] = 60.0


class FollowingView(BaseModel):
    """What is followed: since when it told nothing, how many rows came of it, what is wrong."""

    on: bool
    address: str = ""
    simulated: bool = False
    #: Of what it told last, by the clock of the site.
    at: datetime | None = None
    rows: int = 0
    trouble: str = ""
    ended: bool = False


@router.get("/{session_id}/following", responses=documented(404, 422))
def following(desk: AtDesk, plan_id: PlanId, session_id: SessionId) -> FollowingView:
    """What a session follows, and how it goes."""
    desk.log.get(plan_id, session_id, most=0)
    return _followed(desk.following.of(session_id))


@router.put("/{session_id}/following", responses=documented(404, 413, 422))
def follow(
    desk: AtDesk, plan_id: PlanId, session_id: SessionId, told: Follow, caller: AtDoor
) -> FollowingView:
    """Follow a station, or no more: a simulated one, or one that tells what it shows at an address here."""
    kept = desk.log.as_it_stands(plan_id, session_id)
    if not told.on:
        desk.following.end(session_id)
        return _followed(None)
    if told.address and not caller.own:
        raise HTTPException(403, "Which address is followed is said on the computer itself.")
    if told.address:
        found = at_address(told.address)
    else:
        stations = json.loads(kept.plan_document).get("stations") or {}
        if told.station not in stations:
            problem = Problem("/station", shown(told.station), f"one of {', '.join(stations) or 'none'}")
            raise InvalidInput(str(problem), (problem,))
        from_s = desk.work(plan_id, _last_s, kept.plan_document, kept.session)
        found = simulated(kept.plan_document, kept.session, told.station, told.seed, told.speed, from_s)

    def add(readings: Sequence[PushedReading]) -> int:
        sent = PushedReadings(readings=list(readings))
        by = "simulated station" if found.simulated else "followed station"
        rows = desk.work(plan_id, pushed, kept.plan_document, sent, by)
        return desk.log.add(plan_id, session_id, rows)

    desk.following.begin(session_id, found, add)
    desk.following.switched(session_id, kept.session)
    return _followed(found)


def _followed(found: Followed | None) -> FollowingView:
    if found is None:
        return FollowingView(on=False)
    return FollowingView(
        on=not found.ended, address=found.address, simulated=found.simulated, at=found.at, rows=found.rows,
        trouble=found.trouble, ended=found.ended,
    )  # fmt: skip


def _last_s(document: str, session: Session) -> float:
    """When the last row was, s after the beginning."""
    plan = opened(document).plan
    return max([0.0, *(session.seconds(plan, row.at) for row in session.rows)])
