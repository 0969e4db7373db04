"""Plans that nobody would write: any part of the schema at its bounds, and demos with places changed."""

import copy
from collections.abc import Iterator
from typing import Any

from hypothesis import strategies as st

from weary_cedar.core.plan import plan_schema
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.edits import canonical

Json = dict[str, Any]
Path = tuple[Any, ...]

SCHEMA = plan_schema()
DOCUMENTS: dict[str, Json] = {name: canonical(demo_plan(name)) for name in DEMOS}
WORDS = (
    "x",
    "w" * 80,
    "=1+1",
    "fridge\x1b[2J",
    "Kühlschrank 🧊",
    "\u202eabc",
    "L14-30",
    "5-20",
    "a b;c,d\"e'",
)
MOMENTS = ("2000-01-01T00:00:00", "2026-03-08T01:30:00", "2026-11-01T01:30:00", "2099-12-31T23:59:59")
TIMES = ("00:00:00", "02:30:00", "12:00:00", "23:59:59.999999")
ZONES = ("UTC", "America/Los_Angeles", "Pacific/Apia", "Asia/Kathmandu", "Antarctica/Troll")
MOST_ITEMS = 12
TYPES = {list: "array", str: "string", bool: "boolean", int: "integer", float: "number"}


def resolved(schema: Json) -> Json:
    """A schema behind its references."""
    while "$ref" in schema:
        schema = SCHEMA["$defs"][schema["$ref"].rsplit("/", 1)[1]]
    return schema


def kinds(schema: Json) -> list[Json]:
    """The schemas that a value may follow."""
    schema = resolved(schema)
    found = schema.get("anyOf") or schema.get("oneOf")
    return [kind for part in found for kind in kinds(part)] if found else [schema]


def kind_of(schema: Json, value: Any) -> Json:
    """Of those, the one that a value seems to follow."""
    found = kinds(schema)
    if isinstance(value, dict):
        tag = value.get("kind") or value.get("part")
        for kind in found:
            consts = [
                p.get("const") for key, p in kind.get("properties", {}).items() if key in ("kind", "part")
            ]
            if tag in consts:
                return kind
        return next((kind for kind in found if kind.get("type") == "object"), found[0])
    of_type = {list: "array", str: "string", bool: "boolean", int: "integer", float: "number"}.get(
        type(value)
    )
    return next((kind for kind in found if kind.get("type") == of_type), found[0])


def places(schema: Json, value: Any, path: Path = ()) -> Iterator[tuple[Path, Json, bool]]:
    """Every place of a document, and those that it could have: where, by which schema, whether optional."""
    kind = kind_of(schema, value)
    if isinstance(value, dict):
        needed = kind.get("required", [])
        for key, inner in kind.get("properties", {}).items():
            yield (*path, key), inner, key not in needed
            if key in value:
                yield from places(inner, value[key], (*path, key))
        if isinstance(kind.get("additionalProperties"), dict):
            for key, item in value.items():
                yield (*path, key), kind["additionalProperties"], True
                yield from places(kind["additionalProperties"], item, (*path, key))
    elif isinstance(value, list):
        for index, item in enumerate(value[:MOST_ITEMS]):
            inner = kind.get("items") or kind["prefixItems"][index]
            yield (*path, index), inner, False
            yield from places(inner, item, (*path, index))


def numbers(kind: Json) -> st.SearchStrategy[float]:
    """Figures at and about the bounds of a schema; some outside."""
    low: Any = kind.get("minimum", kind.get("exclusiveMinimum", 0))
    high: Any = kind.get("maximum", kind.get("exclusiveMaximum", 1e6))
    inside = [
        low,
        high,
        low + (high - low) / 3,
        low + (high - low) * 1e-6,
        (low * high) ** 0.5 if low > 0 else 1,
    ]
    found = [*inside, *inside, 0, low - 1, high * 2 + 1, 1e-300, 1e300]
    if kind["type"] == "integer":
        return st.sampled_from([int(value) for value in found if abs(value) < 1e15])
    return st.sampled_from([float(value) for value in found])


def value_of(draw: st.DrawFn, schema: Json, ids: list[str], depth: int = 0) -> Any:
    """A value that a schema allows, mostly at its bounds; references are to ids that there are."""
    kind = draw(st.sampled_from(kinds(schema)))
    if "const" in kind:
        return kind["const"]
    if "enum" in kind:
        return draw(st.sampled_from(kind["enum"]))
    match kind.get("type"):
        case "null":
            return None
        case "boolean":
            return draw(st.booleans())
        case "integer" | "number":
            return draw(numbers(kind))
        case "string":
            return draw(st.sampled_from(_texts(kind, ids)))
        case "array":
            return _array(draw, kind, ids, depth)
    found = {}
    for key, inner in kind.get("properties", {}).items():
        if key in kind.get("required", []) or (depth < 4 and draw(st.integers(0, 3)) == 0):
            found[key] = value_of(draw, inner, ids, depth + 1)
    if isinstance(kind.get("additionalProperties"), dict) and depth < 4:
        for key in draw(st.lists(st.sampled_from([*ids[:6], "new-one"]), max_size=2, unique=True)):
            found[key] = value_of(draw, kind["additionalProperties"], ids, depth + 1)
    return {key: value for key, value in found.items() if value is not None}


def _texts(kind: Json, ids: list[str]) -> tuple[str, ...] | list[str]:
    pattern = kind.get("pattern", "")
    if "T" in pattern:
        return MOMENTS
    if ":" in pattern:
        return TIMES
    if "a-z0-9" in pattern:
        return [*ids, "new-one"]
    return [*WORDS, *ZONES]


def _array(draw: st.DrawFn, kind: Json, ids: list[str], depth: int) -> list[Any]:
    if "prefixItems" in kind:
        return [value_of(draw, item, ids, depth + 1) for item in kind["prefixItems"]]
    least = kind.get("minItems", 0)
    most = min(kind.get("maxItems", MOST_ITEMS), MOST_ITEMS)
    length = draw(st.sampled_from([least, min(most, least + 1), min(most, least + 3)]))
    return [value_of(draw, kind["items"], ids, depth + 1) for _ in range(length)]


def ids_of(document: Json) -> list[str]:
    """Ids of all parts of a document."""
    rooms = [part for part in document.values() if isinstance(part, dict)]
    return sorted({key for room in rooms for key, item in room.items() if isinstance(item, dict)})


def put(document: Json, path: Path, value: Any) -> Json:
    """A document with another value at a place; nothing there if it is none."""
    changed = copy.deepcopy(document)
    holder: Any = changed
    for key in path[:-1]:
        holder = holder[key]
    if value is None and isinstance(holder, dict):
        holder.pop(path[-1], None)
    else:
        holder[path[-1]] = value
    return changed


@st.composite
def strange_plans(draw: st.DrawFn) -> Json:
    """A demo with one to four places changed: to bounds, to other kinds, to nothing, or to new parts."""
    document = DOCUMENTS[draw(st.sampled_from(sorted(DOCUMENTS)))]
    for _ in range(draw(st.integers(1, 4))):
        found = sorted(places(SCHEMA, document), key=lambda place: str(place[0]))
        path, schema, optional = draw(st.sampled_from(found))
        gone = optional and draw(st.integers(0, 5)) == 0
        document = put(document, path, None if gone else value_of(draw, schema, ids_of(document)))
    return document
