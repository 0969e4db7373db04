"""An order of acts, judged from its beginning: the first that cannot be done, or must not be."""

from collections.abc import Sequence

from pydantic import BaseModel, Field

from weary_cedar.core.handles.bonds import ties
from weary_cedar.core.handles.conductors import node_of
from weary_cedar.core.handles.faults import Fault
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.steps import Move


class Stood(BaseModel):
    """How the house stands after an act."""

    step: int
    what: str
    to: str
    at_s: float = Field(description="since the first act, s")
    giving: list[str] = Field(description="sources that give: kind and id")
    live: dict[str, str] = Field(
        description="circuits and plugs that have power, each with the lead it is from"
    )
    utility: list[str] = Field(
        description="circuits and plugs that the utility's power reaches when it is there"
    )
    bonds: dict[str, list[str]] = Field(
        description="by lead that is in at both ends what ties its neutral to ground: house, source, bonding "
        "plug, or unknown; nothing: it floats"
    )


class Replay(BaseModel):
    """What came of an order: whether it is safe, and of the first act that is not, which and why."""

    safe: bool
    done: int
    step: int | None = None
    act: str | None = None
    kind: str | None = None
    code: str | None = None
    why: str | None = None
    states: list[Stood] = Field(default_factory=list, description="after each act that was done, where asked")


def replay(
    plan: Plan, acts: Sequence[Move], begins: dict[str, str] | None = None, *, states: bool = False
) -> Replay:
    """Judge an order of acts.

    Args:
        plan: the plan that the house is of.
        acts: in their order.
        begins: elements that do not stand as on the utility.
        states: whether how the house stands after each act is told.

    Returns:
        Safe, or the first act (counted from 1; 0 is how the house stands before) that is impossible or
        unsafe, and why.

    Raises:
        InvalidInput: an element or a position that there is not.
    """
    house = House(plan, begins)
    fault = house.standing()
    if fault is not None:
        return _told(0, "before the first step", fault)
    stood: list[Stood] = []
    for number, act in enumerate(acts, 1):
        fault = house.do(act, f"/acts/{number - 1}/what")
        if fault is not None:
            return _told(number, house.words(act), fault).model_copy(update={"states": stood})
        if states:
            stood.append(_stood(house, number, act))
    return Replay(safe=True, done=len(acts), states=stood)


def _stood(house: House, number: int, act: Move) -> Stood:
    joined, plan = house.joined, house.plan
    sources = {node_of(hookup) for hookup in plan.hookups.values()}
    plugged = [key for key in plan.hookups if joined.plugged(key)]
    return Stood(
        step=number,
        what=act.what,
        to=act.to,
        at_s=house.t,
        giving=sorted(node.removeprefix("source/") for node in sources if joined.gives(node)),
        live=dict(house.live),
        utility=[key for key in house.branches if joined.on_utility(key)],
        bonds={key: ties(joined, key) for key in plugged},
    )


def _told(number: int, act: str, fault: Fault) -> Replay:
    done = max(0, number - 1)
    return Replay(
        safe=False, done=done, step=number, act=act, kind=fault.kind, code=fault.code, why=fault.why
    )
