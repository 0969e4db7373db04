"""What an outage costs its household, in the order in which it counts."""

from dataclasses import dataclass
from datetime import time
from typing import Final

import numpy as np

from weary_cedar.core.network import Network
from weary_cedar.core.outage import RunResult
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.plan import Plan, ReserveRule

#: What should be left at the end, % of charge, unless the plan as it stands leaves less. Common practice.
LEFT_PERCENT: Final = 30.0
#: Differences smaller than these do not count: s, Wh, Wh, s, Wh, L, starts, acts.
STEPS: Final = (60.0, 25.0, 100.0, 600.0, 50.0, 0.1, 1.0, 1.0)
#: Less than this is not missing to a reserve, % of charge. Common practice.
SEEN_PERCENT: Final = 5.0


@dataclass(frozen=True)
class Cost:
    """What is missed and spent, the gravest first; smaller is better."""

    #: Time of the outage after something that must run is lost, s.
    lost_s: float
    #: Energy that is missing to loads that must run, and to those marked room, Wh.
    keep_wh: float
    room_wh: float
    #: Time that food or rooms are beyond their limits, s.
    over_s: float
    #: What is missing to the reserve of the nights and of the end, Wh.
    reserve_wh: float
    litres: float
    engine_starts: int
    #: What someone does by hand.
    hand_acts: int

    @property
    def rank(self) -> tuple[int, ...]:
        """What is compared: each figure in steps that count."""
        figures = (
            self.lost_s, self.keep_wh, self.room_wh, self.over_s, self.reserve_wh, self.litres,
            self.engine_starts, self.hand_acts,
        )  # fmt: skip
        return tuple(round(figure / step) for figure, step in zip(figures, STEPS, strict=True))

    def serves_alike(self, other: "Cost") -> bool:
        """Whether all that is wanted is served as well as there: they differ in what is spent only."""
        return self.rank[:5] == other.rank[:5]


def cost_of(plan: Plan, network: Network, run: RunResult, left_wh: float, hand_acts: int = 0) -> Cost:
    """What an outage costs, by its run.

    Args:
        plan: the plan.
        network: of it.
        run: of it.
        left_wh: what should be left at the end, Wh.
        hand_acts: what someone does by hand beside what the run has.

    Returns:
        The cost; energy that is missing is that of loads which a feed reaches.
    """
    until_s = run.verdict.until_s
    missing = {"keep": 0.0, "room": 0.0, "off": 0.0}
    for key, share in run.loads.items():
        hang = network.hangs[key]
        if hang.branch in network.branches:
            missing[hang.mark] += share.unserved_wh
    over = sum(item.over_s for item in run.compartments.values())
    over += sum(run.length_s - item.under_at_s for item in run.indoor.values() if item.under_at_s is not None)
    missed = [want - stored_at(run, t) for t, want in reserves(plan, run, left_wh)]
    seen_wh = run.capacity_wh * SEEN_PERCENT / 100.0
    engines = [item for item in run.sources.values() if item.kind == "generator"]
    return Cost(
        lost_s=0.0 if until_s is None else run.length_s - until_s,
        keep_wh=missing["keep"],
        room_wh=missing["room"],
        over_s=over,
        reserve_wh=sum(wh for wh in missed if wh > seen_wh),
        litres=sum(item.burned_l or 0.0 for item in run.sources.values()),
        engine_starts=sum(item.starts or 0 for item in engines),
        hand_acts=hand_acts,
    )


def left_at_the_end(run: RunResult) -> float:
    """What a schedule leaves in the cells at the least, Wh: a reserve, or as much as the plan leaves."""
    return min(run.capacity_wh * LEFT_PERCENT / 100.0, stored_at(run, run.length_s))


def reserves(plan: Plan, run: RunResult, left_wh: float) -> list[tuple[float, float]]:
    """Moments at which something should be left, s, and how much, Wh: bedtimes with a rule, and the end."""
    found = [(run.length_s, left_wh)]
    calendar = Calendar(plan.site, plan.outage)
    for rule in plan.strategy.followed(ReserveRule):
        want = run.capacity_wh * rule.percent / 100.0
        found += [(t, want) for t in _every_day(calendar, rule.bedtime) if 0 < t < run.length_s]
    return sorted(found)


def _every_day(calendar: Calendar, at: time) -> list[float]:
    return [calendar.moment(day, at) for day in range(int(calendar.length_s // 86_400) + 3)]


def stored_at(run: RunResult, t: float) -> float:
    """Energy in all cells together at a moment, Wh; straight between change points."""
    return float(np.interp(t, run.series.t_s, run.series.stored_wh)) if run.series.t_s else 0.0
