"""A load on a timer: it cycles within its hours only, and owes nothing for the others."""

import math
from collections.abc import Sequence
from typing import ClassVar

from weary_cedar.core.demand.behaviour import Behaviour
from weary_cedar.core.demand.cycling import CyclingDemand


class TimedDemand(Behaviour):
    """A cycle inside windows given as (begin, end) in seconds from the start; outside it wants nothing."""

    __slots__ = ("_open", "_windows", "inside")
    STATE: ClassVar[str] = Behaviour.STATE + " _open _windows"

    def __init__(self, inside: CyclingDemand, windows: Sequence[tuple[float, float]]) -> None:
        super().__init__()
        self.inside = inside
        self._windows = [span for span in windows if span[1] > span[0]][::-1]
        self._open = False
        self._look(0.0)

    @property
    def wants(self) -> bool:
        """Whether its hours are on."""
        return self._open

    def _look(self, t: float) -> None:
        """Open or close at an edge, and say what comes next."""
        while self._windows and self._windows[-1][1] <= t:
            self._windows.pop()
        span = self._windows[-1] if self._windows else (math.inf, math.inf)
        opens = span[0] <= t
        if opens and not self._open:
            self.inside.skip_to(t)
            self.inside.power(t, self.powered)
        elif self._open and not opens:
            self.inside.power(t, False)
        self._open = opens
        self._follow(span)

    def _follow(self, span: tuple[float, float]) -> None:
        self.watts = self.inside.watts if self._open else 0.0
        self.next_s = min(self.inside.next_s, span[1]) if self._open else span[0]

    def step(self, t: float) -> None:
        """An edge of its hours, or a change of the cycle."""
        if self._open and self.inside.next_s <= t < self._windows[-1][1]:
            self.inside.step(t)
            self._follow(self._windows[-1])
        else:
            self._look(t)

    def power(self, t: float, on: bool) -> None:
        """Power gained or lost: the cycle notices it within its hours."""
        self.powered = on
        if self._open:
            self.inside.power(t, on)
            self._follow(self._windows[-1])

    def mean_w(self) -> float:
        """Mean of the cycle while its hours are on, W."""
        return self.inside.mean_w()

    def unserved_wh(self, without_s: float, open_s: float) -> float:
        """Mean draw over what was missed within its hours."""
        return self.inside.mean_w() * without_s / 3600.0
