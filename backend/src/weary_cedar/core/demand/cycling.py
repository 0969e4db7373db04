"""A load that cycles, owes what it missed, and may defrost."""

import math
from typing import ClassVar, Final
from zlib import crc32

from weary_cedar.core.demand.behaviour import Behaviour
from weary_cedar.core.plan.load import Cycling

GOLDEN: Final = 0.618


def default_phase(words: str) -> float:
    """Position in the cycle at the start, tied to what the load is called: other loads do not shift it.

    Args:
        words: its name, as an id is made from one.

    Returns:
        A fraction from 0 (just turned on) up to 1: frac(checksum · 0.618).

    Source: this program's rule; CRC-32 of the words, spread by the golden ratio.

    >>> default_phase("fridge") == default_phase("freezer")
    False
    """
    return (crc32(words.encode()) * GOLDEN) % 1.0


class CyclingDemand(Behaviour):
    """On for duty · period, off for the rest.

    Without power the clock stops and duty × time is owed; on return it goes on where it stopped, and what
    is owed is made up at the end of its next run: a compressor that had just stopped stays off. A defrost
    replaces the cycle on its own clock; one that is due without power happens when power is back.
    """

    __slots__ = (
        "_changes",
        "_cycle_left_s",
        "_defrost_due_s",
        "_defrost_left_s",
        "_lost_s",
        "_mark_s",
        "_missed_s",
        "_off_s",
        "_on",
        "_on_s",
        "_on_w",
        "_owed_s",
        "_runs",
        "_spec",
    )
    STATE: ClassVar[str] = (
        Behaviour.STATE
        + " _cycle_left_s _defrost_due_s _defrost_left_s _lost_s _mark_s _missed_s _on _owed_s"
    )

    def __init__(self, spec: Cycling, phase: float) -> None:
        super().__init__()
        self._spec = spec
        self._on_w, self._runs = spec.on_w, spec.duty > 0
        self._changes = 0 < spec.duty < 1
        self._on_s = spec.duty * spec.period_s
        self._off_s = spec.period_s - self._on_s
        at_s = phase * spec.period_s
        self._on = at_s < self._on_s
        self._cycle_left_s = (self._on_s if self._on else spec.period_s) - at_s
        #: Still to run at once, a door having stood open; and missed without power, for the end of a run.
        self._owed_s = self._missed_s = 0.0
        self._defrost_left_s = 0.0
        self._defrost_due_s = spec.defrost.every_s if spec.defrost else math.inf
        self._mark_s = 0.0
        self._lost_s = 0.0
        self.watts = self._return_w()

    def _return_w(self) -> float:
        """What it wants while it has no power: the rest of a defrost, or what it has to make up."""
        if self._defrost_left_s > 0:
            return self._wish_w()
        return self._spec.on_w if self._spec.duty > 0 or self._owed_s > 0 else 0.0

    def _wish_w(self) -> float:
        if self._defrost_left_s > 0:
            return self._spec.defrost.watts if self._spec.defrost else 0.0
        return self._on_w if self._owed_s > 0 or (self._on and self._runs) else 0.0

    def _left_s(self) -> float:
        if self._defrost_left_s > 0:
            return self._defrost_left_s
        if self._owed_s > 0:
            return self._owed_s
        return self._cycle_left_s if self._changes else math.inf

    def _schedule(self, t: float) -> None:
        self.watts = self._wish_w()
        ends_s = t + self._left_s()
        self.next_s = ends_s if self._defrost_left_s > 0 else max(t, min(ends_s, self._defrost_due_s))

    def step(self, t: float) -> None:
        """End of a stretch: of the cycle, of a debt, of a defrost, or a defrost falling due."""
        if self._defrost_left_s > 0:
            self._defrost_left_s = 0.0
        elif self._defrost_due_s <= t and self._spec.defrost:
            self._spend(t)
            self._defrost_left_s = self._spec.defrost.seconds
            self._defrost_due_s = t + self._spec.defrost.every_s
        elif self._owed_s > 0:
            self._owed_s = 0.0
        elif self._on and self._missed_s > 0:
            self._cycle_left_s, self._missed_s = self._missed_s, 0.0
        else:
            self._on = not self._on
            self._cycle_left_s = self._on_s if self._on else self._off_s
        self._mark_s = t
        self._schedule(t)

    def _spend(self, t: float) -> None:
        """Take the time since the last change off the stretch that was running."""
        passed = t - self._mark_s
        if self._defrost_left_s > 0:
            self._defrost_left_s = max(0.0, self._defrost_left_s - passed)
        elif self._owed_s > 0:
            self._owed_s = max(0.0, self._owed_s - passed)
        else:
            self._cycle_left_s = max(0.0, self._cycle_left_s - passed)

    def power(self, t: float, on: bool) -> None:
        """Stop the clock when power goes; when it is back, go on and owe duty × time."""
        if on and not self.powered:
            missed_s = self._spec.duty * (t - self._mark_s)
            if self._spec.duty < 1:
                self._missed_s += missed_s
            else:
                self._lost_s += missed_s
            self._mark_s = t
            self._schedule(t)
        elif self.powered and not on:
            self._spend(t)
            self._mark_s = t
            self.next_s = math.inf
            self.watts = self._return_w()
        self.powered = on

    def skip_to(self, t: float) -> None:
        """Go on from a moment as if no time had passed since it stopped."""
        self._mark_s = t

    def hold_on(self, t: float, seconds: float) -> None:
        """A door is left open: it runs on for so long, then goes on with its cycle."""
        if self.powered:
            self._spend(t)
            self._mark_s = t
        self._owed_s += seconds
        if self.powered:
            self._schedule(t)

    def mean_w(self) -> float:
        """Mean over cycles and defrosts, W."""
        spec = self._spec
        cycle_w = spec.on_w * spec.duty
        if not spec.defrost:
            return cycle_w
        share = spec.defrost.seconds / spec.defrost.every_s
        return cycle_w * max(0.0, 1 - share) + spec.defrost.watts * min(1.0, share)

    def unserved_wh(self, without_s: float, open_s: float) -> float:
        """What is still owed at the end: the rest was made up."""
        missed_s = (
            self._owed_s + self._missed_s + self._lost_s + (0.0 if self.powered else self._spec.duty * open_s)
        )
        return self._spec.on_w * missed_s / 3600.0
