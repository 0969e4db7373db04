"""What the cells of the table of breakers mean for a plan, cell by cell, with every fault in its place."""

import re
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from datetime import date
from functools import partial
from typing import Any

from weary_cedar.core.breakers import BreakerRow, SaidLoad
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan import Circuit, Plan
from weary_cedar.formats.breakers.cells import COLUMNS, Table
from weary_cedar.formats.breakers.writing import cells_of, names_in, split_cell
from weary_cedar.formats.quantity import NUMBER, read_number, read_quantity

RIGHT = {column.key: column.right for column in COLUMNS}
YES = {"yes": True, "true": True, "1": True, "x": True, "no": False, "false": False, "0": False, "": False}
MARKS = {
    "keep": "keep", "must": "keep", "must run": "keep", "yes": "keep", "critical": "keep", "x": "keep",
    "room": "room", "if room": "room", "when there is room": "room", "optional": "room", "maybe": "room",
    "off": "off", "no": "off", "never": "off", "stays off": "off",
}  # fmt: skip
PROTECTIONS = {
    "": "none", "none": "none", "no": "none", "standard": "none", "gfci": "gfci", "gfi": "gfci",
    "afci": "afci",
    "rcd": "rcd", "gfci_afci": "gfci_afci", "afci/gfci": "gfci_afci", "gfci/afci": "gfci_afci",
    "afci_gfci": "gfci_afci", "gfci afci": "gfci_afci", "dual": "gfci_afci", "dual function": "gfci_afci",
}  # fmt: skip
METALS = {
    "copper": "copper",
    "cu": "copper",
    "aluminium": "aluminium",
    "aluminum": "aluminium",
    "al": "aluminium",
}
SURE = {"measured": "measured", "metered": "measured", "plate": "plate", "nameplate": "plate",
        "estimate": "estimate", "estimated": "estimate", "guess": "estimate",
        "library": "library"}  # fmt: skip
#: Nominal areas of conductors, mm². IEC 60228, from memory.
NOMINAL_MM2 = (0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120)
GAUGES = (14, 12, 10, 8, 6, 4, 3, 2, 1)
HALVES = {"a": "upper", "b": "lower", "": None}
AMPS_AT = re.compile(
    rf"^({NUMBER})\s*a(?:mps?)?(?:\s*(?:at|@|x|×)\s*({NUMBER})\s*v(?:olts?)?)?$", re.IGNORECASE
)


@dataclass(frozen=True)
class Fault:
    """A cell that cannot be read: its row and column, what stands there, what would be right."""

    row: int
    column: str
    got: str
    right: str


@dataclass
class Understood:
    """What a table says: rows that can be taken over, and faults."""

    rows: list[BreakerRow] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)

    def refuse_faults(self) -> None:
        """Refuse a table that has faults.

        Raises:
            InvalidInput: all of them, by row and column.
        """
        if self.faults:
            problems = tuple(Problem(f"/row/{f.row}/{f.column}", f.got, f.right) for f in self.faults)
            raise InvalidInput(f"{len(problems)} cells cannot be read: {problems[0]}", problems)


class _Wrong(Exception):
    """A cell that cannot be read, with what would be right where that is more than its column says."""

    def __init__(self, right: str = "") -> None:
        super().__init__(right)
        self.right = right


def understood(table: Table, plan: Plan) -> Understood:
    """Read a table for a plan.

    Args:
        table: cells by column; an empty cell of a row without an id says nothing.
        plan: what it is for; a cell that says what the plan says already changes nothing, whatever it is.

    Returns:
        Rows and faults; a row with a fault is left out.
    """
    found = Understood()
    for number, all_cells in table.rows:
        cells = all_cells if all_cells.get("id") else {key: cell for key, cell in all_cells.items() if cell}
        if any(cell for key, cell in cells.items() if key not in ("id", "panel")):
            _Row(number, cells, plan, found).read()
    return found


