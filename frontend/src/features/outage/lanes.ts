import type { RunResult } from "../../api/client";

/** Where each lane of the strip stands: a drawing from the top down, as high as what the plan has. */
export const LEFT = 62;
export const RIGHT = 12;
export const LEGS = { top: 20, half: 92 };
/** From the foot of the legs to the marks of events, and from there to the first lane. */
const MARKS_UNDER = 14;
const FIRST_UNDER = 18;
const GAP = 12;

export interface Lane {
  id: string;
  name: string;
  top: number;
  height: number;
}

export interface Layout {
  /** A house of one leg is drawn upward only. */
  split: boolean;
  marks: number;
  suns: Lane[];
  sources: Lane[];
  batteries: Lane[];
  indoor: Lane | null;
  height: number;
}

/** Sources that come and go get a lane of their own: engines, vehicles, the utility. */
function comesAndGoes(kind: string): boolean {
  return kind !== "station";
}

export function layout(run: RunResult, split: boolean): Layout {
  const marks = LEGS.top + LEGS.half * (split ? 2 : 1) + MARKS_UNDER;
  let top = marks + FIRST_UNDER;
  const lane = (id: string, name: string, height: number): Lane => {
    const made = { id, name, top, height };
    top += height + GAP;
    return made;
  };
  const suns = Object.entries(run.suns ?? {}).map(([id, sun]) => lane(id, sun.name, 46));
  const sources = Object.entries(run.sources ?? {})
    .filter(([, source]) => comesAndGoes(source.kind))
    .map(([id, source]) => lane(id, source.name, 16));
  const cells = Object.entries(run.batteries ?? {});
  const batteries = cells.map(([id, cell]) => lane(id, cell.name, cells.length > 1 ? 54 : 88));
  const indoor = Object.keys(run.indoor ?? {}).length > 0 ? lane("indoor", "indoors", 54) : null;
  return { split, marks, suns, sources, batteries, indoor, height: top + 16 };
}
