import { useSyncExternalStore } from "react";
import type { components } from "../../api/schema.gen";
import { keep, keepsNothing, kept, keysWith, listenElsewhere } from "./kept";

/** One thing that was done, or taken back, at a step of a sheet. */
export type Row = Omit<components["schemas"]["RecordLine"], "entered_at">;
type Problem = components["schemas"]["FieldProblem"];

/** A row that the server does not take in, with why; one that is put aside is not asked about any more. */
export interface Held {
  row: Row;
  problems: Problem[];
  aside: boolean;
}

interface Rows {
  waiting: readonly Row[];
  held: readonly Held[];
}

/** Each row has a key of its own: one more costs the same, however many there are. */
const WAITING = "weary-cedar row ";
const HELD = "weary-cedar held ";
/** Under which all rows stood together before. */
const TOGETHER = "weary-cedar record ";
/** What the server takes: of words, of a reading, of readings. */
const MOST_WORDS = 400;
const MOST_TYPED = 40;
const MOST_READ = 20;

const cache = new Map<string, Rows>();
const listeners = new Set<() => void>();

const tell = () => {
  for (const listener of listeners) listener();
};

listenElsewhere((key) => {
  if (key !== null && ![WAITING, HELD].some((prefix) => key.startsWith(prefix))) return;
  cache.clear();
  tell();
});

function everyOf<T>(prefix: string): T[] {
  return keysWith(prefix).flatMap((key) => kept<T>(key) ?? []);
}

function rowsOf(planId: string): Rows {
  const known = cache.get(planId);
  if (known) return known;
  for (const row of kept<Row[]>(TOGETHER + planId) ?? []) keep(`${WAITING}${planId} ${row.id}`, row);
  if (!keepsNothing()) keep(TOGETHER + planId, null);
  const found = {
    waiting: everyOf<Row>(`${WAITING}${planId} `).sort((a, b) => Date.parse(a.at) - Date.parse(b.at)),
    held: everyOf<Held>(`${HELD}${planId} `),
  };
  cache.set(planId, found);
  return found;
}

/** A text within a limit, without half a character at its end or anywhere. */
function within(text: string, most: number): string {
  return text
    .slice(0, most)
    .replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, "");
}

/** A row as the server takes it. */
function limited(row: Row): Row {
  const read = Object.entries(row.read ?? {}).slice(0, MOST_READ);
  return {
    ...row,
    action: within(row.action ?? "", MOST_WORDS),
    read: Object.fromEntries(
      read.map(([where, typed]) => [within(where, MOST_WORDS), within(typed, MOST_TYPED)]),
    ),
  };
}

/** What is known changes as it is written, and costs the same however much there is. */
function change(planId: string, written: [key: string, value: unknown][], next: (rows: Rows) => Rows) {
  const found = next(rowsOf(planId));
  for (const [key, value] of written) keep(key, value);
  cache.set(planId, found);
  tell();
}

export function keepRow(planId: string, given: Row) {
  const row = limited(given);
  change(planId, [[`${WAITING}${planId} ${row.id}`, row]], (rows) => ({
    ...rows,
    waiting: [...rows.waiting, row],
  }));
}

/** Rows that the server has now, or that wait no more. */
export function dropRows(planId: string, sent: readonly Row[]) {
  const ids = new Set(sent.map((row) => row.id));
  const gone = [...ids].map((id): [string, null] => [`${WAITING}${planId} ${id}`, null]);
  change(planId, gone, (rows) => ({ ...rows, waiting: rows.waiting.filter((row) => !ids.has(row.id)) }));
}

const othersThan = (held: Held) => (rows: Rows) => rows.held.filter(({ row }) => row.id !== held.row.id);

/** A row that is not taken in waits no more; it is kept with why, or put aside. */
export function holdRow(planId: string, held: Held) {
  const others = othersThan(held);
  change(
    planId,
    [
      [`${HELD}${planId} ${held.row.id}`, held],
      [`${WAITING}${planId} ${held.row.id}`, null],
    ],
    (rows) => ({
      waiting: rows.waiting.filter((row) => row.id !== held.row.id),
      held: [...others(rows), held],
    }),
  );
}

/** A held row is let go: it was mended, and waits again as it is now. */
export function mendRow(planId: string, held: Held, mended: Row) {
  const others = othersThan(held);
  change(planId, [[`${HELD}${planId} ${held.row.id}`, null]], (rows) => ({ ...rows, held: others(rows) }));
  keepRow(planId, mended);
}

const listen = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** The rows that wait here, and those that are held, as they come and go. */
export const useRows = (planId: string): Rows => useSyncExternalStore(listen, () => rowsOf(planId));

/** Trips within this count together, ms. */
const TOGETHER_MS = 12 * 3_600_000;

/** How often something tripped in the last hours, by the rows of the record; what was taken back does not count. */
export function tripsOf(rows: readonly Row[]): number {
  const since = Date.now() - TOGETHER_MS;
  const back = new Set(rows.flatMap((row) => (row.undoes ? [row.undoes] : [])));
  const found = rows.filter(
    (row) => row.kind === "tripped" && Date.parse(row.at) >= since && !back.has(row.id),
  );
  return new Set(found.map((row) => row.id)).size;
}

/** A name that no other row has; pages from a disk may not use the browser's own. */
export function newId(): string {
  const parts = crypto.getRandomValues(new Uint32Array(4));
  return Array.from(parts, (part) => part.toString(16).padStart(8, "0")).join("-");
}
