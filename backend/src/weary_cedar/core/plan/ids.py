"""Ids made from words."""

import re
from collections.abc import Container


def free_id(words: str, taken: Container[str], fallback: str = "part") -> str:
    """An id from a name that is not taken yet.

    >>> free_id("Kitchen fridge", {"kitchen-fridge"})
    'kitchen-fridge-2'
    """
    stem = re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")[:30].rstrip("-") or fallback
    key, number = stem, 1
    while key in taken:
        number += 1
        key = f"{stem}-{number}"
    return key
