"""What a lead into an input is to charge with."""

from weary_cedar.core.plan import Lead, Plan, ToInput

#: A lasting load takes so much of a breaker: NEC 210.20(A), from memory.
LASTING = 0.8


def charge_w(plan: Plan, lead: Lead, *, fast: bool = False) -> float:
    """What a lead is to charge with, W.

    Args:
        plan: the plan.
        lead: that ends at an input.
        fast: as much as input and circuit carry, instead of what it is set to.

    Returns:
        From a circuit within 80 % of its breaker.
    """
    assert isinstance(lead.to, ToInput)
    entry = plan.stations[lead.to.station_id].ac_inputs.get(lead.to.input_id)
    most_w = (
        entry.most_w
        if entry is not None
        else plan.stations[lead.to.station_id].dc_inputs[lead.to.input_id].most_w
    )
    watts = most_w if (fast and entry is not None) or lead.to.setting_w is None else lead.to.setting_w
    return min(watts, breaker_w(plan, lead)) if lead.source.kind == "circuit" else watts


def breaker_w(plan: Plan, lead: Lead) -> float:
    """What a circuit carries for hours, W. Source: NEC 210.20(A), from memory."""
    circuit = plan.circuits[lead.source.id]
    return LASTING * circuit.breaker_a * circuit.poles * plan.site.leg_volts
