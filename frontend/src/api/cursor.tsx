import { createContext, type ReactNode, useContext, useState } from "react";

type Cursor = [at: number | null, setAt: (at: number | null) => void];

const CursorContext = createContext<Cursor | null>(null);

const keyOf = (planId: string) => `weary-cedar moment of ${planId}`;

/** The moment of the outage that all screens of a plan show, s from the start; none: the greatest flows. */
export function CursorProvider({ planId, children }: { planId: string; children: ReactNode }) {
  const [at, setAt] = useState<number | null>(() => {
    const kept = sessionStorage.getItem(keyOf(planId));
    return kept === null ? null : Number(kept);
  });
  const move = (next: number | null) => {
    setAt(next);
    if (next === null) sessionStorage.removeItem(keyOf(planId));
    else sessionStorage.setItem(keyOf(planId), String(Math.round(next)));
  };
  return <CursorContext.Provider value={[at, move]}>{children}</CursorContext.Provider>;
}

export function useCursor(): Cursor {
  const cursor = useContext(CursorContext);
  if (!cursor) throw new Error("outside a plan");
  return cursor;
}
