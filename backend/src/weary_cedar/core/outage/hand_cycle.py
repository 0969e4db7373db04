"""Loads that someone lets run for a while at a time, to spare the battery.

Delayed: every switching on and off waits for someone who is awake and at home. Off by choice is not
counted as power that was missing; what it does to food is told by its compartments. Common practice.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar

from weary_cedar.core.outage.controls import NEVER, Control, of_the_first
from weary_cedar.core.plan import HandCycleRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.kernel import OutageRun


class HandCycleControl(Control):
    """One rule: its loads are on for a while of every stretch, from the change-over on."""

    STATE: ClassVar[str] = Control.STATE + " on_at"

    def __init__(self, rule: HandCycleRule, loads: list[ConnectedLoad]) -> None:
        super().__init__(rule)
        self.rule = rule
        self.loads = loads
        self.on_at = NEVER
        for load in loads:
            load.rests = True

    @property
    def about(self) -> str:
        return " ".join(load.id for load in self.loads)

    def look(self, run: OutageRun, t: float) -> None:
        """Begin with the change-over."""
        if self.on_at == NEVER and run.changed_over and self.loads:
            self.on_at = self.due_s = run.presence.next(t)
            self.keeps_off(t, run.end_s, off=True)

    def act(self, run: OutageRun, t: float) -> None:
        """Switch on, or off again."""
        turns_on = self.loads[0].rests
        for load in self.loads:
            load.rests = not turns_on
        run.rewired = True
        self.keeps_off(t, run.end_s, off=not turns_on)
        if turns_on:
            run.did(self.line, t)
            self.on_at = t
            self.due_s = run.presence.next(t + self.rule.on_s)
        else:
            self.due_s = run.presence.next(max(t, self.on_at + self.rule.every_s))


def hand_cycles(run: OutageRun) -> list[HandCycleControl]:
    """The rules of a run by which someone switches loads on and off; a load follows the first of them."""
    rules = run.plan.strategy.followed(HandCycleRule)
    return [HandCycleControl(rule, loads) for rule, loads in of_the_first(rules, run.loads)]
