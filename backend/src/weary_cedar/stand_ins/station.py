"""A simulated power station with a display: its figures are off from the plan's, as a real one's are."""

import random
from dataclasses import dataclass, field
from datetime import datetime
from hashlib import blake2b
from typing import Any

from weary_cedar.core.decide.chance import Varying
from weary_cedar.core.decide.chance.drawn import drawn
from weary_cedar.core.log.displays import display_at
from weary_cedar.core.log.from_then_on import as_it_went
from weary_cedar.core.log.session import Session
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Plan

#: In so many of the hours the link to it is lost for some minutes.
DROPS, DROP_S = 0.1, 300.0
HOUR_S = 3_600.0
#: Slowest and fastest clock, times the real one.
SPEEDS = (1.0, 600.0)


@dataclass
class SimulatedStation:
    """One station of a plan as it might really be.

    Args:
        plan: the plan; its outage begins when the session does.
        station_id: which station.
        session: what was switched so far; more may be told by `goes_on`.
        seed: the same one gives the same station: cells, idle draw, losses, loads and sky are drawn by it.
        drops: whether the link is lost now and then.
    """

    plan: Plan
    station_id: str
    session: Session
    seed: int = 1
    drops: bool = True
    _true: Plan = field(init=False)
    _run: RunResult = field(init=False)

    def __post_init__(self) -> None:
        told = Varying(seed=self.seed, no_start=0.0, forgets=0.0)
        went = self.plan.model_copy(
            update={"outage": self.plan.outage.model_copy(update={"start_local": self.session.begins})}
        )
        self._true = drawn(went, 0, told).plan
        self.goes_on(self.session)

    def goes_on(self, session: Session) -> None:
        """Take up what was switched since."""
        self.session = session
        self._run = run_outage(as_it_went(self._true, session))

    @property
    def length_s(self) -> float:
        """How long it can be followed, s."""
        return self._run.length_s

    @property
    def true_plan(self) -> Plan:
        """The plan with its true figures."""
        return self._true

    def linked(self, t: float) -> bool:
        """Whether it can be reached at a moment, s after the beginning."""
        if not self.drops:
            return True
        hour = int(t // HOUR_S)
        dice = random.Random(blake2b(f"{self.seed}/{hour}".encode(), digest_size=8).digest())
        lost = dice.random() < DROPS
        first = dice.random() * (HOUR_S - DROP_S)
        return not (lost and first <= t - hour * HOUR_S < first + DROP_S)

    def at(self, t: float) -> datetime:
        """The moment by the clock of the site."""
        return self.plan.site.instant(self.session.begins, t).replace(tzinfo=None)

    def shown(self, t: float) -> dict[str, Any]:
        """What it tells of itself at a moment: the form that a real one is asked in, too."""
        display = display_at(self._true, self._run, self.station_id, t)
        return {
            "station": self.station_id,
            "name": self.plan.stations[self.station_id].name,
            "at": self.at(t).isoformat(timespec="seconds"),
            "charge_percent": display.percent,
            "in_w": display.in_w,
            "sun_w": display.sun_w,
            "out_w": display.out_w,
            "left_h": None if display.left_h is None else round(display.left_h, 1),
            "simulated": True,
        }
