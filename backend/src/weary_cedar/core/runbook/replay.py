"""An order of acts, judged from its beginning: the first that cannot be done, or must not be."""

from collections.abc import Sequence

from pydantic import BaseModel

from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.faults import Fault
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.steps import Move


class Replay(BaseModel):
    """What came of an order: whether it is safe, and of the first act that is not, which and why."""

    safe: bool
    done: int
    step: int | None = None
    act: str | None = None
    kind: str | None = None
    code: str | None = None
    why: str | None = None


def replay(plan: Plan, acts: Sequence[Move], begins: dict[str, str] | None = None) -> Replay:
    """Judge an order of acts.

    Args:
        plan: the plan that the house is of.
        acts: in their order.
        begins: elements that do not stand as on the utility.

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
    for number, act in enumerate(acts, 1):
        fault = house.do(act, f"/acts/{number - 1}/what")
        if fault is not None:
            return _told(number, house.words(act), fault)
    return Replay(safe=True, done=len(acts))


def _told(number: int, act: str, fault: Fault) -> Replay:
    done = max(0, number - 1)
    return Replay(
        safe=False, done=done, step=number, act=act, kind=fault.kind, code=fault.code, why=fault.why
    )
