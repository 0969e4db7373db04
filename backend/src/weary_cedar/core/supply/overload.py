"""What an inverter carries over its rating, and for how long."""

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import ClassVar, Final

from weary_cedar.core.plan.overload_curve import CurvePoint

#: No overload trips faster than this, s.
SHORTEST_S: Final = 0.01
#: What goes out of an account in a second at or under its rating: full, it is empty in a minute.
EMPTIES: Final = -1.0 / 60.0
#: Longest time that a curve is followed to, as log(s): longer than any outage.
LONGEST_LOG: Final = math.log(1e9)


class OverloadCurve:
    """Multiples of rating against seconds, log-time between the points.

    At and below the last point without a time the load is carried for ever. Between that point and
    the first timed one, time follows the first timed segment onwards (so it stays finite). Beyond
    the last point the last segment is continued, down to 10 ms. Where nothing is said beyond what is
    carried for ever, anything above that trips at once: what is not known is not taken for carried.

    Source: the interpolation is this program's; the default points are an estimate from memory.
    """

    __slots__ = ("_carried", "_segments", "forever")

    def __init__(self, points: Sequence[CurvePoint]) -> None:
        self.forever = max((p.multiple for p in points if p.seconds is None), default=1.0)
        timed = [(p.multiple, math.log(p.seconds)) for p in points if p.seconds is not None]
        if len(timed) == 1:
            timed.append((timed[0][0] + 1.0, math.log(SHORTEST_S)))
        #: Multiples that were asked for, by their seconds.
        self._carried: dict[float, float] = {}
        self._segments = [(m0, t0, m1, t1) for (m0, t0), (m1, t1) in pairwise(timed)]

    def seconds(self, multiple: float) -> float:
        """Time that a multiple of rating is carried, in s; infinite where it is carried for ever.

        >>> from weary_cedar.core.plan.overload_curve import DEFAULT_CURVE
        >>> round(OverloadCurve(DEFAULT_CURVE).seconds(1.28), 6)
        10.0
        """
        if multiple <= self.forever:
            return math.inf
        if not self._segments:
            return SHORTEST_S
        m0, t0, m1, t1 = next((s for s in self._segments if multiple <= s[2]), self._segments[-1])
        return max(SHORTEST_S, math.exp(min(LONGEST_LOG, t0 + (t1 - t0) * (multiple - m0) / (m1 - m0))))

    def carried_multiple(self, seconds: float) -> float:
        """Largest multiple of rating that is carried for `seconds`; never below the lasting one.

        >>> from weary_cedar.core.plan.overload_curve import DEFAULT_CURVE
        >>> round(OverloadCurve(DEFAULT_CURVE).carried_multiple(1.0), 6)
        1.5
        """
        if not self._segments:
            return self.forever
        found = self._carried.get(seconds)
        if found is None:
            log_s = math.log(max(seconds, SHORTEST_S))
            m0, t0, m1, t1 = next((s for s in self._segments if log_s >= s[3]), self._segments[-1])
            found = max(self.forever, m0 + (m1 - m0) * (log_s - t0) / (t1 - t0))
            self._carried[seconds] = found
        return found


class OverloadAccount:
    """Fills at 1/T(m) per second over rating, empties in 60 s at or under it; full means trip."""

    __slots__ = ("_curve", "_rate", "active", "level")
    STATE: ClassVar[str] = "_rate active level"

    def __init__(self, curve: OverloadCurve) -> None:
        self._curve = curve
        self._rate = 0.0
        self.level = 0.0
        #: Whether it fills, or has something to empty.
        self.active = False

    def load(self, multiple: float) -> float:
        """Set the present multiple of rating; returns the seconds until the account is full."""
        if multiple <= 1.0:
            self._rate = EMPTIES
            self.active = self.level > 0
            return math.inf
        carried_s = self._curve.seconds(multiple)
        self._rate = 0.0 if carried_s == math.inf else 1.0 / carried_s
        self.active = self.level > 0 or self._rate > 0
        return (1.0 - self.level) * carried_s

    def after(self, seconds: float) -> float:
        """How full it will be when so much time has passed at the present multiple."""
        if self.active:
            return min(1.0, max(0.0, self.level + self._rate * seconds))
        return 0.0

    def advance(self, seconds: float) -> None:
        """Let time pass at the present multiple."""
        if self.active:
            self.level = self.after(seconds)
            self.active = self.level > 0 or self._rate > 0

    def clear(self) -> None:
        """Empty the account, as a reset does."""
        self.level = 0.0
        self.active = self._rate > 0
