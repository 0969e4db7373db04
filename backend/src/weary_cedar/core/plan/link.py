"""Two 120 V stations joined to 120/240 V by their maker's kit."""

from weary_cedar.core.plan.base import Id, Name, Noun


class Link(Noun):
    """One unit on each leg: each battery is drained by its own leg, the first empty stops both."""

    name: Name
    leg_a: Id
    leg_b: Id
