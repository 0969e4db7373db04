"""What the screens show of a plan: the document and what follows from it."""

from datetime import datetime
from functools import lru_cache

from pydantic import BaseModel

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.panel_schedule import PanelSchedule, panel_schedule
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.store.plans import StoredPlan


class PlanView(BaseModel):
    """A plan at a revision, its panels laid out, and its verdict."""

    id: str
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    merged: bool
    plan: Plan
    schedules: list[PanelSchedule]
    verdict: Verdict
    findings: list[Finding]
    capacity_wh: float


class PlanLine(BaseModel):
    """A line in the list of plans."""

    id: str
    name: str
    revision: int
    saved_at: datetime


class HistoryLine(BaseModel):
    """A line of a plan's history."""

    revision: int
    kind: str
    summary: str
    saved_at: datetime
    current: bool


@lru_cache(maxsize=16)
def _run_of(document: str) -> RunResult:
    return run_outage(read_plan(document))


def run_of(plan: Plan) -> RunResult:
    """The run of a plan; the last few are remembered, since they follow from the plan alone."""
    return _run_of(plan.model_dump_json())


@lru_cache(maxsize=16)
def _findings_of(document: str) -> tuple[Finding, ...]:
    return tuple(findings_of(read_plan(document), _run_of(document)))


@lru_cache(maxsize=8)
def _facts_of(document: str) -> Facts:
    return Facts(read_plan(document), _run_of(document))


def facts_of(plan: Plan) -> Facts:
    """What the checks look at, remembered for the last few plans."""
    return _facts_of(plan.model_dump_json())


def plan_view(stored: StoredPlan) -> PlanView:
    """All that the screens need at once."""
    plan = stored.plan
    return PlanView(
        id=stored.id,
        revision=stored.revision,
        saved_at=stored.saved_at,
        can_undo=stored.can_undo,
        can_redo=stored.can_redo,
        merged=stored.merged,
        plan=plan,
        schedules=[panel_schedule(plan, panel_id) for panel_id in plan.panels],
        verdict=run_of(plan).verdict,
        capacity_wh=run_of(plan).capacity_wh,
        findings=list(_findings_of(plan.model_dump_json())),
    )
