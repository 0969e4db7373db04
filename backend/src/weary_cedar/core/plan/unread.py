"""Figures of plates that nobody has read, all over a plan."""

from collections.abc import Iterator

from weary_cedar.core.plan.base import Noun, OnPlate
from weary_cedar.core.plan.document import Plan


def plate_figures() -> dict[tuple[str, str], OnPlate]:
    """Every figure of a plate that may be unknown, by its noun and field."""
    return {
        (kind.__name__, name): mark
        for kind in _kinds(Noun)
        for name, mark in kind.plate_figures().items()
        if name in kind.__annotations__
    }


def _kinds(kind: type[Noun]) -> Iterator[type[Noun]]:
    for below in kind.__subclasses__():
        yield below
        yield from _kinds(below)


def unread_figures(plan: Plan) -> tuple[str, ...]:
    """Every figure of a plate in a plan that is not known, in words.

    Returns:
        In the order of the document: the part that it belongs to, what is not known, what a run counts with.

    Source: what the plan says; what counts meanwhile is common practice, no source.
    """
    found: list[str] = []
    for room in type(plan).model_fields:
        held = getattr(plan, room)
        for key, part in held.items() if isinstance(held, dict) else (("", held),):
            for name, mark, counted in _of(part, _named(plan, room, key)):
                found.append(f"{name}: not known is {mark.words}; {_counted(plan, mark, counted)}")
    return tuple(found)


def _named(plan: Plan, room: str, key: str) -> str:
    """What a part without a name of its own is called."""
    if room == "leads":
        return plan.lead_name(key)
    if room == "feeds":
        return f"feed of {plan.panels[plan.feeds[key].panel_id].name}"
    return plan.site.name


def _counted(plan: Plan, mark: OnPlate, counted: object) -> str:
    """What a run counts with meanwhile, in words."""
    if isinstance(counted, bool):
        return f"counted: {'yes' if counted else 'no'}"
    if not isinstance(counted, int | float):
        return "what is usual counts"
    told = {"°C": plan.site.units.told_warmth, "m": plan.site.units.told_length}.get(mark.unit)
    words = told(float(counted)) if told else f"{counted:g} {mark.unit}".strip()
    return f"{words} counted, as is usual"


def _of(value: object, name: str) -> Iterator[tuple[str, OnPlate, object]]:
    """Name of a part, the figure, and what counts meanwhile, wherever one is not known."""
    if isinstance(value, dict | tuple):
        for part in value.values() if isinstance(value, dict) else value:
            yield from _of(part, name)
    elif isinstance(value, Noun):
        own = getattr(value, "name", None) or getattr(value, "label", None) or name
        for field, mark in value.unread().items():
            yield own, mark, value.counted(field)
        for field in type(value).model_fields:
            yield from _of(getattr(value, field), own)
