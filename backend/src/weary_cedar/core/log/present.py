"""The house as it stands in a session: the rest of its outage, run, with what must not be energised."""

from dataclasses import dataclass
from datetime import datetime
from typing import Final

from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.log.from_then_on import Rest, rest_of
from weary_cedar.core.log.session import Session
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Plan

#: Circuits come back one after the other: by then all are on again, s.
LEAD_S: Final = 900.0


@dataclass(frozen=True)
class Present:
    """The rest of an outage from a moment on: its plan, its run, and stops of the plan."""

    rest: Rest
    run: RunResult
    stops: tuple[str, ...]

    @property
    def plan(self) -> Plan:
        """The plan of the rest; its outage begins some minutes before that moment."""
        return self.rest.plan

    @property
    def now_s(self) -> float:
        """The moment, s after the beginning of that plan."""
        return self.rest.lead_s


def present(plan: Plan, session: Session, now: datetime | None = None) -> Present:
    """How a house stands by what was read and switched.

    Args:
        plan: the plan of the session.
        session: as it went so far.
        now: by the clock of the site; when the last row was, if absent.
    """
    moment = now or last_moment(session)
    rest = rest_of(plan, session, max(0.0, session.seconds(plan, moment)), LEAD_S)
    return Present(rest, run_outage(rest.plan), tuple(stops_of(findings_of(plan))))


def last_moment(session: Session) -> datetime:
    """When the last row of a session was; its beginning where there is none."""
    return max((row.at for row in session.standing()), default=session.begins)
