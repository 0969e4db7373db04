"""One of the outages of a chance as a plan, to be opened and looked at."""

from weary_cedar.core.decide.chance.drawn import Varying, drawn
from weary_cedar.core.network import Network
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Act, Plan, read_plan
from weary_cedar.core.plan.ids import free_id


def as_plan(plan: Plan, number: int, varying: Varying) -> Plan:
    """An outage as it may be, as a plan whose run is that of the tried one.

    Args:
        plan: the plan of which the chance is told.
        number: of the outage.
        varying: the seed and what else varies.

    Returns:
        The plan with all that was drawn; an engine that does not come on is held off from that start on.

    Raises:
        InvalidPlan: what was drawn is beyond the bounds of a plan.
    """
    one = drawn(Network(plan).plan, number, varying)
    acts = dict(one.plan.outage.acts)
    run = run_outage(one.plan) if any(one.fails_at.values()) else None
    for key, start in one.fails_at.items():
        begun = [e.t_s for e in run.events if e.kind == "engine_on" and e.part == key] if run else []
        if 0 < start <= len(begun):
            act = {"at_s": begun[start - 1], "room": "generators", "part_id": key, "turn": "off"}
            acts[free_id(f"no start {key}", set(acts), "act")] = Act.model_validate(act)
    outage = one.plan.outage.model_copy(update={"acts": acts})
    document = one.plan.model_copy(update={"outage": outage}).model_dump(mode="json", exclude_none=True)
    return read_plan(document)
