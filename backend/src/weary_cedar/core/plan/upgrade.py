"""Plan documents of older versions, brought up to the present one step by step."""

from collections.abc import Callable, Mapping
from typing import Any, Protocol

from weary_cedar.core.plan.schema_1 import FromSchema1

Json = dict[str, Any]

SCHEMA_VERSION = 2


class Step(Protocol):
    """A document after one step, and where each of its fields stood before."""

    document: Json

    def told(self, pointer: str) -> str:
        """A pointer into the document after the step as one into that before."""


#: Version → the step that leads from it to the next.
STEPS: Mapping[int, Callable[[Json], Step]] = {1: FromSchema1}


class Upgraded:
    """A document at the present version, as far as steps are known; what was read is left as it is."""

    def __init__(self, document: Json, steps: Mapping[int, Callable[[Json], Step]] = STEPS) -> None:
        self._taken: list[Step] = []
        version = document.get("schema_version")
        while isinstance(version, int) and not isinstance(version, bool) and version in steps:
            self._taken.append(steps[version](document))
            version += 1
            document = {**self._taken[-1].document, "schema_version": version}
        #: Its `schema_version` counted up; unchanged where that is the present one, newer, or none.
        self.document = document

    def told(self, pointer: str) -> str:
        """A pointer into the upgraded document as one into the document that was read."""
        for step in reversed(self._taken):
            pointer = step.told(pointer)
        return pointer


def upgraded(document: Json, steps: Mapping[int, Callable[[Json], Step]] = STEPS) -> Json:
    """A document at the present version.

    Args:
        document: as read; left as it is.
        steps: version → step to the next version.

    Returns:
        The document after all steps, its `schema_version` counted up; unchanged where its version
        is the present one, newer, or none.
    """
    return Upgraded(document, steps).document
