"""What a load is for, in the order in which people give things up: the first class goes last.

Common practice of the trade; the person's own order and marks come before it.
"""

from typing import Final

from weary_cedar.core.plan.load import Load, Refrigerating, Role, Thermostatic

LIFE: Final = 0
HEAT: Final = 1
FOOD: Final = 2
WATER: Final = 3
LIGHT: Final = 4
COMFORT: Final = 5
HEAT_MAKER: Final = 6

_BY_ROLE: Final[dict[Role, int]] = {
    "life_support": LIFE,
    "sleep_apnoea": LIFE,
    "heat": HEAT,
    "food": FOOD,
    "pump": WATER,
    "communication": LIGHT,
    "light": LIGHT,
    "hot": HEAT_MAKER,
    "tool": COMFORT,
}


def need_class(load: Load) -> int:
    """Class of need of a load: 0 life and medicine, 1 heat, 2 food, 3 water, 4 light and communication, 5
    comfort, 6 heat-makers.

    Args:
        load: its role counts; without one, what it does: keeping food or a house warm.

    Source: common practice.
    """
    if load.role is not None:
        return _BY_ROLE[load.role]
    if isinstance(load.behaviour, Refrigerating):
        return FOOD
    heats = isinstance(load.behaviour, Thermostatic) and load.behaviour.mode == "heat"
    return HEAT if heats else COMFORT
