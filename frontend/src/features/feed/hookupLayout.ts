import { scaleLinear } from "d3-scale";
import type { HookupDrawing, RunResult } from "../../api/client";
import { between, greatest, indexAt } from "../outage/series";

export type DrawnPart = HookupDrawing["parts"][number];
export type DrawnStroke = HookupDrawing["strokes"][number];

export const WIDTH = 1180;
export const BLOCK = 18;
const NAMES = 40;
const GAP = 26;
const BETWEEN = 4;
const LEFT = 8;
const RIGHT = 190;
/** What runs back, underneath, is drawn no thicker. */
const BACK = 10;

export interface Placed {
  part: DrawnPart;
  x: number;
  top: number;
  height: number;
}

export interface Run {
  stroke: DrawnStroke;
  bore: number;
  /** Where it leaves and arrives; a stroke that runs back goes underneath. */
  from: [number, number];
  to: [number, number];
  back: boolean;
}

export interface Layout {
  parts: Placed[];
  strokes: Run[];
  bore: (va: number) => number;
  height: number;
}

/** Columns from the sources on the left to panels and appliances on the right; bores are ratings. */
export function layoutOf(drawing: HookupDrawing): Layout {
  const ratings = [...drawing.parts, ...drawing.strokes].map((item) => item.rating_va ?? 0);
  const bore = scaleLinear()
    .domain([0, Math.max(1, ...ratings)])
    .range([3, 72])
    .clamp(true);
  const boreOf = (stroke: DrawnStroke) => bore(stroke.rating_va ?? 0);
  const sum = (strokes: DrawnStroke[]) => strokes.reduce((all, item) => all + boreOf(item) + BETWEEN, 0);
  const columns = Math.max(1, ...drawing.parts.map((part) => part.column));
  const column = (part: DrawnPart) => LEFT + ((WIDTH - LEFT - RIGHT) * part.column) / columns;
  const back = (stroke: DrawnStroke) => {
    const at = (key: string) => drawing.parts.find((part) => part.key === key)?.column ?? 0;
    return at(stroke.begins) >= at(stroke.ends);
  };
  const forward = drawing.strokes.filter((stroke) => !back(stroke));
  const tops = new Map<number, number>();
  const parts = drawing.parts.map((part) => {
    const out = sum(forward.filter((stroke) => stroke.begins === part.key));
    const into = sum(forward.filter((stroke) => stroke.ends === part.key));
    const height = Math.max(14, part.rating_va == null ? 0 : bore(part.rating_va), out, into);
    const top = (tops.get(part.column) ?? 0) + NAMES;
    tops.set(part.column, top + height + GAP);
    return { part, x: column(part), top, height };
  });
  const tallest = Math.max(...tops.values(), 0);
  for (const placed of parts) placed.top += (tallest - (tops.get(placed.part.column) ?? 0)) / 2;
  const used = new Map<string, number>();
  const slot = (side: string, placed: Placed, all: DrawnStroke[], stroke: DrawnStroke) => {
    const free = (placed.height - sum(all) + BETWEEN) / 2;
    const begun = used.get(side + placed.part.key) ?? free;
    used.set(side + placed.part.key, begun + boreOf(stroke) + BETWEEN);
    return placed.top + begun + boreOf(stroke) / 2;
  };
  const strokes = drawing.strokes.flatMap((stroke): Run[] => {
    const begin = parts.find((item) => item.part.key === stroke.begins);
    const end = parts.find((item) => item.part.key === stroke.ends);
    if (!begin || !end) return [];
    if (back(stroke))
      return [
        {
          stroke,
          bore: Math.min(boreOf(stroke), BACK),
          from: [begin.x + BLOCK, begin.top + begin.height - 8],
          to: [end.x, end.top + end.height - 8],
          back: true,
        },
      ];
    const leaving = forward.filter((item) => item.begins === stroke.begins);
    const arriving = forward.filter((item) => item.ends === stroke.ends);
    return [
      {
        stroke,
        bore: boreOf(stroke),
        from: [begin.x + BLOCK, slot("out", begin, leaving, stroke)],
        to: [end.x, slot("in", end, arriving, stroke)],
        back: false,
      },
    ];
  });
  const under = strokes.some((item) => item.back) ? 34 : 0;
  return { parts, strokes, bore, height: tallest + 26 + under };
}

/** The line of a stroke. */
export function pathOf({ from, to, back }: Run, height: number): string {
  const [x1, y1] = from;
  const [x2, y2] = to;
  if (back) return `M${x1},${y1} H${x1 + 163} V${height - 10} H${x2 - 20} V${y2} H${x2}`;
  const middle = (x1 + x2) / 2;
  return `M${x1},${y1} C${middle},${y1} ${middle},${y2} ${x2},${y2}`;
}

/** What flows through a stroke at a moment, or at most; nothing where the run does not say. */
export function flowOf(run: RunResult | undefined, stroke: DrawnStroke, at: number | null): number | null {
  if (!run?.ledger) return null;
  const read = (times: readonly number[] = [], values: readonly number[] = []) => {
    if (at === null) return greatest(values);
    return times.length > 0 && at >= (times[0] ?? 0) ? (values[indexAt(times, at)] ?? 0) : 0;
  };
  if (stroke.flow_room === "ways") {
    const way = run.ways?.[stroke.flow_key];
    const all = way?.a_va?.map((va, index) => va + (way.b_va?.[index] ?? 0));
    return way ? read(way.t_s, all) : null;
  }
  if (stroke.flow_room === "leads" || stroke.flow_room === "externals") {
    const lead = run[stroke.flow_room]?.[stroke.flow_key];
    return lead ? read(lead.t_s, lead.watts) : null;
  }
  if (stroke.flow_room === "suns") {
    const sun = run.suns?.[stroke.flow_key];
    return sun ? read(sun.t_s, sun.taken_w) : null;
  }
  return null;
}

/** How full the cells of a station are at a moment, 0 to 1. */
export function filledAt(run: RunResult | undefined, id: string, at: number | null): number | null {
  const cell = run?.batteries?.[id];
  if (!cell || at === null) return null;
  return between(cell.t_s, cell.stored_wh, at) / cell.cell_wh;
}
