"""The breakers of a plan as cells, CSV or a spreadsheet."""

import csv
import io
import re
from datetime import date

from weary_cedar.core.breakers import running_w, told_spaces
from weary_cedar.core.plan import Circuit, Cycling, Load, Plan
from weary_cedar.formats.breakers.cells import COLUMNS, Table
from weary_cedar.formats.cells import as_text
from weary_cedar.formats.spreadsheet import as_spreadsheet

#: Between names in a cell stands a semicolon; one inside a name has a backslash before it.
SEPARATES = re.compile(r"[;\\]")
NAME = re.compile(r"(?:\\.|[^;\\])+")
#: What stands for a load of which a cell says nothing while it says something of the others.
NOTHING = "–"
#: Columns that are a person's words: marked where a spreadsheet would run them.
WORDS = ("label", "loads", "outlets", "panel", "feeds")
FOOT_M = 0.3048


def joined(names: tuple[str, ...]) -> str:
    """Names in one cell."""
    return "; ".join(SEPARATES.sub(r"\\\g<0>", name) for name in names)


def names_in(cell: str) -> tuple[str, ...]:
    """Names of one cell."""
    parts = (re.sub(r"\\(.)", r"\1", part).strip() for part in NAME.findall(cell))
    return tuple(part for part in parts if part)


def split_cell(cell: str) -> list[str]:
    """Figures of a cell, one for each load of its row, empty ones too."""
    return ["" if part.strip() in (NOTHING, "-") else part.strip() for part in cell.split(";")]


def written(plan: Plan, panel_id: str | None = None) -> Table:
    """The breakers of a plan, or of one panel, by panel and space, with all that they say.

    Args:
        plan: the plan.
        panel_id: one panel; all if absent.
    """
    own = [(key, item) for key, item in plan.circuits.items() if panel_id in (None, item.panel_id)]
    places = list(plan.panels)
    own.sort(
        key=lambda item: (places.index(item[1].panel_id), item[1].spaces, item[1].half == "lower", item[0])
    )
    rows = [(number, cells_of(plan, key)) for number, (key, _) in enumerate(own, start=2)]
    return Table(rows, tuple(column.key for column in COLUMNS if column.key not in ("half", "poles")))


def cells_of(plan: Plan, circuit_id: str) -> dict[str, str]:
    """The cells of one breaker."""
    circuit = plan.circuits[circuit_id]
    loads = [load for load in plan.loads.values() if load.circuit_id == circuit_id]
    partner = plan.circuits.get(circuit.multiwire_partner or "")
    fed = [panel.name for panel in plan.panels.values() if panel.fed_from == circuit_id]
    return {
        "id": circuit_id,
        "panel": plan.panels[circuit.panel_id].name,
        "spaces": told_spaces(circuit.spaces, circuit.half),
        "half": circuit.half or "",
        "poles": str(circuit.poles),
        "breaker_a": "" if circuit.breaker_a is None else f"{circuit.breaker_a:.10g}",
        "label": circuit.label,
        "mark": circuit.mark,
        "order": str(circuit.order),
        "multiwire_partner": "" if partner is None else told_spaces(partner.spaces, partner.half),
        "protection": circuit.protection,
        "wire": _wire(circuit),
        "metal": circuit.metal,
        "length": _length(plan, circuit.length_m),
        "terminals": "" if circuit.terminals_c is None else str(circuit.terminals_c),
        "plate_rule": circuit.breaker_by_plate,
        "feeds": joined(tuple(fed)),
        "loads": joined(tuple(load.name for load in loads)),
        "draw": _each([_draw(load) for load in loads]),
        "start": _each(["" if load.start is None else f"{load.start.va:.10g} VA" for load in loads]),
        "sure": _each([load.origin for load in loads]),
        "clamp_a": "",
        "read_on": _each([_day(load.read_on) for load in loads]),
        "locked": "yes" if circuit.locked else "no",
        "outlets": joined(circuit.outlets),
        "answers": "; ".join(f"{key}={answer}" for key, answer in circuit.survey.items()),
    }


def _each(cells: list[str]) -> str:
    return "; ".join(cell or NOTHING for cell in cells) if any(cells) else ""


def _day(day: date | None) -> str:
    return "" if day is None else day.isoformat()


def _wire(circuit: Circuit) -> str:
    if circuit.awg is not None:
        return f"{circuit.awg} AWG"
    return "" if circuit.mm2 is None else f"{circuit.mm2:g} mm2"


def _length(plan: Plan, length_m: float | None) -> str:
    if length_m is None:
        return ""
    if plan.site.units.length == "ft":
        return f"{length_m / FOOT_M:.4g} ft"
    return f"{length_m:.4g} m"


def _draw(load: Load) -> str:
    watts = running_w(load.behaviour)
    if watts is None:
        return ""
    if isinstance(load.behaviour, Cycling):
        return f"{watts:.10g} W, {24 * watts * load.behaviour.duty:.0f} Wh/day"
    return f"{watts:.10g} W"


def table_as_csv(table: Table) -> str:
    """A table as CSV with a row of names."""
    out = io.StringIO()
    writer = csv.DictWriter(out, table.columns, lineterminator="\n", extrasaction="ignore")
    writer.writeheader()
    for _, cells in table.rows:
        writer.writerow({key: as_text(cell) if key in WORDS else cell for key, cell in cells.items()})
    return out.getvalue()


def table_as_xlsx(table: Table) -> bytes:
    """A table as a spreadsheet (Office Open XML) with a row of names; every cell is text, none is run."""
    rows = [
        [as_text(cells.get(key, "")) if key in WORDS else cells.get(key, "") for key in table.columns]
        for _, cells in table.rows
    ]
    return as_spreadsheet("Breakers", table.columns, rows)
