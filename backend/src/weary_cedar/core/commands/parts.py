"""Commands about any part: taking it away, giving it another name, marking circuits."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.commands.command import Command, refused
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.circuit import Mark
from weary_cedar.core.plan.refs import ROOMS, without


def split(part: str) -> tuple[str, str]:
    """Room and id of a part that is written as one word, such as `loads/fridge`."""
    room, _, part_id = part.partition("/")
    if room not in ROOMS or not part_id:
        raise refused("/part", part, "a part as room/id, such as loads/fridge")
    return room, part_id


class Remove(Command):
    """Take a part away, with what cannot be without it and what names either."""

    usage = "remove ROOM/ID"
    command: Literal["remove"] = "remove"
    part: Annotated[str, Field(max_length=80)]

    def made(self, plan: Plan) -> Plan:
        """The plan without it."""
        return without(plan, *split(self.part))


class Rename(Command):
    """Give a part another name; nothing that hangs on it changes."""

    usage = "rename ROOM/ID NAME"
    command: Literal["rename"] = "rename"
    part: Annotated[str, Field(max_length=80)]
    name: Annotated[str, Field(min_length=1, max_length=80)]

    def made(self, plan: Plan) -> Plan:
        """The plan with its new name."""
        room, part_id = split(self.part)
        parts = getattr(plan, room)
        if part_id not in parts:
            problem = Problem("/part", shown(self.part), "a part of this plan")
            raise NotFound(str(problem), (problem,))
        field = "label" if room == "circuits" else "name"
        named = parts[part_id].model_copy(update={field: self.name})
        return plan.model_copy(update={room: {**parts, part_id: named}})


class MarkCircuits(Command):
    """Say of circuits whether they must run, run when there is room, or stay off."""

    usage = "mark keep|room|off CIRCUIT…"
    command: Literal["mark"] = "mark"
    mark: Mark
    circuit_ids: Annotated[tuple[str, ...], Field(min_length=1, max_length=2000)]

    def made(self, plan: Plan) -> Plan:
        """The plan with the mark on each of them."""
        for number, key in enumerate(self.circuit_ids):
            if key not in plan.circuits:
                problem = Problem(f"/circuit_ids/{number}", shown(key), "a circuit of this plan")
                raise NotFound(str(problem), (problem,))
        marked = {key: plan.circuits[key].model_copy(update={"mark": self.mark}) for key in self.circuit_ids}
        return plan.model_copy(update={"circuits": {**plan.circuits, **marked}})
