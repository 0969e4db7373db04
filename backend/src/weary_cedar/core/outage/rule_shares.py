"""What every line of the strategy did in a run, and whether it can do anything at all."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from weary_cedar.core.outage.result import RuleShare
from weary_cedar.core.outage.surplus import SurplusControl
from weary_cedar.core.plan import AnyRule, EngineRule, PlugRule, ShedRule, SurplusRule, TogetherRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.controls import Control
    from weary_cedar.core.outage.kernel import OutageRun


def rule_share(run: OutageRun, rule: AnyRule) -> RuleShare:
    """How often a line of the strategy acted in a run that is over; why it never can."""
    held = [item for item in run.exclusives if item.line is rule]
    if isinstance(rule, TogetherRule):
        alone = rule.on and sum(len(item.loads) for item in held) < 2
        never = "fewer than two of its loads are fed by a source" if alone else ""
        return RuleShare(acted=sum(item.acted for item in held), never=never)
    controls = [control for control in run.controls if control.line is rule]
    acted = sum(control.acted for control in controls)
    if isinstance(rule, ShedRule) and not any(c.id in rule.circuit_ids for c in run.circuits):
        return RuleShare(acted=0, never="none of its circuits is fed by a source" if rule.on else "")
    if not rule.on or acted:
        return RuleShare(acted=acted)
    return RuleShare(acted=0, never=_never(run, rule, controls))


def _never(run: OutageRun, rule: AnyRule, controls: Sequence[Control]) -> str:
    """Why a line that never acted cannot act in this plan; empty where it only was not needed."""
    if isinstance(rule, SurplusRule):
        units = [unit for c in controls if isinstance(c, SurplusControl) for unit in c.carrier.units]
        if not units:
            return "none of its loads is fed by a station"
        return "" if any(sun.unit in units for sun in run.parts.suns) else "no sun reaches the station"
    if not controls:
        earlier = [r for r in run.plan.strategy.rules if r.on and r is not rule and _same_part(r, rule)]
        if earlier:
            return "an earlier rule speaks about the same part and is followed"
        return "its engine or its lead is not used by the run"
    level = rule.on_below_percent if isinstance(rule, EngineRule) else None
    level = rule.in_below_percent if isinstance(rule, PlugRule) else level
    level = rule.off_below_percent if isinstance(rule, ShedRule) else level
    units = run.used_units
    cutoff = max((100.0 * unit.cutoff_wh / unit.cap_wh for unit in units), default=0.0)
    if level is not None and level < cutoff:
        return f"its {level:g} % is below the {cutoff:g} % at which the station is off"
    return ""


def _same_part(one: AnyRule, other: AnyRule) -> bool:
    if isinstance(one, EngineRule) and isinstance(other, EngineRule):
        return one.generator_id == other.generator_id
    return isinstance(one, PlugRule) and isinstance(other, PlugRule) and one.lead_id == other.lead_id
