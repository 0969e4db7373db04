"""Commands about the blocks of the strip."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.commands.command import Command
from weary_cedar.core.decide.block_deeds import BlockDeed, done
from weary_cedar.core.plan import Plan

Key = Annotated[str, Field(min_length=1, max_length=200)]


class MoveBlock(Command):
    """Move a block of the strip, or let it last longer or shorter."""

    usage = "move BLOCK SECONDS [SECONDS]: when it begins after the cut, and how long it lasts"
    command: Literal["move"] = "move"
    key: Key
    at_s: Annotated[float, Field(ge=0, le=31 * 86_400, allow_inf_nan=False)]
    for_s: Annotated[float, Field(gt=0, le=31 * 86_400, allow_inf_nan=False)] | None = None

    def made(self, plan: Plan) -> Plan:
        """The plan with the block there, snapped to quarter hours."""
        return done(plan, BlockDeed(deed="move", key=self.key, at_s=self.at_s, for_s=self.for_s))


class RemoveBlock(Command):
    """Take a block of the strip away."""

    usage = "unblock BLOCK"
    command: Literal["unblock"] = "unblock"
    key: Key

    def made(self, plan: Plan) -> Plan:
        """The plan without it."""
        return done(plan, BlockDeed(deed="remove", key=self.key))
