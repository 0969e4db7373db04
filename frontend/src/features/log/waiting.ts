/** Lines that were typed while the server could not be reached: they wait here, and count once. */

export interface WaitingLine {
  line: string;
  row_id: string;
  /** When it was, by the clock of the site, where that was said. */
  now: string;
  /** When it was typed, by this device: its clock may be wrong, what has gone by since is not. */
  typed_ms?: number;
  corrects: string;
}

const key = (session: string) => `weary-cedar-log-${session}`;

export function waitingOf(session: string): WaitingLine[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key(session)) ?? "[]");
    return Array.isArray(kept) ? (kept as WaitingLine[]) : [];
  } catch {
    return [];
  }
}

/** Keeps lines; says whether the browser has room for them. */
export function keepWaiting(session: string, lines: WaitingLine[]): boolean {
  try {
    if (lines.length === 0) localStorage.removeItem(key(session));
    else localStorage.setItem(key(session), JSON.stringify(lines));
    return true;
  } catch {
    return false;
  }
}

/** An id that no other device makes; over plain http a browser has no `randomUUID`. */
export function rowId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}
