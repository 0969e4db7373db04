"""Two 120 V stations joined to 120/240 V by their maker's kit."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Id, Name, Owned, Ref
from weary_cedar.core.plan.receptacle import Receptacle


class Link(Owned):
    """Two units as one: one on each leg (the first empty stops both), or in parallel."""

    name: Name
    kind: Literal["two_legs", "parallel"] = Field(
        default="two_legs", description="one unit on each leg, or both units on both legs side by side"
    )
    leg_a: Annotated[Id, Ref("stations")]
    leg_b: Annotated[Id, Ref("stations")]
    receptacles: dict[Id, Receptacle] = Field(
        default_factory=dict, description="outlets of the kit itself, beside those of its units"
    )
    ac_charging: Literal["refused", "drops_output", "allowed", "unknown"] = Field(
        default="unknown", description="what the linked units do when AC charges one of them"
    )
