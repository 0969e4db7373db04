"""What names what in a plan: taken from the types of its fields, for taking parts away and for asking."""

from collections.abc import Iterator
from functools import cache
from typing import Any, Final

from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.plan.base import Noun, Ref
from weary_cedar.core.plan.document import Plan
from weary_cedar.core.plan.lead import Outlet, ToFeed, ToLoads
from weary_cedar.core.plan.load import StartedOn
from weary_cedar.core.plan.outage import Act
from weary_cedar.core.plan.strategy import WhileRule

#: Rooms whose parts are named elsewhere.
ROOMS: Final = (
    "panels", "circuits", "loads", "stations", "links", "generators", "arrays", "vehicles", "externals",
    "places", "feeds", "leads",
)  # fmt: skip
#: A part: its room and id.
Part = tuple[str, str]


@cache
def refs_of(kind: type[Noun]) -> dict[str, Ref]:
    """Fields of a noun that name parts, by name."""
    return {
        name: mark
        for name, field in kind.model_fields.items()
        for mark in field.metadata
        if isinstance(mark, Ref)
    }


def whole_of(noun: Noun) -> Part | None:
    """The part that a noun names as a whole, by its kind or room and its id."""
    if isinstance(noun, Outlet | StartedOn):
        return f"{noun.kind}s", noun.id
    return (noun.room, noun.part_id) if isinstance(noun, Act) else None


# ---------------------------------------------------------------- take away


def without(plan: Plan, room: str, part_id: str) -> Plan:
    """A plan without a part, without what cannot be without it, and without what names either.

    Args:
        plan: the plan.
        room: of the part, such as `loads`.
        part_id: its id.

    Returns:
        The plan: circuits go with their panel, loads with their breaker (but for those that hang on a lead),
        leads with what they begin or end at, a feed with its last lead; rules, acts and incidents with what
        they are about; what only stood there, or was joined to it, lets go.

    Raises:
        NotFound: no such part.
    """
    if room not in ROOMS or part_id not in getattr(plan, room):
        problem = Problem("/part", shown(f"{room}/{part_id}"), "a part of this plan, such as loads/fridge")
        raise NotFound(str(problem), (problem,))
    gone = what_goes(plan, room, part_id)
    left: dict[str, Any] = {}
    for name in ROOMS:
        parts = {key: _left(part, gone) for key, part in _released(plan, name, gone).items()}
        left[name] = {
            key: part for key, part in parts.items() if part is not None and (name, key) not in gone
        }
    return plan.model_copy(
        update={**left, "outage": _left(plan.outage, gone), "strategy": _left(plan.strategy, gone)}
    )


def what_goes(plan: Plan, room: str, part_id: str) -> set[Part]:
    """A part with all parts that cannot be without it."""
    gone: set[Part] = {(room, part_id)}
    count = 0
    while len(gone) > count:
        count = len(gone)
        for name in ROOMS:
            for key, part in _released(plan, name, gone).items():
                if (name, key) not in gone and _left(part, gone) is None:
                    gone.add((name, key))
        gone |= {("feeds", key) for key in plan.feeds if _unplugged(plan, key, gone)}
    return gone


def _released(plan: Plan, room: str, gone: set[Part]) -> dict[str, Any]:
    """The parts of a room; a load that hangs on a lead is not bound to its breaker."""
    parts = getattr(plan, room)
    if room != "loads":
        return dict(parts)
    plugged = {
        key for lead in plan.leads.values() if isinstance(lead.to, ToLoads) for key in lead.to.load_ids
    }
    return {
        key: load.model_copy(update={"circuit_id": None})
        if key in plugged and ("circuits", load.circuit_id) in gone
        else load
        for key, load in parts.items()
    }


def _unplugged(plan: Plan, feed_id: str, gone: set[Part]) -> bool:
    """Whether all leads go that end at a feed, and there were some."""
    ends = [
        key for key, lead in plan.leads.items() if isinstance(lead.to, ToFeed) and lead.to.feed_id == feed_id
    ]
    return bool(ends) and all(("leads", key) in gone for key in ends)


def _left(noun: Any, gone: set[Part]) -> Any:
    """What is left of a noun when parts are gone; none where it goes, too."""
    if whole_of(noun) in gone:
        return None
    update: dict[str, Any] = {}
    kind: type[Noun] = type(noun)
    refs = refs_of(kind)
    for name in kind.model_fields:
        value = getattr(noun, name)
        if name not in refs:
            rest = _inside(value, gone)
            if rest is None and value is not None:
                return None
        else:
            ref = refs[name]
            rest = _kept(value, ref, gone)
            if rest == value:
                continue
            if rest is None and ref.gone == "goes":
                return None
            if isinstance(rest, tuple) and len(rest) < ref.least:
                return None
            update |= dict.fromkeys(ref.with_it)
        if rest is not value:
            update[name] = rest
    left = noun.model_copy(update=update) if update else noun
    idle = isinstance(left, WhileRule) and left.generator_id is None and left.sun_above_w is None
    return None if idle and update else left


def _kept(value: Any, ref: Ref, gone: set[Part]) -> Any:
    """What a field that names parts names still."""

    def is_gone(key: str | None) -> bool:
        return any((room, key) in gone for room in ref.rooms)

    if isinstance(value, tuple):
        return tuple(key for key in value if not is_gone(key))
    if isinstance(value, dict):
        return {key: item for key, item in value.items() if not is_gone(key)}
    return None if is_gone(value) else value


def _inside(value: Any, gone: set[Part]) -> Any:
    """What is left of nouns within a field."""
    if isinstance(value, Noun):
        return _left(value, gone)
    if isinstance(value, tuple) and value and isinstance(value[0], Noun):
        items = [(item, _left(item, gone)) for item in value]
        same = all(item is left for item, left in items)
        return value if same else tuple(left for _, left in items if left is not None)
    if isinstance(value, dict) and value and isinstance(next(iter(value.values())), Noun):
        parts = {key: _left(item, gone) for key, item in value.items()}
        same = all(parts[key] is item for key, item in value.items())
        return value if same else {key: item for key, item in parts.items() if item is not None}
    return value


# ---------------------------------------------------------------- ask


def named_in(noun: Noun, at: str = "") -> Iterator[tuple[str, Part]]:
    """Every part that a noun names, with the place of the field that does."""
    whole = whole_of(noun)
    if whole is not None:
        yield at, whole
    refs = refs_of(type(noun))
    for name in type(noun).model_fields:
        value = getattr(noun, name)
        if name in refs:
            keys = value if isinstance(value, tuple | dict) else () if value is None else (value,)
            for key in keys:
                yield from ((f"{at}/{name}", (room, key)) for room in refs[name].rooms)
            continue
        inner = (
            value.items() if isinstance(value, dict) else enumerate(value if isinstance(value, tuple) else ())
        )
        if isinstance(value, Noun):
            yield from named_in(value, f"{at}/{name}")
        for key, item in inner:
            if isinstance(item, Noun):
                yield from named_in(item, f"{at}/{name}/{key}")


def uses(plan: Plan, room: str, part_id: str) -> list[str]:
    """Places of the document that name a part."""
    return [at for at, part in named_in(plan) if part == (room, part_id)]
