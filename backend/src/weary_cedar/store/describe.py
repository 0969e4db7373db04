"""A line of history in words: what an edit changed."""

from typing import Any

from weary_cedar.store.merge import Json, leaves, look_up, make_patch

NOUNS = {"circuits": "circuit", "loads": "load", "stations": "station", "panels": "panel", "feeds": "feed"}
SHOWN = 3


def describe_change(old: Json, new: Json) -> str:
    """What differs between two documents, in a line.

    >>> describe_change({"circuits": {"c": {"label": "Hall", "mark": "off"}}},
    ...                 {"circuits": {"c": {"label": "Hall", "mark": "keep"}}})
    'Hall: mark off → keep'
    """
    lines: list[str] = []
    for field, value in leaves(make_patch(old, new)).items():
        line = _line(field, look_up(old, field), value, old, new)
        if line not in lines:
            lines.append(line)
    if not lines:
        return "Nothing changed"
    more = len(lines) - SHOWN
    return "; ".join(lines[:SHOWN]) + (f" and {more} more" if more > 0 else "")


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
    return "…" if isinstance(value, dict) else str(value)[:40]
