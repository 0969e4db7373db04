"""A branch circuit: one breaker and what hangs on it."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Id, Name, Noun

#: keep: must run · room: runs when there is room · off: breaker stays off in the outage.
Mark = Literal["keep", "room", "off"]


class Circuit(Noun):
    """One breaker in one panel. A two-pole breaker takes two spaces of one side, hence both legs."""

    panel_id: Id
    spaces: Annotated[tuple[Annotated[int, Field(ge=1, le=84)], ...], Field(min_length=1, max_length=2)]
    half: Literal["upper", "lower"] | None = None
    breaker_a: Amps
    label: Name
    mark: Mark = "off"
    order: Annotated[int, Field(ge=1, le=999)] = Field(default=50, description="1 is the last to go")
    multiwire_partner: Id | None = None

    @property
    def poles(self) -> int:
        """One pole on one leg, two poles across both."""
        return len(self.spaces)
