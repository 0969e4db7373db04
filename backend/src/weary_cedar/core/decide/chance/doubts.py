"""What is in doubt in a plan, in words: by how much, and what makes it surer."""

import math
from dataclasses import dataclass
from typing import Final, Literal

from weary_cedar.core.decide.needs import DOUBT
from weary_cedar.core.plan import Load, Plan, Station

#: Doubts of a station's figures by their origin, as a share. Common practice, from memory.
IDLE_DOUBT: Final = {"measured": 0.05, "plate": 0.2, "library": 0.3, "estimate": 0.4}
LOSS_DOUBT: Final = {"measured": 0.05, "plate": 0.15, "library": 0.25, "estimate": 0.3}
CELL_DOUBT: Final = {"measured": 0.02, "plate": 0.05, "library": 0.08, "estimate": 0.12}
#: Of what the sun gives beside the kind of day, of fuel that an engine burns, of a day's use that was
#: measured on another day. Common practice.
SUN_DOUBT, FUEL_DOUBT, DAY_DOUBT = 0.08, 0.10, 0.10
#: A forecast of the outdoor temperature is off by so much, K. Common practice.
WARMTH_DOUBT_K: Final = 2.0

ORIGINS: Final = {
    "measured": "it was measured", "plate": "from its plate", "library": "usual of its class",
    "estimate": "a guess",
}  # fmt: skip


@dataclass(frozen=True)
class Doubt:
    """One figure that is drawn anew in every outage.

    `spread` is the standard deviation of its logarithm, or of itself where it is a kind of day, hours or K.
    """

    key: str
    words: str
    spread: float
    #: What makes it surer; nothing where it can only be borne.
    remedy: str
    kind: Literal["measure", "decide", "bear"]
    #: Room and id of the part that it is a figure of.
    part: str = ""


def log_spread(doubt: float) -> float:
    """Standard deviation of the logarithm of a factor, for a figure that may be off by a share.

    >>> round(log_spread(0.5), 3)
    0.405
    """
    return math.log1p(doubt)


def doubts_of(plan: Plan) -> list[Doubt]:
    """Every figure of a plan that is in doubt, but what belongs to the circumstances.

    Args:
        plan: a complete plan.

    Returns:
        Loads, stations, sun, fuel and the warmth outdoors.

    Source: doubts by origin, common practice; a factor of a log-normal law each.
    """
    found = [_of_load(key, load) for key, load in plan.loads.items()]
    for key, station in plan.stations.items():
        found += _of_station(key, station)
    if any(array.station_id and array.seen is None for array in plan.arrays.values()):
        words = "Note what the array gives on two or three days"
        found.append(Doubt("sun", "how much the array gives", log_spread(SUN_DOUBT), words, "measure"))
    for key, generator in plan.generators.items():
        part, about = f"generators/{key}", f"what {generator.name} burns"
        words = f"Note litres and hours of {generator.name} at its next test"
        found.append(Doubt(f"{part}/fuel", about, log_spread(FUEL_DOUBT), words, "measure", part))
    found.append(Doubt("warmth", "how warm it is outdoors", WARMTH_DOUBT_K, "", "bear"))
    return found


def _of_load(key: str, load: Load) -> Doubt:
    part, words = f"loads/{key}", f"what {load.name} draws ({ORIGINS[load.origin]})"
    spread = log_spread(DOUBT[load.origin])
    if load.origin == "measured":
        return Doubt(f"{part}/draws", words, math.hypot(spread, DAY_DOUBT), "", "bear", part)
    remedy = f"Measure {load.name} for a day with a plug-in or clamp meter"
    return Doubt(f"{part}/draws", words, spread, remedy, "measure", part)


def _of_station(key: str, station: Station) -> list[Doubt]:
    name, part = station.name, f"stations/{key}"
    found = []
    for figure, words, doubts, origin in (
        ("idle", "idle draw", IDLE_DOUBT, station.idle_origin),
        ("loss", "loss of its inverter", LOSS_DOUBT, station.efficiency_origin),
        ("cells", "energy of its cells", CELL_DOUBT, station.capacity_origin),
    ):
        measured = origin == "measured"
        remedy = "" if measured else f"Drain {name} once at a known load: a discharge test"
        about = f"{words} of {name} ({ORIGINS[origin]})"
        spread = log_spread(doubts[origin])
        found.append(
            Doubt(f"{part}/{figure}", about, spread, remedy, "bear" if measured else "measure", part)
        )
    return found


#: What varies from outage to outage beside the figures of the plan.
CIRCUMSTANCES: Final = (
    Doubt("days", "which kinds of days it has", 1.0, "", "bear"),
    Doubt("length", "how long it lasts", 1.0, "", "bear"),
    Doubt("begins", "the hour at which it begins", 1.0, "", "bear"),
    Doubt("late", "whether someone is there to change over in time", 1.0,
          "Tell someone else how to change over, with the sheet in hand", "decide"),
    Doubt("forgotten", "acts that are forgotten", 1.0, "Set an alarm on the phone for every act", "decide"),
)  # fmt: skip
