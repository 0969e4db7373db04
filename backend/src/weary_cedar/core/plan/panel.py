"""A breaker panel: numbered spaces, rows that alternate legs."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Id, Name, Noun, OnPlate, Ref, Survey

Leg = Literal["A", "B"]


class Panel(Noun):
    """A panel with `spaces` numbered as usual: odd down the left, even down the right."""

    name: Name
    main_a: Annotated[Amps | None, OnPlate("the rating of its main breaker", "A")] = 200.0
    bus_a: Annotated[Amps | None, OnPlate("the rating of its bus", "A")] = Field(
        default=200.0, description="on its label; at least that of its main breaker where it is not known"
    )
    spaces: Annotated[int, Field(ge=2, le=84)] = 24
    first_leg: Leg = "A"
    neutral_bus_a: Amps | None = Field(default=None, description="that of the bus if absent")
    survey: Survey = Field(default_factory=dict)
    fed_from: Annotated[Id | None, Ref("circuits", "lets_go")] = Field(
        default=None, description="circuit of another panel; the service if absent"
    )

    @property
    def words(self) -> str:
        """Its main breaker, bus and spaces."""
        main, bus = ("not known" if one is None else f"{one:g} A" for one in (self.main_a, self.bus_a))
        return f"main {main}, bus {bus}, {self.spaces} spaces"

    @property
    def bus_carries_a(self) -> float | None:
        """What its bus carries, A: as said, else no less than its main breaker; nothing if neither is known.

        Source: NFPA 70 (2023) 408.36, from memory: a panelboard's main device is not over its rating.
        """
        return self.main_a if self.bus_a is None else self.bus_a

    @property
    def neutral_carries_a(self) -> float | None:
        """What its neutral bus carries, A: as said, else as much as its bus."""
        return self.bus_carries_a if self.neutral_bus_a is None else self.neutral_bus_a

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
