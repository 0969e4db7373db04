"""One outage as it may be: every doubt drawn from a stream of its own."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from hashlib import blake2b
from typing import Annotated, Any, Final, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.decide.chance.doubts import WARMTH_DOUBT_K, doubts_of
from weary_cedar.core.decide.how_sure import BETTER, WORSE, drawing
from weary_cedar.core.plan import Cycling, Load, Measured, Plan, Refrigerating, SolarArray, Station
from weary_cedar.core.plan.outage import Outage, Sky, Weather
from weary_cedar.core.plan.usual_sky import MIX, season
from weary_cedar.core.supply.sun import DAY_FACTORS

#: A kind of day is followed by the same one this often; a forecast holds this often. Common practice.
STAYS: Final = 0.6
#: Who comes late comes so much later on average, s. Common practice.
LATE_S: Final = 3_600.0
#: The standard normal value that one in ten is above.
ONE_IN_TEN: Final = 1.2815515655446004
#: No outage is drawn shorter or longer than this, s.
SHORTEST_S, LONGEST_S = 3_600.0, 14 * 86_400.0
#: Engines start at most so often in one outage, for the draw of the start that does not succeed.
MOST_STARTS: Final = 1_000
#: Figures that grow with the energy of cells, and with fuel.
CELLS: Final = ("nameplate_wh", "cell_wh", "delivered_wh")
FUEL: Final = ("tank_l", "on_hand_l")

Dice = np.random.Generator
#: Dice of one quantity, by its name.
Stream = Callable[[str], Dice]


class Varying(BaseModel):
    """What varies beside the figures, and how much; each can be set."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    seed: Annotated[int, Field(ge=0, le=1_000_000_000)] = 1
    no_start: Annotated[float, Field(ge=0, le=1)] = Field(
        default=0.02, description="how often an engine does not come on, of its starts"
    )
    forgets: Annotated[float, Field(ge=0, le=1)] = Field(
        default=0.05, description="how often an act is forgotten, or the change-over comes late"
    )
    begins: Literal["as_said", "any_hour"] = Field(
        default="as_said", description="when the plan says, or at any hour of that day"
    )
    one_in_ten_s: Annotated[float, Field(ge=SHORTEST_S, le=LONGEST_S)] | None = Field(
        default=None, description="one outage in ten lasts as long as this; all as long as said if absent"
    )


@dataclass(frozen=True)
class Drawn:
    """An outage as it may be: its plan, starts that do not succeed, and by how much each doubt is off."""

    plan: Plan
    fails_at: Mapping[str, int]
    #: By doubt: how far it is off, in standard deviations; of days their sun, of lateness seconds.
    off: Mapping[str, float]


def drawn(plan: Plan, number: int, varying: Varying) -> Drawn:
    """An outage of a plan as it may be.

    Args:
        plan: the plan, its parts in their order.
        number: of the outage; the same number gives the same outage, whatever else the plan says.
        varying: the seed and what else varies.

    Returns:
        The plan of that outage. What is drawn for one part does not hang on any other part.

    Source: laws as `doubts_of`; kinds of days a chain that stays with 0.6, else drawn by the season's mix; a
    forecast that is said is off by one kind in four days of ten. Common practice.
    """

    def stream(key: str) -> Dice:
        seed = blake2b(f"{varying.seed}/{number}/{key}".encode(), digest_size=16)
        return np.random.default_rng(int.from_bytes(seed.digest()))

    doubts = doubts_of(plan)
    off = {doubt.key: float(stream(doubt.key).standard_normal()) for doubt in doubts}
    factor = {doubt.key: math.exp(off[doubt.key] * doubt.spread) for doubt in doubts}
    loads = {
        key: _load(load, factor[f"loads/{key}/draws"], stream(f"loads/{key}/phase"))
        for key, load in plan.loads.items()
    }
    stations = {
        key: _station(station, *(factor[f"stations/{key}/{figure}"] for figure in ("idle", "loss", "cells")))
        for key, station in plan.stations.items()
    }
    generators = {
        key: engine.model_copy(update=_scaled(engine, FUEL, 1 / factor[f"generators/{key}/fuel"]))
        for key, engine in plan.generators.items()
    }
    fails_at = {
        key: _fails_at(varying.no_start, stream(f"generators/{key}/start")) for key in plan.generators
    }
    update = {
        "loads": loads,
        "stations": stations,
        "generators": generators,
        "arrays": {key: _array(array, factor.get("sun", 1.0)) for key, array in plan.arrays.items()},
        "outage": _outage(plan, varying, stream, off),
    }
    return Drawn(plan.model_copy(update=update), fails_at, off)


def _scaled(part: Any, fields: tuple[str, ...], factor: float) -> dict[str, float]:
    """Figures of a part, each times a factor; none where it is not said."""
    return {name: getattr(part, name) * factor for name in fields if getattr(part, name, None) is not None}


def _load(load: Load, factor: float, dice: Dice) -> Load:
    """A load that draws more or less, anywhere in its cycle."""
    changed = drawing(load, factor)
    spec = changed.behaviour
    if isinstance(spec, Cycling) and spec.phase is None:
        return changed.model_copy(
            update={"behaviour": spec.model_copy(update={"phase": float(dice.random())})}
        )
    if isinstance(spec, Refrigerating):
        boxes = {
            key: box
            if box.start_c is not None
            else box.model_copy(update={"start_c": box.set_c + float(dice.random()) * box.band_k})
            for key, box in spec.compartments.items()
        }
        return changed.model_copy(update={"behaviour": spec.model_copy(update={"compartments": boxes})})
    return changed


