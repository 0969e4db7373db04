import type { RunResult } from "../../api/client";

type Part = Record<string, unknown>;

const isPart = (value: unknown): value is Part =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** A course is what has times, and columns of as many values. */
function joinedCourse(before: Part, now: Part, until: number): Part {
  const [old, fresh] = [before.t_s as number[], now.t_s as number[]];
  const from = old.findIndex((t) => t > until);
  const rest = from < 0 ? old.length : from;
  const upTo = fresh.findIndex((t) => t > until);
  const end = upTo < 0 ? fresh.length : upTo;
  const made: Part = { ...before };
  for (const [key, values] of Object.entries(before)) {
    const next = now[key];
    if (!Array.isArray(values) || values.length !== old.length || !Array.isArray(next)) continue;
    made[key] = next.slice(0, end).concat(values.slice(rest));
  }
  return made;
}

function joinedPart(before: Part, now: Part, until: number): Part {
  const own = Array.isArray(before.t_s) && Array.isArray(now.t_s) ? joinedCourse(before, now, until) : before;
  const made: Part = { ...own };
  for (const [key, value] of Object.entries(before)) {
    const next = now[key];
    if (isPart(value) && isPart(next)) made[key] = joinedPart(value, next, until);
  }
  return made;
}

/** The courses of a run that is worked out up to a moment, and after it those of the run before. */
export function joined(before: RunResult, now: RunResult, until: number): RunResult {
  if (until >= before.length_s) return now;
  const events = [
    ...(now.events ?? []).filter((event) => event.t_s < until),
    ...(before.events ?? []).filter((event) => event.t_s >= until),
  ];
  return { ...(joinedPart(before as Part, now as Part, until) as RunResult), events };
}
