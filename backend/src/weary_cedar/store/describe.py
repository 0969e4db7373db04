"""A line of history in words: what an edit changed."""

from collections.abc import Iterator
from typing import Any

from weary_cedar.core.plan.base import NOT_KNOWN
from weary_cedar.core.plan.merge import Json, leaves, look_up, make_patch

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


#: Ends of the names of fields, with the unit in which a person reads them.
UNITS = {"wh": "Wh", "va": "VA", "w": "W", "a": "A", "v": "V", "percent": "%", "kg": "kg", "kwh": "kWh"}
HOUR_S, MINUTE_S = 3600.0, 60.0


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
    label, change = _named(parts[-1]), _change(parts[-1], before, after, new)
    if noun is None or len(parts) < 2:
        above = "" if len(parts) < 3 or parts[-2] in ("site", "outage") else f"{parts[-2].replace('_', ' ')} "
        return f"{above}{label}: {change}"
    held_before, held_after = (look_up(doc, f"/{parts[0]}/{parts[1]}") for doc in (old, new))
    held = held_after or held_before or {}
    name = str(held.get("label") or held.get("name") or parts[1])
    if held_before is None:
        return f"{noun} {name} added"
    if held_after is None:
        return f"{noun} {name} removed"
    inner = _inner_part(parts, old, new)
    if inner:
        return f"{name}: {inner}"
    return f"{name}: {label} {change}"


def _inner_part(parts: list[str], old: Json, new: Json) -> str:
    """A part inside of another one that came or went: a pack of a station, an outlet."""
    for depth in range(4, len(parts) + 1):
        place = "/" + "/".join(parts[:depth])
        before, after = look_up(old, place), look_up(new, place)
        part = after if before is None else before
        if (before is None) != (after is None) and isinstance(part, dict):
            words = str(
                part.get("name") or f"{_named(parts[depth - 2]).rstrip('s')} {part.get('kind', '')}"
            ).strip()
            return f"{words} {'added' if before is None else 'removed'}"
    return ""


def _ending(field: str) -> tuple[str, str]:
    """A field without the unit at its end, and that unit."""
    head, _, tail = field.rpartition("_")
    return (head, tail) if head and tail in (*UNITS, "c", "m", "l", "s") else (field, "")


def _named(field: str) -> str:
    return _ending(field)[0].replace("_", " ")


def _change(field: str, before: Any, after: Any, new: Json) -> str:
    unit = _ending(field)[1]
    settings = look_up(new, "/site/units") or {}
    return f"{_shown(before, unit, settings)} → {_shown(after, unit, settings)}"


def _with_unit(value: float, unit: str, settings: Json) -> str:
    """A figure as a person reads it, in the units of the setting."""
    if unit == "c" and settings.get("temperature", "f") == "f":
        return f"{value * 9 / 5 + 32:.4g} °F"
    if unit == "m" and settings.get("length", "ft") == "ft":
        return f"{value / 0.3048:.4g} ft"
    if unit == "l" and settings.get("volume", "gal") == "gal":
        return f"{value / 3.785411784:.4g} gal"
    if unit == "s":
        if abs(value) >= HOUR_S and value % HOUR_S == 0:
            return f"{value / HOUR_S:g} h"
        return f"{value / MINUTE_S:g} min" if value and value % MINUTE_S == 0 else f"{value:g} s"
    return f"{value:g} {UNITS.get(unit) or {'c': '°C', 'm': 'm', 'l': 'L'}[unit]}"


def _shown(value: Any, unit: str = "", settings: Json | None = None) -> str:
    if unit and isinstance(value, int | float) and not isinstance(value, bool):
        return _with_unit(float(value), unit, settings or {})
    if value is None:
        return "none"
    if value == NOT_KNOWN:
        return "not known"
    if isinstance(value, float):
        return f"{value:g}"
    if isinstance(value, list):
        return ", ".join(_shown(item) for item in value) or "none"
    if isinstance(value, dict):
        return str(value.get("name") or value.get("kind") or "set")[:40]
    return str(value)[:40]
