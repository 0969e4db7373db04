"""What holds a fixed amount of energy and gives it to a station: external batteries, vehicles.

Refused: nothing below what may be taken (half of lead-acid). Lost: the transfer (0.89 of an external
battery arrives). Delayed: a vehicle turns itself off after its timeout until someone turns it on.
Units Wh. Common practice.
"""

import math

from weary_cedar.core.plan import ExternalBattery, Vehicle
from weary_cedar.core.supply.unit import Offer

NEVER = math.inf


class Reserve:
    """Energy that is given through offers and, of a vehicle, through its outlet."""

    __slots__ = ("at_start_wh", "given_wh", "key", "known", "name", "offers", "on")

    def __init__(self, key: str, name: str, at_start_wh: float, *, known: bool = True) -> None:
        self.key = key
        self.name = name
        self.at_start_wh = at_start_wh
        self.known = known
        self.offers: list[Offer] = []
        #: Given through an outlet, booked by the carrier.
        self.given_wh = 0.0
        self.on = True

    @property
    def left_wh(self) -> float:
        """What is left, Wh; the books of its offers must be up to now."""
        left = self.at_start_wh - self.given_wh - sum(offer.taken_wh for offer in self.offers)
        return 0.0 if left < self.at_start_wh * 1e-9 + 1e-6 else left

    def lasts_s(self, watts: float) -> float:
        """How long it lasts at a power, s."""
        left = self.left_wh
        return NEVER if watts <= 0 or left == NEVER else left / watts * 3600.0


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
    tops_up = vehicle.kind == "engine" or (vehicle.kind == "hybrid" and vehicle.may_start_engine == "yes")
    total = battery_wh + (tank_wh if tops_up else 0.0)
    if total <= 0 and vehicle.usable_kwh is None:
        return Reserve(key, vehicle.name, NEVER, known=False)
    return Reserve(key, vehicle.name, total)
