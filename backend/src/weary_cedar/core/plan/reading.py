"""How a plan document is read, and its published schema."""

import json
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from weary_cedar.core.errors import InvalidPlan, NotReadable, Problem, UnknownSchemaVersion, shown
from weary_cedar.core.plan.contradictions import contradictions
from weary_cedar.core.plan.document import SCHEMA_ID, Plan
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION, upgraded


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
    data = upgraded(source if isinstance(source, dict) else _parse(source))
    version = data.get("schema_version")
    if isinstance(version, bool) or version != SCHEMA_VERSION:
        newer = isinstance(version, int) and not isinstance(version, bool) and version > SCHEMA_VERSION
        right = f"this program reads version {SCHEMA_VERSION}" + ("; a newer one wrote this" if newer else "")
        problem = Problem("/schema_version", shown(version), right)
        raise UnknownSchemaVersion(f"Plan version {shown(version)} is not known here.", (problem,))
    plan = read_part(Plan, data)
    found = tuple(contradictions(plan))
    if found:
        raise InvalidPlan(_count(found), found)
    return plan


Part = TypeVar("Part", bound=BaseModel)


def read_part(kind: type[Part], data: dict[str, Any]) -> Part:
    """Read a part of a plan, or what holds such parts, from JSON values.

    Raises:
        InvalidPlan: wrong fields; every one is named with its value and what would be right.
    """
    try:
        return kind.model_validate_json(json.dumps(data))
    except ValidationError as error:
        problems = tuple(_problem(item) for item in error.errors(include_url=False, include_context=False))
        raise InvalidPlan(_count(problems), problems) from None


def _parse(text: str | bytes) -> dict[str, Any]:
    try:
        data = json.loads(text, parse_constant=_refuse_constant)
    except (ValueError, RecursionError) as error:
        reason = str(error) if not isinstance(error, RecursionError) else "nested too deeply"
        raise NotReadable(
            f"This is not JSON: {reason}.", (Problem("/", shown(text), "a plan as JSON text"),)
        ) from None
    if not isinstance(data, dict):
        raise NotReadable("This is not a plan.", (Problem("/", shown(data), "a JSON object"),))
    return data


def _refuse_constant(name: str) -> float:
    raise ValueError(f"{name} is not a JSON number")


def _problem(item: Any) -> Problem:
    union_tags = {"steady", "cycling", "job", "thermostatic", "measured"}
    parts = [str(part) for part in item["loc"] if not (part in union_tags and "behaviour" in item["loc"])]
    given = "nothing" if item["type"] == "missing" else shown(item["input"])
    return Problem("/" + "/".join(parts), given, item["msg"][:1].lower() + item["msg"][1:])


def _count(problems: tuple[Problem, ...]) -> str:
    first = str(problems[0])
    more = len(problems) - 1
    return first if more == 0 else f"{first} (and {more} more)"
