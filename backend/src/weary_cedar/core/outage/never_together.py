"""Loads of which never two run at the same time: one draws, the others wait without power."""

from __future__ import annotations

from typing import TYPE_CHECKING

from weary_cedar.core.plan import TogetherRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.kernel import OutageRun


class Exclusive:
    """One rule over its loads, the most important first; what draws already is not interrupted."""

    def __init__(self, rule: TogetherRule, loads: list[ConnectedLoad]) -> None:
        self.line = rule
        self.loads = loads

    def take_turns(self, run: OutageRun, t: float) -> None:
        """Hold those that want to draw beside the one that does; let the next go when none does."""
        wishing = [load for load in self.loads if load.powered and load.demand.watts > 0]
        drawing = [load for load in wishing if load.draw_w > 0]
        running = next(iter(drawing or wishing), None)
        for load in wishing:
            if load is not running:
                load.held = True
                run.did(self.line, t)
                run.set_power(t, load, False)
        for load in self.loads if running is None else ():
            if not load.held:
                continue
            load.held = False
            if run.may_run(load):
                run.set_power(t, load, True)
                if load.demand.watts > 0:
                    return


def exclusives(run: OutageRun) -> list[Exclusive]:
    """The rules of a run that keep loads apart, in their order."""
    rules = run.plan.strategy.followed(TogetherRule)
    return [Exclusive(rule, [load for load in run.loads if load.id in rule.load_ids]) for rule in rules]
