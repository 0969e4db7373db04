"""What the screens show of a plan: the document and what follows from it."""

from collections import OrderedDict
from datetime import datetime
from functools import cached_property

from pydantic import BaseModel

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.panel_schedule import PanelSchedule, panel_schedule
from weary_cedar.core.plan import Plan
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


class Derived:
    """What follows from a plan alone: run, facts, findings; each worked out once."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan

    @cached_property
    def run(self) -> RunResult:
        """The run of the plan."""
        return run_outage(self._plan)

    @cached_property
    def facts(self) -> Facts:
        """What the checks look at."""
        return Facts(self._plan, self.run)

    @cached_property
    def findings(self) -> list[Finding]:
        """What the checks say."""
        return findings_of(self._plan, facts=self.facts)


MOST_REMEMBERED = 16
_remembered: OrderedDict[str, Derived] = OrderedDict()


def derived(plan: Plan) -> Derived:
    """What follows from a plan; the last few plans are remembered."""
    key = plan.model_dump_json()
    found = _remembered.pop(key, None) or Derived(plan)
    _remembered[key] = found
    while len(_remembered) > MOST_REMEMBERED:
        _remembered.popitem(last=False)
    return found


def run_of(plan: Plan) -> RunResult:
    """The run of a plan."""
    return derived(plan).run


def facts_of(plan: Plan) -> Facts:
    """What the checks look at."""
    return derived(plan).facts


def plan_view(stored: StoredPlan) -> PlanView:
    """All that the screens need at once."""
    plan = stored.plan
    known = derived(plan)
    return PlanView(
        id=stored.id,
        revision=stored.revision,
        saved_at=stored.saved_at,
        can_undo=stored.can_undo,
        can_redo=stored.can_redo,
        merged=stored.merged,
        plan=plan,
        schedules=[panel_schedule(plan, panel_id) for panel_id in plan.panels],
        verdict=known.run.verdict,
        capacity_wh=known.run.capacity_wh,
        findings=known.findings,
    )
