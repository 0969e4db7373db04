"""What is stored, between two moments in which nothing changes: dE/dt = a + b·E."""

import math
from typing import Final

#: Below this rate of relaxing (1/h) a course is a straight line: nothing measurable bends.
STRAIGHT: Final = 1e-12


def after(value: float, a: float, b: float, hours: float) -> float:
    """Value after a time of dE/dt = a + b·E.

    Args:
        value: at the beginning, Wh (or K, L).
        a: constant part of the rate, per hour.
        b: part of the rate for each unit of what is stored, per hour.
        hours: time, h.

    Returns:
        E(t) = (E₀ + a/b)·exp(b·t) − a/b; a straight line where b is nil.

    Source: solution of a linear differential equation of first order.

    >>> after(100.0, 5.0, 0.0, 2.0)
    110.0
    >>> round(after(0.0, 10.0, -0.1, 1e6), 6)
    100.0
    """
    if abs(b) < STRAIGHT:
        return value + a * hours
    rests_at = -a / b
    return rests_at + (value - rests_at) * math.exp(b * hours)


def hours_to(value: float, goal: float, a: float, b: float) -> float:
    """Time until a value reaches a goal under dE/dt = a + b·E.

    Args:
        value: at the beginning.
        goal: what it should reach.
        a: constant part of the rate, per hour.
        b: part of the rate for each unit of what is stored, per hour.

    Returns:
        Hours; 0 if it is there, infinite if it never comes there.

    Source: inverse of `after`.

    >>> hours_to(100.0, 90.0, -5.0, 0.0)
    2.0
    >>> hours_to(100.0, 110.0, -5.0, 0.0)
    inf
    """
    if value == goal:
        return 0.0
    if abs(b) < STRAIGHT:
        hours = (goal - value) / a if a else -1.0
        return hours if hours > 0 else math.inf
    rests_at = -a / b
    ahead, behind = goal - rests_at, value - rests_at
    if behind == 0 or ahead / behind <= 0:
        return math.inf
    hours = math.log(ahead / behind) / b
    return hours if hours > 0 else math.inf
