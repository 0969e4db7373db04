"""What would have prevented an event of a run: changes of the plan, each proven by a run of its own."""

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel

from weary_cedar.core.decide.changes import patched, rules_of
from weary_cedar.core.decide.changes.change import AT_ONCE
from weary_cedar.core.errors import NotFound, Problem
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.result import Event, EventKind, RunResult
from weary_cedar.core.plan import EngineRule, Plan, ShedRule, TogetherRule
from weary_cedar.core.plan.circuit import Mark

#: Events that a change of the plan may prevent.
PREVENTABLE: tuple[EventKind, ...] = (
    "trip", "over_limit", "shed", "room_shed", "breaker_trip", "input_trip", "dip",
    "empty", "source_empty", "keep_lost", "food_warm",
)  # fmt: skip
#: Consumers of so long before the event are looked at, s.
BEFORE_S = 6 * 3600.0
#: Putting it off by less is no remedy, s.
LEAST_S = 3600.0
MOST_CIRCUITS, MOST_KEPT = 3, 2
#: How much earlier an engine is started, and where circuits are switched off, in % of charge.
EARLIER, SHED_BELOW = 20.0, 40.0


class Remedy(BaseModel):
    """A change of the plan: in words, as a merge patch, what it does to the event, and the verdict then."""

    words: str
    patch: dict[str, Any]
    outcome: str
    verdict: str


def remedies(plan: Plan, run: RunResult, number: int) -> list[Remedy]:
    """Changes that prevent an event, or put it off; the best first.

    Args:
        plan: the plan.
        run: of that plan.
        number: of the event in the run, from 0.

    Returns:
        Changes after which a run of its own does not show the event any more, or an hour later at the
        soonest, and which make nothing that must run fail earlier; none where nothing of the kind helps.

    Raises:
        NotFound: no such event.
    """
    if not 0 <= number < len(run.events):
        problem = Problem("/number", str(number), f"an event of this run, from 0 to {len(run.events) - 1}")
        raise NotFound(str(problem), (problem,))
    event = run.events[number]
    if event.kind not in PREVENTABLE:
        return []
    found = []
    for words, patch in _candidates(plan, run, event):
        after = run_outage(patched(plan, patch))
        later = _again(after, event)
        if _worse(run, after) or (later is not None and later.t_s < event.t_s + LEAST_S):
            continue
        outcome = "it does not happen then"
        if later is not None:
            outcome = f"it happens only on {plan.site.units.told_moment(later.at)} then"
        remedy = Remedy(words=words, patch=patch, outcome=outcome, verdict=after.verdict.sentence)
        found.append((later is not None, remedy))
    return [remedy for _, remedy in sorted(found, key=lambda item: item[0])]


def _again(run: RunResult, event: Event) -> Event | None:
    """The same event in another run: the first of its kind about the same part or load."""

    def same(other: Event) -> bool:
        about = other.part == event.part if event.part else bool(set(other.loads) & set(event.loads))
        return other.kind == event.kind and (about or not (event.part or event.loads))

    return next((other for other in run.events if same(other)), None)


def _worse(before: RunResult, after: RunResult) -> bool:
    """Whether something that must run fails now, or earlier than before."""
    if after.ledger is None or after.verdict.status == "cannot_judge":
        return True
    old = before.verdict.until_s if before.verdict.until_s is not None else before.length_s
    new = after.verdict.until_s if after.verdict.until_s is not None else after.length_s
    return new < old - 1.0


Candidate = tuple[str, dict[str, Any]]


def _candidates(plan: Plan, run: RunResult, event: Event) -> Iterator[Candidate]:
    about = {plan.loads[key].circuit_id for key in event.loads if key in plan.loads}
    drawn = [key for key in _drawn(plan, run, event, "room") if key not in about]
    for key in drawn[:MOST_CIRCUITS]:
        yield f"Leave {plan.circuits[key].label} off", {"circuits": {key: {"mark": "off"}}}
    if event.kind in AT_ONCE:
        yield from _apart(plan, run, event)
        return
    kept = [key for key in _drawn(plan, run, event, "keep") if key not in about]
    for key in kept[:MOST_KEPT]:
        words = f"Do without {plan.circuits[key].label}, though it is marked keep"
        yield words, {"circuits": {key: {"mark": "off"}}}
    yield from _engines(plan)
    sheds = any(isinstance(rule, ShedRule) for rule in plan.strategy.rules)
    if drawn and not sheds:
        rule = {"kind": "shed", "circuit_ids": drawn, "off_below_percent": SHED_BELOW}
        rule["back_above_percent"] = SHED_BELOW + 20.0
        names = ", ".join(plan.circuits[key].label for key in drawn)
        yield f"Switch off {names} below {SHED_BELOW:g} %", _with_rule(plan, rule)


def _drawn(plan: Plan, run: RunResult, event: Event, mark: Mark) -> list[str]:
    """Circuits of a mark by what they took before the event; the most first."""
    energy: dict[str, float] = {}
    for key, course in run.load_series.items():
        circuit_id = plan.loads[key].circuit_id
        if circuit_id is None or plan.circuits[circuit_id].mark != mark:
            continue
        for index, t in enumerate(course.t_s):
            last = course.t_s[index + 1] if index + 1 < len(course.t_s) else run.length_s
            span = min(last, event.t_s) - max(t, event.t_s - BEFORE_S)
            if span > 0 and course.watts[index] > 0:
                energy[circuit_id] = energy.get(circuit_id, 0.0) + span * course.watts[index]
    return sorted(energy, key=lambda key: -energy[key])


def _apart(plan: Plan, run: RunResult, event: Event) -> Iterator[Candidate]:
    """The two heaviest of what runs at the event, never together."""
    running = {}
    for key, course in run.load_series.items():
        before = [watts for t, watts in zip(course.t_s, course.watts, strict=True) if t <= event.t_s]
        if before and before[-1] > 0:
            running[key] = before[-1]
    heavy = sorted({*running, *event.loads} & plan.loads.keys(), key=lambda key: -running.get(key, 0.0))[:2]
    held = [rule for rule in plan.strategy.rules if isinstance(rule, TogetherRule)]
    if len(heavy) < 2 or any(set(heavy) <= set(rule.load_ids) for rule in held):
        return
    names = " and ".join(plan.loads[key].name for key in heavy)
    yield f"Never {names} together", _with_rule(plan, {"kind": "together", "load_ids": heavy})


def _engines(plan: Plan) -> Iterator[Candidate]:
    for index, rule in enumerate(plan.strategy.rules):
        if not isinstance(rule, EngineRule) or rule.on_below_percent is None:
            continue
        level = rule.on_below_percent + EARLIER
        if rule.on and level < rule.off_above_percent:
            rules = rules_of(plan)
            rules[index]["on_below_percent"] = level
            name = plan.generators[rule.generator_id].name
            yield f"Start {name} already below {level:g} %", {"strategy": {"rules": rules}}


def _with_rule(plan: Plan, rule: dict[str, Any]) -> dict[str, Any]:
    return {"strategy": {"rules": [*rules_of(plan), rule]}}
