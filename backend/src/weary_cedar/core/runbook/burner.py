"""Furnaces and boilers that burn on a source: polarity, and how they light. Common practice."""

from weary_cedar.core.plan import Load, Plan, Thermostatic
from weary_cedar.core.runbook.sheet import Expected, Order

NO_FLAME = "No flame after three tries: off, stop here, and see “No flame”"
KEPT_APART = "Next to none from neutral to neutral, no way through at all from neutral to hot"
#: No heat pump moves more heat than so many times what it draws. Common practice.
PUMPED = 6.0
#: A conductor of a cord that is whole has no more than this, ohm. Common practice.
WHOLE_OHM = 2.0


def burns(load: Load) -> bool:
    """Whether a load burns fuel: heat by a thermostat, more than a heat pump makes of what it draws."""
    spec = load.behaviour
    if not isinstance(spec, Thermostatic) or spec.mode != "heat":
        return False
    return bool(spec.before) or load.needs_bonded or spec.output_w > PUMPED * spec.run_w


def lights_up(load: Load) -> str:
    """What is seen while it comes on, in its order."""
    spec = load.behaviour
    steps = [step.name for step in spec.before] if isinstance(spec, Thermostatic) else []
    return f"{', '.join([*steps, 'a flame that holds for a minute'])}, then its blower or pump".capitalize()


def neutral_ends(plan: Plan) -> str:
    """Both ends of the neutral of a cord, as one sees them."""
    return "wide blade to wide slot" if plan.site.split_phase else "neutral pin to neutral hole"


def polarity(order: Order) -> None:
    """Whether a cord keeps hot and neutral apart: by resistance, which needs no ground to judge by."""
    order.step(
        f"Test the cord, out at both ends: resistance from {neutral_ends(order.plan)}", "at the cord",
        KEPT_APART,
        "Crossed or broken: another cord; with hot and neutral crossed a flame is not sensed",
        readings=[
            Expected(where=neutral_ends(order.plan), low=0, high=WHOLE_OHM, unit="ohm",
                     if_high="broken, or crossed: another cord"),
        ],
        why="Volts to ground do not tell polarity where a source floats: each conductor may show half.",
    )  # fmt: skip
