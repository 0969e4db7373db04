"""The table of breakers as cells: pasted lines, CSV and spreadsheets in, CSV and spreadsheets out."""

from weary_cedar.formats.breakers.cells import COLUMNS, Column, Table, csv_table, table_of, xlsx_table
from weary_cedar.formats.breakers.reading import Fault, Understood, understood
from weary_cedar.formats.breakers.writing import table_as_csv, table_as_xlsx, written

__all__ = [
    "COLUMNS",
    "Column",
    "Fault",
    "Table",
    "Understood",
    "csv_table",
    "table_as_csv",
    "table_as_xlsx",
    "table_of",
    "understood",
    "written",
    "xlsx_table",
]
