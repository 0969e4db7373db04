"""Ids made from words."""

import re
from collections.abc import Container


def free_id(words: str, taken: Container[str], fallback: str = "part") -> str:
    """An id from a name that is not taken yet; looks at few numbers however many are taken.

    >>> free_id("Kitchen fridge", {"kitchen-fridge"})
    'kitchen-fridge-2'
    """
    stem = re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")[:30].rstrip("-") or fallback
    if stem not in taken:
        return stem
    above = 2
    while f"{stem}-{above}" in taken:
        above *= 2
    below = above // 2
    while above - below > 1:
        middle = (above + below) // 2
        if f"{stem}-{middle}" in taken:
            below = middle
        else:
            above = middle
    return f"{stem}-{above}"
