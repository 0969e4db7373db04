import type { components } from "../../api/schema.gen";

export type TableView = components["schemas"]["TableView"];
export type RowView = TableView["rows"][number];

/** A table as it is edited: the keys of its columns, and rows of cells. */
export interface Sheet {
  columns: string[];
  rows: string[][];
}

/** A place in it. */
export interface At {
  row: number;
  column: number;
}

/** Columns that are shown at first; the others on demand. */
export const FIRST = [
  "spaces",
  "label",
  "breaker_a",
  "mark",
  "loads",
  "draw",
  "start",
  "sure",
  "clamp_a",
  "wire",
  "length",
  "multiwire_partner",
  "protection",
];

/** Columns whose words may break over lines. */
export const BREAKS = new Set(["label", "loads", "draw", "start", "sure", "outlets", "answers", "panel"]);

/** Brings a cell into view, with the focus on it. */
export function showCell(row: number, column: number) {
  const cell = document.querySelector<HTMLElement>(`[data-at="${row} ${column}"]`);
  cell?.scrollIntoView({ block: "center", inline: "center" });
  cell?.focus();
}

/** How wide a column is, in letters. */
export const WIDTH: Record<string, number> = {
  panel: 14,
  spaces: 6,
  label: 22,
  breaker_a: 6,
  mark: 7,
  loads: 24,
  draw: 18,
  start: 9,
  sure: 10,
  clamp_a: 7,
  wire: 8,
  length: 8,
  multiwire_partner: 9,
  protection: 9,
  outlets: 24,
  answers: 18,
  feeds: 14,
  read_on: 11,
};

/** The cells of what the server shows. */
export const sheetOf = (view: TableView): Sheet => ({
  columns: view.columns.map((column) => column.key),
  rows: view.rows.map((row) => row.cells),
});

const KEPT = "weary-cedar-table-";

/** Rows that were changed and not taken over yet, of this window; those of another form are let go. */
export function keptRows(planId: string, stored: TableView): string[][] | null {
  try {
    const found = JSON.parse(sessionStorage.getItem(KEPT + planId) ?? "null") as string[][] | null;
    const fits = found?.every((row) => row.length === stored.columns.length);
    return fits ? (found ?? null) : null;
  } catch {
    return null;
  }
}

export function keepRows(planId: string, rows: string[][] | null) {
  try {
    if (rows) sessionStorage.setItem(KEPT + planId, JSON.stringify(rows));
    else sessionStorage.removeItem(KEPT + planId);
  } catch {
    // A full or forbidden store keeps nothing: the table is still on the screen.
  }
}

/** Cells of a block that was copied from a spreadsheet. */
export const blockOf = (text: string): string[][] =>
  text
    .replace(/\r\n?/g, "\n")
    .replace(/\n$/, "")
    .split("\n")
    .map((line) => line.split("\t"));

/** The rows with a block of cells put at a place; rows that are missing are added. */
export function withBlock(sheet: Sheet, shown: number[], at: At, block: string[][]): string[][] {
  const rows = sheet.rows.map((row) => [...row]);
  block.forEach((cells, down) => {
    const row = at.row + down;
    while (rows.length <= row) rows.push(sheet.columns.map(() => ""));
    cells.forEach((cell, right) => {
      const column = shown[at.column + right];
      const target = rows[row];
      if (column !== undefined && target) target[column] = cell.trim();
    });
  });
  return rows;
}

/** The rows with the cell of a place put into the next so many below it. */
export function filledDown(rows: string[][], column: number, from: number, to: number): string[][] {
  const cell = rows[from]?.[column] ?? "";
  return rows.map((row, index) =>
    index > from && index <= to ? row.map((old, at) => (at === column ? cell : old)) : row,
  );
}
