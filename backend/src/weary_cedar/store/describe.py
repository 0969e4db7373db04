"""A line of history in words: what an edit changed."""

from collections.abc import Iterator
from typing import Any

from weary_cedar.store.merge import Json, leaves, look_up, make_patch

NOUNS = {
    "circuits": "circuit",
    "loads": "load",
    "stations": "station",
    "panels": "panel",
    "feeds": "feed",
    "generators": "generator",
    "arrays": "solar array",
    "vehicles": "vehicle",
    "externals": "battery",
    "links": "linking kit",
    "leads": "lead",
    "places": "place",
    "box": "in the box,",
}
SHOWN = 3


def describe_change(old: Json, new: Json) -> str:
    """What differs between two documents, in a line.

    >>> describe_change({"circuits": {"c": {"label": "Hall", "mark": "off"}}},
    ...                 {"circuits": {"c": {"label": "Hall", "mark": "keep"}}})
    'Hall: mark off → keep'
    """
    lines: list[str] = []
    for field, value in leaves(make_patch(old, new)).items():
        for inner, before, after in _inside(field, look_up(old, field), value):
            line = _line(inner, before, after, old, new)
            if line not in lines:
                lines.append(line)
    if not lines:
        return "Nothing changed"
    more = len(lines) - SHOWN
    return "; ".join(lines[:SHOWN]) + (f" and {more} more" if more > 0 else "")


def _inside(field: str, before: Any, after: Any) -> Iterator[tuple[str, Any, Any]]:
    """A change, or in a list of parts the changes of each part; their number where that differs."""
    both = isinstance(before, list) and isinstance(after, list)
    if not both or not any(isinstance(item, dict) for item in (*before, *after)):
        yield field, before, after
    elif len(before) != len(after):
        yield field, len(before), len(after)
    else:
        for number, (one, other) in enumerate(zip(before, after, strict=True), start=1):
            for key in sorted(set(one) | set(other)):
                if one.get(key) != other.get(key):
                    yield f"{field} {number} {key}", one.get(key), other.get(key)


def _line(field: str, before: Any, after: Any, old: Json, new: Json) -> str:
    parts = field.split("/")[1:]
    noun = NOUNS.get(parts[0])
    if noun is None or len(parts) < 2:
        return f"{' '.join(parts[-2:]).replace('_', ' ')} {_shown(before)} → {_shown(after)}"
    held_before, held_after = (look_up(doc, f"/{parts[0]}/{parts[1]}") for doc in (old, new))
    held = held_after or held_before or {}
    name = str(held.get("label") or held.get("name") or parts[1])
    if held_before is None:
        return f"{noun} {name} added"
    if held_after is None:
        return f"{noun} {name} removed"
    return f"{name}: {parts[-1].replace('_', ' ')} {_shown(before)} → {_shown(after)}"


def _shown(value: Any) -> str:
    if value is None:
        return "none"
    if isinstance(value, float):
        return f"{value:g}"
    if isinstance(value, list):
        return ", ".join(_shown(item) for item in value) or "none"
    if isinstance(value, dict):
        return str(value.get("name") or value.get("kind") or "set")[:40]
    return str(value)[:40]
