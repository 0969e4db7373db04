"""What a lead into an input is to charge with."""

from weary_cedar.core.plan import Lead, Plan, ToInput
from weary_cedar.core.plan.lead import SourceKind

#: A lasting load takes so much of a breaker: NEC 210.20(A), from memory.
LASTING = 0.8


def charge_w(plan: Plan, lead: Lead, *, fast: bool = False) -> float:
    """What a lead is to charge with, W.

    Args:
        plan: the plan.
        lead: that ends at an input.
        fast: as much as input and circuit carry, instead of what it is set to.

    Returns:
        From a circuit within 80 % of its breaker; where it is not set, no more than its source gives.
    """
    assert isinstance(lead.to, ToInput)
    entry = plan.stations[lead.to.station_id].ac_inputs.get(lead.to.input_id)
    most_w = (
        entry.most_w
        if entry is not None
        else plan.stations[lead.to.station_id].dc_inputs[lead.to.input_id].most_w
    )
    asked = (fast and entry is not None) or lead.to.setting_w is None
    watts = most_w if asked or lead.to.setting_w is None else lead.to.setting_w
    if lead.source.kind == "circuit":
        return min(watts, breaker_w(plan, lead))
    return min(watts, source_w(plan, lead.source.kind, lead.source.id)) if asked else watts


def source_w(plan: Plan, kind: SourceKind, source_id: str) -> float:
    """What a source gives for hours at all its outlets together, W; of a linked pair both units.

    Source: ratings of plates.
    """
    if kind == "link":
        link = plan.links[source_id]
        return sum(plan.stations[unit].rated_va for unit in (link.leg_a, link.leg_b))
    if kind == "vehicle":
        return plan.vehicles[source_id].gives_w
    return plan.generators[source_id].rated_w if kind == "generator" else plan.stations[source_id].rated_va


def breaker_w(plan: Plan, lead: Lead) -> float:
    """What a circuit carries for hours, W. Source: NEC 210.20(A), from memory."""
    circuit = plan.circuits[lead.source.id]
    return LASTING * circuit.rated_a * circuit.poles * plan.site.leg_volts
