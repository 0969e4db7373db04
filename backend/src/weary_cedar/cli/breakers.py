"""The breakers of a plan as a table: printed as CSV, written as a spreadsheet, read from lines or files."""

import sys
from pathlib import Path
from typing import Annotated

import typer

from weary_cedar.cli.changed import print_changed
from weary_cedar.cli.terminal import BAD_INPUT, AsJson, PlanFile, app, plan_from, say, text_of, written
from weary_cedar.core.plan import read_plan
from weary_cedar.formats.breakers import table_as_csv, table_as_xlsx, xlsx_table
from weary_cedar.formats.breakers import written as table_of_plan
from weary_cedar.formats.spreadsheet import MAGIC
from weary_cedar.formats.text_file import text_of as text_in
from weary_cedar.store.edits import canonical
from weary_cedar.workshop.breaker_tables import GivenTable, TableView, read_table, with_table


@app.command()
def breakers(
    plan_file: PlanFile,
    table: Annotated[
        Path | None,
        typer.Argument(metavar="TABLE", help="Lines, CSV or .xlsx to lay over the plan's breakers."),
    ] = None,
    usual: Annotated[
        bool, typer.Option("--usual", help="Put on bare breakers what their labels usually mean.")
    ] = False,
    read_only: Annotated[
        bool, typer.Option("--read", help="Only say what the table would change; with --json cell by cell.")
    ] = False,
    out: Annotated[
        Path | None, typer.Option("--out", metavar="FILE", help="Where it goes; .xlsx makes a spreadsheet.")
    ] = None,
    as_json: AsJson = False,
) -> None:
    """Print the breakers of a plan as CSV; or lay a table over them and print the plan after it."""
    plan = plan_from(plan_file)
    if table is None:
        told = table_of_plan(plan)
        is_book = out is not None and out.suffix == ".xlsx"
        content = table_as_xlsx(told) if is_book else table_as_csv(told).encode()
        if out is not None:
            written(out, content)
        else:
            sys.stdout.write(content.decode())
        return
    given = GivenTable(text=_lines(text_of(table, "a table of breakers")), usual=usual)
    if read_only:
        view = read_table(plan, given)
        if as_json:
            print(view.model_dump_json(indent=1))
        else:
            say(*view.changes, *view.notes, *_faults(view))
        raise SystemExit(BAD_INPUT if view.faults else 0)
    after = read_plan(canonical(with_table(plan, given)))
    print_changed(plan, after, out, as_json=as_json)


def _lines(content: bytes) -> str:
    """What a file holds as text; a spreadsheet as CSV."""
    return table_as_csv(xlsx_table(content)) if content.startswith(MAGIC) else text_in(content)


def _faults(view: TableView) -> list[str]:
    """What is wrong, by the words of its row."""
    label = [column.key for column in view.columns].index("label")
    loose = [f"{fault.column}: got {fault.got}; {fault.right}" for fault in view.loose]
    return loose + [
        f"{row.cells[label] or 'a row without a label'}, {fault.column}: got {fault.got}; {fault.right}"
        for row in view.rows
        for fault in row.faults
    ]
