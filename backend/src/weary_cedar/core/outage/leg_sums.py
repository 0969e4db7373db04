"""What is drawn on both legs at a moment, and how it stands to the limits."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from weary_cedar.core.outage.connected import ConnectedLoad
from weary_cedar.core.outage.feed_limits import FeedLimits

#: Figures this close to a limit are at it, not over it.
SLACK = 1e-9


@dataclass(slots=True)
class LegSums:
    """P and Q of the 120 V loads of each leg and of the loads across both."""

    pa: float = 0.0
    qa: float = 0.0
    pb: float = 0.0
    qb: float = 0.0
    px: float = 0.0
    qx: float = 0.0

    def add(self, load: ConnectedLoad, watts: float) -> None:
        """Add a load at a power (negative to take it off)."""
        reactive = watts * load.q_per_w
        if load.across:
            self.px += watts
            self.qx += reactive
        elif load.on_leg_a:
            self.pa += watts
            self.qa += reactive
        else:
            self.pb += watts
            self.qb += reactive

    def a_va(self) -> float:
        """Apparent power on leg A, with half of what is across."""
        return math.hypot(self.pa + self.px / 2, self.qa + self.qx / 2)

    def b_va(self) -> float:
        """Apparent power on leg B, with half of what is across."""
        return math.hypot(self.pb + self.px / 2, self.qb + self.qx / 2)

    def total_va(self) -> float:
        """Apparent power of everything."""
        return math.hypot(self.pa + self.pb + self.px, self.qa + self.qb + self.qx)

    def watts(self) -> float:
        """Real power of everything."""
        return self.pa + self.pb + self.px

    def neutral_va(self) -> float:
        """Unbalance of the 120 V loads, in VA at leg voltage."""
        return math.hypot(self.pa - self.pb, self.qa - self.qb)

    def over(self, limits: FeedLimits) -> tuple[bool, bool, bool]:
        """Which limits are exceeded: leg A, leg B, total."""
        leg = limits.leg_va * (1 + SLACK)
        return self.a_va() > leg, self.b_va() > leg, self.total_va() > limits.total_va * (1 + SLACK)

    def multiple(self, limits: FeedLimits) -> float:
        """Worst multiple of a limit."""
        return max(
            self.a_va() / limits.leg_va, self.b_va() / limits.leg_va, self.total_va() / limits.total_va
        )

    def start_multiple(self, load: ConnectedLoad, start_va: float, limits: FeedLimits) -> float:
        """Worst multiple while `load` starts on top of what is here. Volt-amperes are added plainly."""
        share = start_va / 2 if load.across else start_va
        a = self.a_va() + share if load.on_leg_a else 0.0
        b = self.b_va() + share if load.on_leg_b else 0.0
        return max(a / limits.leg_va, b / limits.leg_va, (self.total_va() + start_va) / limits.total_va)


def sums_of(loads: Iterable[ConnectedLoad], wishes: bool = False) -> LegSums:
    """Sum what loads draw, or with `wishes` what the powered ones are about to draw."""
    sums = LegSums()
    for load in loads:
        watts = (load.demand.watts if load.powered else 0.0) if wishes else load.draw_w
        if watts:
            sums.add(load, watts)
    return sums
