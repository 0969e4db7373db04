import { scaleLinear } from "d3-scale";
import type { RunResult } from "../../api/client";
import { LEFT, RIGHT } from "./lanes";

const HOUR = 3_600_000;

/** Hours and days of the site's clock; nights are shaded so that days can be counted. */
export function Axis(props: { run: RunResult; width: number; height: number; zone: string }) {
  const { run, width, height, zone } = props;
  const start = new Date(run.start).getTime();
  const x = scaleLinear()
    .domain([0, run.length_s])
    .range([LEFT, width - RIGHT]);
  const hours = run.length_s / 3600;
  const every = hours <= 12 ? 1 : hours <= 36 ? 3 : hours <= 120 ? 6 : hours <= 240 ? 12 : 24;
  const clock = new Intl.DateTimeFormat("en-GB", { hour: "numeric", hourCycle: "h23", timeZone: zone });
  const day = new Intl.DateTimeFormat("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: zone,
  });
  const first = Math.ceil(start / HOUR) * HOUR;
  const ticks = Array.from({ length: Math.ceil(hours) + 1 }, (_, index) => first + index * HOUR)
    .map((instant) => ({ at: (instant - start) / 1000, instant, hour: Number(clock.format(instant)) }))
    .filter((tick) => tick.at <= run.length_s);
  const bottom = height - 28;
  /** Names of days stand this far apart at least, px. */
  const room = 70;
  const days = Math.max(1, Math.ceil(room / (x(86_400) - x(0))));
  const midnights = ticks.filter((tick) => tick.hour === 0);
  const named = new Set(
    midnights
      .filter((tick) => x(tick.at) - LEFT >= room && x(tick.at) + room - 20 <= width)
      .filter((_, index) => index % days === 0)
      .map((tick) => tick.at),
  );
  return (
    <g fontSize="12" fill="var(--faint)">
      {ticks
        .filter((tick) => tick.hour % every === 0)
        .map((tick) => (
          <g key={tick.at} transform={`translate(${x(tick.at)} 0)`}>
            <line
              y1={tick.hour === 0 ? 4 : 16}
              y2={bottom + 4}
              stroke="var(--rule)"
              strokeWidth={tick.hour === 0 ? 1.5 : 0.6}
            />
            <text y={height - 6} textAnchor="middle">
              {String(tick.hour).padStart(2, "0")}
            </text>
            {named.has(tick.at) && (
              <text x={5} y={13} fontWeight="600" fill="var(--ink)">
                {day.format(tick.instant + HOUR)}
              </text>
            )}
          </g>
        ))}
      <text x={LEFT} y={13} fontWeight="600" fill="var(--ink)">
        {day.format(start)}
      </text>
    </g>
  );
}
