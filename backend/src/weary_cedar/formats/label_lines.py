"""Labels of a panel typed in as lines: `1 kitchen fridge 20 A`, `2 4 range 40 A`."""

import re

from pydantic import ValidationError

from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan import Circuit
from weary_cedar.core.plan.ids import free_id
from weary_cedar.formats.text_file import numbered_lines

LINE = re.compile(
    r"^\s*(?P<first>\d{1,2})(?P<half>[ab])?(?:\s*[,/&+ -]\s*(?P<second>\d{1,2})(?=\D))?"
    r"\s*[.:)]?\s+(?P<rest>.*\S)\s*$",
    re.IGNORECASE,
)
RATING = re.compile(r"\b(\d{1,3})\s*a(?:mps?)?\b", re.IGNORECASE)
PROTECTIONS = {"gfci": "gfci", "gfi": "gfci", "afci": "afci", "rcd": "rcd"}
EXAMPLE = "space, label and amps, such as: 5 7 well pump 20 A (9a and 9b for the halves of a tandem)"


def read_labels(text: str, panel_id: str) -> dict[str, Circuit]:
    """Read the labels of a panel, one breaker a line.

    Args:
        text: lines; empty ones and those that begin with # are passed over.
        panel_id: the panel that they are in.

    Returns:
        Circuits by id, all marked off: marking is the next step.

    Raises:
        InvalidInput: every line that cannot be read, by its number.
    """
    found: dict[str, Circuit] = {}
    problems: list[Problem] = []
    for number, line in numbered_lines(text):
        circuit = _circuit(line, panel_id)
        if circuit is None:
            problems.append(Problem(f"/line/{number}", shown(line.strip()), EXAMPLE))
        else:
            found[free_id(circuit.label, found, "breaker")] = circuit
    if not found and not problems:
        problems.append(Problem("/", shown(text.strip()), f"at least one line with {EXAMPLE}"))
    if problems:
        raise InvalidInput(f"{len(problems)} of the lines cannot be read: {problems[0]}", tuple(problems))
    return found


def _circuit(line: str, panel_id: str) -> Circuit | None:
    shape = LINE.match(line)
    rating = RATING.search(shape["rest"]) if shape else None
    if shape is None or rating is None or float(rating[1]) <= 0 or int(shape["first"]) < 1:
        return None
    words = (shape["rest"][: rating.start()] + shape["rest"][rating.end() :]).split()
    kinds = [PROTECTIONS[word.lower()] for word in words if word.lower() in PROTECTIONS]
    label = " ".join(word for word in words if word.lower() not in PROTECTIONS).strip(" ,;:-")
    protection = "gfci_afci" if {"gfci", "afci"} <= set(kinds) else kinds[0] if kinds else "none"
    spaces = (int(shape["first"]),) + ((int(shape["second"]),) if shape["second"] else ())
    half = {"a": "upper", "b": "lower"}.get((shape["half"] or "").lower())
    if not label or spaces[-1] > 84:
        return None
    given = {
        "panel_id": panel_id,
        "spaces": spaces,
        "half": half,
        "breaker_a": float(rating[1]),
        "label": label[:80],
        "protection": protection,
    }
    try:
        return Circuit.model_validate(given)
    except ValidationError:
        return None
