"""When to do what: engine hours, jobs, recharging and acts of people, by hours counted and by exact runs."""

from weary_cedar.core.decide.schedule.bound import Bound, least_litres, least_worth
from weary_cedar.core.decide.schedule.dynamic import best_hours
from weary_cedar.core.decide.schedule.hours import (
    Hourly,
    Movable,
    Priced,
    Told,
    counted_hours,
    priced,
)
from weary_cedar.core.decide.schedule.settings import Doing, Setting, by_day, daily_settings, hand_settings
from weary_cedar.core.decide.schedule.worth import Cost, cost_of

__all__ = [
    "Bound", "Cost", "Doing", "Hourly", "Movable", "Priced", "Setting", "Told", "best_hours", "by_day",
    "cost_of", "counted_hours", "daily_settings", "hand_settings", "least_litres", "least_worth", "priced",
]  # fmt: skip
