"""Every line of the strategy as one plain sentence."""

from weary_cedar.core.plan.document import Plan
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
    WhileRule,
)

PURPOSES = {"house": " for the house", "charging": " to charge", "both": " for the house and to charge"}


def rule_words(plan: Plan, rule: AnyRule) -> str:
    """A rule in words, with the names of this plan."""
    clock = plan.site.units.told_time
    if isinstance(rule, EngineRule):
        engine = plan.generators[rule.generator_id].name
        hours = f", from {clock(rule.hours.begins)} to {clock(rule.hours.ends)}" if rule.hours else ""
        levels = "by the clock"
        if rule.on_below_percent is not None:
            levels = f"below {rule.on_below_percent:g} %, stop above {rule.off_above_percent:g} %"
        least = f", at least {rule.least_s / 60:g} min"
        left = ", left running with nobody there" if rule.left_running else ""
        return f"Start {engine}{PURPOSES[rule.purpose]} {levels}{least}{hours}{left}"
    if isinstance(rule, PlugRule):
        levels = f"below {rule.in_below_percent:g} %, out above {rule.out_above_percent:g} %"
        return f"Plug in {plan.lead_name(rule.lead_id)} {levels}"
    if isinstance(rule, ShedRule):
        levels = f"below {rule.off_below_percent:g} %, back above {rule.back_above_percent:g} %"
        return f"Switch off {_circuits(plan, rule.circuit_ids)} {levels}"
    if isinstance(rule, ReserveRule):
        less = f"with less than {rule.percent:g} % left at {clock(rule.bedtime)}"
        return f"Leave {_circuits(plan, rule.circuit_ids)} off until {clock(rule.until)} {less}"
    if isinstance(rule, TogetherRule | SurplusRule | WhileRule | HandCycleRule):
        return _of_loads(plan, rule)
    if isinstance(rule, StartRule):
        return f"Begin {plan.loads[rule.load_id].name} at {clock(rule.at)}"
    if isinstance(rule, TurnRule):
        facing = f"{rule.tilt_deg:g}° up, {rule.azimuth_deg:g}° from north"
        return f"Turn {plan.arrays[rule.array_id].name} at {clock(rule.at)}: {facing}"
    if isinstance(rule, OrderRule):
        return f"Recharge from {', then '.join(rule.sources)}"
    if isinstance(rule, SwapRule):
        levels = f"below {rule.below_percent:g} %, back above {rule.back_above_percent:g} %"
        return f"Put {plan.lead_name(rule.lead_id)} in its place {levels}"
    levels = f"below {rule.back_below_percent:g} %, away again above {rule.away_above_percent:g} %"
    return f"Back on the utility only {levels}"


def _of_loads(plan: Plan, rule: TogetherRule | SurplusRule | WhileRule | HandCycleRule) -> str:
    """A rule about loads, in words."""
    named = ", ".join(plan.loads[key].name for key in rule.load_ids)
    if isinstance(rule, TogetherRule):
        return f"Never two of these together: {named}"
    if isinstance(rule, SurplusRule):
        return f"Only on spare sun, from {rule.above_percent:g} %: {named}"
    if isinstance(rule, WhileRule):
        engine = f"{plan.generators[rule.generator_id].name} runs" if rule.generator_id is not None else ""
        sun = f"the sun gives more than {rule.sun_above_w:g} W" if rule.sun_above_w is not None else ""
        return f"Only while {' or '.join(filter(None, (engine, sun)))}: {named}"
    return f"Switch on {named} for {_span(rule.on_s)} of every {_span(rule.every_s)}"


def _span(seconds: float) -> str:
    return f"{seconds / 60:g} min" if seconds < 7_200 else f"{seconds / 3600:g} h"


def _circuits(plan: Plan, ids: tuple[str, ...]) -> str:
    return ", ".join(plan.circuits[key].label for key in ids)
