"""The panel schedule as CSV: one breaker a row."""

import csv
import io
import re
from collections import ChainMap
from typing import Any

from pydantic import ValidationError

from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan import Circuit, Plan
from weary_cedar.core.plan.ids import free_id
from weary_cedar.formats.cells import as_text, from_text
from weary_cedar.formats.text_file import table_rows, with_line_feeds

COLUMNS = (
    "id",
    "spaces",
    "half",
    "breaker_a",
    "label",
    "mark",
    "order",
    "multiwire_partner",
    "protection",
    "wire",
    "metal",
    "locked",
    "outlets",
)
#: A panel has at most 84 spaces with two halves each.
MOST_BREAKERS = 168
NEEDED = ("spaces", "breaker_a", "label")
#: Between names in a cell stands a semicolon; one inside a name has a backslash before it.
SEPARATES = re.compile(r"[;\\]")
NAME = re.compile(r"(?:\\.|[^;\\])+")
YES = {"yes": True, "true": True, "1": True, "no": False, "false": False, "0": False, "": False}


def write_schedule(plan: Plan, panel_id: str) -> str:
    """The breakers of a panel, by space."""
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    writer.writeheader()
    own = [(key, c) for key, c in plan.circuits.items() if c.panel_id == panel_id]
    for key, circuit in sorted(own, key=lambda item: (item[1].spaces, item[1].half or "", item[0])):
        wire = f"{circuit.awg} AWG" if circuit.awg else f"{circuit.mm2:g} mm2" if circuit.mm2 else ""
        writer.writerow(
            {
                "id": key,
                "spaces": " ".join(str(space) for space in circuit.spaces),
                "half": circuit.half or "",
                "breaker_a": "" if circuit.breaker_a is None else f"{circuit.breaker_a:g}",
                "label": as_text(circuit.label),
                "mark": circuit.mark,
                "order": circuit.order,
                "multiwire_partner": circuit.multiwire_partner or "",
                "protection": circuit.protection,
                "wire": wire,
                "metal": circuit.metal,
                "locked": "yes" if circuit.locked else "no",
                "outlets": as_text("; ".join(SEPARATES.sub(r"\\\g<0>", name) for name in circuit.outlets)),
            }
        )
    return out.getvalue()


def read_schedule(text: str, plan: Plan, panel_id: str) -> Plan:
    """Put the breakers of a CSV in the place of a panel's.

    Args:
        text: CSV with at least the columns spaces, breaker_a and label; `,`, `;` or tab between.
        plan: the plan; its loads stay where they are.
        panel_id: the panel.

    Returns:
        The plan with the breakers of the file. Without an id column a breaker is known by its
        label. Contradictions between parts are found when the plan is checked as a whole.

    Raises:
        InvalidInput: every row that cannot be read, by its number; or a breaker that is missing
            from the file while loads hang on it.
    """
    rows = _rows(with_line_feeds(text))
    by_label = {c.label.lower(): key for key, c in plan.circuits.items() if c.panel_id == panel_id}
    others = {key: c for key, c in plan.circuits.items() if c.panel_id != panel_id}
    found: dict[str, Circuit] = {}
    taken = ChainMap(found, others)
    problems: list[Problem] = []
    for number, row in rows:
        label = row["label"]
        key = row.get("id") or by_label.get(label.lower()) or free_id(label, taken)
        if key in found or key in others:
            problems.append(Problem(f"/row/{number}/id", shown(key), "an id that no other breaker has"))
            continue
        try:
            found[key] = _circuit(row, number, panel_id, plan.circuits.get(key))
        except InvalidInput as error:
            problems += error.problems
    if not problems:
        problems = _homeless(plan, {**others, **found})
    if problems:
        raise InvalidInput(
            f"{len(problems)} things are wrong in the schedule: {problems[0]}", tuple(problems)
        )
    return plan.model_copy(update={"circuits": {**others, **found}})


