"""A measured series played back."""

import math
from typing import ClassVar

from weary_cedar.core.demand.behaviour import Behaviour
from weary_cedar.core.plan.load import Measured


class ReplayDemand(Behaviour):
    """Follows the series on the wall clock; what falls into a time without power is lost."""

    __slots__ = ("_at", "_round_s", "_spec")
    STATE: ClassVar[str] = Behaviour.STATE + " _at _round_s"

    def __init__(self, spec: Measured) -> None:
        super().__init__()
        self._spec = spec
        self._at = 0
        self._round_s = 0.0
        self._set()

    def _set(self) -> None:
        self.watts = self._spec.watts[self._at]
        if self._at + 1 < len(self._spec.t_s):
            self.next_s = self._round_s + self._spec.t_s[self._at + 1]
        else:
            self.next_s = self._round_s + self._spec.length_s

    def step(self, t: float) -> None:
        """The next point of the series, or its beginning again."""
        if self._at + 1 < len(self._spec.t_s):
            self._at += 1
        elif self._spec.repeats:
            self._at = 0
            self._round_s += self._spec.length_s
        else:
            self.watts, self.next_s = 0.0, math.inf
            return
        self._set()

    @property
    def wants(self) -> bool:
        """Missed only while the series draws something."""
        return self.watts > 0

    def mean_w(self) -> float:
        """Mean over the series, W."""
        ends = (*self._spec.t_s[1:], self._spec.length_s)
        parts = zip(self._spec.t_s, ends, self._spec.watts, strict=True)
        return sum((end - begin) * watts for begin, end, watts in parts) / self._spec.length_s

    def unserved_wh(self, without_s: float, open_s: float) -> float:
        """Mean of the series over the time without power that it wanted."""
        return self.mean_w() * without_s / 3600.0
