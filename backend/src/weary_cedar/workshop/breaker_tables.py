"""The table of breakers as it is shown, read and taken over."""

from dataclasses import dataclass
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.breakers import BreakerRow, told_changes, usual_load, with_breakers, with_usual_loads
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.contradictions import contradictions
from weary_cedar.formats.breakers import COLUMNS, Fault, Table, csv_table, table_of, understood, written
from weary_cedar.formats.text_file import text_of

#: Columns that a person fills in; what a file carries besides goes along unseen.
UNSEEN = ("half", "poles")

Cell = Annotated[str, Field(max_length=2_000)]


class GivenTable(BaseModel):
    """Lines or CSV as pasted, or cells of the whole table by column, or lines that are laid over such cells.

    With `usual`, breakers of which nothing more is said carry what their labels usually mean.
    """

    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(max_length=200_000)] = ""
    columns: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=60)] = []
    rows: Annotated[list[Annotated[list[Cell], Field(max_length=60)]], Field(max_length=500)] = []
    usual: bool = False


class ColumnView(BaseModel):
    """A column of the table."""

    key: str
    title: str
    right: str


class FaultView(BaseModel):
    """A cell that cannot be read."""

    column: str
    got: str
    right: str


class RowView(BaseModel):
    """A row: its cells by column, what usually hangs on it where nothing does, and what is wrong."""

    cells: list[str]
    usual: str | None
    faults: list[FaultView]


class TableView(BaseModel):
    """The table as it was understood, what it would change, and what was left out of it."""

    columns: list[ColumnView]
    rows: list[RowView]
    changes: list[str]
    notes: list[str]
    #: How much is wrong in all; and what of it belongs to no row, by its place in the plan.
    faults: int
    loose: list[FaultView] = []


def shown_table(plan: Plan) -> TableView:
    """The breakers of a plan as a table."""
    return _view(plan, written(plan).rows, {})


def read_table(plan: Plan, given: GivenTable) -> TableView:
    """What a table says, for a plan; nothing is changed.

    Args:
        plan: what it is for.
        given: cells of the whole table, or lines, that are laid over what is there.

    Returns:
        Of cells, the same rows with what is wrong; of lines, the table as it would stand in the plan, and
        last the lines that cannot be read. With what it would change in either case.

    Raises:
        InvalidInput: it is no table.
    """
    before, plan = plan, _under(plan, given)
    table, whole = _table(given)
    read = understood(table, plan)
    tried = _tried(plan, _with_usual(plan, read.rows, given), whole)
    faults = [*read.faults, *tried.faults]
    by_row: dict[int, list[Fault]] = {}
    for fault in faults:
        by_row.setdefault(fault.row, []).append(fault)
    if whole or tried.plan is None:
        rows = table.rows
        at = {index: by_row.pop(number, []) for index, (number, _) in enumerate(rows)}
    else:
        stays = written(tried.plan).rows
        refused = [(number, cells) for number, cells in table.rows if number in {f.row for f in read.faults}]
        rows = [*stays, *refused]
        numbers = {key: number for number, key in tried.ids.items()}
        keys = [numbers.get(cells["id"], 0) for _, cells in stays] + [number for number, _ in refused]
        at = {index: by_row.pop(number, []) if number else [] for index, number in enumerate(keys)}
    loose = [_told_fault(fault) for some in by_row.values() for fault in some]
    view = _view(plan if tried.plan is None else tried.plan, rows, at)
    changes = told_changes(before, tried.plan) if tried.plan is not None else []
    return view.model_copy(
        update={"changes": changes, "notes": list(table.notes), "loose": loose, "faults": len(faults)}
    )


def with_table(plan: Plan, given: GivenTable) -> Plan:
    """The plan with a table.

    Raises:
        InvalidInput: cells that cannot be read, or rows that contradict each other, by row and column.
    """
    plan = _under(plan, given)
    table, whole = _table(given)
    read = understood(table, plan)
    read.refuse_faults()
    if not read.rows and not whole:
        right = "at least one breaker, such as: 5 7 well pump 20 A"
        raise InvalidInput(
            f"There is no breaker in it: {right}.", (Problem("/text", shown(given.text), right),)
        )
    return _with(plan, _with_usual(plan, read.rows, given), whole)[0]


