"""Where a line of the strategy names parts that there are not, or comes back below where it acts."""

from collections.abc import Iterator

from weary_cedar.core.errors import Problem, missing, shown
from weary_cedar.core.plan.document import Plan
from weary_cedar.core.plan.lead import ToFeed
from weary_cedar.core.plan.load import Job
from weary_cedar.core.plan.strategy import (
    AnyRule,
    EngineRule,
    HandCycleRule,
    OrderRule,
    PlugRule,
    ReserveRule,
    ShedRule,
    StartRule,
    SurplusRule,
    SwapRule,
    TogetherRule,
    TurnRule,
    UtilityRule,
    WhileRule,
)


def rule_problems(plan: Plan) -> Iterator[Problem]:
    """Everything in the rules of a plan that cannot be, each with what would be right."""
    recharges = plan.recharges
    for index, rule in enumerate(plan.strategy.rules):
        at = f"/strategy/rules/{index}"
        if isinstance(rule, EngineRule):
            yield from missing(f"{at}/generator_id", rule.generator_id, plan.generators, "generator")
        elif isinstance(rule, PlugRule):
            yield from missing(f"{at}/lead_id", rule.lead_id, recharges, "lead into an input of a station")
        elif isinstance(rule, TogetherRule | SurplusRule | WhileRule | HandCycleRule):
            for number, key in enumerate(rule.load_ids):
                yield from missing(f"{at}/load_ids/{number}", key, plan.loads, "load")
            engine = rule.generator_id if isinstance(rule, WhileRule) else None
            if engine is not None:
                yield from missing(f"{at}/generator_id", engine, plan.generators, "generator")
        elif isinstance(rule, ShedRule | ReserveRule):
            for number, key in enumerate(rule.circuit_ids):
                yield from missing(f"{at}/circuit_ids/{number}", key, plan.circuits, "circuit")
        else:
            yield from _part_problems(plan, at, rule)
        yield from _figure_problems(at, rule)


def _part_problems(plan: Plan, at: str, rule: AnyRule) -> Iterator[Problem]:
    if isinstance(rule, StartRule):
        yield from missing(f"{at}/load_id", rule.load_id, plan.loads, "load")
        load = plan.loads.get(rule.load_id)
        if load is not None and not isinstance(load.behaviour, Job):
            yield Problem(f"{at}/load_id", shown(rule.load_id), "a load whose behaviour is a job")
    elif isinstance(rule, TurnRule):
        yield from missing(f"{at}/array_id", rule.array_id, plan.arrays, "solar array")
    elif isinstance(rule, SwapRule):
        yield from missing(f"{at}/lead_id", rule.lead_id, plan.leads, "lead")
        lead = plan.leads.get(rule.lead_id)
        if lead is not None and not (isinstance(lead.to, ToFeed) and lead.source.kind in ("station", "link")):
            right = "a lead from a station to a feed; what an engine feeds is said by its own rule"
            yield Problem(f"{at}/lead_id", shown(rule.lead_id), right)


def _figure_problems(at: str, rule: AnyRule) -> Iterator[Problem]:
    low, field, high = _levels(rule)
    if high <= low:
        yield Problem(f"{at}/{field}", shown(high), f"above the {low:g} % at which the rule acts")
    if isinstance(rule, HandCycleRule) and rule.on_s >= rule.every_s:
        right = f"more than the {rule.on_s:g} s that they run"
        yield Problem(f"{at}/every_s", shown(rule.every_s), right)
    if isinstance(rule, WhileRule) and rule.generator_id is None and rule.sun_above_w is None:
        yield Problem(f"{at}/generator_id", shown(None), "an engine, or watts of sun in sun_above_w, or both")
    if isinstance(rule, OrderRule) and len(set(rule.sources)) < len(rule.sources):
        yield Problem(f"{at}/sources", shown(list(rule.sources)), "each source once")
    if isinstance(rule, ReserveRule) and rule.bedtime == rule.until:
        yield Problem(f"{at}/until", shown(str(rule.until)), "another time than bedtime")


def _levels(rule: AnyRule) -> tuple[float, str, float]:
    """Charge at which a rule acts, and the field and charge at which it ends; that must be higher."""
    if isinstance(rule, EngineRule):
        low = rule.on_below_percent
        return -1.0 if low is None else low, "off_above_percent", rule.off_above_percent
    if isinstance(rule, PlugRule):
        return rule.in_below_percent, "out_above_percent", rule.out_above_percent
    if isinstance(rule, ShedRule):
        return rule.off_below_percent, "back_above_percent", rule.back_above_percent
    if isinstance(rule, UtilityRule):
        return rule.back_below_percent, "away_above_percent", rule.away_above_percent
    if isinstance(rule, SwapRule):
        return rule.below_percent, "back_above_percent", rule.back_above_percent
    return 0.0, "", 1.0
