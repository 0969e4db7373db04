"""Changes that need something which the household does not own yet."""

from collections.abc import Iterator
from typing import Final

from weary_cedar.core.decide.changes.change import AT_ONCE, Change, Seen
from weary_cedar.core.plan import EngineRule


def pack_more(seen: Seen) -> Iterator[Change]:
    """One more of a pack that a station has."""
    for key, station in seen.plan.stations.items():
        for pack_id, pack in station.packs.items():
            patch = {"stations": {key: {"packs": {pack_id: {"count": pack.count + 1}}}}}
            yield Change(f"One more {pack.name} on {station.name}", patch, gear=True)


def modules_more(seen: Seen) -> Iterator[Change]:
    """One more string beside those of an input, as far as it takes it."""
    for key, array in seen.plan.arrays.items():
        if array.station_id and array.seen is None:
            patch = seen.with_part("arrays", key, parallel=array.parallel + 1)
            yield Change(f"Another string of modules beside {array.name}", patch, gear=True)


def fuel_more(seen: Seen) -> Iterator[Change]:
    """As much fuel again."""
    ruled = {rule.generator_id for rule in seen.plan.strategy.followed(EngineRule)}
    for key, generator in seen.plan.generators.items():
        if generator.on_hand_l is not None and (key in ruled or seen.happens("engine_dry")):
            litres = generator.on_hand_l + max(10.0, generator.tank_l or 0.0)
            told = seen.plan.site.units.told_volume(litres)
            patch = seen.with_part("generators", key, on_hand_l=litres)
            words = f"{told} of fuel on hand for {generator.name}, kept as the code allows"
            yield Change(words, patch, gear=True)


def soft_start(seen: Seen) -> Iterator[Change]:
    """A motor that trips its source gets a soft starter."""
    if not seen.happens(*AT_ONCE):
        return
    for key, load in seen.loads():
        if load.start is not None and not load.soft_start:
            patch = seen.with_part("loads", key, soft_start=True, start={"va": 0.4 * load.start.va})
            yield Change(f"A soft starter for {load.name}", patch, gear=True)


MAKERS: Final = (pack_more, modules_more, fuel_more, soft_start)
