"""A breaker panel: numbered spaces, rows that alternate legs."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Id, Name, Noun, Survey

Leg = Literal["A", "B"]


class Panel(Noun):
    """A panel with `spaces` numbered as usual: odd down the left, even down the right."""

    name: Name
    main_a: Amps = 200.0
    bus_a: Amps = 200.0
    spaces: Annotated[int, Field(ge=2, le=84)] = 24
    first_leg: Leg = "A"
    neutral_bus_a: Amps | None = Field(default=None, description="that of the bus if absent")
    survey: Survey = Field(default_factory=dict)
    fed_from: Id | None = Field(default=None, description="circuit of another panel; the service if absent")

    @property
    def rows(self) -> int:
        """Number of rows, two spaces each."""
        return (self.spaces + 1) // 2


def leg_of_space(space: int, first_leg: Leg = "A") -> Leg:
    """Leg that a panel space is on.

    Rows alternate legs: spaces 1 and 2 are on the first leg, 3 and 4 on the other, and so on.
    A tandem breaker takes its leg from its space, not from its half.

    Args:
        space: number of the space, from 1.
        first_leg: leg of the first row.

    Returns:
        "A" or "B".

    Raises:
        ValueError: for a space below 1.

    Source: common practice of the trade (usual panel construction; measure where it matters).

    >>> [leg_of_space(n) for n in (1, 2, 3, 4, 5)]
    ['A', 'A', 'B', 'B', 'A']
    """
    if space < 1:
        raise ValueError("spaces are numbered from 1")
    other: Leg = "B" if first_leg == "A" else "A"
    return first_leg if ((space - 1) // 2) % 2 == 0 else other
