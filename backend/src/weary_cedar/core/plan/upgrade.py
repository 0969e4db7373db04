"""Plan documents of older versions, brought up to the present one step by step."""

from collections.abc import Callable, Mapping
from typing import Any

Json = dict[str, Any]

SCHEMA_VERSION = 1

#: Version → the step that leads from it to the next. A step gets a document of its own to change.
#: Empty as long as version 1 is the only one there has been.
STEPS: Mapping[int, Callable[[Json], Json]] = {}


def upgraded(document: Json, steps: Mapping[int, Callable[[Json], Json]] = STEPS) -> Json:
    """Bring a document to the present version, as far as steps are known.

    Args:
        document: as read; left as it is.
        steps: version → step to the next version.

    Returns:
        The document after all steps, its `schema_version` counted up; unchanged where its version
        is the present one, newer, or none.
    """
    version = document.get("schema_version")
    while isinstance(version, int) and not isinstance(version, bool) and version in steps:
        document = {**steps[version](dict(document)), "schema_version": version + 1}
        version += 1
    return document
