"""An engine in the run: fuel, tank, hours.

Refused: quiet hours, a start without fuel, a start by hand with nobody there. Lost: fuel, no-load
litres an hour and litres for every kWh. Delayed: filling the tank takes the refuelling pause, and
someone has to be there; the second fuel is taken in the same pause when the first is used up, at less
power. Where the fuel on hand is not known, it is counted as enough, and said to be.
Units L, h, kWh. Common practice; figures of a fuel's class in generator_fuels.csv, from memory.
"""

import math
from typing import ClassVar

from weary_cedar.core.plan import CurvePoint, Generator
from weary_cedar.core.supply.fuel import flow
from weary_cedar.core.supply.overload import OverloadCurve

NEVER = math.inf
#: A fuel that comes by a pipe: no tank, nothing to fill, no end.
FROM_THE_STREET = "natural_gas"


class Engine:
    """Fuel and hours of one generator."""

    __slots__ = (
        "burned_l",
        "burned_second_l",
        "cans_l",
        "fails_at",
        "generator",
        "hours",
        "key",
        "l_per_h",
        "l_per_kwh",
        "on_second",
        "running",
        "starts",
        "tank_l",
    )
    STATE: ClassVar[str] = (
        "burned_l burned_second_l cans_l hours l_per_h l_per_kwh on_second running starts tank_l"
    )

    def __init__(self, key: str, generator: Generator) -> None:
        self.key = key
        self.generator = generator
        self.l_per_h, self.l_per_kwh = flow(generator) or (0.0, 0.0)
        on_hand, tank = generator.on_hand_l, generator.tank_l
        if generator.fuel == FROM_THE_STREET:
            self.tank_l, self.cans_l = NEVER, 0.0
        elif on_hand is None:
            self.tank_l, self.cans_l = (NEVER, 0.0) if tank is None else (tank, NEVER)
        else:
            self.tank_l = on_hand if tank is None else min(tank, on_hand)
            self.cans_l = on_hand - self.tank_l
        self.on_second = self.running = False
        #: Of both fuels, and of these of the second.
        self.burned_l = self.burned_second_l = 0.0
        self.hours = 0.0
        self.starts = 0
        #: Which of its starts does not succeed, from 1; none where it is 0.
        self.fails_at = 0

    @property
    def fuelled(self) -> bool:
        """Whether there is fuel in the tank."""
        return self.tank_l > 1e-9

    @property
    def refills(self) -> bool:
        """Whether there is more to fill in, of this fuel or of the second one."""
        return self.cans_l > 1e-9 or (self.generator.second_fuel is not None and not self.on_second)

    @property
    def rated_share(self) -> float:
        """Share of its rating on the fuel that it has now."""
        second = self.generator.second_fuel
        return second.rated_share if second is not None and self.on_second else 1.0

    @property
    def left_l(self) -> float | None:
        """Fuel in tank and cans, L; nothing where what is on hand is not known."""
        left = self.tank_l + self.cans_l
        return left if left < NEVER else None

    def start(self) -> bool:
        """Start it; returns whether it runs."""
        self.starts += 1
        self.running = self.starts != self.fails_at
        return self.running

    def burn(self, energy_wh: float, hours: float) -> None:
        """Book a stretch of running: litres = no-load · h + slope · kWh."""
        litres = self.l_per_h * hours + self.l_per_kwh * energy_wh / 1000.0
        self.burned_l += litres
        self.burned_second_l += litres if self.on_second else 0.0
        self.tank_l = max(0.0, self.tank_l - litres)
        self.hours += hours

    def lasts_s(self, watts: float) -> float:
        """How long the tank lasts at a load, s."""
        per_h = self.l_per_h + self.l_per_kwh * watts / 1000.0
        return NEVER if per_h <= 0 or self.tank_l == NEVER else self.tank_l / per_h * 3600.0

    def refuel(self) -> None:
        """Fill the tank from what is on hand; the second fuel when the first is used up."""
        if self.cans_l <= 1e-9 and self.refills:
            self._take_second()
            return
        second = self.generator.second_fuel
        tank = second.tank_l if second is not None and self.on_second else self.generator.tank_l
        room = (tank or NEVER) - self.tank_l
        litres = min(room, self.cans_l)
        self.tank_l += litres
        self.cans_l -= litres

    def _take_second(self) -> None:
        second = self.generator.second_fuel
        assert second is not None
        self.on_second = True
        own = self.generator.model_copy(
            update={"fuel": second.fuel, "no_load_l_per_h": None, "l_per_kwh": None}
        )
        self.l_per_h, self.l_per_kwh = flow(own) or (0.0, 0.0)
        endless = second.on_hand_l is None or second.fuel == FROM_THE_STREET
        on_hand = NEVER if endless or second.on_hand_l is None else second.on_hand_l
        whole = second.tank_l is None or second.fuel == FROM_THE_STREET
        self.tank_l = on_hand if whole or second.tank_l is None else min(second.tank_l, on_hand)
        self.cans_l = NEVER if on_hand == NEVER else on_hand - self.tank_l


def engine_curve(generator: Generator) -> OverloadCurve:
    """What an engine carries over its rating, and for how long.

    Args:
        generator: rated and starting watts.

    Returns:
        Its rating for ever, half of the way to its starting watts for two minutes, these for 0.3 s;
        starting watts of 1.15 × rated where the plate says nothing.

    Source: common practice, an estimate; a conventional engine carries starts that are not longer.
    """
    most = max(1.02, (generator.starting_w or 1.15 * generator.rated_w) / generator.rated_w)
    points = (
        CurvePoint(multiple=1.0),
        CurvePoint(multiple=min(20.0, 1 + (most - 1) / 2), seconds=120.0),
        CurvePoint(multiple=min(20.0, most), seconds=0.3),
    )
    return OverloadCurve(points)
