"""Changes by which less is drawn, or not at the same time."""

from collections.abc import Iterator
from typing import Final

from weary_cedar.core.decide.changes.change import AT_ONCE, NEVER, Change, Seen, names
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.plan import (
    Cycling,
    EngineRule,
    ReserveRule,
    ShedRule,
    SurplusRule,
    Thermostatic,
    TogetherRule,
    WhileRule,
)

MOST_ROOM, MOST_KEEP = 4, 2
#: Where circuits go off, and what should be left at bedtime, % of charge. Common practice.
SHED_BELOW, BEDTIME = 40.0, 60.0
#: A night set back by so much, K. Common practice.
SET_BACK_K: Final = 3.0
#: What draws this much is worth a rule of its own, W.
HEAVY_W: Final = 700.0


def leave_off(seen: Seen) -> Iterator[Change]:
    """A circuit stays off in the outage."""
    for circuit_id in seen.circuits("room")[:MOST_ROOM]:
        label = seen.label(circuit_id)
        patch = seen.with_part("circuits", circuit_id, mark="off")
        yield Change(f"Leave {label} off", patch, without=label, missed=1.0)


def do_without(seen: Seen) -> Iterator[Change]:
    """A circuit that must run stays off, after all."""
    for circuit_id in seen.circuits("keep")[:MOST_KEEP]:
        label = seen.label(circuit_id)
        patch = seen.with_part("circuits", circuit_id, mark="off")
        yield Change(f"Do without {label}, though it is marked keep", patch, without=label, missed=4.0)


def only_in_hours(seen: Seen) -> Iterator[Change]:
    """A cycling load runs in the daytime only."""
    for key, load in seen.loads()[:12]:
        spec = load.behaviour
        if isinstance(spec, Cycling) and spec.hours is None and load.role not in (*NEVER, "food", "pump"):
            hours = {"begins": "08:00", "ends": "20:00"}
            patch = seen.with_part("loads", key, behaviour={"hours": hours})
            yield Change(f"Run {load.name} from 8 to 20 o'clock only", patch, without=f"{load.name} at night",
                         missed=0.5)  # fmt: skip


def set_back(seen: Seen) -> Iterator[Change]:
    """A thermostat is set back at night."""
    for key, load in seen.loads():
        spec = load.behaviour
        if isinstance(spec, Thermostatic) and spec.setback is None:
            by_k = -SET_BACK_K if spec.mode == "heat" else SET_BACK_K
            setback = {"begins": "22:00", "ends": "06:00", "set_c": spec.set_c + by_k}
            patch = seen.with_part("loads", key, behaviour={"setback": setback})
            warmth = seen.plan.site.units.told_warmth(spec.set_c + by_k)
            yield Change(f"Set {load.name} back to {warmth} from 22 to 6 o'clock", patch, missed=0.3)


def shed_below(seen: Seen) -> Iterator[Change]:
    """Circuits marked room go off by themselves at a charge."""
    room = seen.circuits("room")
    if room and not seen.plan.strategy.followed(ShedRule):
        rule = {
            "kind": "shed", "circuit_ids": room, "off_below_percent": SHED_BELOW,
            "back_above_percent": SHED_BELOW + 20.0,
        }  # fmt: skip
        labels = names([seen.label(key) for key in room])
        words = f"Switch {labels} off below {SHED_BELOW:g} %"
        yield Change(words, seen.with_rules(rule), minutes_day=2.0, without=labels, missed=0.6)


def spare_for_the_night(seen: Seen) -> Iterator[Change]:
    """Circuits marked room stay off for the night where too little is left at bedtime."""
    room = seen.circuits("room")
    if room and not seen.plan.strategy.followed(ReserveRule):
        rule = {"kind": "reserve", "circuit_ids": room, "percent": BEDTIME}
        labels = names([seen.label(key) for key in room])
        words = f"Leave {labels} off for the night where less than {BEDTIME:g} % is left at bedtime"
        yield Change(words, seen.with_rules(rule), minutes_day=2.0, without=labels, missed=0.5)


def on_spare_sun(seen: Seen) -> Iterator[Change]:
    """Heavy loads that are marked room run on sun that is left over."""
    if not any(array.station_id for array in seen.plan.arrays.values()):
        return
    held = {key for rule in seen.plan.strategy.followed(SurplusRule) for key in rule.load_ids}
    heavy = [(key, load) for key, load in seen.loads(mark="room") if on_watts(load) >= HEAVY_W]
    for key, load in [item for item in heavy if item[0] not in held][:3]:
        rule = {"kind": "surplus", "load_ids": [key], "above_percent": 85.0}
        yield Change(f"Run {load.name} on spare sun only", seen.with_rules(rule), minutes_day=4.0, missed=0.5)


def beside_the_engine(seen: Seen) -> Iterator[Change]:
    """Heavy loads that are marked room run only while an engine runs."""
    engines = {rule.generator_id for rule in seen.plan.strategy.followed(EngineRule)}
    held = {key for rule in seen.plan.strategy.followed(WhileRule) for key in rule.load_ids}
    for generator_id in sorted(engines & seen.plan.generators.keys()):
        heavy = [(key, load) for key, load in seen.loads(mark="room") if on_watts(load) >= HEAVY_W]
        for key, load in [item for item in heavy if item[0] not in held][:3]:
            rule = {"kind": "while", "load_ids": [key], "generator_id": generator_id}
            name = seen.plan.generators[generator_id].name
            words = f"Run {load.name} only while {name} runs"
            yield Change(words, seen.with_rules(rule), minutes_day=4.0, missed=0.5)


def cook_on_gas(seen: Seen) -> Iterator[Change]:
    """What cooks or heats water by electricity is left off for gas, outdoors or with a hood."""
    for key, load in seen.loads():
        if load.role == "hot" and seen.drawn_wh(key) > 0:
            act = {"at_s": 0.0, "room": "loads", "part_id": key, "turn": "off"}
            words = f"Leave {load.name} off and cook on gas, outdoors or with its own vent"
            patch = {"outage": {"acts": {f"gas-{key}": act}}}
            yield Change(words, patch, minutes_day=5.0, without=load.name, missed=0.5)


def never_together(seen: Seen) -> Iterator[Change]:
    """The two heaviest loads never run together, where too much runs at once."""
    if not seen.happens(*AT_ONCE):
        return
    heavy = sorted(seen.loads(), key=lambda item: -on_watts(item[1]))[:3]
    held = [set(rule.load_ids) for rule in seen.plan.strategy.followed(TogetherRule)]
    for one, other in ((0, 1), (0, 2), (1, 2)):
        if other < len(heavy):
            pair = [heavy[one][0], heavy[other][0]]
            if not any(set(pair) <= rule for rule in held):
                told = f"{heavy[one][1].name} and {heavy[other][1].name}"
                rule = {"kind": "together", "load_ids": pair}
                yield Change(f"Never run {told} together", seen.with_rules(rule), minutes_day=4.0)


MAKERS: Final = (
    leave_off, do_without, only_in_hours, set_back, shed_below,
    spare_for_the_night, on_spare_sun, beside_the_engine, cook_on_gas, never_together,
)  # fmt: skip
