"""Changes by which more comes in, from what the household owns."""

from collections.abc import Iterator
from typing import Final

from weary_cedar.core.decide.changes.change import Change, Seen
from weary_cedar.core.plan import EngineRule, PlugRule, SolarArray, ToInput, TurnRule
from weary_cedar.core.supply.fuel import flow

#: An engine is started so much earlier, % points.
EARLIER = 20.0
#: Someone minds the modules so many minutes a day. Common practice.
TURN_MIN = 6.0
#: In winter modules stand steeper than the latitude by so much, degrees. Common practice.
STEEPER_DEG: Final = 15.0
FACED_WELL: Final = 0.99


def _litres_day(seen: Seen, generator_id: str, hours: float = 3.0) -> float:
    """What an engine burns in some hours at half of its rating, L."""
    generator = seen.plan.generators[generator_id]
    per = flow(generator)
    return 0.0 if per is None else hours * (per[0] + per[1] * generator.rated_w / 2000.0)


def engine_earlier(seen: Seen) -> Iterator[Change]:
    """An engine starts at a higher charge."""
    for place, rule in enumerate(seen.plan.strategy.rules):
        if isinstance(rule, EngineRule) and rule.on and rule.on_below_percent is not None:
            level = min(rule.off_above_percent - 5.0, rule.on_below_percent + EARLIER)
            if level > rule.on_below_percent:
                name = seen.plan.generators[rule.generator_id].name
                patch = seen.with_rule_changed(place, on_below_percent=level)
                yield Change(f"Start {name} already below {level:g} %", patch, minutes_day=5.0,
                             litres_day=_litres_day(seen, rule.generator_id, 1.0))  # fmt: skip


def engine_at_any_hour(seen: Seen) -> Iterator[Change]:
    """An engine may run whenever it is needed, but in quiet hours."""
    for place, rule in enumerate(seen.plan.strategy.rules):
        if isinstance(rule, EngineRule) and rule.on and None not in (rule.hours, rule.on_below_percent):
            name = seen.plan.generators[rule.generator_id].name
            patch = seen.with_rule_changed(place, hours=None)
            yield Change(f"Let {name} run at any hour that is not quiet", patch, minutes_day=5.0,
                         litres_day=_litres_day(seen, rule.generator_id, 1.0))  # fmt: skip


def plug_in_earlier(seen: Seen) -> Iterator[Change]:
    """A lead that someone plugs in by the charge is plugged in sooner."""
    rules = seen.plan.strategy.rules
    plugs = [(place, rule) for place, rule in enumerate(rules) if isinstance(rule, PlugRule) and rule.on]
    placed = {rule.lead_id: place for place, rule in plugs}
    for key, recharge in seen.plan.recharges.items():
        if recharge.plugged != "strategy":
            continue
        place = placed.get(key)
        known = rules[place] if place is not None else None
        below = known.in_below_percent if isinstance(known, PlugRule) else 50.0
        if below >= 85.0:
            continue
        if place is not None:
            patch = seen.with_rule_changed(place, in_below_percent=85.0, out_above_percent=97.0)
        else:
            rule = {"kind": "plug", "lead_id": key, "in_below_percent": 85.0, "out_above_percent": 97.0}
            patch = seen.with_rules(rule)
        words = f"Plug in {seen.plan.lead_name(key)} already below 85 %"
        yield Change(words, patch, minutes_day=4.0)


def charge_faster(seen: Seen) -> Iterator[Change]:
    """A charger is set to as much as its input takes."""
    for key, lead in seen.plan.leads.items():
        if not isinstance(lead.to, ToInput):
            continue
        station = seen.plan.stations.get(lead.to.station_id)
        entry = station.ac_inputs.get(lead.to.input_id) if station else None
        setting = lead.to.setting_w
        if entry is not None and isinstance(setting, float) and setting < 0.95 * entry.most_w:
            watts = min(entry.most_w, 2 * setting)
            patch = {"leads": {key: {"to": {"setting_w": watts}}}}
            words = f"Set the charging of {seen.plan.lead_name(key)} to {watts:,.0f} W"
            yield Change(words, patch)


def charge_full_before(seen: Seen) -> Iterator[Change]:
    """A battery is full when it begins."""
    outage = seen.plan.outage
    for key, percent in outage.start_charge_percent.items():
        if percent < 99.0 and (key in seen.plan.stations or key in seen.plan.externals):
            part = seen.plan.stations.get(key) or seen.plan.externals[key]
            patch = {"outage": {"start_charge_percent": {key: 100.0}, "pack_charge_percent": {key: None}}}
            yield Change(f"Have {part.name} full when it begins", patch, minutes_day=1.0)


def _south(seen: Seen) -> float:
    return 180.0 if seen.plan.site.latitude >= 0 else 0.0


def _stands_about(array: SolarArray) -> bool:
    """Whether someone can turn an array that gives into an input, and nobody does yet."""
    return (
        array.kind == "portable" and not array.moved and array.seen is None and array.station_id is not None
    )


def turn_the_modules(seen: Seen) -> Iterator[Change]:
    """Modules that stand about are turned to the sun in the morning and at noon."""
    ruled = {rule.array_id for rule in seen.plan.strategy.followed(TurnRule)}
    for key, array in seen.plan.arrays.items():
        if key in ruled or not _stands_about(array):
            continue
        south = _south(seen)
        east, west = (south - 60.0) % 360.0, (south + 60.0) % 360.0
        rules = [
            {"kind": "turn", "array_id": key, "at": at, "tilt_deg": 50.0, "azimuth_deg": azimuth}
            for at, azimuth in (("05:00", east), ("10:30", south), ("13:30", west))
        ]
        words = f"Turn {array.name} to the sun three times a day"
        yield Change(words, seen.with_rules(*rules), minutes_day=TURN_MIN)


def right_side_up(seen: Seen) -> Iterator[Change]:
    """A module that lies on its face is turned over."""
    for key, array in seen.plan.arrays.items():
        if array.face_factor < FACED_WELL:
            yield Change(f"Turn {array.name} right side up", seen.with_part("arrays", key, face_factor=1.0))


def tilt_better(seen: Seen) -> Iterator[Change]:
    """Modules that stand about look at the noon sun of the season."""
    for key, array in seen.plan.arrays.items():
        if not _stands_about(array):
            continue
        tilt, south = min(80.0, abs(seen.plan.site.latitude) + STEEPER_DEG), _south(seen)
        if abs(array.tilt_deg - tilt) > 5 or abs(array.azimuth_deg - south) > 10:
            patch = seen.with_part("arrays", key, tilt_deg=tilt, azimuth_deg=south)
            yield Change(f"Prop {array.name} up to {tilt:.0f}°, towards the noon sun", patch)


def wipe_the_modules(seen: Seen) -> Iterator[Change]:
    """Dirt and snow come off the modules."""
    for key, array in seen.plan.arrays.items():
        if array.soiling_percent > 2 and array.seen is None and array.station_id:
            patch = seen.with_part("arrays", key, soiling_percent=1.0)
            yield Change(f"Wipe {array.name} clean", patch, minutes_day=1.0)


MAKERS: Final = (
    engine_earlier, engine_at_any_hour, plug_in_earlier, charge_faster, charge_full_before,
    turn_the_modules, right_side_up, tilt_better, wipe_the_modules,
)  # fmt: skip
