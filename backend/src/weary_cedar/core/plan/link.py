"""Two 120 V stations joined to 120/240 V by their maker's kit."""

from typing import Literal

from pydantic import Field

from weary_cedar.core.plan.base import Id, Name, Owned


class Link(Owned):
    """One unit on each leg: each battery is drained by its own leg, the first empty stops both."""

    name: Name
    leg_a: Id
    leg_b: Id
    ac_charging: Literal["refused", "drops_output", "allowed", "unknown"] = Field(
        default="unknown", description="what the linked units do when AC charges one of them"
    )
