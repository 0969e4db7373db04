"""The heart of the run as machine code, where it was built from this very source.

`backend/compile.py` builds the modules below with mypyc into `weary_cedar/compiled`: the same source, the
same results, in a third of the time. They are taken only if the source is still the one that they were
built from; otherwise, or with WEARY_CEDAR_PLAIN set, what runs is the source.
"""

import os
import sys
from collections.abc import Sequence
from hashlib import sha256
from importlib.abc import MetaPathFinder
from importlib.machinery import EXTENSION_SUFFIXES, ModuleSpec
from importlib.util import spec_from_file_location
from pathlib import Path
from types import ModuleType

PACKAGE = Path(__file__).parent
FOLDER = PACKAGE / "compiled"
FINGERPRINT = "built-from"
#: What a run does from moment to moment, in two parts that are compiled side by side. A module that only
#: makes words of a run, or lays its result out, is not worth the wait.
PARTS = {
    "weary_cedar_devices": {
        "exact": "course",
        "electrical": "pv_string split_phase voltage_drop",
        "supply": "charging fuel overload packs reserve station_energy sun sun_course unit",
        "demand": "behaviour cold_store cycling job refrigerating replay thermostatic timed",
    },
    "weary_cedar_run": {
        "outage": (
            "assemble bedtime calendar calm carriers connected controls flows forest hand_cycle kernel "
            "leg_sums never_together only_while recorder shedding starts state surplus thresholds timeline "
            "tree turns weather"
        ),
    },
}
#: Rooms of the core whose types the compiled modules are built on.
ROOMS = ("plan", "exact", "electrical", "supply", "demand", "network", "outage")


def fingerprint() -> str:
    """A checksum of every source that machine code is built from, of what is built, and for which Python."""
    found = sha256(Path(__file__).read_bytes() + EXTENSION_SUFFIXES[0].encode())
    for room in ROOMS:
        for path in sorted((PACKAGE / "core" / room).rglob("*.py")):
            found.update(path.name.encode() + path.read_bytes())
    return found.hexdigest()


def checksum() -> str:
    """A checksum of everything that was built."""
    found = sha256()
    for path in sorted(FOLDER.rglob(f"*{EXTENSION_SUFFIXES[0]}")):
        found.update(path.relative_to(FOLDER).as_posix().encode() + path.read_bytes())
    return found.hexdigest()


def seal() -> None:
    """Note of what the machine code was built, and what it is."""
    (FOLDER / FINGERPRINT).write_text(f"{fingerprint()}\n{checksum()}\n")


def is_fresh() -> bool:
    """Whether machine code is here, whole, and was built from this source."""
    kept = FOLDER / FINGERPRINT
    return kept.is_file() and kept.read_text().split() == [fingerprint(), checksum()]


class _Finder(MetaPathFinder):
    """Finds what was built before the source beside it."""

    def __init__(self) -> None:
        suffix = EXTENSION_SUFFIXES[0]
        built = FOLDER.rglob(f"*{suffix}")
        self.files = {
            str(path.relative_to(FOLDER)).removesuffix(suffix).replace(os.sep, "."): path for path in built
        }

    def find_spec(
        self, fullname: str, path: Sequence[str] | None, target: ModuleType | None = None
    ) -> ModuleSpec | None:
        """The specification of a built module; nothing for any other."""
        file = self.files.get(fullname)
        return None if file is None else spec_from_file_location(fullname, file)


def prefer() -> None:
    """Take built modules from now on, if they may be taken."""
    if not os.environ.get("WEARY_CEDAR_PLAIN") and is_fresh():
        sys.meta_path.insert(0, _Finder())


def in_use() -> bool:
    """Whether built modules are taken in this process."""
    return any(isinstance(finder, _Finder) for finder in sys.meta_path)
