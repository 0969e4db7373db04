"""Figures of sums with units as people write them: `length=40ft awg=12 amps=8`."""

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.sums import SUMS, Given
from weary_cedar.formats.quantity import read_quantity

#: Unit of a sum → kinds of quantity that may be written for it, and what its stored unit is in SI.
KINDS: dict[str, tuple[tuple[str, ...], float]] = {
    "W": (("power",), 1.0),
    "VA": (("apparent", "power"), 1.0),
    "Wh": (("energy", "daily"), 1.0),
    "A": (("current",), 1.0),
    "V": (("voltage",), 1.0),
    "m": (("length",), 1.0),
    "L": (("volume",), 1.0),
    "s": (("time",), 1.0),
    "h": (("time",), 3600.0),
    "%": (("share",), 0.01),
}


def read_figures(name: str, pairs: dict[str, str]) -> dict[str, float]:
    """Read the figures of a sum as typed.

    Args:
        name: of the sum; an unknown one is left for the sum to refuse.
        pairs: key → text.

    Returns:
        Key → value in the unit of the sum; a plain number is in that unit.

    Raises:
        InvalidInput: every text that cannot be read.
    """
    known = {item.key: item for item in SUMS[name].given} if name in SUMS else {}
    values: dict[str, float] = {}
    problems: list[Problem] = []
    for key, text in pairs.items():
        try:
            values[key] = _value(text, f"/{key}", known.get(key))
        except InvalidInput as error:
            problems += error.problems
    if problems:
        raise InvalidInput(str(problems[0]), tuple(problems))
    return values


def _value(text: str, field: str, item: Given | None) -> float:
    kinds, factor = KINDS.get(item.unit if item else "", ((), 1.0))
    plain = text.strip().removesuffix(item.unit).strip() if item and item.unit not in KINDS else text
    found = read_quantity(plain.replace("−", "-"), field)
    if found.kind == "":
        return found.value
    if found.kind not in kinds:
        right = f"a figure in {item.unit}" if item and item.unit else "a plain number"
        problem = Problem(field, text.strip()[:40], right)
        raise InvalidInput(str(problem), (problem,))
    return found.value / factor
