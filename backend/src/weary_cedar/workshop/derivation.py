"""Everything that follows from a plan, sheet by sheet; one that fails does not take the others with it."""

import traceback
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, TypeVar

from pydantic import BaseModel, TypeAdapter

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.checks.editions import Clause, clauses
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Element
from weary_cedar.core.checks.registry import catalogue
from weary_cedar.core.checks.survey import WALK, answer_of, on_a_walk
from weary_cedar.core.decide.how_sure import judged
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.errors import Problem, WearyCedarError
from weary_cedar.core.feed_path import FeedPath, feed_paths
from weary_cedar.core.handles.dangers import Looked
from weary_cedar.core.hookup_drawing import hookup_drawing
from weary_cedar.core.inventory import inventory
from weary_cedar.core.lead_conductors import LeadConductors, lead_conductors
from weary_cedar.core.outage import RunResult
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.outage.thinned import thinned
from weary_cedar.core.outage.verdict import cannot_judge
from weary_cedar.core.panel_schedule import PanelSchedule, panel_schedule
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.sums import SUMS
from weary_cedar.core.sums_of_plan import filled
from weary_cedar.formats.breakers import table_as_csv, written
from weary_cedar.workshop.breaker_tables import shown_table

T = TypeVar("T")


class FailedSheet(BaseModel):
    """A sheet that could not be made, and why."""

    sheet: str
    detail: str


class DerivedView(BaseModel):
    """What the screens show of a plan: the document and what follows from it."""

    plan: Plan
    schedules: list[PanelSchedule]
    verdict: Verdict
    findings: list[Finding]
    capacity_wh: float
    failed: list[FailedSheet]


class Question(BaseModel):
    """A question of the survey, about a part of the plan."""

    room: str
    id: str
    name: str
    question_id: str
    statement: str
    question: str
    answer: str
    #: Where on a walk through the house it is asked.
    walk: str
    #: What the answer “no” amounts to: the title of its check, and how grave it is.
    settles: str
    level: str


class Outline(BaseModel):
    """What a plan amounts to in a line, and its charge over the outage in few points."""

    verdict: Verdict
    stops: int
    cautions: int
    open: int
    t_s: list[float] = []
    charge_percent: list[float] = []


#: So many points draw the charge of a plan in a list.
OUTLINE_POINTS = 90


@dataclass(frozen=True)
class Failure:
    """Why a sheet could not be made. `trace` is set where it is a fault of this program."""

    title: str
    detail: str
    problems: tuple[Problem, ...] = ()
    trace: str = ""


@dataclass
class Derivation:
    """Sheets by name, each as it is sent: JSON, CSV or PDF; and why others could not be made."""

    sheets: dict[str, bytes] = field(default_factory=dict)
    failed: dict[str, Failure] = field(default_factory=dict)

    @property
    def size(self) -> int:
        """Bytes of all sheets."""
        return sum(len(content) for content in self.sheets.values())

    def attempt(self, name: str, make: Callable[[], T], instead: Callable[[str], T]) -> T:
        """Make something; where that fails, note why and go on with a stand-in that says so."""
        try:
            return make()
        except Exception as error:
            failure = failure_of(name, error)
            self.failed.setdefault(name, failure)
            return instead(failure.detail)

    def keep(self, name: str, make: Callable[[], bytes]) -> None:
        """Make a sheet and keep it; where that fails, only note why."""
        content = self.attempt(name, make, lambda _why: b"")
        if name not in self.failed:
            self.sheets[name] = content


def failure_of(name: str, error: Exception) -> Failure:
    """An error as the reason why a sheet is missing."""
    if isinstance(error, WearyCedarError):
        return Failure(error.title, error.detail, error.problems)
    if isinstance(error, MemoryError):
        return Failure("Too much memory", f"The {name} takes more memory than one plan may.")
    detail = f"A fault of this program: the {name} failed with {type(error).__name__}: {str(error)[:200]}"
    return Failure("A fault of this program", detail, trace="".join(traceback.format_exception(error)))


@lru_cache(maxsize=4)
def plan_of(document: str) -> Plan:
    """A plan alone, without what follows from it; the last few are remembered in this process."""
    return read_plan(document)


