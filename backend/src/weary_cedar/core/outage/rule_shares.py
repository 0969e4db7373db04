"""What every line of the strategy did in a run, and whether it can do anything at all."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from weary_cedar.core.outage.result import RuleShare, Stretch
from weary_cedar.core.outage.surplus import SurplusControl
from weary_cedar.core.plan import (
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
    rule_words,
)

if TYPE_CHECKING:
    from weary_cedar.core.outage.controls import Control
    from weary_cedar.core.outage.kernel import OutageRun

#: So many moments of a line are told.
MOST_MOMENTS = 500
#: The line itself is what another line has made idle.
EARLIER = "an earlier rule speaks about the same part and is followed"


def rule_share(run: OutageRun, rule: AnyRule) -> RuleShare:
    """How often a line of the strategy acted in a run that is over; why it never can."""
    words = rule_words(run.plan, rule)
    if not rule.on:
        return RuleShare(words=f"Switched off: {words}", acted=0)
    if isinstance(rule, StartRule | TurnRule | OrderRule):
        acted, never = _told_once(run, rule)
        never = "" if acted else never
        if isinstance(rule, OrderRule):
            return RuleShare(words=words, acted=acted, never=never, lasting=True)
        hours = run.calendar.windows(rule.at, rule.at) if acted else []
        return RuleShare(words=words, acted=acted, at_s=tuple(t for t, _ in hours), never=never)
    idle = isinstance(rule, ShedRule | ReserveRule) and not any(
        circuit.id in rule.circuit_ids for circuit in run.circuits
    )
    moments = [] if idle else run.deeds_of(rule)
    never = "" if moments else _why_never(run, rule)
    spans = [] if idle else _off(run, rule)
    return RuleShare(
        words=words, acted=len(moments), at_s=tuple(moments[:MOST_MOMENTS]), never=never,
        keeps_off=_kept(run, rule) if spans else "", off=tuple(spans[:MOST_MOMENTS]),
    )  # fmt: skip


def _off(run: OutageRun, rule: AnyRule) -> list[Stretch]:
    """When a line kept something off, at whatever station."""
    spans: list[Stretch] = []
    controls = [control for control in run.controls if control.line is rule]
    for begins, ends in sorted(span for control in controls for span in control.kept_off):
        if spans and begins <= spans[-1].ends_s:
            spans[-1] = Stretch(begins_s=spans[-1].begins_s, ends_s=max(spans[-1].ends_s, ends))
        elif ends > begins:
            spans.append(Stretch(begins_s=begins, ends_s=ends))
    return spans


def _kept(run: OutageRun, rule: AnyRule) -> str:
    """What a line keeps off, in words."""
    if isinstance(rule, HandCycleRule):
        names = [run.plan.loads[key].name for key in rule.load_ids]
    elif isinstance(rule, ShedRule | ReserveRule):
        names = [run.plan.circuits[key].label for key in rule.circuit_ids]
    else:
        return ""
    return ", ".join(names)


def _why_never(run: OutageRun, rule: AnyRule) -> str:
    """Why a line that did not act never can; empty where it only was not needed."""
    if isinstance(rule, TogetherRule):
        held = [item for item in run.exclusives if item.line is rule]
        alone = sum(len(item.loads) for item in held) < 2
        return "fewer than two of its loads are fed by a source" if alone else ""
    if isinstance(rule, SwapRule | UtilityRule):
        return _never_swaps(run, rule)
    if isinstance(rule, ShedRule | ReserveRule) and not any(c.id in rule.circuit_ids for c in run.circuits):
        return "none of its circuits is fed by a source"
    return _never(run, rule, [control for control in run.controls if control.line is rule])


def _told_once(run: OutageRun, rule: StartRule | TurnRule | OrderRule) -> tuple[int, str]:
    """Rules that are built into the run from its start: on how many days, or at how many stations."""
    if isinstance(rule, OrderRule):
        if run.plan.strategy.followed(OrderRule)[0] is not rule:
            return 0, EARLIER
        several = sum(len(unit.offers) > 1 for unit in run.units)
        return several, "no station is recharged from more than one source"
    days = len(run.calendar.windows(rule.at, rule.at))
    if isinstance(rule, StartRule):
        first = next(r for r in run.plan.strategy.followed(StartRule) if r.load_id == rule.load_id)
        if first is not rule:
            return 0, EARLIER
        fed = any(load.id == rule.load_id for load in run.loads)
        return (days if fed else 0), "no source feeds it" if not fed else "its hour does not come"
    array = run.plan.arrays[rule.array_id]
    if array.seen is not None:
        return 0, "what the array gave was measured and counts instead"
    used = array.kind != "grid_tied" and run.plan.dc_input_of(array) is not None
    return (days if used else 0), "its hour does not come" if used else "the array is not used by the run"


def _never_swaps(run: OutageRun, rule: SwapRule | UtilityRule) -> str:
    if isinstance(rule, UtilityRule):
        if not run.plan.outage.grid:
            return "the utility does not come back in this outage"
        return EARLIER if run.plan.strategy.followed(UtilityRule)[0] is not rule else ""
    turns = [turn for turn in run.turns if any(way.key == rule.lead_id for way in turn.ways)]
    if not any(len(turn.ways) > 1 for turn in turns):
        return "no other lead ends at its feed"
    return ""


def _never(run: OutageRun, rule: AnyRule, controls: Sequence[Control]) -> str:
    """Why a line that never acted cannot act in this plan; empty where it only was not needed."""
    if isinstance(rule, SurplusRule):
        units = [unit for c in controls if isinstance(c, SurplusControl) for unit in c.carrier.units]
        if not units:
            return "none of its loads is fed by a station"
        return "" if any(sun.unit in units for sun in run.parts.suns) else "no sun reaches the station"
    if isinstance(rule, WhileRule) and controls:
        return "" if rule.generator_id is not None or run.parts.suns else "no sun reaches a station"
    if isinstance(rule, HandCycleRule | WhileRule) and not controls:
        return "none of its loads is fed by a source, or an earlier rule speaks about them"
    if not controls:
        earlier = [r for r in run.plan.strategy.rules if r.on and r is not rule and _same_part(r, rule)]
        return EARLIER if earlier else "its engine or its lead is not used by the run"
    level = rule.on_below_percent if isinstance(rule, EngineRule) else None
    level = rule.in_below_percent if isinstance(rule, PlugRule) else level
    level = rule.off_below_percent if isinstance(rule, ShedRule) else level
    level = rule.percent if isinstance(rule, ReserveRule) else level
    units = run.used_units
    cutoff = max((unit.station.cutoff_percent for unit in units), default=0.0)
    if level is not None and level < cutoff:
        return f"its {level:g} % is below the {cutoff:g} % at which the station is off"
    return ""


def _same_part(one: AnyRule, other: AnyRule) -> bool:
    if isinstance(one, EngineRule) and isinstance(other, EngineRule):
        return one.generator_id == other.generator_id
    return isinstance(one, PlugRule) and isinstance(other, PlugRule) and one.lead_id == other.lead_id
