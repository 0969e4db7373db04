import { scaleLinear } from "d3-scale";
import { area, curveStepAfter } from "d3-shape";
import type { RunResult } from "../../api/client";
import { whole } from "../../ui/format";
import { LEFT, LEGS, RIGHT } from "./lanes";
import { greatest, type Point, thin } from "./series";

/** The two legs around their neutral, and what each may carry. */
export function Bands({ run, width, split }: { run: RunResult; width: number; split: boolean }) {
  const series = run.series;
  const times = series?.t_s ?? [];
  const x = scaleLinear()
    .domain([0, run.length_s])
    .range([LEFT, width - RIGHT]);
  const limit = run.leg_limit_va ?? 0;
  const most = Math.max(limit, greatest(series?.a_va), greatest(series?.b_va), 1);
  const zero = LEGS.top + LEGS.half;
  const up = scaleLinear().domain([0, most]).range([0, LEGS.half]);
  const leg = (sign: 1 | -1) =>
    area<Point>()
      .curve(curveStepAfter)
      .x((point) => x(point.t))
      .y0(zero)
      .y1((point) => zero - sign * up(point.value));
  return (
    <g fontSize="12" fill="var(--faint)">
      <path d={leg(1)(thin(times, series?.a_va ?? [], x)) ?? ""} fill="var(--leg-a)" />
      {split && <path d={leg(-1)(thin(times, series?.b_va ?? [], x)) ?? ""} fill="var(--leg-b)" />}
      {limit > 0 &&
        (split ? [zero - up(limit), zero + up(limit)] : [zero - up(limit)]).map((y) => (
          <line
            key={y}
            x1={LEFT}
            x2={width - RIGHT}
            y1={y}
            y2={y}
            stroke="var(--ink)"
            strokeDasharray="2 4"
          />
        ))}
      <line x1={LEFT} x2={width - RIGHT} y1={zero} y2={zero} stroke="var(--ink)" />
      <Label y={zero - LEGS.half / 2} colour="var(--leg-a)" words={split ? "leg A" : "line"} />
      {split && <Label y={zero + LEGS.half / 2 + 8} colour="var(--leg-b)" words="leg B" />}
      <Label y={zero - up(limit || most) + 4} words={`${whole(limit || most)} VA`} />
      <Label y={zero + 4} words={split ? "neutral" : "0"} />
    </g>
  );
}

function Label({ y, words, colour = "var(--faint)" }: { y: number; words: string; colour?: string }) {
  return (
    <text
      x={LEFT - 8}
      y={y}
      textAnchor="end"
      fill={colour}
      fontWeight={colour === "var(--faint)" ? 400 : 600}
    >
      {words}
    </text>
  );
}
