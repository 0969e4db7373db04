"""Loads that run only while an engine runs, or while the sun gives enough."""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar, Final

from weary_cedar.core.outage.carriers import EngineCarrier
from weary_cedar.core.outage.controls import NEVER, Control, of_the_first
from weary_cedar.core.plan import WhileRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.kernel import OutageRun

#: They go off at this share of the sun at which they may run: no chattering.
OFF_SHARE: Final = 0.9
#: Let on by the sun, they stay on at least this long, s.
LEAST_ON_S: Final = 600.0


class WhileControl(Control):
    """One rule: looked at whenever an engine starts or stops, and whenever the sun changes.

    By the engine at once; by the sun from what all arrays give together on, until a tenth less is left of
    it, and for ten minutes at least. Common practice.
    """

    STATE: ClassVar[str] = Control.STATE + " sunny_since on"

    def __init__(self, rule: WhileRule, loads: list[ConnectedLoad]) -> None:
        super().__init__(rule)
        self.rule = rule
        self.loads = loads
        #: Since when the sun lets them run, s.
        self.sunny_since = NEVER
        self.on = False
        for load in loads:
            load.barred = True

    @property
    def about(self) -> str:
        return " ".join(load.id for load in self.loads)

    def look(self, run: OutageRun, t: float) -> None:
        """Let the loads on and off."""
        engine = run.parts.carriers.get(f"generators/{self.rule.generator_id}")
        runs = isinstance(engine, EngineCarrier) and engine.engine.running
        lets = runs or self._sunny(run, t)
        for load in self.loads:
            if load.barred == lets:
                load.barred = not lets
                run.rewired = True
        if lets and not self.on:
            run.did(self.line, t)
        self.on = lets

    def act(self, run: OutageRun, t: float) -> None:
        """It acts when it looks."""
        self.due_s = NEVER

    def _sunny(self, run: OutageRun, t: float) -> bool:
        """Whether the sun gives enough; sets when that is looked at again."""
        above_w = self.rule.sun_above_w
        if above_w is None:
            return False
        gives_w = sum(sun.offer.wall_w for sun in run.parts.suns)
        since = self.sunny_since
        stays_until = since + LEAST_ON_S if since < NEVER else t
        if gives_w > above_w or (since < NEVER and gives_w > OFF_SHARE * above_w) or t < stays_until:
            self.sunny_since = min(since, t)
            self.due_s = stays_until if t < stays_until else NEVER
            return True
        self.sunny_since = self.due_s = NEVER
        return False


def only_while(run: OutageRun) -> list[WhileControl]:
    """The rules of a run by which loads wait for an engine or the sun; a load follows the first of them."""
    rules = run.plan.strategy.followed(WhileRule)
    return [WhileControl(rule, loads) for rule, loads in of_the_first(rules, run.loads)]