class _Row:
    """One row while it is read."""

    def __init__(self, number: int, cells: dict[str, str], plan: Plan, into: Understood) -> None:
        self._number = number
        self._cells = cells
        self._plan = plan
        self._into = into
        circuit = plan.circuits.get(cells.get("id", ""))
        self._before: Circuit | None = circuit
        self._as_it_was = cells_of(plan, cells["id"]) if circuit is not None else {}
        self._faults = 0

    def read(self) -> None:
        """Read it; what is wrong goes to the faults."""
        label = self._cells.get("label", "")
        if not 1 <= len(label) <= 80:
            self._fault("label")
        half = self._read("half", lambda cell: {"upper": "a", "lower": "b", "": ""}[cell.lower()]) or ""
        place = self._read(
            "spaces", lambda cell: _spaces(cell, half, self._cells.get("poles", "")), always=True
        )
        given: dict[str, Any] = {}
        for column, reader in _FIELDS.items():
            given |= self._read(column, partial(self._field, reader)) or {}
        loads = self._loads(label)
        if self._faults or place is None:
            return
        said = self._said
        self._into.rows.append(
            BreakerRow(
                number=self._number,
                spaces=place[0],
                half=place[1],
                label=label,
                circuit_id=self._cells.get("id") or None,
                panel=self._cells.get("panel", ""),
                given=given,
                partner=_partner(self._cells["multiwire_partner"]) if said("multiwire_partner") else None,
                feeds=self._cells["feeds"] if said("feeds") else None,
                loads=loads,
            )
        )

    def _field(self, reader: Callable[[str], Any], cell: str) -> dict[str, Any]:
        """Fields of the circuit by a cell; some hang on the house."""
        value = reader(cell)
        found: dict[str, Any] = value(self._plan) if callable(value) else value
        return found

    def _said(self, column: str) -> bool:
        """Whether a column says another thing than the plan."""
        return column in self._cells and self._cells[column] != self._as_it_was.get(column)

    def _read(self, column: str, reader: Callable[[str], Any], *, always: bool = False) -> Any:
        if not always and not self._said(column):
            return None
        try:
            return reader(self._cells.get(column, ""))
        except (_Wrong, KeyError, ValueError, InvalidInput) as error:
            self._fault(column, error.right if isinstance(error, _Wrong) else "")
            return None

    def _fault(self, column: str, right: str = "") -> None:
        self._faults += 1
        got = shown(self._cells.get(column, "") or None)
        self._into.faults.append(Fault(self._number, column, got, right or RIGHT[column]))

    # ---------------------------------------------------------------- loads

    def _loads(self, label: str) -> tuple[SaidLoad, ...] | None:
        columns = ("loads", "draw", "start", "sure", "clamp_a", "read_on")
        if not any(self._said(column) for column in columns):
            return None
        names = names_in(self._cells.get("loads", self._as_it_was.get("loads", "")))
        if any(len(name) > 80 for name in names):
            self._fault("loads", "names of at most 80 letters")
            return None
        says_draw = any(self._said(key) and self._cells[key] for key in ("draw", "clamp_a"))
        if not names and says_draw:
            names = (label,)
        if not names:
            self._spread_over_nothing(label)
            return ()
        said = [SaidLoad(name) for name in names]
        for column, reader in (("draw", _draw), ("start", _start), ("sure", _sure), ("read_on", _read_on)):
            self._spread(column, reader, said)
        if self._said("clamp_a") and self._cells["clamp_a"]:
            self._clamp(said)
        return tuple(said)

    def _spread_over_nothing(self, label: str) -> None:
        """Figures where nothing hangs: read all the same, so that a wrong one is not passed over."""
        nothing = [SaidLoad(label)]
        for column, reader in (("start", _start), ("sure", _sure), ("read_on", _read_on)):
            self._spread(column, reader, nothing)

    def _spread(self, column: str, reader: Callable[[SaidLoad, str], SaidLoad], said: list[SaidLoad]) -> None:
        """Cells of a column for each load of the row; those that say what the plan says are passed over."""
        if not self._said(column):
            return
        parts = split_cell(self._cells[column])
        before = dict(
            zip(
                names_in(self._as_it_was.get("loads", "")),
                split_cell(self._as_it_was.get(column, "")),
                strict=False,
            )
        )
        if len(parts) == 1 and column in ("sure", "read_on"):
            parts = parts * len(said)
        if len(parts) > len(said) and any(parts[len(said) :]):
            self._fault(column, f"{RIGHT[column]}; one for each of what hangs on it, in its order")
            return
        for index, part in enumerate(parts[: len(said)]):
            if part == before.get(said[index].name, None if said[index].name in before else ""):
                continue
            try:
                said[index] = reader(said[index], part)
            except (_Wrong, KeyError, ValueError, InvalidInput) as error:
                self._fault(column, error.right if isinstance(error, _Wrong) else "")
                return

    def _clamp(self, said: list[SaidLoad]) -> None:
        amps = re.fullmatch(rf"({NUMBER})\s*(?:a|amps?)?", self._cells["clamp_a"], re.IGNORECASE)
        if amps is None or read_number(amps[1]) <= 0:
            self._fault("clamp_a")
        elif len(said) != 1:
            self._fault("clamp_a", "a reading with one thing on: name that one, or set its watts on Needs")
        else:
            said[0] = replace(
                said[0], watts=None, wh_day=None, amps=read_number(amps[1]), volts=None, origin="measured"
            )


