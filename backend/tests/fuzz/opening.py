"""What must hold of every plan: it is refused by name, or every view, sheet, check, run and file opens."""

import json
from contextlib import suppress
from typing import Any

from pydantic import TypeAdapter

from weary_cedar.api.gear import _compared, _laid_out
from weary_cedar.api.panels import _switched, _weighed
from weary_cedar.api.plans import _tried
from weary_cedar.api.sums import _known
from weary_cedar.api.views import PlanView
from weary_cedar.core.checks.finding import LEVELS
from weary_cedar.core.decide.needs import NeedList
from weary_cedar.core.errors import InvalidPlan, Problem, WearyCedarError
from weary_cedar.core.feed_path import FeedPath
from weary_cedar.core.lead_conductors import LeadConductors
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.sums import SUMS
from weary_cedar.formats.breakers import table_as_csv, written
from weary_cedar.store.edits import made_of
from weary_cedar.workshop.breaker_tables import with_schedule
from weary_cedar.workshop.derivation import Derivation, DerivedView, derive

#: More breakers than this and balancing takes longer than a test may.
MOST_BALANCED = 30


def opened(document: dict[str, Any], questions: bool = True) -> str:
    """Open a document in every way; says whether it was accepted.

    Args:
        document: as a client would send it.
        questions: also ask what takes long: balance, switch, comparison, layouts, sums.

    Returns:
        accepted, refused (by the schema, by name), or too much (to run, by name).

    Raises:
        AssertionError: something of an accepted plan does not open, or says what contradicts its schema.
    """
    plan, refused = _read(document)
    assert all(problem.field.startswith("/") and problem.right for problem in refused)
    if plan is None:
        assert refused
        return "refused"
    found = derive(made_of(plan).document)
    faults = [why.trace for why in found.failed.values() if why.trace]
    assert not faults, faults[0]
    if found.failed:
        assert all(why.problems for why in found.failed.values())
        return "too much"
    _conforms(found, plan)
    if questions:
        _answers(plan)
    return "accepted"


def _read(document: dict[str, Any]) -> tuple[Plan | None, tuple[Problem, ...]]:
    try:
        return read_plan(json.loads(json.dumps(document))), ()
    except InvalidPlan as error:
        return None, error.problems


def _conforms(found: Derivation, plan: Plan) -> None:
    """What is sent follows its own schema, figures are finite, and files are read again unchanged."""
    view = DerivedView.model_validate_json(found.sheets["view"])
    assert set(DerivedView.model_fields) < set(PlanView.model_fields)
    assert view.plan == plan
    run = RunResult.model_validate_json(found.sheets["run"])
    assert run.ledger is None or run.ledger.closes
    NeedList.model_validate_json(found.sheets["needs"])
    TypeAdapter(list[FeedPath]).validate_json(found.sheets["paths"])
    TypeAdapter(list[LeadConductors]).validate_json(found.sheets["conductors"])
    for sheet in ("view", "run", "needs", "paths", "conductors", "survey", "inventory"):
        json.loads(found.sheets[sheet], parse_constant=AssertionError)
    ranks = [LEVELS.index(finding.level) for finding in view.findings]
    assert ranks == sorted(ranks)
    assert all(finding.answered is None or finding.level != "stop" for finding in view.findings)
    assert all(finding.missing for finding in view.findings if finding.level == "cannot_judge")
    assert read_plan(plan.model_dump_json()) == plan
    for key in plan.panels:
        assert with_schedule(plan, key, table_as_csv(written(plan, key)).encode()) == plan


def _answers(plan: Plan) -> None:
    document = made_of(plan).document
    asked: list[Any] = [
        lambda: _tried(document, b'{"name": "other"}'),
        lambda: _compared(document, list(plan.stations)[:2], None, None),
        *(lambda key=key: _switched(document, key) for key in plan.panels),
        *(lambda key=key: _laid_out(document, key, None) for key in plan.arrays),
        *(lambda name=name: _known(document, name, None) for name in SUMS),
    ]
    if len(plan.circuits) <= MOST_BALANCED:
        asked += [lambda key=key: _weighed(document, key, "peak") for key in list(plan.panels)[:1]]
    for ask in asked:
        with suppress(WearyCedarError):
            json.loads(ask())
