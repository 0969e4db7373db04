"""What holds a fixed amount of energy and gives it to a station: external batteries, vehicles.

Refused: nothing below what may be taken (half of lead-acid). Lost: the transfer (0.9 of an external
battery arrives). Delayed: a vehicle turns itself off after its timeout until someone turns it on.
Units Wh. Common practice.
"""

import math
from typing import ClassVar, Final

from weary_cedar.core.plan import ExternalBattery, Vehicle
from weary_cedar.core.supply.unit import Offer

NEVER: Final = math.inf


class Reserve:
    """Energy that is given through offers and, of a vehicle, through its outlet."""

    __slots__ = ("at_start_wh", "efficiency", "given_wh", "key", "known", "name", "offers", "on")
    STATE: ClassVar[str] = "given_wh on"

    def __init__(
        self, key: str, name: str, at_start_wh: float, *, known: bool = True, efficiency: float = 1.0
    ) -> None:
        self.key = key
        self.name = name
        self.at_start_wh = at_start_wh
        self.known = known
        #: What arrives at its outlet or socket of what it gives: an inverter or a converter is between.
        self.efficiency = efficiency
        self.offers: list[Offer] = []
        #: Given through an outlet, Wh there, booked by the carrier.
        self.given_wh = 0.0
        self.on = True

    @property
    def drawn_wh(self) -> float:
        """What was taken from it so far, Wh; the books of its offers must be up to now."""
        return (self.given_wh + sum(offer.taken_wh for offer in self.offers)) / self.efficiency

    @property
    def left_wh(self) -> float:
        """What is left, Wh; the books of its offers must be up to now."""
        left = self.at_start_wh - self.drawn_wh
        return 0.0 if left < self.at_start_wh * 1e-9 + 1e-6 else left

    def lasts_s(self, watts: float) -> float:
        """How long it lasts while so much arrives from it, s."""
        left = self.left_wh
        return NEVER if watts <= 0 or left == NEVER else left * self.efficiency / watts * 3600.0


def external_reserve(key: str, battery: ExternalBattery, percent: float) -> Reserve:
    """What an external battery gives: its energy by its charge, lead-acid to half only.

    Source: common practice.
    """
    deepest = 1.0 - battery.usable_share
    return Reserve(key, battery.name, battery.total_wh * max(0.0, percent / 100.0 - deepest))


def vehicle_reserve(key: str, vehicle: Vehicle, percent: float) -> Reserve:
    """What a vehicle gives: its battery, and its tank where its engine tops up.

    Args:
        key: of the vehicle.
        vehicle: usable kWh, tank and kWh for each litre.
        percent: charge of its battery at the start.

    Returns:
        A reserve; endless and not known where neither battery nor tank is given.

    Source: common practice (a tank times what the engine gives for each litre).
    """
    battery_wh = (vehicle.usable_kwh or 0.0) * 1000.0 * percent / 100.0
    tank_wh = (vehicle.tank_l or 0.0) * (vehicle.kwh_per_l or 0.0) * 1000.0
    total = battery_wh + (tank_wh if vehicle.tops_up else 0.0)
    known = total > 0 or vehicle.usable_kwh is not None
    share = vehicle.inverter_efficiency
    return Reserve(key, vehicle.name, total if known else NEVER, known=known, efficiency=share)


def topped_up(vehicle: Vehicle, percent: float, given_wh: float) -> tuple[float, int]:
    """What the engine of a vehicle burned for what was given, and how often it started.

    Args:
        vehicle: usable kWh, kWh for each litre, tank, and the charges at which its engine starts and stops.
        percent: charge of its battery at the start.
        given_wh: taken from it in all, Wh at its battery.

    Returns:
        Litres, no more than the tank holds, and starts: the first when the battery is down to the lower
        charge, each for what lies between both; an engine without a battery to fill runs all the time.

    Source: common practice (energy over what the engine gives for each litre).
    """
    if not vehicle.tops_up or not vehicle.kwh_per_l or given_wh <= 0:
        return 0.0, 0
    battery_wh = (vehicle.usable_kwh or 0.0) * 1000.0
    before_wh = battery_wh * max(0.0, percent - vehicle.tops_up_below_percent) / 100.0
    by_engine_wh = max(0.0, given_wh - before_wh)
    once_wh = battery_wh * (vehicle.tops_up_to_percent - vehicle.tops_up_below_percent) / 100.0
    litres = by_engine_wh / 1000.0 / vehicle.kwh_per_l
    if vehicle.tank_l is not None:
        litres = min(litres, vehicle.tank_l)
    if litres <= 0:
        return 0.0, 0
    return litres, max(1, math.ceil(litres * vehicle.kwh_per_l * 1000.0 / once_wh)) if once_wh > 0 else 1
