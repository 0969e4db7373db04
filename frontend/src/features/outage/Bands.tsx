import { scaleLinear } from "d3-scale";
import { area, curveStepAfter } from "d3-shape";
import type { RunResult } from "../../api/client";
import { whole } from "../../ui/format";
import { type Layout, LEFT, type LegLane, RIGHT } from "./lanes";
import { greatest, type Point, thin } from "./series";
import { useScale } from "./span";

interface Props {
  run: RunResult;
  width: number;
  lanes: Layout;
}

/** The two legs of every source around their neutral, and what each may carry. */
export function Bands({ run, width, lanes }: Props) {
  return (
    <g fontSize="12" fill="var(--faint)">
      {lanes.legs.map((lane) => (
        <Legs key={lane.id} run={run} width={width} lane={lane} lanes={lanes} />
      ))}
    </g>
  );
}

function Legs({ run, width, lane, lanes }: Props & { lane: LegLane }) {
  const { split } = lane;
  const several = lanes.legs.length > 1;
  const source = run.sources?.[lane.id];
  const own = { t_s: source?.t_s, a_va: source?.a_va, b_va: source?.b_va };
  const series = several ? own : run.series;
  const limit = (several ? source?.leg_limit_va : run.leg_limit_va) ?? 0;
  const times = [...(series?.t_s ?? []), ...(several ? [run.length_s] : [])];
  const x = useScale(width);
  const most = Math.max(limit, greatest(series?.a_va), greatest(series?.b_va), 1);
  const zero = lane.top + lane.half;
  const up = scaleLinear().domain([0, most]).range([0, lane.half]);
  const leg = (sign: 1 | -1, values: readonly number[] = []) =>
    area<Point>()
      .curve(curveStepAfter)
      .x((point) => x(point.t))
      .y0(zero)
      .y1((point) => zero - sign * up(point.value))(
      thin(times, several ? [...values, values.at(-1) ?? 0] : values, x),
    ) ?? "";
  const tight = lane.half < 60;
  return (
    <g>
      <path className="inside" d={leg(1, series?.a_va)} fill="var(--leg-a)" />
      {split && <path className="inside" d={leg(-1, series?.b_va)} fill="var(--leg-b)" />}
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
      <Label
        y={zero - lane.half / 2 + (tight ? 4 : 0)}
        colour="var(--leg-a)"
        words={split ? "leg A" : several ? "one hot" : "line"}
      />
      {split && <Label y={zero + lane.half / 2 + 8} colour="var(--leg-b)" words="leg B" />}
      <Label y={zero - up(limit || most) + (tight ? 9 : 4)} words={`${whole(limit || most)} VA`} />
      <Label y={zero + 4} words={split ? "neutral" : "0"} />
      {several && (
        <text x={LEFT + 6} y={lane.top + 12} fill="var(--ink)" className="halo">
          {lane.name}
        </text>
      )}
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
