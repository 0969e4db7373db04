import { scaleLinear } from "d3-scale";
import { area, curveLinear, curveStepAfter, line } from "d3-shape";
import type { RunResult } from "../../api/client";
import { whole } from "../../ui/format";
import { CHARGE, LEFT, LEGS, RIGHT } from "./Strip";
import { greatest } from "./series";

interface Point {
  t: number;
  value: number;
}

/** At most two points a half pixel: the greatest value in it, and the one that goes on after it. */
function thin(times: readonly number[], values: readonly number[], x: (t: number) => number): Point[] {
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

export function Bands({ run, width }: { run: RunResult; width: number }) {
  const series = run.series;
  const times = series?.t_s ?? [];
  const x = scaleLinear()
    .domain([0, run.length_s])
    .range([LEFT, width - RIGHT]);
  const limit = run.leg_limit_va ?? 0;
  const most = Math.max(limit, greatest(series?.a_va), greatest(series?.b_va), 1);
  const zero = LEGS.top + LEGS.half;
  const up = scaleLinear().domain([0, most]).range([0, LEGS.half]);
  const level = scaleLinear()
    .domain([0, 100])
    .range([CHARGE.top + CHARGE.height, CHARGE.top]);
  const leg = (sign: 1 | -1) =>
    area<Point>()
      .curve(curveStepAfter)
      .x((point) => x(point.t))
      .y0(zero)
      .y1((point) => zero - sign * up(point.value));
  const charge = times.map((t, index) => ({ t, value: series?.charge_percent?.[index] ?? 0 }));
  const chargeArea = area<Point>()
    .curve(curveLinear)
    .x((point) => x(point.t))
    .y0(level(0))
    .y1((point) => level(point.value));
  const chargeLine = line<Point>()
    .x((point) => x(point.t))
    .y((point) => level(point.value));
  return (
    <g fontSize="12" fill="var(--faint)">
      <path d={leg(1)(thin(times, series?.a_va ?? [], x)) ?? ""} fill="var(--leg-a)" />
      <path d={leg(-1)(thin(times, series?.b_va ?? [], x)) ?? ""} fill="var(--leg-b)" />
      {limit > 0 &&
        [zero - up(limit), zero + up(limit)].map((y) => (
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
      <Label y={zero - LEGS.half / 2} colour="var(--leg-a)" words="leg A" />
      <Label y={zero + LEGS.half / 2 + 8} colour="var(--leg-b)" words="leg B" />
      <Label y={zero - up(limit) + 4} words={`${whole(limit)} VA`} />
      <Label y={zero + 4} words="neutral" />
      <path d={chargeArea(charge) ?? ""} fill="var(--leaf)" />
      <path d={chargeLine(charge) ?? ""} fill="none" stroke="var(--cedar)" strokeWidth="2" />
      <line x1={LEFT} x2={width - RIGHT} y1={level(0)} y2={level(0)} stroke="var(--ink)" />
      <Label y={level(100) + 8} words="100 %" />
      <Label y={level(50) + 4} colour="var(--cedar)" words="charge" />
      <Label y={level(0) + 2} words="0 %" />
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