def _spaces(cell: str, half: str, poles: str) -> tuple[tuple[int, ...], str | None]:
    found = re.fullmatch(r"(\d{1,2})\s*([ab])?(?:\s*[,/&+ -]\s*(\d{1,2}))?", cell.strip(), re.IGNORECASE)
    if found is None:
        raise _Wrong
    first, second = int(found[1]), int(found[3]) if found[3] else None
    wanted = poles.strip().lower().removesuffix("p").removesuffix(" pole").strip()
    if wanted not in ("", "1", "2"):
        raise _Wrong(f"{RIGHT['spaces']}; poles are 1 or 2")
    if wanted == "2" and second is None:
        second = first + 2
    if wanted == "1" and second is not None:
        raise _Wrong("one space for one pole")
    spaces = (first,) if second is None else (first, second)
    if first < 1 or spaces[-1] > 84:
        raise _Wrong("a space from 1 to 84")
    if second is not None and (second != first + 2 or found[2]):
        raise _Wrong(f"two spaces of one side below each other, such as {first} {first + 2}")
    return spaces, HALVES[(found[2] or half).lower()]


def _amps(cell: str) -> dict[str, Any]:
    found = re.fullmatch(r"(\d{1,6}(?:[.,]\d{1,6})?)\s*(?:a|amps?)?", cell, re.IGNORECASE)
    if cell and (found is None or read_number(found[1]) <= 0):
        raise _Wrong
    return {"breaker_a": read_number(found[1]) if found else None}


def _order(cell: str) -> dict[str, Any]:
    return {"order": int(cell)} if cell else {}


def _wire(cell: str) -> Callable[[Plan], dict[str, Any]]:
    """A gauge; a bare number is one of the house's own system, if that has such a size."""
    if not cell:
        return lambda _: {"awg": None, "mm2": None}
    words = cell.casefold().replace("²", "2")
    metal = re.search(r"\b(cu|al|copper|aluminium|aluminum)$", words)
    more = {"metal": METALS[metal[1]]} if metal else {}
    words = words[: metal.start()].strip() if metal else words
    found = re.fullmatch(r"#?\s*(\d{1,3}(?:[.,]\d+)?)\s*(awg|ga|gauge|mm2)?(?:/[2-4].*)?", words)
    if found is None:
        raise _Wrong
    size = read_number(found[1])

    def for_house(plan: Plan) -> dict[str, Any]:
        unit = found[2] or ("awg" if plan.site.split_phase else "mm2")
        if unit == "mm2":
            if not found[2] and size not in NOMINAL_MM2:
                raise _Wrong("with its unit: 2.5 mm2 or 12 AWG")
            return {"awg": None, "mm2": size, **more}
        if size not in GAUGES:
            raise _Wrong(f"a gauge of {', '.join(map(str, GAUGES))} AWG, or mm2")
        return {"awg": int(size), "mm2": None, **more}

    return for_house


