"""The families of checks, loaded once so that they register."""

from importlib import import_module

NAMES = (
    "feeds",
    "neutral",
    "sources",
    "limits",
    "conductors",
    "drops",
    "recharging",
    "solar",
    "direct_current",
    "house_230",
    "people",
    "survey",
    "in_the_run",
)


def load() -> None:
    """Import every family."""
    for name in NAMES:
        import_module(f"{__package__}.{name}")
