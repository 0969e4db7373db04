"""Which part of a plan someone means: by its name, by a part of it, by what people call such a thing."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from weary_cedar.core.plan import Plan

#: What people say, and the words of names that it may stand for. Common practice.
CALLED: Final[dict[str, tuple[str, ...]]] = {
    "fridge": ("refrigerator", "fridge"), "refrigerator": ("fridge", "refrigerator"),
    "gen": ("generator",), "genny": ("generator",), "genset": ("generator",), "engine": ("generator",),
    "tv": ("television", "tv"), "television": ("tv", "television"), "telly": ("television", "tv"),
    "wifi": ("router", "internet", "modem"), "internet": ("router", "internet", "modem"),
    "router": ("internet", "router", "modem"), "modem": ("router", "internet", "modem"),
    "heat": ("furnace", "boiler", "heater"), "heating": ("furnace", "boiler", "heater"),
    "heater": ("furnace", "boiler", "heater"), "furnace": ("furnace", "boiler"),
    "boiler": ("boiler", "furnace"), "lamp": ("light", "lights", "lamp"), "lamps": ("lights", "lamps"),
    "light": ("light", "lights"), "lights": ("lights", "light"), "pc": ("computer", "desk"),
    "computer": ("computer", "desk"), "micro": ("microwave",), "well": ("well",), "sump": ("sump",),
    "washer": ("washing", "washer"), "car": ("car", "van", "vehicle"), "van": ("van", "vehicle"),
    "truck": ("truck", "vehicle"), "panels": ("panels", "array", "solar"),
    "solar": ("panels", "array", "solar"),
}  # fmt: skip
#: Words by which the only part of a room is meant.
ONLY: Final[dict[str, str]] = {
    "generator": "generators", "gen": "generators", "genny": "generators", "genset": "generators",
    "engine": "generators", "car": "vehicles", "van": "vehicles", "truck": "vehicles", "vehicle": "vehicles",
    "station": "stations", "inverter": "stations", "output": "stations", "unit": "stations",
    "solar": "arrays", "panels": "arrays", "array": "arrays", "pv": "arrays",
}  # fmt: skip
#: Words that tell nothing of which part is meant.
FILLERS: Final = frozenset(
    ("the", "a", "an", "at", "is", "was", "are", "were", "now", "we", "i", "it", "has", "been", "just",
     "again", "turned", "switched", "put", "set", "turn", "switch", "breaker", "circuit", "for", "to", "of",
     "my", "our", "got", "went", "goes", "main", "s", "its", "by", "hand")
)  # fmt: skip
WORD: Final = re.compile(r"[a-z0-9äöüßéèà]+")


@dataclass(frozen=True)
class Named:
    """A part that may be meant: room, id, name, its words."""

    room: str
    id: str
    name: str
    words: frozenset[str]

    @property
    def part(self) -> str:
        """Room and id."""
        return f"{self.room}/{self.id}"


def words_of(text: str) -> list[str]:
    """Words of a text, small."""
    return WORD.findall(text.lower())


def all_named(plan: Plan, rooms: Sequence[str]) -> list[Named]:
    """Every part of some rooms by its name."""
    found = []
    for room in rooms:
        for key, part in getattr(plan, room).items():
            name = part.label if room == "circuits" else (getattr(part, "name", None) or key)
            found.append(Named(room, key, name, frozenset(words_of(f"{name} {key}"))))
    return found


def meant(plan: Plan, text: str, rooms: Sequence[str]) -> list[Named]:
    """Parts that a text may mean: those that fit best; one where it is clear, none where nothing fits.

    Args:
        plan: the plan.
        text: such as "the fridge", "gen", "breaker 14".
        rooms: where to look, the first one first where both fit alike.
    """
    said = [word for word in words_of(text) if word not in FILLERS]
    if not said:
        return []
    numbered = _by_space(plan, text) if "circuits" in rooms else []
    if numbered:
        return numbered
    named = all_named(plan, rooms)
    only = ONLY.get(said[0], "") if len(said) == 1 else ""
    if only in rooms and len(getattr(plan, only)) == 1:
        return [item for item in named if item.room == only]
    scored = [(_score(item, said), item) for item in named]
    best = max((score for score, _ in scored), default=0.0)
    if best >= 1.0:
        fitting = [item for score, item in scored if score == best]
        first = next(room for room in rooms if any(item.room == room for item in fitting))
        return [item for item in fitting if item.room == first]
    room = next((ONLY[word] for word in said if word in ONLY and ONLY[word] in rooms), None)
    if room is not None and len(getattr(plan, room)) == 1:
        return [item for item in named if item.room == room]
    return []


def _by_space(plan: Plan, text: str) -> list[Named]:
    """The breaker of a number."""
    found = re.search(r"\b(?:breaker|circuit|space|#)\s*#?(\d{1,2})\b", text.lower())
    if not found:
        return []
    number = int(found[1])
    named = all_named(plan, ["circuits"])
    return [item for item in named if number in plan.circuits[item.id].spaces]


def _score(item: Named, said: Sequence[str]) -> float:
    """How well a name fits: 3 where it is the name, 1 and more where all that was said is in it."""
    if " ".join(said) == " ".join(words_of(item.name)) or " ".join(said) == " ".join(words_of(item.id)):
        return 3.0
    hits = sum(any(called in item.words for called in (word, *CALLED.get(word, ()))) for word in said)
    exact = sum(word in item.words for word in said)
    if hits < len(said):
        return 0.0
    return 1.0 + 0.5 * exact / len(said) + 0.4 * exact / max(1, len(item.words))
