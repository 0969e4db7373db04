"""How long what is stored carries what is drawn, and how sure that is: said once, for all who show it."""

import math

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.network import network_of
from weary_cedar.core.plan import Plan
from weary_cedar.core.supply.station_energy import runtime_h, runtime_uncertainty

#: What such hours are about, in words: the run of an outage is about something else.
STORED_ONLY = "what is stored at the start, at the mean load, with nothing that recharges it"
AS_TYPED = "at these figures, with nothing that recharges it"
#: A doubt that is larger than this is counted as this: nothing draws next to nothing, or twice as much.
MOST_DOUBT = 0.6
#: Watts on leg A (or the only leg) and on leg B.
LegWatts = tuple[float, float]


class HowLong(BaseModel):
    """Hours with their range, by what share all that is drawn may be off, and what they are about."""

    model_config = ConfigDict(frozen=True)

    hours: float | None
    low_h: float | None
    high_h: float | None
    doubt: float
    basis: str = STORED_ONLY


class Stored:
    """What carries the loads: the units behind the feed that is run, or else the first station."""

    def __init__(self, plan: Plan) -> None:
        main = network_of(plan).main
        units = plan.source_units(main.hookup) if main else {}
        units = units or dict(sorted(plan.stations.items())[:1])
        self.units = list(units.values())
        self.windows_wh = [
            max(0.0, plan.start_wh(key) - unit.total_cell_wh * unit.cutoff_percent / 100.0)
            for key, unit in units.items()
        ]

    def hours(self, watts: LegWatts, factor: float = 1.0) -> float | None:
        """How long a mean load is carried, h; nothing without a station or without any draw.

        Of a linked pair each battery is drained by its own leg, and the first to be empty stops both.
        """
        by_unit = watts if len(self.units) > 1 else (sum(watts),)
        found = [
            runtime_h(window, max(0.0, factor * w), unit.inverter_efficiency, unit.idle_draw_w)
            for window, w, unit in zip(self.windows_wh, by_unit, self.units, strict=False)
        ]
        hours = min(found, default=math.inf)
        return hours if math.isfinite(hours) else None

    def how_long(self, watts: LegWatts, loads_off: float) -> HowLong:
        """How long a mean load is carried, and within what.

        Args:
            watts: mean load by leg, W.
            loads_off: by what share the loads may be off.

        Returns:
            Hours and their range; the doubt is that of loads and of stations as independent ones.

        Source: energy over power; independent doubts add as squares; doubts are common practice.
        """
        stations = max((runtime_uncertainty(unit, sum(watts)) for unit in self.units), default=0.0)
        doubt = min(MOST_DOUBT, math.hypot(loads_off, stations))
        return HowLong(
            hours=self.hours(watts),
            low_h=self.hours(watts, 1 + doubt),
            high_h=self.hours(watts, 1 - doubt),
            doubt=doubt,
        )
