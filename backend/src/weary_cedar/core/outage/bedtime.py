"""Circuits that stay off for the night where too little is left at bedtime."""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar

from weary_cedar.core.outage.carriers import StationCarrier
from weary_cedar.core.outage.controls import NEVER, ShedControl
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.plan import ReserveRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun


class BedtimeControl(ShedControl):
    """One rule at one station: looks at its charge at every bedtime only."""

    STATE: ClassVar[str] = ShedControl.STATE + " nights"

    def __init__(self, carrier: StationCarrier, rule: ReserveRule, nights: list[tuple[float, float]]) -> None:
        super().__init__(carrier, frozenset(rule.circuit_ids), rule.percent, rule.percent, "night")
        self.line = rule
        self.nights = nights[::-1]
        self.due_s = self.nights[-1][0] if self.nights else NEVER

    def look(self, run: OutageRun, t: float) -> None:
        """It looks at its hours only."""

    def act(self, run: OutageRun, t: float) -> None:
        """Bedtime: off, if too little is left. Morning: they may run again."""
        morning = self.nights[-1][1]
        if t < morning and not run.changed_over:
            self.due_s = min(morning, run.changeover_s)
            return
        if not self.off and t < morning:
            run.touch(self.carrier, t)
            self.off = self.carrier.percent < self.below * (1 - SLACK)
            if self.off:
                run.did(self.line, t)
                self.keeps_off(t, run.end_s, off=True)
                loads = [load for load in run.loads_of(self.carrier) if load.circuit.id in self.circuits]
                run.out.room_shed(t, self, loads)
            self.due_s = morning
        else:
            if self.off:
                self.keeps_off(t, run.end_s, off=False)
                run.out.room_back(t, self)
            self.off = False
            self.nights.pop()
            self.due_s = max(t, self.nights[-1][0]) if self.nights else NEVER
        run.rewired = True


def bedtimes(run: OutageRun) -> list[BedtimeControl]:
    """A control for every rule of this kind and every station that feeds circuits of it."""
    found = []
    for rule in run.plan.strategy.followed(ReserveRule):
        nights = run.calendar.windows(rule.bedtime, rule.until)
        for carrier in run.stations:
            fed = {key for way in carrier.ways for key in way.way.circuits}
            if fed & set(rule.circuit_ids):
                found.append(BedtimeControl(carrier, rule, nights))
    return found