def _rows(text: str) -> list[tuple[int, dict[str, str]]]:
    first = text.lstrip("\ufeff").splitlines()[0] if text.strip() else ""
    delimiter = max(",;\t", key=first.count)
    reader = table_rows(text.lstrip("\ufeff"), delimiter)
    header = [name.strip().lower() for name in next(reader, (1, []))[1]]
    missing = [name for name in NEEDED if name not in header]
    if missing:
        right = f"a row of names with {', '.join(NEEDED)}"
        problem = Problem("/row/1", shown(first), right)
        raise InvalidInput(f"This is not a panel schedule: {right}.", (problem,))
    rows: list[tuple[int, dict[str, str]]] = []
    for number, cells in reader:
        if any(cell.strip() for cell in cells):
            if len(rows) == MOST_BREAKERS:
                problem = Problem(f"/row/{number}", "one more row", f"at most {MOST_BREAKERS} breakers")
                raise InvalidInput(str(problem), (problem,))
            padded = [from_text(cell.strip()) for cell in cells] + [""] * (len(header) - len(cells))
            rows.append((number, dict(zip(header, padded, strict=False))))
    return rows


def _refused(row: dict[str, str], number: int, column: str, right: str) -> InvalidInput:
    problem = Problem(f"/row/{number}/{column}", shown(row.get(column, "")), right)
    return InvalidInput(str(problem), (problem,))


def _circuit(row: dict[str, str], number: int, panel_id: str, before: Circuit | None) -> Circuit:
    """A breaker as its row says; what the file has no column for stays as it was."""
    given: dict[str, object] = before.model_dump() if before is not None else {}
    given.update(panel_id=panel_id, label=row["label"], **_figures(row, number))
    if "outlets" in row:
        parts = (re.sub(r"\\(.)", r"\1", part).strip() for part in NAME.findall(row["outlets"]))
        given["outlets"] = tuple(part for part in parts if part)
    for column in ("half", "mark", "multiwire_partner", "protection", "metal"):
        if column in row:
            given.pop(column, None)
            given.update({column: row[column]} if row[column] else {})
    try:
        return Circuit.model_validate(given)
    except ValidationError as error:
        item = error.errors(include_url=False)[0]
        right = item["msg"][:1].lower() + item["msg"][1:]
        raise _refused(row, number, str(item["loc"][0]), right) from None


def _figures(row: dict[str, str], number: int) -> dict[str, Any]:
    """Spaces, amps, order, wire and lock of a row; those that the file has columns for."""
    spaces = re.findall(r"\d+", row["spaces"])
    if not 1 <= len(spaces) <= 2:
        raise _refused(row, number, "spaces", "one space such as 5, or two such as 5 7")
    rating = re.fullmatch(r"(\d+(?:[.,]\d+)?)\s*[aA]?", row["breaker_a"])
    if rating is None and row["breaker_a"]:
        raise _refused(row, number, "breaker_a", "amps, such as 20, or nothing where they are not known")
    found: dict[str, Any] = {
        "spaces": tuple(int(space) for space in spaces),
        "breaker_a": float(rating[1].replace(",", ".")) if rating else None,
    }
    if "locked" in row:
        found["locked"] = YES.get(row["locked"].lower())
        if found["locked"] is None:
            raise _refused(row, number, "locked", "yes or no")
    if row.get("order"):
        if not row["order"].isdigit():
            raise _refused(row, number, "order", "a whole number, 1 is the last to go")
        found["order"] = int(row["order"])
    if "wire" in row:
        found |= _wire(row, number)
    return found


def _wire(row: dict[str, str], number: int) -> dict[str, Any]:
    wire = re.fullmatch(r"(\d+(?:[.,]\d+)?)\s*(awg|mm2|mm²)", row["wire"], re.IGNORECASE)
    if row["wire"] and wire is None:
        raise _refused(row, number, "wire", "a gauge such as 12 AWG or 2.5 mm2")
    if wire is None:
        return {"awg": None, "mm2": None}
    size = float(wire[1].replace(",", "."))
    return {"awg": int(size), "mm2": None} if wire[2].lower() == "awg" else {"awg": None, "mm2": size}


def _homeless(plan: Plan, circuits: dict[str, Circuit]) -> list[Problem]:
    """Loads whose breaker is not in the file."""
    return [
        Problem(f"/loads/{key}", load.name, f"a row for its breaker {plan.circuits[load.circuit_id].label}")
        for key, load in plan.loads.items()
        if load.circuit_id is not None and load.circuit_id not in circuits
    ]