class Opened:
    """A plan with its run, facts and findings; failures are noted in `found`."""

    def __init__(self, document: str) -> None:
        self.plan = plan_of(document)
        self.found = Derivation()
        self.run = self.found.attempt("run", lambda: judged(self.plan), self._not_run)
        self.facts = Facts(self.plan, self.run, self.run if self.found.failed else None)
        faults: list[Exception] = []
        self.findings = self.found.attempt(
            "checks", lambda: findings_of(self.plan, facts=self.facts, faults=faults), self._not_checked
        )
        for fault in faults:
            self.found.failed.setdefault("checks", failure_of("checks", fault))

    def _not_run(self, why: str) -> RunResult:
        start = self.plan.site.instant(self.plan.outage.start_local, 0.0)
        return RunResult(verdict=cannot_judge([why]), start=start, length_s=self.plan.outage.length_s)

    def _not_checked(self, why: str) -> list[Finding]:
        return [
            Finding(
                key="checks@site/site",
                check_id="checks",
                level="cannot_judge",
                title="The checks could not be made",
                element=Element(room="site", id="site", name=self.plan.site.name),
                why="What was not checked may be dangerous.",
                remedy="Take the last edit back; do not energise on this plan as it stands.",
                source="this program",
                answerable=False,
                missing=why,
            )
        ]


@lru_cache(maxsize=4)
def opened(document: str) -> Opened:
    """A plan with what follows from it; the last few are remembered in this process."""
    return Opened(document)


def derive(document: str) -> Derivation:
    """Make every sheet of a plan.

    Args:
        document: a plan as it was stored.

    Returns:
        The sheets by name (`view`, `outline`, `run`, `needs`, `arrangements`, `clauses`, `paths`,
        `conductors`, `hookup`, `survey`, `inventory`, and by panel `schedule.csv/…`), and why others are
        missing.

    Raises:
        InvalidPlan: the document is not a plan by the present rules.
    """
    open_plan = opened(document)
    plan, facts = open_plan.plan, open_plan.facts
    found = Derivation(failed=dict(open_plan.found.failed))
    found.keep("needs", lambda: need_list(plan).model_dump_json().encode())
    found.keep("arrangements", lambda: json_of(Looked, facts.looked))
    found.keep("clauses", lambda: json_of(tuple[Clause, ...], clauses(plan.site)))
    found.keep("paths", lambda: json_of(list[FeedPath], feed_paths(plan, facts)))
    found.keep("conductors", lambda: json_of(list[LeadConductors], lead_conductors(plan, facts)))
    found.keep("hookup", lambda: hookup_drawing(plan, facts).model_dump_json().encode())
    found.keep("outline", lambda: _outline(open_plan).model_dump_json().encode())
    found.keep("survey", lambda: json_of(list[Question], _survey(plan, facts)))
    found.keep("inventory", lambda: inventory(plan, open_plan.run).model_dump_json().encode())
    found.attempt("sums", lambda: [filled(plan, name, None) for name in SUMS], lambda _why: [])
    schedules = []
    for key in plan.panels:
        schedules += found.attempt("panels", lambda key=key: [panel_schedule(plan, key)], lambda _why: [])  # type: ignore[misc]
        found.keep(f"schedule.csv/{key}", lambda key=key: table_as_csv(written(plan, key)).encode())  # type: ignore[misc]
    found.keep("breakers", lambda: shown_table(plan).model_dump_json().encode())
    if "run" not in found.failed:
        found.keep("run", lambda: thinned(open_plan.run).model_dump_json().encode())
    view = DerivedView(
        plan=plan,
        schedules=schedules,
        verdict=open_plan.run.verdict,
        findings=open_plan.findings,
        capacity_wh=open_plan.run.capacity_wh,
        failed=[FailedSheet(sheet=name, detail=why.detail) for name, why in found.failed.items()],
    )
    found.sheets["view"] = view.model_dump_json().encode()
    return found


def _outline(open_plan: Opened) -> Outline:
    levels = [finding.level for finding in open_plan.findings if not finding.answered]
    series = open_plan.run.series
    step = max(1, len(series.t_s) // OUTLINE_POINTS)
    return Outline(
        verdict=open_plan.run.verdict,
        stops=levels.count("stop"),
        cautions=levels.count("caution"),
        open=levels.count("cannot_judge"),
        t_s=[*series.t_s[::step], *series.t_s[-1:]],
        charge_percent=[*series.charge_percent[::step], *series.charge_percent[-1:]],
    )


def _survey(plan: Plan, facts: Facts) -> list[Question]:
    rows = catalogue()
    return [
        Question(
            room=row["room"],
            id=key,
            name=facts.element(row["room"], key).name,
            question_id=row["question_id"],
            statement=row["statement"],
            question=row["question"],
            answer=answer_of(plan, row, key),
            walk=WALK[row["room"]],
            settles=rows[row["check_id"]]["title"],
            level=row["level"] or rows[row["check_id"]]["level"],
        )
        for row, key in on_a_walk(plan)
    ]


@lru_cache(maxsize=64)
def _adapter(kind: Any) -> TypeAdapter[Any]:
    return TypeAdapter(kind)


def json_of(kind: Any, value: Any) -> bytes:
    """A value as JSON, by its declared kind."""
    return _adapter(kind).dump_json(value)
