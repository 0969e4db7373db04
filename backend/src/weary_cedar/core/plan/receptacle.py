"""Outlets of a source, and how its neutral is tied to ground."""

from typing import Literal

from weary_cedar.core.plan.base import Amps, Answer, Name, Noun

#: Neutral to ground inside the source. "changes": different in bypass than on battery.
Neutral = Literal["floating", "bonded", "switchable", "changes", "unknown"]


class Receptacle(Noun):
    """A group of outlets behind one breaker; `kind` by its configuration, such as L14-30."""

    kind: Name
    rating_a: Amps
    gfci: Answer = "unknown"
