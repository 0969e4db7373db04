import type { Command } from "./client";

type Patch = Record<string, unknown>;

/** An edit on its way: what it changes, or what the server is to do; and the revision that it was made on. */
export interface Pending {
  patch: Patch;
  command?: Command;
  base: number;
}

const keyOf = (planId: string) => `weary-cedar unsent ${planId}`;

/** Stands in what is kept for what is gone: JSON has no word for it. */
const GONE = "\u0000gone";

function revived(value: unknown): unknown {
  if (value === GONE) return undefined;
  if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, revived(inner)]));
}

/** Keep for this window what the server has not acknowledged yet, so that a page that is loaded anew sends it again. */
export function keepUnsent(planId: string, pending: readonly Pending[]) {
  if (pending.length === 0) sessionStorage.removeItem(keyOf(planId));
  else
    sessionStorage.setItem(
      keyOf(planId),
      JSON.stringify(pending, (_key, value) => (value === undefined ? GONE : value)),
    );
}

/** What was kept; an edit that did arrive changes nothing when it is sent again. */
export function keptUnsent(planId: string): readonly Pending[] {
  const kept = JSON.parse(sessionStorage.getItem(keyOf(planId)) ?? "[]") as Pending[];
  return kept.map((edited) => ({ ...edited, patch: revived(edited.patch) as Patch }));
}
