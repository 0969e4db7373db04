"""Jobs for the tests of lanes; processes import them from here."""

import time
from pathlib import Path

from weary_cedar.core.errors import InvalidInput, Problem


def spins(seconds: float) -> str:
    """Keeps a processor busy."""
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        pass
    return "done"


def spins_until(done: Path) -> str:
    """Keeps a processor busy until a file is there."""
    while not done.exists():
        pass
    return "done"


def hoards(megabytes: int) -> int:
    return len(bytearray(megabytes * 1024**2))


def refuses(_what: str) -> None:
    raise InvalidInput("no", (Problem("/x", "1", "2"),))
