"""Text for a terminal: what a name holds never steers it."""

import re

#: Control characters, the line feed among them, and those that turn the direction of writing.
STEERING = re.compile("[\x00-\x1f\x7f-\x9f\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069\ud800-\udfff]")


def for_terminal(text: str) -> str:
    """A line of text with control characters written out instead of sent.

    >>> for_terminal("fridge\\x1b[2J")
    'fridge\\\\x1b[2J'
    """
    return STEERING.sub(lambda found: found[0].encode("unicode_escape").decode("ascii"), text)
