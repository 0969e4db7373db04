import type { RunResult } from "../../api/client";
import { watts, whole } from "../../ui/format";

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

/** Charge at a moment: linear between change points. */
export function chargeAt(run: RunResult, at: number): number {
  const { t_s = [], charge_percent = [] } = run.series ?? {};
  const index = indexAt(t_s, at);
  const from = t_s[index] ?? 0;
  const to = t_s[index + 1] ?? from;
  const before = charge_percent[index] ?? 0;
  const after = charge_percent[index + 1] ?? before;
  return to > from ? before + ((after - before) * (at - from)) / (to - from) : before;
}

/** Loads that draw at a moment, the heaviest first. */
export function runningAt(run: RunResult, at: number): { id: string; watts: number }[] {
  return Object.entries(run.load_series ?? {})
    .map(([id, series]) => ({ id, watts: series.watts[indexAt(series.t_s, at)] ?? 0 }))
    .filter((load) => load.watts > 0)
    .sort((a, b) => b.watts - a.watts);
}

/** What gives power at a moment and how much, and how full every battery is, in words. */
export function feedingAt(run: RunResult, at: number): string[] {
  const read = (times?: readonly number[], values?: readonly number[]) =>
    times?.length && at >= (times[0] ?? 0) ? (values?.[indexAt(times, at)] ?? 0) : 0;
  const suns = Object.values(run.suns ?? {})
    .map((sun) => ({ sun, taken: read(sun.t_s, sun.taken_w), offered: read(sun.t_s, sun.offered_w) }))
    .filter(({ offered }) => offered > 0.5)
    .map(({ sun, taken, offered }) => `${sun.name} ${watts(taken)} of ${watts(offered)}`);
  const sources = Object.values(run.sources ?? {})
    .map((source) => ({ source, gives: read(source.t_s, source.a_w) + read(source.t_s, source.b_w) }))
    .filter(({ gives }) => gives > 0.5)
    .map(({ source, gives }) => `${source.name} gives ${watts(gives)}`);
  const cells = Object.values(run.batteries ?? {}).map((cell) => {
    const index = indexAt(cell.t_s ?? [], at);
    const from = cell.t_s?.[index] ?? 0;
    const to = cell.t_s?.[index + 1] ?? from;
    const before = cell.stored_wh?.[index] ?? 0;
    const after = cell.stored_wh?.[index + 1] ?? before;
    const stored = to > from ? before + ((after - before) * (at - from)) / (to - from) : before;
    return `${cell.name} ${whole((100 * stored) / cell.cell_wh)} %`;
  });
  return [...sources, ...suns, ...(cells.length > 1 ? cells : [])];
}

/** How cold the contents of every compartment are at a moment: [name, °C, whether too warm]. */
export function coldAt(run: RunResult, at: number): [string, number, boolean][] {
  return Object.values(run.compartments ?? {}).map((part) => {
    const index = indexAt(part.t_s ?? [], at);
    const from = part.t_s?.[index] ?? 0;
    const to = part.t_s?.[index + 1] ?? from;
    const before = part.contents_c?.[index] ?? 0;
    const after = part.contents_c?.[index + 1] ?? before;
    const now = to > from ? before + ((after - before) * (at - from)) / (to - from) : before;
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

/** At most two points a half pixel: the greatest value in it, and the one that goes on after it. */
export function thin(times: readonly number[], values: readonly number[], x: (t: number) => number): Point[] {
  const points: Point[] = [];
  let pixel = Number.NEGATIVE_INFINITY;
  let peak: Point | null = null;
  let last: Point | null = null;
  const close = () => {
    if (peak && last && last.value !== peak.value) points.push(last);
  };
  times.forEach((t, index) => {
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
  });
  close();
  return points;
}