def _station(station: Station, idle: float, loss: float, cells: float) -> Station:
    """A station of another idle draw, loss and energy of its cells and packs."""
    packs = {key: pack.model_copy(update=_scaled(pack, CELLS, cells)) for key, pack in station.packs.items()}
    update = {
        "idle_w": station.idle_draw_w * idle,
        "inverter_efficiency": max(0.5, 1 - (1 - station.inverter_efficiency) * loss),
        "packs": packs,
        **_scaled(station, CELLS, cells),
    }
    return station.model_copy(update=update)


def _array(array: SolarArray, factor: float) -> SolarArray:
    """An array that gives more or less; what it was seen to give stays."""
    if array.seen is not None:
        return array
    module = array.module.model_copy(update={"watts": array.module.watts * factor})
    return array.model_copy(update={"module": module})


def _fails_at(share: float, dice: Dice) -> int:
    """Which start of an engine is the first that does not succeed, from 1; 0 where all of them do."""
    return next((start for start in range(1, MOST_STARTS) if dice.random() < share), 0) if share else 0


def _outage(plan: Plan, varying: Varying, stream: Stream, off: dict[str, float]) -> Outage:
    """Weather, begin, length and people of an outage; by how much each is off is noted."""
    outage = plan.outage
    length_s, start = outage.length_s, outage.start_local
    if varying.one_in_ten_s is not None:
        off["length"] = float(stream("length").standard_normal())
        longer = (varying.one_in_ten_s / length_s) ** (off["length"] / ONE_IN_TEN)
        length_s = min(LONGEST_S, max(SHORTEST_S, length_s * longer))
    if varying.begins == "any_hour" and not of_set_hours(plan):
        hour = int(stream("begins").integers(24))
        off["begins"] = float(hour)
        start = start.replace(hour=hour, minute=0, second=0)
    kept = {key: act for key, act in outage.acts.items() if stream(f"acts/{key}").random() >= varying.forgets}
    off["forgotten"] = float(len(outage.acts) - len(kept))
    dice = stream("late")
    off["late"] = float(dice.exponential(LATE_S)) if dice.random() < varying.forgets else 0.0
    update = {
        "length_s": length_s,
        "start_local": start,
        "acts": kept,
        "weather": _weather(plan, length_s, stream("days"), off),
        "changeover_after_s": outage.changeover_after_s + off["late"],
    }
    return outage.model_copy(update=update)


def of_set_hours(plan: Plan) -> str:
    """What in a plan is told by the hour from its beginning on, so that it begins at no other; in words."""
    weather = plan.outage.weather
    if weather.hourly_c or weather.hourly_sun is not None:
        return "its weather is told hour by hour from the beginning on"
    if any(array.seen is not None for array in plan.arrays.values()):
        return "what its array gave is told from the beginning on"
    if any(isinstance(load.behaviour, Measured) for load in plan.loads.values()):
        return "what a load draws was measured from the beginning on"
    return ""


def _weather(plan: Plan, length_s: float, dice: Dice, off: dict[str, float]) -> Weather:
    """Kinds of days and warmth of an outage."""
    weather = plan.outage.weather
    by_k = off["warmth"] * WARMTH_DOUBT_K
    update: dict[str, object] = {
        "hourly_c": tuple(c + by_k for c in weather.hourly_c),
        "low_c": weather.low_c + by_k,
        "high_c": weather.high_c + by_k,
    }
    if weather.hourly_sun is None and plan.arrays:
        days = int(length_s // 86_400) + 2
        sky = forecast(weather.sky, days, dice) if weather.sky else chain(plan, days, dice)
        off["days"] = sum(DAY_FACTORS[kind] for kind in sky[:-1]) / max(1, len(sky) - 1)
        update["sky"] = sky
    return weather.model_copy(update=update)


def chain(plan: Plan, days: int, dice: Dice) -> tuple[Sky, ...]:
    """Days of the plan's season, of which each is like the one before more often than not.

    Args:
        plan: for its day and latitude.
        days: how many.
        dice: of this outage.

    Returns:
        Kinds of days; in the long run as often as in the season's mix.

    Source: a chain of first order, common practice; the mix of `plan.usual_sky`.
    """
    mix = MIX[season(plan.outage.start_local.date(), plan.site.latitude)]
    found: list[Sky] = []
    while len(found) < days:
        stays = bool(found) and dice.random() < STAYS
        found.append(found[-1] if stays else mix[int(dice.integers(len(mix)))])
    return tuple(found)


def forecast(said: tuple[Sky, ...], days: int, dice: Dice) -> tuple[Sky, ...]:
    """The days that were said, each of which may be one kind better or worse.

    Args:
        said: kinds of days, the last one stays.
        days: how many.
        dice: of this outage.

    Source: common practice: a forecast is off by one kind.
    """
    found: list[Sky] = []
    for number in range(days):
        kind, luck = said[min(number, len(said) - 1)], dice.random()
        found.append(kind if luck < STAYS else BETTER[kind] if luck < (1 + STAYS) / 2 else WORSE[kind])
    return tuple(found)
