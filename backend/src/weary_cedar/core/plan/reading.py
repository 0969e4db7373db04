"""How a plan document is read, and its published schema."""

import json
import math
import re
from collections import Counter
from collections.abc import Iterable
from dataclasses import replace
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from weary_cedar.core.errors import InvalidPlan, NotReadable, Problem, UnknownSchemaVersion, shown
from weary_cedar.core.plan.contradictions import contradictions
from weary_cedar.core.plan.document import SCHEMA_ID, Plan
from weary_cedar.core.plan.said import said
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION, Upgraded

#: Kinds that pydantic puts into the path of what is wrong.
TAGS = {
    *("steady", "cycling", "job", "thermostatic", "measured", "refrigerating"),
    *("feed", "loads", "input", "cord", "adapter", "inlet"),
    *("engine", "plug", "shed", "together", "surplus", "while", "hand_cycle", "reserve", "utility"),
    *("swap", "order", "start", "turn", "said", "word"),
}
#: Fields in which a word may stand for a group or a list.
WORD_OR_SAID = ("idle_cutout", "overload_curve")
#: Half of a character: a surrogate without its partner.
HALF = re.compile("[\ud800-\udfff]")


def plan_schema() -> dict[str, Any]:
    """JSON Schema of the plan document, with its `$id`."""
    schema = Plan.model_json_schema()
    schema["properties"]["schema_version"] = {"const": SCHEMA_VERSION, "type": "integer"}
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "$id": SCHEMA_ID, **schema}


def read_plan(source: str | bytes | dict[str, Any]) -> Plan:
    """Read and check a plan document.

    Args:
        source: JSON text, or the same as a dictionary of JSON values.

    Returns:
        The plan, complete and consistent.

    Raises:
        NotReadable: not JSON, or not an object.
        UnknownSchemaVersion: a version that this program does not know.
        InvalidPlan: wrong fields; every one is named with its value and what would be right.
    """
    read = Upgraded(source if isinstance(source, dict) else parse(source))
    data = read.document
    version = data.get("schema_version")
    if isinstance(version, bool) or version != SCHEMA_VERSION:
        newer = isinstance(version, int) and not isinstance(version, bool) and version > SCHEMA_VERSION
        right = f"this program reads version {SCHEMA_VERSION}" + ("; a newer one wrote this" if newer else "")
        problem = Problem("/schema_version", shown(version), right)
        raise UnknownSchemaVersion(f"Plan version {shown(version)} is not known here.", (problem,))
    try:
        plan = read_part(Plan, data)
    except InvalidPlan as error:
        problems = _as_read(error.problems, read)
        raise InvalidPlan(_count(problems), problems) from None
    found = _as_read(contradictions(plan), read)
    if found:
        raise InvalidPlan(_count(found), found)
    return plan


def _as_read(problems: Iterable[Problem], read: Upgraded) -> tuple[Problem, ...]:
    """Problems by the fields of the document that was read, whatever its version."""
    return tuple(replace(problem, field=read.told(problem.field)) for problem in problems)


Part = TypeVar("Part", bound=BaseModel)


def read_part(kind: type[Part], data: dict[str, Any]) -> Part:
    """Read a part of a plan, or what holds such parts, from JSON values.

    Raises:
        InvalidPlan: wrong fields; every one is named with its value and what would be right.
    """
    try:
        return kind.model_validate_json(json.dumps(data))
    except ValidationError as error:
        found = error.errors(include_url=False)
        problems = tuple(_problem(item) for item in found if not _only_follows(item, found))
        raise InvalidPlan(_count(problems), problems) from None


def _only_follows(item: ErrorDetails, found: list[ErrorDetails]) -> bool:
    """Whether a list is too short only because what is in it is wrong, which is said by itself."""
    place = item["loc"]
    inside = (other["loc"] for other in found if other is not item)
    return item["type"] == "too_short" and any(loc[: len(place)] == place for loc in inside)


def parse(text: str | bytes) -> dict[str, Any]:
    """A JSON object from its text: finite numbers, whole characters, a name only once.

    Raises:
        NotReadable: it is not one, with where and why.
    """
    try:
        words = text if isinstance(text, str) else text.decode("utf-8-sig")
        words.encode()
        data = json.loads(
            words, parse_constant=_refuse_constant, parse_float=_finite, object_pairs_hook=_each_once
        )
    except (ValueError, RecursionError) as error:
        reason = str(error)
        if isinstance(error, RecursionError):
            reason = "nested too deeply"
        elif isinstance(error, UnicodeError):
            reason = "it is not text in UTF-8"
        raise NotReadable(
            f"This is not JSON: {reason[:200]}.", (Problem("/", shown(text), "a JSON object"),)
        ) from None
    if not isinstance(data, dict):
        raise NotReadable("This is not a JSON object.", (Problem("/", shown(data), "a JSON object"),))
    if re.search(r"\\u[dD][89a-fA-F]", words):
        _refuse_halves(data)
    return data


def _refuse_constant(name: str) -> float:
    raise ValueError(f"{name} is not a JSON number")


def _finite(digits: str) -> float:
    value = float(digits)
    if math.isinf(value):
        raise ValueError(f"the number {digits[:20]} is too large")
    return value


def _each_once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        twice = Counter(name for name, _ in pairs).most_common(1)[0][0]
        raise ValueError(f"the name {shown(twice)} stands twice in one object")
    return found


def _refuse_halves(data: dict[str, Any]) -> None:
    """Refuse half characters (surrogates without their partner): they are no text and cannot be stored."""
    waiting: list[tuple[str, Any]] = [("", data)]
    while waiting:
        at, value = waiting.pop()
        if isinstance(value, dict):
            waiting += [(f"{at}/{key}", item) for key, item in value.items()]
            waiting += [(f"{at}/", key) for key in value]
        elif isinstance(value, list):
            waiting += [(f"{at}/{index}", item) for index, item in enumerate(value)]
        elif isinstance(value, str) and HALF.search(value):
            field = HALF.sub("?", at)
            problem = Problem(field, shown(value), "whole characters: half of one (a surrogate) is no text")
            raise NotReadable(f"There is half a character at {field}.", (problem,))


def _problem(item: Any) -> Problem:
    parts = [str(part) for index, part in enumerate(item["loc"]) if not _tag(item["loc"], index)]
    given = item["input"]
    if item["type"].startswith("union_tag"):
        named = item["ctx"]["discriminator"].strip("'")
        parts.append(named)
        given = given.get(named) if isinstance(given, dict) else given
    told = "nothing" if item["type"] == "missing" else shown(given)
    return Problem("/" + "/".join(parts), told, said(item))


def _tag(loc: tuple[Any, ...], index: int) -> bool:
    """Whether a step of a path names a kind of a union, not a field: behind `behaviour`, in `box` …"""
    before = loc[:index]
    if not before or loc[index] not in TAGS:
        return False
    return before[-1] in ("behaviour", "to", *WORD_OR_SAID) or (
        len(before) > 1 and before[-2] in ("rules", "box")
    )


def _count(problems: tuple[Problem, ...]) -> str:
    first = str(problems[0])
    more = len(problems) - 1
    return first if more == 0 else f"{first} (and {more} more)"
