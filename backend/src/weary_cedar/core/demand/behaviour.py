"""What the run asks of every load, and the simplest answer."""

import math
from typing import ClassVar


class Behaviour:
    """A load's wish over time.

    `watts` is what it draws now if powered, `next_s` when that changes by itself. The run calls
    `step` at `next_s`, and `power` when the load gains or loses power.
    """

    __slots__ = ("next_s", "powered", "watts")
    #: What changes in a run: see `outage.state`.
    STATE: ClassVar[str] = "next_s powered watts"

    def __init__(self) -> None:
        self.watts = 0.0
        self.next_s = math.inf
        self.powered = False

    def step(self, t: float) -> None:
        """Go to the next state at its own moment."""

    def power(self, t: float, on: bool) -> None:
        """Take notice of power gained or lost."""
        self.powered = on

    @property
    def wants(self) -> bool:
        """Whether being without power now is a loss."""
        return True

    def begins(self, draw_w: float) -> bool:
        """Whether it starts at this moment, given what it drew until now."""
        return draw_w == 0.0

    def mean_w(self) -> float:
        """Long-term mean draw, W."""
        return self.watts

    def unserved_wh(self, without_s: float, open_s: float) -> float:
        """Energy not drawn and not made up, in Wh.

        Args:
            without_s: all seconds that it wanted power and had none.
            open_s: the last such stretch, if it lasts to the end, else 0.
        """
        return self.watts * without_s / 3600.0


class SteadyDemand(Behaviour):
    """Always the same."""

    __slots__ = ()

    def __init__(self, watts: float) -> None:
        super().__init__()
        self.watts = watts
