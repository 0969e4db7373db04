"""The same plan under other ids and in another order of keys."""

import json
import re
from random import Random
from typing import Any

from builders import Json

#: Mappings whose keys are ids, wherever they stand.
KEYED = {
    "panels", "circuits", "loads", "stations", "links", "generators", "arrays", "vehicles", "externals",
    "feeds", "leads", "places", "receptacles", "packs", "ac_inputs", "dc_inputs", "compartments", "incidents",
    "acts", "grid",
}  # fmt: skip
#: Fields whose words are no ids.
WORDS = {"name", "label", "kind", "room", "end", "outlet_kind", "inlet", "time_zone", "fuel", "turn"}


def _ids(value: Any) -> set[str]:
    if not isinstance(value, dict):
        return set()
    own = {key for field in value.keys() & KEYED for key in value[field] if isinstance(value[field], dict)}
    return own.union(*(_ids(item) for item in value.values()))


def _changed(value: Any, names: dict[str, str], dice: Random, field: str = "") -> Any:
    if isinstance(value, dict):
        items = [(names.get(key, key), _changed(item, names, dice, key)) for key, item in value.items()]
        dice.shuffle(items)
        return dict(items)
    if isinstance(value, list):
        return [_changed(item, names, dice, field) for item in value]
    return names.get(value, value) if isinstance(value, str) and field not in WORDS else value


def renamed(document: Json, seed: int) -> tuple[Json, dict[str, str]]:
    """Another document that says the same, and what every id became."""
    dice = Random(seed)
    ids = sorted(_ids(document))
    fresh = [f"x{number}" for number in range(len(ids))]
    dice.shuffle(fresh)
    names = dict(zip(ids, fresh, strict=True))
    return _changed(document, names, dice), names


def named_back(result: str, names: dict[str, str]) -> Any:
    """A result in JSON with the ids that it would have had."""
    back = {new: old for old, new in names.items()}
    return json.loads(re.sub(r"\bx\d+\b", lambda found: back.get(found[0], found[0]), result))
