import type { RunEvent, RunResult } from "../../api/client";
import { LEFT } from "./lanes";
import { useScale, useSpan } from "./span";

const SIGNS: Partial<Record<RunEvent["kind"], [string, string]>> = {
  trip: ["var(--stop)", "M-5,5 L0,-5 L5,5 Z"],
  empty: ["var(--stop)", "M-5,-5 H5 V5 H-5 Z"],
  breaker_trip: ["var(--stop)", "M-5,5 L0,-5 L5,5 Z"],
  locked_out: ["var(--stop)", "M-5,-5 L5,5 M5,-5 L-5,5"],
  keep_lost: ["var(--stop)", "M-5,-5 L5,5 M5,-5 L-5,5"],
  food_warm: ["var(--stop)", "M-5,-5 H5 V5 H-5 Z"],
  food_thaws: ["var(--stop)", "M-5,-5 H5 V5 H-5 Z"],
  left_running: ["var(--caution)", "M-5,-5 H5 V5 H-5 Z"],
  engine_fails: ["var(--caution)", "M-5,-5 H5 V5 H-5 Z"],
  engine_dry: ["var(--caution)", "M-5,-5 H5 V5 H-5 Z"],
  input_trip: ["var(--caution)", "M-5,5 L0,-5 L5,5 Z"],
  over_limit: ["var(--caution)", "M-5,5 L0,-5 L5,5 Z"],
  shed: ["var(--caution)", "M0,-5 V5 M-4,1 L0,5 L4,1"],
  room_shed: ["var(--caution)", "M0,-5 V5 M-4,1 L0,5 L4,1"],
  idle_cutout: ["var(--caution)", "M-5,-5 H5 V5 H-5 Z"],
  dip: ["var(--caution)", "M-5,-3 L0,5 L5,-3"],
};
const PLAIN: [string, string] = ["var(--faint)", "M0,-4 V4"];
const GRAVITY = Object.keys(SIGNS);
/** Marks that would stand closer than this are one, px. */
const APART = 11;

const gravity = (event: RunEvent) => {
  const found = GRAVITY.indexOf(event.kind);
  return found < 0 ? GRAVITY.length : found;
};

/** Events on their line; those that would touch are one mark, with the gravest of them and how many there are. */
export function EventMarks({ run, width, top }: { run: RunResult; width: number; top: number }) {
  const x = useScale(width);
  const span = useSpan();
  const groups: { at: number; events: RunEvent[] }[] = [];
  for (const event of run.events ?? []) {
    if (event.t_s < span.from || event.t_s > span.to) continue;
    const last = groups.at(-1);
    if (last && x(event.t_s) - x(last.at) < APART) last.events.push(event);
    else groups.push({ at: event.t_s, events: [event] });
  }
  return (
    <g>
      <text x={LEFT - 8} y={top + 4} textAnchor="end" fontSize="12" fill="var(--faint)">
        events
      </text>
      {groups.map(({ at, events }) => {
        const first = events.reduce((one, other) => (gravity(other) < gravity(one) ? other : one));
        const [colour, path] = SIGNS[first.kind] ?? PLAIN;
        const grave = events.filter((event) => event.kind in SIGNS).length;
        return (
          <g key={at} transform={`translate(${x(at)} ${top})`}>
            <path d={path} fill={path.endsWith("Z") ? colour : "none"} stroke={colour} strokeWidth="1.6">
              <title>{events.map((event) => event.what).join("; ")}</title>
            </path>
            {grave > 1 && (
              <text x={0} y={-7} textAnchor="middle" fontSize="9.5" fill={colour}>
                {grave}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
