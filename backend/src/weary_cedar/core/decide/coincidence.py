"""How likely it is that a start meets more than the source then carries."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from weary_cedar.core.demand import RefrigeratingDemand
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.outage.weather import Constant
from weary_cedar.core.panel_schedule import mean_watts
from weary_cedar.core.plan import Cycling, Job, Load, Plan, Refrigerating, Thermostatic

#: Up to so many loads all combinations are counted; more are drawn at random.
ENUMERATED = 14
DRAWS, SEED = 40_000, 20
DAY_S = 86_400.0


@dataclass(frozen=True)
class Beside:
    """Something that may be running: how likely, and its watts and vars by leg."""

    likely: float
    watts: tuple[float, ...]
    vars: tuple[float, ...]


def beside(plan: Plan, load: Load, own: Sequence[str], legs: Sequence[str]) -> Beside:
    """A load as one that may be running at any moment.

    Args:
        plan: the plan, for its hours.
        load: on for mean power over running power of the time.
        own: legs that it is on.
        legs: names of the legs, in order.

    Source: definition of duty.
    """
    running_w = on_watts(load)
    tangent = math.tan(math.acos(load.power_factor))
    watts = tuple(running_w / len(own) if leg in own else 0.0 for leg in legs)
    likely = min(1.0, mean_watts(plan, load) / running_w) if running_w > 0 else 0.0
    return Beside(likely, watts, tuple(w * tangent for w in watts))


def chance_over(
    others: Sequence[Beside], start_va: float, start_legs: Sequence[int], limit_va: float
) -> float:
    """Chance that a start comes when the rest leaves too little for it.

    Args:
        others: what may be running, each by itself.
        start_va: of the start on each of its legs, VA.
        start_legs: positions of those legs.
        limit_va: what a leg carries for as long as the start takes, VA.

    Returns:
        From 0 to 1: the share of all combinations, each by its likelihood, in which
        |ΣP + jΣQ| + start > limit on one of the legs. Exact for up to 14 loads, else of 40,000
        combinations drawn with a fixed seed (standard error under 0.0025).

    Source: independent cycles, common practice; `others` by their duty.

    >>> fridge = Beside(0.4, (300.0,), (0.0,))
    >>> chance_over([fridge], 2800.0, [0], 3000.0), chance_over([fridge], 2600.0, [0], 3000.0)
    (0.4, 0.0)
    """
    sure = [item for item in others if item.likely >= 1.0]
    maybe = [item for item in others if 0.0 < item.likely < 1.0]
    likely = np.array([item.likely for item in maybe])
    if len(maybe) <= ENUMERATED:
        on = (np.arange(2 ** len(maybe))[:, None] >> np.arange(len(maybe))[None, :]) & 1
        weights = np.prod(np.where(on == 1, likely, 1.0 - likely), axis=1)
    else:
        on = (np.random.default_rng(SEED).random((DRAWS, len(maybe))) < likely).astype(np.int64)
        weights = np.full(DRAWS, 1.0 / DRAWS)
    over = np.zeros(len(weights), dtype=bool)
    for leg in start_legs:
        watts = on @ np.array([item.watts[leg] for item in maybe]) + sum(item.watts[leg] for item in sure)
        reactive = on @ np.array([item.vars[leg] for item in maybe]) + sum(item.vars[leg] for item in sure)
        over |= np.hypot(watts, reactive) + start_va > limit_va
    return min(1.0, float(weights[over].sum()))


def starts_in(plan: Plan, load: Load) -> float:
    """How often a load starts in the outage, on average.

    Args:
        plan: with the length of the outage.
        load: cycling by its period, by a thermostat 4·n₅₀·x(1 − x) times an hour, a job once a day.

    Source: cycles of a thermostat as in the model of the run; the rest by definition.
    """
    length_s = plan.outage.length_s
    spec = load.behaviour
    if isinstance(spec, Cycling):
        return length_s / spec.period_s if spec.duty > 0 else 0.0
    if isinstance(spec, Refrigerating):
        return length_s / RefrigeratingDemand(spec, Constant(spec.room_c), 0.0).cycle_s()
    if isinstance(spec, Thermostatic):
        share = min(1.0, mean_watts(plan, load) / spec.run_w) if spec.run_w > 0 else 0.0
        return length_s / 3600.0 * 4 * spec.cycles_at_half * share * (1 - share)
    if isinstance(spec, Job):
        return max(1.0, length_s / DAY_S) if spec.daily else 1.0
    return 1.0


def chance_in_the_outage(chance: float, starts: float) -> float:
    """Chance that at least one of several starts meets too much: 1 − (1 − p)ⁿ.

    Args:
        chance: at one start, 0 to 1.
        starts: how many.

    Source: independent events (textbook).

    >>> round(chance_in_the_outage(0.1, 2), 2)
    0.19
    """
    return float(1.0 - (1.0 - min(1.0, max(0.0, chance))) ** starts)
