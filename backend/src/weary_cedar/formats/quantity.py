"""Quantities as people write them, turned into SI. The one place for conversions of input."""

import re
from dataclasses import dataclass

from weary_cedar.core.errors import InvalidInput, Problem

#: unit as written, lower case → (kind, factor to SI, or None where it is not a factor)
UNITS: dict[str, tuple[str, float]] = {
    "w": ("power", 1.0),
    "watt": ("power", 1.0),
    "watts": ("power", 1.0),
    "kw": ("power", 1000.0),
    "hp": ("power", 745.7),
    "btu/h": ("power", 0.29307107),
    "va": ("apparent", 1.0),
    "kva": ("apparent", 1000.0),
    "wh": ("energy", 1.0),
    "kwh": ("energy", 1000.0),
    "btu": ("energy", 0.29307107),
    "wh/day": ("daily", 1.0),
    "wh/d": ("daily", 1.0),
    "kwh/day": ("daily", 1000.0),
    "kwh/d": ("daily", 1000.0),
    "kwh/year": ("daily", 1000.0 / 365.25),
    "kwh/yr": ("daily", 1000.0 / 365.25),
    "a": ("current", 1.0),
    "amp": ("current", 1.0),
    "amps": ("current", 1.0),
    "v": ("voltage", 1.0),
    "%": ("share", 0.01),
    "s": ("time", 1.0),
    "sec": ("time", 1.0),
    "min": ("time", 60.0),
    "h": ("time", 3600.0),
    "hours": ("time", 3600.0),
    "d": ("time", 86_400.0),
    "m": ("length", 1.0),
    "ft": ("length", 0.3048),
    "in": ("length", 0.0254),
    "l": ("volume", 1.0),
    "gal": ("volume", 3.785411784),
}

#: A figure of at most 15 digits on each side; it does not begin inside another.
NUMBER = (
    r"(?<!\d)[-+]?(?:\d{1,3}(?:,\d{3}){1,5}(?!\d)(?:\.\d{1,15})?|\d{1,15}(?:[.,]\d{1,15})?|\.\d{1,15})(?!\d)"
)
QUANTITY = re.compile(rf"^\s*({NUMBER})\s*([a-zA-Z%][a-zA-Z%/]*)?\s*$")


@dataclass(frozen=True)
class Quantity:
    """A value in SI with its kind; the kind is empty where no unit was written."""

    value: float
    kind: str


def read_number(text: str) -> float:
    """A number with a point or a single decimal comma, or thousands separated by commas.

    >>> read_number("1,500"), read_number("1,5"), read_number("2.25")
    (1500.0, 1.5, 2.25)
    """
    if re.fullmatch(r"[-+]?\d{1,3}(?:,\d{3})+(?:\.\d+)?", text):
        return float(text.replace(",", ""))
    return float(text.replace(",", "."))


def read_quantity(text: str, field: str, *kinds: str) -> Quantity:
    """Read a quantity.

    Args:
        text: such as `1.5 kW`, `12,000 BTU`, `40 ft`, `30A`.
        field: named in the error.
        kinds: those that would be right; any if none is given. A plain number is refused where
            more than one kind would be right: nothing is guessed.

    Returns:
        The value in SI units and its kind.

    Raises:
        InvalidInput: not a quantity, or not of these kinds.

    >>> read_quantity("1.6 kWh/day", "/use", "daily").value
    1600.0
    """
    found = QUANTITY.match(text) if len(text) <= 100 else None
    example = "a number with its unit, such as 130 W or 1.6 kWh/day"
    if found is None:
        raise _wrong(field, text, example)
    unit = (found[2] or "").lower()
    if not unit:
        if len(kinds) > 1:
            raise _wrong(field, text, f"with its unit: {' or '.join(kinds)}")
        return Quantity(read_number(found[1]), "")
    if unit not in UNITS:
        raise _wrong(field, text, f"{example}; “{found[2]}” is not a unit known here")
    kind, factor = UNITS[unit]
    if kinds and kind not in kinds:
        raise _wrong(field, text, f"a quantity of {' or '.join(kinds)}")
    return Quantity(read_number(found[1]) * factor, kind)


def _wrong(field: str, text: str, right: str) -> InvalidInput:
    problem = Problem(field, text.strip()[:60], right)
    return InvalidInput(str(problem), (problem,))
