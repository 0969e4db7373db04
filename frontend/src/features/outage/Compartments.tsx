import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { RunResult } from "../../api/client";
import { told, useUnits } from "../../ui/quantity";
import { type Layout, LEFT, RIGHT } from "./lanes";
import { least, sighted } from "./series";
import { useScale } from "./span";

interface Props {
  run: RunResult;
  width: number;
  lanes: Layout;
}

/** Contents of every cold compartment against what they may reach; time over it is marked. */
export function Compartments({ run, width, lanes }: Props) {
  const units = useUnits();
  const x = useScale(width);
  return (
    <g fontSize="12" fill="var(--faint)">
      {lanes.compartments.map((lane) => {
        const part = run.compartments?.[lane.id];
        if (!part) return null;
        const values = part.contents_c ?? [];
        const low = Math.min(least(values), part.limit_c - 1);
        const high = Math.max(part.highest_c, part.limit_c + 1);
        const y = scaleLinear()
          .domain([low, high])
          .range([lane.top + lane.height, lane.top]);
        const course = line<[number, number]>()
          .x(([t]) => x(t))
          .y(([, index]) => y(values[index] ?? 0))(sighted(part.t_s ?? [], x));
        const limit = y(part.limit_c);
        return (
          <g key={lane.id}>
            {part.first_over_s != null && (
              <rect
                className="inside"
                x={x(part.first_over_s)}
                y={lane.top}
                width={Math.max(0, width - RIGHT - x(part.first_over_s))}
                height={Math.max(0, limit - lane.top)}
                fill="var(--stop)"
                opacity="0.12"
              />
            )}
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={limit}
              y2={limit}
              stroke="var(--stop)"
              strokeDasharray="2 4"
            />
            <path className="inside" d={course ?? ""} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
            <text x={LEFT - 8} y={limit + 4} textAnchor="end">
              {told(part.limit_c, "°C", units)}
            </text>
            <text x={LEFT - 8} y={lane.top + lane.height + 2} textAnchor="end">
              {limit < lane.top + lane.height - 12 && told(low, "°C", units)}
            </text>
            <text x={LEFT + 6} y={lane.top + lane.height - 4} fill="var(--ink)" className="halo">
              {lane.name}
            </text>
          </g>
        );
      })}
    </g>
  );
}
