"""What is printed on a plate, typed as it stands there: `12–60 V⎓ 15 A, 500 W max`."""

import re
from collections.abc import Callable

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.formats.quantity import NUMBER, read_number
from weary_cedar.formats.text_file import LONGEST_LINE

Fields = dict[str, float]
KINDS = ("dc_input", "ac_input", "module", "generator")
RANGE = re.compile(rf"({NUMBER})\s*V?\s*(?:-|–|—|−|~|to|\.\.\.?|…)\s*({NUMBER})\s*V", re.I)
#: Quantity → pattern of a figure with its unit; a unit ends where its word ends.
UNIT = {
    unit: re.compile(rf"({NUMBER})\s*(k?)(?:{unit})(?![a-zA-Z])", re.I)
    for unit in ("V", "A", "W|watts?", "VA", "Hz")
}
#: Column of a module's plate → the words that stand before its figure.
MODULE_WORDS = {
    "watts": r"P\s*max|P\s*mpp|maximum power(?!\s*(?:volt|curr|point))|rated power|peak power",
    "voc_v": r"V\s*oc|open[- ]circuit voltage",
    "vmp_v": r"V\s*mpp?|V\s*pm|(?:maximum|max\.?) power voltage|operating voltage",
    "isc_a": r"I\s*sc|short[- ]circuit current",
    "imp_a": r"I\s*mpp?|I\s*pm|(?:maximum|max\.?) power current|operating current",
    "series_fuse_a": r"(?:maximum |max\.? )?series fuse(?: rating)?",
}
#: What stands between those words and the figure: symbols in brackets, colons, a unit.
BETWEEN = r"\s*(?:\([^)]*\))?\s*(?:\[[^\]]*\])?\s*[:=]?\s*"
#: Nominal volts of AC inputs by what is printed.
LOW_V, HIGH_V = (100.0, 127.0), (200.0, 250.0)


def read_plate(kind: str, text: str) -> Fields:
    """Read a plate as it is printed.

    Args:
        kind: dc_input, ac_input, module or generator.
        text: one line or several, with units.

    Returns:
        Field of the noun → value in SI; only what is printed.

    Raises:
        InvalidInput: nothing can be read, or it can be meant in two ways.

    >>> read_plate("dc_input", "Solar 12–60V⎓ 15A, 500W max")
    {'low_v': 12.0, 'high_v': 60.0, 'most_a': 15.0, 'most_w': 500.0}
    """
    reader = READERS.get(kind)
    if reader is None:
        raise _wrong("/kind", kind, f"one of {', '.join(READERS)}")
    if len(text) > LONGEST_LINE:
        raise _wrong("/text", text, f"at most {LONGEST_LINE:,} characters, {EXAMPLES[kind]}")
    found = reader(" ".join(text.split()))
    if not found:
        raise _wrong("/text", text, EXAMPLES[kind])
    return found


EXAMPLES = {
    "dc_input": "as printed, such as 12–60 V 15 A 500 W",
    "ac_input": "as printed, such as AC 120 V 60 Hz 15 A 1800 W",
    "module": "as printed, such as Pmax 400 W Voc 37.1 V Vmp 31.2 V Isc 13.6 A Imp 12.8 A",
    "generator": "as printed, such as 1800 W rated 2200 W max",
}


def _figure(unit: str, text: str) -> float | None:
    found = UNIT[unit].search(text)
    return read_number(found[1]) * (1000.0 if found[2] else 1.0) if found else None


def _known(**figures: float | None) -> Fields:
    return {name: value for name, value in figures.items() if value is not None}


def _dc_input(text: str) -> Fields:
    window = RANGE.search(text)
    low_v, high_v = (read_number(window[1]), read_number(window[2])) if window else (None, _figure("V", text))
    rest = text.replace(window[0], " ") if window else text
    return _known(low_v=low_v, high_v=high_v, most_a=_figure("A", rest), most_w=_figure("W|watts?", rest))


def _ac_input(text: str) -> Fields:
    window = RANGE.search(text)
    volts = read_number(window[2]) if window else _figure("V", text)
    rest = text.replace(window[0], " ") if window else text
    return _known(volts=_nominal(volts, text), cap_a=_figure("A", rest), most_w=_figure("W|watts?", rest))


def _nominal(volts: float | None, text: str) -> float | None:
    """120, 230 or 240 V by what is printed; 220–240 V alone may be either, so it is asked."""
    if volts is None:
        return None
    if LOW_V[0] <= volts <= LOW_V[1]:
        return 120.0
    if LOW_V[1] < volts < HIGH_V[0] or volts > HIGH_V[1] or volts < LOW_V[0]:
        raise _wrong("/text", f"{volts:g} V", "an input of 120, 230 or 240 V")
    hertz = {read_number(item[1]) for item in UNIT["Hz"].finditer(text)}
    if hertz == {60.0}:
        return 240.0
    if hertz == {50.0} or volts == 230:
        return 230.0
    raise _wrong("/text", f"{volts:g} V", "with its frequency: 60 Hz for 240 V, 50 Hz for 230 V")


def _module(text: str) -> Fields:
    found: Fields = {}
    for name, words in MODULE_WORDS.items():
        match = re.search(rf"(?:{words}){BETWEEN}({NUMBER})", text, re.I)
        if match:
            found[name] = read_number(match[1])
    slope = re.search(
        rf"(?:V\s*oc|open[- ]circuit)[^%]*?([-−–]\s*{NUMBER})\s*%\s*/\s*(?:°\s*C|K|℃)", text, re.I
    )
    if slope:
        found["voc_percent_per_k"] = -abs(read_number(re.sub(r"[-−–\s]", "", slope[1])))
    return found


def _generator(text: str) -> Fields:
    watts = sorted(
        read_number(item[1]) * (1000.0 if item[2] else 1.0)
        for unit in ("W|watts?", "VA")
        for item in UNIT[unit].finditer(text)
    )
    return _known(rated_w=watts[0] if watts else None, starting_w=watts[-1] if len(watts) > 1 else None)


READERS: dict[str, Callable[[str], Fields]] = {
    "dc_input": _dc_input,
    "ac_input": _ac_input,
    "module": _module,
    "generator": _generator,
}


def _wrong(field: str, text: str, right: str) -> InvalidInput:
    problem = Problem(field, text.strip()[:60], right)
    return InvalidInput(str(problem), (problem,))
