"""What people do that no plan knows of: something hot is plugged in, each day at the same hour."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import time
from typing import Final

import numpy as np

from weary_cedar.core.network import Network
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Job, JobStep, Load, Plan
from weary_cedar.core.plan.ids import free_id

#: How the load is called by which something was plugged in.
SOMEONE: Final = "someone"
#: So many of a hundred outages have someone who does so.
SHARE: Final = 50
#: Keeps these dice apart from all others of the same seed.
ASIDE: Final = 7
#: Hours of the day at which it happens.
HOURS: Final = range(7, 21)


@dataclass(frozen=True)
class Hot:
    """Something hot that is plugged in without asking: W where outlets have 120 V and 230 V, minutes."""

    name: str
    low_w: float
    high_w: float
    minutes: float


#: Common practice.
HOT: Final = (
    Hot("iron", 1_200.0, 2_200.0, 20.0),
    Hot("hair dryer", 1_600.0, 2_000.0, 10.0),
    Hot("kettle", 1_400.0, 2_600.0, 5.0),
    Hot("fan heater", 1_500.0, 2_000.0, 90.0),
)


def with_people(world: Plan, seed: int) -> Plan:
    """An outage with what someone in the house does, if anyone does something.

    Args:
        world: the outage as it is drawn.
        seed: of the outage.

    Returns:
        The same outage, or one with one more load: on a circuit that a source feeds and on which nothing
        starts hard, each day at an hour at which people are up. It is asked of nobody to keep it on.
    """
    dice = np.random.default_rng([seed, ASIDE])
    happens, hot, hour = dice.integers(100) < SHARE, HOT[dice.integers(len(HOT))], int(dice.choice(HOURS))
    places = sorted(_places(world))
    if not happens or not places:
        return world
    key = free_id(f"{SOMEONE} {hot.name}", world.loads, SOMEONE)
    watts = hot.low_w if world.site.leg_volts < 200 else hot.high_w
    load = Load(
        name=hot.name,
        circuit_id=places[dice.integers(len(places))],
        behaviour=Job(
            steps=(JobStep(watts=watts, minutes=hot.minutes),), earliest=time(hour), latest=time(hour, 30)
        ),
        tolerance_s=world.outage.length_s,
    )
    return world.model_copy(update={"loads": {**world.loads, key: load}})


def is_of_people(key: str) -> bool:
    """Whether a load is something that someone plugged in without asking."""
    return key.startswith(SOMEONE)


def put_on(world: Plan, run: RunResult) -> Iterator[tuple[float, str, str]]:
    """When something was put on that nobody had asked for, s, by which load, and in words."""
    for key, load in world.loads.items():
        series = run.load_series.get(key)
        if not is_of_people(key) or series is None:
            continue
        circuit = world.circuits[load.circuit_id or ""].label
        before = 0.0
        for at_s, watts in zip(series.t_s, series.watts, strict=False):
            if watts > 0 and before == 0:
                yield at_s, key, f"Someone has the {load.name} on, {watts:,.0f} W on {circuit}"
            before = watts


def _places(world: Plan) -> Iterator[str]:
    network = Network(world)
    fed = {key for way in network.ways if way.hookup.kind != "cords" for key in way.branches}
    for key, circuit in world.circuits.items():
        if key not in fed or circuit.mark == "off" or circuit.poles > 1:
            continue
        loads = [load for load in world.loads.values() if load.circuit_id == key]
        if not any(load.compressor or load.start for load in loads):
            yield key
