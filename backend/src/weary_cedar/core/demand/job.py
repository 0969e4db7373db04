"""Something done at a time of day."""

import math
from collections.abc import Sequence
from typing import ClassVar

from weary_cedar.core.demand.behaviour import Behaviour
from weary_cedar.core.plan.load import Job


class JobDemand(Behaviour):
    """Steps of power inside windows given as (earliest, latest) seconds from the start.

    Not begun by its latest moment it is dropped. Begun and then without power, a splittable job
    goes on where it stopped, another begins again from its first step.
    """

    __slots__ = (
        "_begun",
        "_dropped_wh",
        "_index",
        "_left_s",
        "_mark_s",
        "_spec",
        "_tried",
        "_waiting",
        "_windows",
    )
    STATE: ClassVar[str] = (
        Behaviour.STATE + " _begun _dropped_wh _index _left_s _mark_s _tried _waiting _windows"
    )

    def __init__(self, spec: Job, windows: Sequence[tuple[float, float]]) -> None:
        super().__init__()
        self._spec = spec
        self._windows = list(windows)[::-1]
        self._waiting = False
        self._begun = False
        #: Some of it was done.
        self._tried = False
        self._index = 0
        self._left_s = 0.0
        self._mark_s = 0.0
        self._dropped_wh = 0.0
        self.next_s = self._windows[-1][0] if self._windows else math.inf

    @property
    def wants(self) -> bool:
        """Waiting to begin, or begun."""
        return self._waiting or self._begun

    def _whole_wh(self) -> float:
        return sum(step.watts * step.minutes / 60.0 for step in self._spec.steps)

    def _enter(self, index: int, t: float) -> None:
        self._index = index
        self._left_s = self._spec.steps[index].minutes * 60.0
        self._mark_s = t
        self.watts = self._spec.steps[index].watts

    def _finish(self, t: float) -> None:
        self._waiting = self._begun = False
        self.watts = 0.0
        while self._windows and self._windows[-1][0] <= t:
            self._windows.pop()
        self.next_s = self._windows[-1][0] if self._windows else math.inf

    def step(self, t: float) -> None:
        """Its hour comes, its hour passes, or a step ends."""
        if self._begun:
            self._tried = True
            if self._index + 1 < len(self._spec.steps):
                self._enter(self._index + 1, t)
                self.next_s = t + self._left_s
            else:
                self._finish(t)
        elif self._waiting:
            self._dropped_wh += self._whole_wh()
            self._finish(t)
        else:
            self._waiting, self._tried = True, False
            self._enter(0, t)
            self.next_s = self._windows[-1][1]
            if self.powered:
                self._begin(t)

    def _begin(self, t: float) -> None:
        self._waiting, self._begun = False, True
        self._mark_s = t
        self.next_s = t + self._left_s

    def power(self, t: float, on: bool) -> None:
        """Begin when power is there, pause or start again when it goes.

        What began in the very second in which power goes waits as before, until its latest hour.
        """
        if on and not self.powered and self.wants:
            self._begin(t)
        elif self.powered and not on and self._begun:
            self._tried = self._tried or t > self._mark_s
            if not self._tried:
                self._waiting, self._begun = True, False
                self.next_s = self._windows[-1][1]
            else:
                self._pause(t)
        self.powered = on

    def _pause(self, t: float) -> None:
        """Stop where it is, or so that it begins again from its first step."""
        if self._spec.splittable:
            self._left_s -= t - self._mark_s
            self._mark_s = t
        else:
            self._enter(0, t)
        self.next_s = math.inf

    def mean_w(self) -> float:
        """Mean over a day, W (of one occurrence a day)."""
        return self._whole_wh() / 24.0 if self._spec.daily else 0.0

    def unserved_wh(self, without_s: float, open_s: float) -> float:
        """Dropped jobs, and what remains of one that was stopped."""
        if not self._begun and not self._waiting:
            return self._dropped_wh
        later = sum(s.watts * s.minutes / 60.0 for s in self._spec.steps[self._index + 1 :])
        return self._dropped_wh + self.watts * self._left_s / 3600.0 + later
