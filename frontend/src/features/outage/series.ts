import type { RunResult } from "../../api/client";
import { tenth, watts, whole } from "../../ui/format";
import type { Scale } from "./span";

/** Index of the last change point at or before a moment. */
export function indexAt(times: readonly number[], at: number): number {
  let low = 0;
  let high = times.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((times[middle] ?? 0) <= at) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** A value at a moment, straight between change points. */
export function between(times: readonly number[] = [], values: readonly number[] = [], at: number): number {
  const index = indexAt(times, at);
  const from = times[index] ?? 0;
  const to = times[index + 1] ?? from;
  const before = values[index] ?? 0;
  const after = values[index + 1] ?? before;
  return to > from ? before + ((after - before) * (at - from)) / (to - from) : before;
}

/** Charge at a moment. */
export function chargeAt(run: RunResult, at: number): number {
  return between(run.series?.t_s, run.series?.charge_percent, at);
}

/** Loads that draw at a moment, the heaviest first. */
export function runningAt(run: RunResult, at: number): { id: string; watts: number }[] {
  return Object.entries(run.load_series ?? {})
    .map(([id, series]) => ({ id, watts: series.watts[indexAt(series.t_s, at)] ?? 0 }))
    .filter((load) => load.watts > 0)
    .sort((a, b) => b.watts - a.watts);
}

/** What feeds what at a moment and how much, and how full every battery is, in words. */
export function feedingAt(run: RunResult, at: number): string[] {
  const read = (times?: readonly number[], values?: readonly number[]) =>
    times?.length && at >= (times[0] ?? 0) ? (values?.[indexAt(times, at)] ?? 0) : 0;
  const suns = Object.values(run.suns ?? {})
    .map((sun) => ({ sun, taken: read(sun.t_s, sun.taken_w), offered: read(sun.t_s, sun.offered_w) }))
    .filter(({ offered }) => offered > 0.5)
    .map(({ sun, taken, offered }) => `${sun.name} ${watts(taken)} of ${watts(offered)}`);
  const ways = Object.values(run.ways ?? {})
    .map((way) => ({ way, va: read(way.t_s, way.a_va) + read(way.t_s, way.b_va) }))
    .filter(({ va }) => va > 0.5)
    .map(({ way, va }) => `${way.name} ${whole(va)} VA`);
  const utility = Object.values(run.sources ?? {})
    .filter((source) => source.kind === "grid")
    .map((source) => read(source.t_s, source.a_w) + read(source.t_s, source.b_w))
    .filter((gives) => gives > 0.5)
    .map((gives) => `the utility gives ${watts(gives)}`);
  const charging = [...Object.values(run.leads ?? {}), ...Object.values(run.externals ?? {})]
    .map((lead) => ({ lead, gives: read(lead.t_s, lead.watts) }))
    .filter(({ gives }) => gives > 0.5)
    .map(({ lead, gives }) => `${lead.name} ${watts(gives)}`);
  const sources = [...ways, ...utility, ...charging];
  const cells = Object.values(run.batteries ?? {}).map((cell) => {
    const stored = between(cell.t_s, cell.stored_wh, at);
    const own = Object.values(cell.readings ?? {}).map(
      (reading) => `${reading.name} ${whole(between(reading.t_s, reading.percent, at))} %`,
    );
    const packs = own.length > 0 ? ` (${own.join(", ")})` : "";
    return `${cell.name} ${whole((100 * stored) / cell.cell_wh)} %${packs}`;
  });
  const apart = Object.values(run.batteries ?? {}).some(
    (cell) => Object.keys(cell.readings ?? {}).length > 0,
  );
  return [...sources, ...suns, ...(cells.length > 1 || apart ? cells : []), ...displaysAt(run, at)];
}

/** Remaining time as the displays of stations that feed something show it: not what this program expects. */
function displaysAt(run: RunResult, at: number): string[] {
  return Object.values(run.batteries ?? {}).flatMap((cell) => {
    const shown = cell.shown_h?.[indexAt(cell.t_s ?? [], at)];
    return shown == null || shown > 1_000 ? [] : [`the display of ${cell.name} shows ${tenth(shown)} h`];
  });
}

/** How cold the contents of every compartment are at a moment: [name, °C, whether too warm]. */
export function coldAt(run: RunResult, at: number): [string, number, boolean][] {
  return Object.values(run.compartments ?? {}).map((part) => {
    const now = between(part.t_s, part.contents_c, at);
    return [part.name, now, now > part.limit_c];
  });
}

/** Greatest of a series, however long; 0 of none. */
export function greatest(values?: readonly number[]): number {
  return (values ?? []).reduce((most, value) => Math.max(most, value), 0);
}

/** Least of a series, however long; 0 of none. */
export function least(values: readonly number[]): number {
  return values.reduce((so, value) => Math.min(so, value), values[0] ?? 0);
}

export interface Point {
  t: number;
  value: number;
}

/** Whether a stretch of time is on the strip at all. */
export function inSight(from: number, to: number, x: Scale): boolean {
  const [first = 0, last = 0] = x.domain();
  return to >= first && from <= last;
}

/** Change points on the strip, with their place in the course, and one more on both sides so that lines go on. */
export function sighted(times: readonly number[], x: Scale): [number, number][] {
  const [first = 0, last = 0] = x.domain();
  const begin = indexAt(times, first);
  const found: [number, number][] = [];
  for (let index = begin; index < times.length; index += 1) {
    found.push([times[index] ?? 0, index]);
    if ((times[index] ?? 0) > last) break;
  }
  return found;
}

/** At most two points a half pixel: the greatest value in it, and the one that goes on after it. */
export function thin(times: readonly number[], values: readonly number[], x: Scale): Point[] {
  const points: Point[] = [];
  let pixel = Number.NEGATIVE_INFINITY;
  let peak: Point | null = null;
  let last: Point | null = null;
  const close = () => {
    if (peak && last && last.value !== peak.value) points.push(last);
  };
  for (const [t, index] of sighted(times, x)) {
    const value = values[index] ?? 0;
    const here = Math.round(x(t) * 2);
    if (here === pixel && peak) {
      peak.value = Math.max(peak.value, value);
    } else {
      close();
      peak = { t, value };
      points.push(peak);
      pixel = here;
    }
    last = { t, value };
  }
  close();
  return points;
}
