"""Loads that run only on sun that is left over."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, ClassVar, Final

from weary_cedar.core.outage.carriers import StationCarrier
from weary_cedar.core.outage.controls import Control
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.plan import SurplusRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.kernel import OutageRun

NEVER: Final = math.inf
#: They go off this far below the charge at which they may run, % points: no chattering.
OFF_BELOW: Final = 2.0
#: Once on they stay on at least this long, s.
LEAST_ON_S: Final = 600.0


class SurplusControl(Control):
    """Looked at whenever the sun changes and at its charges, the first load first.

    A load goes on when the charge is there and the sun at the AC side, less all that others draw, is as
    much as its own watts; off when the charge is two points lower, or without that surplus.
    """

    STATE: ClassVar[str] = Control.STATE + " on_since"

    def __init__(self, rule: SurplusRule, carrier: StationCarrier, loads: list[ConnectedLoad]) -> None:
        super().__init__(rule)
        self.rule = rule
        self.carrier = carrier
        self.loads = loads
        self.on_since: dict[str, float] = {}
        for load in loads:
            load.no_surplus = True

    @property
    def about(self) -> str:
        return self.carrier.key

    def look(self, run: OutageRun, t: float) -> None:
        """Let loads on and off by charge and sun."""
        left_w = self._sun_w(run) - self._others_w()
        charged = self.carrier.percent >= self.rule.above_percent * (1 - SLACK)
        lasting = self.carrier.percent >= (self.rule.above_percent - OFF_BELOW) * (1 - SLACK)
        due_s = NEVER
        for load in self.loads:
            wanted_w = load.demand.watts
            fits = left_w >= wanted_w > 0
            stays = load.id in self.on_since and t < self.on_since[load.id] + LEAST_ON_S
            on = stays or (fits and (charged or (lasting and not load.no_surplus)))
            if on:
                left_w -= wanted_w
            if on == load.no_surplus:
                load.no_surplus = not on
                run.rewired = True
                if on:
                    run.did(self.line, t)
                    self.on_since[load.id] = t
                else:
                    self.on_since.pop(load.id, None)
            if stays:
                due_s = min(due_s, self.on_since[load.id] + LEAST_ON_S)
        self.due_s = due_s

    def act(self, run: OutageRun, t: float) -> None:
        """It acts when it looks."""
        self.due_s = NEVER

    def _sun_w(self, run: OutageRun) -> float:
        """What the sun would give at the AC side, W."""
        units = self.carrier.units
        return sum(sun.offer.cells_w * sun.unit.efficiency for sun in run.parts.suns if sun.unit in units)

    def _others_w(self) -> float:
        own = sum(load.draw_w for load in self.loads)
        return self.carrier.ac_w + self.carrier.cord_w - own


def surplus_controls(run: OutageRun) -> list[SurplusControl]:
    """A control for every rule that is on and every station that feeds loads of it."""
    found = []
    for rule in run.plan.strategy.followed(SurplusRule):
        for carrier in run.stations:
            fed = {load.id: load for load in run.loads_of(carrier) if load.id in rule.load_ids}
            if fed:
                loads = [fed[key] for key in rule.load_ids if key in fed]
                found.append(SurplusControl(rule, carrier, loads))
    return found