def with_schedule(plan: Plan, panel_id: str, content: bytes) -> Plan:
    """The plan with the breakers of a CSV in the place of a panel's.

    Args:
        plan: the plan.
        panel_id: the panel.
        content: CSV with a row of names; breakers of the panel that are not in it are taken out.

    Raises:
        NotReadable: no text.
        InvalidInput: cells that cannot be read, by row; or a breaker that is missing while loads hang on it.
    """
    read = understood(csv_table(text_of(content)), plan)
    read.refuse_faults()
    return with_breakers(plan, read.rows, panel_id, (panel_id,))[0]


def _under(plan: Plan, given: GivenTable) -> Plan:
    """What lines are laid over: the plan, or the cells that are given with them."""
    if not (given.text and given.columns):
        return plan
    return with_table(plan, given.model_copy(update={"text": "", "usual": False}))


def _table(given: GivenTable) -> tuple[Table, bool]:
    """The cells that are given, and whether they are the whole table."""
    if given.text or not given.columns:
        return table_of(given.text), False
    known = {column.key for column in COLUMNS}
    wrong = [key for key in given.columns if key not in known]
    if wrong:
        problem = Problem("/columns", shown(wrong[0]), f"some of {', '.join(sorted(known))}")
        raise InvalidInput(str(problem), (problem,))
    rows = [
        (number, {key: cell.strip() for key, cell in zip(given.columns, cells, strict=False)})
        for number, cells in enumerate(given.rows, start=1)
    ]
    return Table(rows, tuple(given.columns)), True


def _with_usual(plan: Plan, rows: list[BreakerRow], given: GivenTable) -> list[BreakerRow]:
    return with_usual_loads(plan, rows) if given.usual else rows


def _with(plan: Plan, rows: list[BreakerRow], whole: bool) -> tuple[Plan, dict[int, str]]:
    panels = tuple(plan.panels) if whole else ()
    return with_breakers(plan, rows, next(iter(plan.panels)), panels, loads_go=True)


@dataclass(frozen=True)
class Tried:
    """The plan with some rows and their circuits, or none where they cannot be taken; and what is wrong."""

    plan: Plan | None
    ids: dict[int, str]
    faults: list[Fault]


def _tried(plan: Plan, rows: list[BreakerRow], whole: bool) -> Tried:
    try:
        after, ids = _with(plan, rows, whole)
    except InvalidInput as error:
        return Tried(None, {}, [_fault(problem, {}) for problem in error.problems])
    numbers = {key: number for number, key in ids.items()}
    return Tried(after, ids, [_fault(problem, numbers) for problem in contradictions(after)])


def _fault(problem: Problem, numbers: dict[str, int]) -> Fault:
    """A problem of a plan as a fault of a cell; one that belongs to no row is of the whole table."""
    steps = problem.field.strip("/").split("/")
    if steps[0] == "row" and len(steps) > 2:
        return Fault(int(steps[1]), steps[2], problem.value, problem.right)
    own = numbers.get(steps[1], 0) if steps[0] == "circuits" and len(steps) > 1 else 0
    return Fault(own, steps[-1] if own else problem.field, problem.value, problem.right)


def _told_fault(fault: Fault) -> FaultView:
    return FaultView(column=fault.column, got=fault.got, right=fault.right)


def _view(plan: Plan, rows: list[tuple[int, dict[str, str]]], faults: dict[int, list[Fault]]) -> TableView:
    columns = [column for column in COLUMNS if column.key not in UNSEEN]
    hung = {load.circuit_id for load in plan.loads.values()}
    found = []
    for index, (_, cells) in enumerate(rows):
        bare = not cells.get("loads") and cells.get("id", "") not in hung
        spaces = cells.get("spaces", "")
        if not cells.get("id"):
            spaces += {"upper": "a", "lower": "b"}.get(cells.get("half", ""), "")
        poles = 2 if " " in spaces.strip() or cells.get("poles", "") == "2" else 1
        usual = usual_load(cells.get("label", ""), poles) if bare else None
        found.append(
            RowView(
                cells=[{**cells, "spaces": spaces}.get(column.key, "") for column in columns],
                usual=usual[0].name if usual is not None else None,
                faults=[_told_fault(fault) for fault in faults.get(index, [])],
            )
        )
    heads = [ColumnView(key=column.key, title=column.title, right=column.right) for column in columns]
    return TableView(columns=heads, rows=found, changes=[], notes=[], faults=0)
