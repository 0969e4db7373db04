"""Routes of the house itself: another voltage, tried before it is set; the breaker that an inlet feeds."""

from fastapi import APIRouter, Response
from pydantic import BaseModel

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, Base, PlanId
from weary_cedar.api.views import PlanView
from weary_cedar.core.checks import findings_of
from weary_cedar.core.decide.feed_breaker import feed_of_breaker
from weary_cedar.core.decide.other_voltage import effects, with_system
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Feed, Plan
from weary_cedar.core.plan.site import System
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["plans"])


class VoltageTrial(BaseModel):
    """What another voltage would do: in sentences, the verdict before and after, and the stops that come."""

    effects: list[str]
    before: str
    after: str
    stops: list[str]


@router.get("/voltage", response_model=VoltageTrial, responses=documented(404, 422))
def try_voltage(desk: AtDesk, plan_id: PlanId, system: System) -> Response:
    """What becomes of a plan in a house of another voltage; nothing is stored."""
    return desk.answer(plan_id, _tried, system)


def _tried(document: str, system: System) -> bytes:
    before = opened(document)
    after = with_system(before.plan, system)
    known = {finding.key for finding in before.findings if finding.level == "stop"}
    new = [found for found in findings_of(after) if found.level == "stop" and found.key not in known]
    trial = VoltageTrial(
        effects=effects(before.plan, system),
        before=before.run.verdict.sentence,
        after=run_outage(after).verdict.sentence,
        stops=list(dict.fromkeys(f"{found.title}: {found.element.name}" for found in new)),
    )
    return trial.model_dump_json().encode()


@router.post("/voltage", response_model=PlanView, responses=documented(404, 412, 422, 428, 507))
def set_voltage(desk: AtDesk, plan_id: PlanId, base: Base, system: System) -> Response:
    """Set the voltage of the house, as one edit."""
    return desk.edit_by(plan_id, base, with_system, system)


@router.get("/circuits/{circuit_id}/as-feed", response_model=Feed, responses=documented(404, 422))
def as_feed(desk: AtDesk, plan_id: PlanId, circuit_id: str) -> Response:
    """What the breaker of a circuit would be as the one that an inlet feeds; nothing is stored."""
    return desk.answer(plan_id, _as_feed, circuit_id)


def _as_feed(document: str, circuit_id: str) -> bytes:
    plan: Plan = opened(document).plan
    return feed_of_breaker(plan, circuit_id).model_dump_json().encode()
