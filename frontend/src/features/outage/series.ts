import type { RunResult } from "../../api/client";

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

/** Greatest of a series, however long; 0 of none. */
export function greatest(values?: readonly number[]): number {
  return (values ?? []).reduce((most, value) => Math.max(most, value), 0);
}
