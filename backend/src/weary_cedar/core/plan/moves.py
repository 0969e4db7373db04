"""Moving and swapping breakers in a panel."""

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.plan.circuit import Circuit
from weary_cedar.core.plan.document import Plan


def move_breaker(plan: Plan, circuit_id: str, to_space: int) -> Plan:
    """Move a breaker to a space; what is there comes to the place that becomes free.

    Args:
        plan: the plan.
        circuit_id: the breaker.
        to_space: its new (upper) space; a two-pole breaker takes the one below on the same side too.

    Returns:
        The plan with the breaker moved, or exchanged with the breakers that were there.

    Raises:
        InvalidInput: no such space, or what is there cannot be exchanged with it.
    """
    circuit = plan.circuits[circuit_id]
    panel = plan.panels[circuit.panel_id]
    target = tuple(to_space + 2 * index for index in range(circuit.poles))
    if to_space < 1 or target[-1] > panel.spaces:
        raise _refused(to_space, f"{panel.name} has spaces 1 to {panel.spaces}")
    for feed in plan.feeds.values():
        if feed.panel_id == circuit.panel_id and set(feed.breaker_spaces) & set(target):
            raise _refused(to_space, "the feed breaker is there, and its interlock keeps it there")
    there = {
        key: other
        for key, other in plan.circuits.items()
        if key != circuit_id and other.panel_id == circuit.panel_id and set(other.spaces) & set(target)
    }
    if any(not set(other.spaces) <= set(target) for other in there.values()):
        raise _refused(to_space, "a two-pole breaker is there; move that one first")
    if circuit.half is not None and there:
        raise _refused(to_space, "a free space; a tandem is not exchanged")
    shift = dict(zip(target, circuit.spaces, strict=True))
    moved: dict[str, Circuit] = {circuit_id: circuit.model_copy(update={"spaces": target})}
    for key, other in there.items():
        moved[key] = other.model_copy(update={"spaces": tuple(shift[space] for space in other.spaces)})
    return plan.model_copy(update={"circuits": {**plan.circuits, **moved}})


def _refused(to_space: int, right: str) -> InvalidInput:
    problem = Problem("/to_space", str(to_space), right)
    return InvalidInput(str(problem), (problem,))