def _length(cell: str) -> Callable[[Plan], dict[str, Any]]:
    if not cell:
        return lambda _: {"length_m": None}
    quantity = read_quantity(cell, "/length", "length")

    def for_house(plan: Plan) -> dict[str, Any]:
        bare = 0.3048 if plan.site.units.length == "ft" else 1.0
        return {"length_m": quantity.value * (1.0 if quantity.kind else bare)}

    return for_house


def _answers(cell: str) -> dict[str, Any]:
    pairs = [part.split("=", 1) for part in split_cell(cell) if part]
    if any(len(pair) != 2 or pair[1].strip() not in ("yes", "no", "unknown") for pair in pairs):
        raise _Wrong
    return {"survey": {key.strip(): value.strip() for key, value in pairs}}


def _locked(cell: str) -> dict[str, Any]:
    return {"locked": YES[cell.lower()]}


#: Columns that are fields of a circuit, and how a cell becomes them; some hang on the house.
_FIELDS: dict[str, Callable[[str], Any]] = {
    "breaker_a": _amps,
    "mark": lambda cell: {"mark": MARKS[cell.lower()]} if cell else {},
    "order": _order,
    "protection": lambda cell: {"protection": PROTECTIONS[cell.lower()]},
    "metal": lambda cell: {"metal": METALS[cell.lower()]} if cell else {},
    "wire": _wire,
    "length": _length,
    "terminals": lambda cell: {
        "terminals_c": {"60": 60, "75": 75, "": None}[cell.split("°")[0].strip(" cC")]
    },
    "plate_rule": lambda cell: {"breaker_by_plate": {"": "unknown"}.get(cell.lower(), cell.lower())},
    "locked": _locked,
    "outlets": lambda cell: {"outlets": names_in(cell)},
    "answers": _answers,
}


def _partner(cell: str) -> str:
    return re.sub(r"^(?:mwbc|multi-?wire)?\s*(?:with|w/)?\s*#?\s*", "", cell.strip(), flags=re.IGNORECASE)


def _draw(said: SaidLoad, cell: str) -> SaidLoad:
    """Watts, VA, amps at volts, or Wh a day, with commas between; a bare number is watts."""
    parts = [part.strip() for part in re.split(r",(?!\d{3}(?!\d))", cell) if part.strip()]
    if not parts:
        raise _Wrong
    for part in parts:
        amps = AMPS_AT.match(part)
        if amps is not None:
            said = replace(said, amps=read_number(amps[1]), volts=read_number(amps[2]) if amps[2] else None)
            continue
        quantity = read_quantity(part, "/draw") if not re.fullmatch(NUMBER, part) else None
        if quantity is None:
            said = replace(said, watts=read_number(part))
        elif quantity.kind == "power":
            said = replace(said, watts=quantity.value)
        elif quantity.kind == "apparent":
            said = replace(said, amps=quantity.value, volts=1.0)
        elif quantity.kind == "daily":
            said = replace(said, wh_day=quantity.value)
        else:
            raise _Wrong
    figures = (said.watts, said.wh_day, said.amps)
    if any(value is not None and value < 0 for value in figures):
        raise _Wrong("nothing below 0")
    return said


def _start(said: SaidLoad, cell: str) -> SaidLoad:
    if not cell:
        return replace(said, start_va=None)
    bare = re.fullmatch(NUMBER, cell)
    va = read_number(cell) if bare else read_quantity(cell, "/start", "power", "apparent").value
    if va < 1:
        raise _Wrong("1 VA or more, or nothing where no start is known")
    return replace(said, start_va=va)


def _sure(said: SaidLoad, cell: str) -> SaidLoad:
    return replace(said, origin=SURE[cell.lower()]) if cell else said  # type: ignore[arg-type]


def _read_on(said: SaidLoad, cell: str) -> SaidLoad:
    return replace(said, read_on=date.fromisoformat(cell[:10]) if cell else None)
