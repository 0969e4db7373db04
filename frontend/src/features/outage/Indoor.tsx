import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { RunResult } from "../../api/client";
import { told, useUnits } from "../../ui/quantity";
import { type Lane, LEFT, RIGHT } from "./lanes";
import { least, sighted } from "./series";
import { useScale } from "./span";

/** Indoor temperature of each thermostat over the outage. */
export function Indoor({ run, width, lane }: { run: RunResult; width: number; lane: Lane | null }) {
  const units = useUnits();
  const x = useScale(width);
  const rooms = Object.entries(run.indoor ?? {});
  if (rooms.length === 0 || lane === null) return null;
  const all = rooms.flatMap(([, series]) => series.c);
  const limit = rooms[0]?.[1].limit_c ?? null;
  const cold = rooms.some(([, room]) => room.under_at_s != null);
  const low = Math.floor(Math.min(least(all), cold && limit !== null ? limit : Number.POSITIVE_INFINITY));
  const high = Math.ceil(-least(all.map((value) => -value)));
  const y = scaleLinear()
    .domain([low, Math.max(high, low + 4)])
    .range([lane.top + lane.height, lane.top + 6]);
  return (
    <g fontSize="12" fill="var(--faint)">
      <line x1={LEFT} x2={width - RIGHT} y1={y(low)} y2={y(low)} stroke="var(--rule)" />
      {limit !== null && limit >= low && (
        <line
          x1={LEFT}
          x2={width - RIGHT}
          y1={y(limit)}
          y2={y(limit)}
          stroke="var(--stop)"
          strokeDasharray="2 4"
        />
      )}
      {rooms.map(([id, series]) => (
        <path
          className="inside"
          key={id}
          d={
            line<[number, number]>()
              .x(([t]) => x(t))
              .y(([, index]) => y(series.c[index] ?? 0))(sighted(series.t_s, x)) ?? ""
          }
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      ))}
      <text x={LEFT - 8} y={y(low) + 2} textAnchor="end">
        {told(low, "°C", units)}
      </text>
      <text x={LEFT - 8} y={y(Math.max(high, low + 4)) + 6} textAnchor="end">
        {told(Math.max(high, low + 4), "°C", units)}
      </text>
      <text x={LEFT - 8} y={lane.top + 34} textAnchor="end" fontWeight="600" fill="var(--ink)">
        indoors
      </text>
    </g>
  );
}
