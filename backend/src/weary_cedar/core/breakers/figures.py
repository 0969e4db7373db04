"""What a load draws while it runs and uses in a day, read and set whatever its kind."""

import re
from functools import cache

from weary_cedar.core.library import appliance_load, appliances, heaters
from weary_cedar.core.plan import Cycling, Load, Steady
from weary_cedar.core.plan.load import Behaviour, Job, Refrigerating, Thermostatic
from weary_cedar.core.tables import table

#: Period of a load that cycles while nobody has said it, s. Common practice for refrigeration.
PERIOD_S = 2_400.0


def running_w(behaviour: Behaviour) -> float | None:
    """What it draws while it runs, W; nothing where it has more than one figure for that."""
    match behaviour:
        case Steady():
            return behaviour.watts
        case Cycling() | Refrigerating():
            return behaviour.on_w
        case Thermostatic():
            return behaviour.run_w
        case Job() if len({step.watts for step in behaviour.steps}) == 1:
            return behaviour.steps[0].watts
    return None


def with_running_w(behaviour: Behaviour, watts: float) -> Behaviour | None:
    """The same with other watts while it runs; nothing where it has more than one figure for that.

    Args:
        behaviour: of a load.
        watts: while it runs, W.
    """
    match behaviour:
        case Steady():
            return behaviour.model_copy(update={"watts": watts})
        case Cycling() | Refrigerating():
            return behaviour.model_copy(update={"on_w": watts})
        case Thermostatic():
            return behaviour.model_copy(update={"run_w": watts})
        case Job() if len({step.watts for step in behaviour.steps}) == 1:
            steps = tuple(step.model_copy(update={"watts": watts}) for step in behaviour.steps)
            return behaviour.model_copy(update={"steps": steps})
    return None


def with_day_use(behaviour: Behaviour | None, watts: float | None, wh_day: float) -> Behaviour | None:
    """A behaviour that uses so much a day.

    Args:
        behaviour: as it was; nothing for a new load.
        watts: while it runs, W; nothing: as it was.
        wh_day: in 24 h, Wh; at most 24 h of its watts.

    Returns:
        Steady where nothing is said of its watts, else cycling with the share of its time that fits;
        nothing where it is of another kind, whose use a day follows from other figures.

    Source: arithmetic.

    >>> with_day_use(None, 130.0, 1560.0).duty
    0.5
    """
    if behaviour is not None and not isinstance(behaviour, Steady | Cycling):
        return None
    if watts is None and isinstance(behaviour, Cycling):
        watts = behaviour.on_w
    if watts is None:
        return Steady(watts=wh_day / 24)
    duty = min(1.0, wh_day / 24 / watts) if watts > 0 else 0.0
    if isinstance(behaviour, Cycling):
        return behaviour.model_copy(update={"on_w": watts, "duty": duty})
    return Cycling(on_w=watts, duty=duty, period_s=PERIOD_S)


def usual_load(words: str, poles: int = 1) -> tuple[Load, str] | None:
    """What usually hangs on a breaker with such a label, or what a class of the library is called so.

    Args:
        words: the label, or the name of a class.
        poles: of the breaker: a range has two, a gas dryer one.

    Returns:
        A load of the library on no breaker, and its class; nothing where the words tell nothing.

    Source: label_words.csv, common practice. The person decides whether it is so.

    >>> usual_load("Sump pump, cellar")[1], usual_load("Bedroom outlets")
    ('sump-pump', None)
    """
    wanted = words.casefold().strip()
    class_id = _classes().get(wanted)
    if class_id is None:
        fits = (
            row["class_id"]
            for row in table("label_words")
            if int(row["poles"]) == poles and re.search(rf"\b{re.escape(row['words'])}", wanted)
        )
        class_id = next(fits, None)
    if class_id is None:
        return None
    return _load(class_id), class_id


@cache
def _classes() -> dict[str, str]:
    """Classes of the library by their names in small letters."""
    found = {item.name.casefold(): item.appliance_id for item in appliances()}
    return found | {item.name.casefold(): item.heater_id for item in heaters()}


@cache
def _load(class_id: str) -> Load:
    heater = next((item for item in heaters() if item.heater_id == class_id), None)
    return heater.load(None) if heater is not None else appliance_load(class_id, None)
