import { useSyncExternalStore } from "react";
import type { components } from "../../api/schema.gen";

/** One thing that was done, or taken back, at a step of a sheet. */
export type Row = Omit<components["schemas"]["RecordLine"], "entered_at">;

/**
 * What this device keeps of what was done at the panel: until the server has it, or for good in a pocket file.
 * A device that keeps nothing (a private window, a full store) keeps it as long as the page is open.
 */

const memory = new Map<string, string>();
const listeners = new Set<() => void>();
let refused = false;

/** Whether something could not be kept, so that it is gone with this page. */
export const keepsNothing = () => refused;

export function keep(key: string, value: unknown) {
  const text = value === null ? null : JSON.stringify(value);
  if (text === null) memory.delete(key);
  else memory.set(key, text);
  try {
    if (text === null) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
  } catch {
    refused = true;
  }
  for (const listener of listeners) listener();
}

function textOf(key: string): string | null {
  try {
    return localStorage.getItem(key) ?? memory.get(key) ?? null;
  } catch {
    return memory.get(key) ?? null;
  }
}

/** Keys of what is kept that begin so. */
export function keysWith(prefix: string): string[] {
  const found = new Set([...memory.keys()].filter((key) => key.startsWith(prefix)));
  try {
    for (let index = 0; index < localStorage.length; index += 1) {
      const key = localStorage.key(index);
      if (key?.startsWith(prefix)) found.add(key);
    }
  } catch {
    refused = true;
  }
  return [...found];
}

export function kept<T>(key: string): T | null {
  const text = textOf(key);
  return text === null ? null : (JSON.parse(text) as T);
}

const keyOf = (planId: string) => `weary-cedar record ${planId}`;

export const keptRows = (planId: string): readonly Row[] => kept<Row[]>(keyOf(planId)) ?? [];

export const keepRow = (planId: string, row: Row) => keep(keyOf(planId), [...keptRows(planId), row]);

/** Rows that the server has now. */
export function dropRows(planId: string, sent: readonly Row[]) {
  const ids = new Set(sent.map((row) => row.id));
  const left = keptRows(planId).filter((row) => !ids.has(row.id));
  keep(keyOf(planId), left.length > 0 ? left : null);
}

/** The rows that are kept here, as they come and go. */
export function useKeptRows(planId: string): readonly Row[] {
  const text = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => textOf(keyOf(planId)) ?? "[]",
  );
  return JSON.parse(text) as Row[];
}

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
