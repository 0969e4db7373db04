"""Places in a document, for tests that go through all of them."""

from collections.abc import Iterator
from typing import Any


def kinds_of_places(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Pointers into a document, as steps."""
    for key, inner in value.items() if isinstance(value, dict) else enumerate(value):
        yield (*path, key)
        if isinstance(inner, dict | list):
            yield from kinds_of_places(inner, (*path, key))
