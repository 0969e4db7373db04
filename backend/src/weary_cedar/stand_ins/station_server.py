"""The simulated station over HTTP: what it shows, once or as it goes on; and what is switched, told to it."""

import asyncio
from collections.abc import AsyncIterator, Callable
from time import monotonic
from typing import Any

from fastapi import FastAPI, HTTPException
from fastapi.sse import EventSourceResponse, ServerSentEvent

from weary_cedar.core.log.session import Session
from weary_cedar.stand_ins.station import SimulatedStation

#: It tells what it shows so often, s of the real clock.
EVERY_S = 1.0


class Clock:
    """A clock that goes faster than the real one.

    Args:
        speed: times the real one.
        first_s: where it begins, s after the beginning of the outage.
        now: the real clock, s.
    """

    def __init__(self, speed: float, first_s: float = 0.0, now: Callable[[], float] = monotonic) -> None:
        self._speed, self._first_s, self._now = speed, first_s, now
        self._begun = now()

    @property
    def t(self) -> float:
        """s after the beginning of the outage."""
        return self._first_s + (self._now() - self._begun) * self._speed


def station_app(station: SimulatedStation, clock: Clock, every_s: float = EVERY_S) -> FastAPI:
    """An app that answers as the station."""
    app = FastAPI(title="Simulated station", docs_url=None, redoc_url=None)

    @app.get("/station")
    def once() -> dict[str, Any]:
        """What it shows now; 503 while it cannot be reached."""
        t = min(clock.t, station.length_s)
        if not station.linked(t):
            raise HTTPException(503, "The station cannot be reached just now.")
        return station.shown(t)

    @app.get("/station/events", response_class=EventSourceResponse)
    async def on_and_on() -> AsyncIterator[ServerSentEvent]:
        """What it shows, every second; nothing while it cannot be reached. It ends with the outage."""
        while True:
            t = min(clock.t, station.length_s)
            if station.linked(t):
                yield ServerSentEvent(data=station.shown(t), event="shown")
            else:
                yield ServerSentEvent(comment="not reached")
            if t >= station.length_s:
                return
            await asyncio.sleep(every_s)

    @app.post("/session", status_code=204)
    def switched(session: Session) -> None:
        """Take up what was switched since, out of a session."""
        station.goes_on(session)

    return app
