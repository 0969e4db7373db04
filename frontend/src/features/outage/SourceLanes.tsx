import { scaleLinear } from "d3-scale";
import { area, curveStepAfter, line } from "d3-shape";
import type { RunResult } from "../../api/client";
import { watts } from "../../ui/format";
import { type Lane, type Layout, LEFT, RIGHT } from "./lanes";
import { greatest, inSight, sighted, thin } from "./series";
import { type Scale, useScale } from "./span";

interface Props {
  run: RunResult;
  width: number;
  lanes: Layout;
}

type X = Scale;

/** Sun, engines, vehicles, the utility and every battery, each on a lane under the legs. */
export function SourceLanes({ run, width, lanes }: Props) {
  const x = useScale(width);
  return (
    <g fontSize="12" fill="var(--faint)">
      {lanes.suns.map((lane) => (
        <SunLane key={lane.id} run={run} lane={lane} x={x} width={width} />
      ))}
      {lanes.sources.map((lane) => (
        <OnLane key={lane.id} run={run} lane={lane} x={x} width={width} />
      ))}
      {lanes.batteries.map((lane) => (
        <ChargeLane key={lane.id} run={run} lane={lane} x={x} width={width} />
      ))}
    </g>
  );
}

interface LaneProps {
  run: RunResult;
  lane: Lane;
  x: X;
  width: number;
}

/** What the sun offers is an outline, what is taken is filled; what lies between is lost. */
function SunLane({ run, lane, x, width }: LaneProps) {
  const sun = run.suns?.[lane.id];
  const times = [...(sun?.t_s ?? []), run.length_s];
  const offered = [...(sun?.offered_w ?? []), 0];
  const taken = [...(sun?.taken_w ?? []), 0];
  const most = Math.max(greatest(offered), 1);
  const y = scaleLinear()
    .domain([0, most])
    .range([lane.top + lane.height, lane.top]);
  const filled = area<{ t: number; value: number }>()
    .curve(curveStepAfter)
    .x((point) => x(point.t))
    .y0(y(0))
    .y1((point) => y(point.value));
  const outline = line<{ t: number; value: number }>()
    .curve(curveStepAfter)
    .x((point) => x(point.t))
    .y((point) => y(point.value));
  return (
    <g>
      <path className="inside" d={filled(thin(times, taken, x)) ?? ""} fill="var(--cedar)" opacity="0.45" />
      <path className="inside" d={outline(thin(times, offered, x)) ?? ""} fill="none" stroke="var(--cedar)" />
      <Ground y={y(0)} width={width} />
      <Name lane={lane} words="sun" />
      <text x={LEFT - 8} y={lane.top + 8} textAnchor="end">
        {watts(most)}
      </text>
    </g>
  );
}

/** When a source that comes and goes is there, and how much of it is used. */
function OnLane({ run, lane, x, width }: LaneProps) {
  const source = run.sources?.[lane.id];
  const times = source?.t_s ?? [];
  const used = times.map((_, index) => (source?.a_w?.[index] ?? 0) + (source?.b_w?.[index] ?? 0));
  const spans: { t: number; end: number }[] = [];
  for (const [index, t] of times.entries()) {
    const end = times[index + 1] ?? run.length_s;
    const last = spans.at(-1);
    if (!(used[index] ?? 0) || !inSight(t, end, x)) continue;
    if (last?.end === t) last.end = end;
    else spans.push({ t, end });
  }
  const words = { generator: "engine", vehicle: "vehicle", grid: "utility", station: "" };
  return (
    <g>
      {spans.map((span) => (
        <rect
          key={span.t}
          className="inside"
          x={x(span.t)}
          y={lane.top}
          width={Math.max(0.5, x(span.end) - x(span.t))}
          height={lane.height}
          fill="var(--ink)"
          opacity="0.55"
        />
      ))}
      <Ground y={lane.top + lane.height} width={width} />
      <Name lane={lane} words={words[source?.kind ?? "station"]} />
    </g>
  );
}

/** Charge of one station, 0 to 100 %. */
function ChargeLane({ run, lane, x, width }: LaneProps) {
  const cell = run.batteries?.[lane.id];
  const y = scaleLinear()
    .domain([0, 100])
    .range([lane.top + lane.height, lane.top]);
  const stored = cell?.stored_wh ?? [];
  const points = sighted(cell?.t_s ?? [], x).map(([t, index]) => ({
    t,
    value: (100 * (stored[index] ?? 0)) / (cell?.cell_wh ?? 1),
  }));
  const filled = area<{ t: number; value: number }>()
    .x((point) => x(point.t))
    .y0(y(0))
    .y1((point) => y(point.value));
  const curve = line<{ t: number; value: number }>()
    .x((point) => x(point.t))
    .y((point) => y(point.value));
  return (
    <g>
      <path className="inside" d={filled(points) ?? ""} fill="var(--leaf)" />
      <path className="inside" d={curve(points) ?? ""} fill="none" stroke="var(--cedar)" strokeWidth="2" />
      {Object.entries(cell?.readings ?? {}).map(([key, own]) => (
        <path
          className="inside"
          key={key}
          d={
            curve(sighted(own.t_s ?? [], x).map(([t, index]) => ({ t, value: own.percent?.[index] ?? 0 }))) ??
            ""
          }
          fill="none"
          stroke="var(--ink)"
          strokeDasharray={key === "head" ? undefined : "5 3"}
        />
      ))}
      <Ground y={y(0)} width={width} />
      <text x={LEFT - 8} y={y(100) + 8} textAnchor="end">
        100 %
      </text>
      <Name lane={lane} words="charge" />
      {(run.batteries ? Object.keys(run.batteries).length : 0) > 1 && (
        <text x={LEFT + 6} y={lane.top + lane.height - 5} fill="var(--ink)">
          {lane.name}
        </text>
      )}
    </g>
  );
}

function Ground({ y, width }: { y: number; width: number }) {
  return <line x1={LEFT} x2={width - RIGHT} y1={y} y2={y} stroke="var(--ink)" />;
}

function Name({ lane, words }: { lane: Lane; words: string }) {
  return (
    <text
      x={LEFT - 8}
      y={lane.top + lane.height / 2 + (lane.height > 30 ? 8 : 4)}
      textAnchor="end"
      fontWeight="600"
      fill="var(--cedar)"
    >
      {words}
      <title>{lane.name}</title>
    </text>
  );
}
