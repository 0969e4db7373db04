import type { RunResult } from "../../api/client";

/** Where each lane of the strip stands: a drawing from the top down, as high as what the plan has. */
export const LEFT = 62;
export const RIGHT = 12;
const TOP = 20;
/** Height of one leg: alone, and where several sources have their own. */
const HALF = 92;
const HALF_OF_SEVERAL = 50;
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

/** The two legs of one source around their neutral: `half` is the height of one; one hot is drawn upward. */
export interface LegLane extends Lane {
  half: number;
  split: boolean;
}

export interface Layout {
  legs: LegLane[];
  marks: number;
  suns: Lane[];
  sources: Lane[];
  batteries: Lane[];
  indoor: Lane | null;
  compartments: Lane[];
  height: number;
}

/** Sources with legs of their own that gave anything; others only come and go: vehicles, the utility. */
function withLegs(run: RunResult): [string, string][] {
  const found = Object.entries(run.sources ?? {}).filter(
    ([, source]) => (source.kind === "station" || source.kind === "generator") && source.given_wh > 0,
  );
  return found.map(([id, source]) => [id, source.name]);
}

export function layout(run: RunResult, split: boolean): Layout {
  let top = TOP;
  const named = withLegs(run);
  const shown = named.length > 0 ? named : [["", ""] as [string, string]];
  const half = shown.length > 1 ? HALF_OF_SEVERAL : HALF;
  const legs = shown.map(([id, name], index) => {
    const source = run.sources?.[id];
    const oneHot = source?.total_va != null && (source.leg_limit_va ?? 0) >= source.total_va;
    const both = split && !(oneHot && shown.length > 1);
    const height = half * (both ? 2 : 1);
    const made = { id, name, top, height, half, split: both };
    top += height + (index + 1 < shown.length ? GAP + 4 : 0);
    return made;
  });
  const marks = top + MARKS_UNDER;
  top = marks + FIRST_UNDER;
  const lane = (id: string, name: string, height: number): Lane => {
    const made = { id, name, top, height };
    top += height + GAP;
    return made;
  };
  const suns = Object.entries(run.suns ?? {}).map(([id, sun]) => lane(id, sun.name, 46));
  const sources = Object.entries(run.sources ?? {})
    .filter(
      ([id, source]) => source.kind !== "station" && !(legs.length > 1 && legs.some((l) => l.id === id)),
    )
    .map(([id, source]) => lane(id, source.name, 16));
  const cells = Object.entries(run.batteries ?? {});
  const batteries = cells.map(([id, cell]) => lane(id, cell.name, cells.length > 1 ? 54 : 88));
  const indoor = Object.keys(run.indoor ?? {}).length > 0 ? lane("indoor", "indoors", 54) : null;
  const compartments = Object.entries(run.compartments ?? {}).map(([id, part]) => lane(id, part.name, 40));
  return { legs, marks, suns, sources, batteries, indoor, compartments, height: top + 16 };
}
