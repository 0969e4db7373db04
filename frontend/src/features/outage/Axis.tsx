import type { RunResult } from "../../api/client";
import { type Clock, timeOf } from "../../ui/clock";
import { useUnits } from "../../ui/quantity";
import { LEFT } from "./lanes";
import { useScale, useSpan } from "./span";

const HOUR = 3_600;
/** Steps between labels, s: the shortest whose labels do not touch is taken. */
const STEPS = [60, 300, 900, 1_800, HOUR, 3 * HOUR, 6 * HOUR, 12 * HOUR, 24 * HOUR];
/** Room that a label wants, px: of an hour alone, and with its minutes, by how the clock is written. */
const ROOM: Record<Clock, [number, number]> = { "24": [26, 46], "12": [48, 66] };
/** Names of days stand this far apart at least, px. */
const DAY_ROOM = 76;
/** And that of a weekday alone, px. */
const WEEKDAY_ROOM = 34;

/** A label so near to the right edge ends there instead of being cut, px. */
const EDGE = 24;

interface Tick {
  at: number;
  instant: number;
  /** Minutes after midnight on the site's clock. */
  minutes: number;
}

/** Every moment of the site's clock on the strip that falls on a step. */
function ticksOf(
  run: Pick<RunResult, "start">,
  from: number,
  to: number,
  step: number,
  zone: string,
): Tick[] {
  const start = new Date(run.start).getTime();
  /** Clocks are set by half hours at the least: looking so often finds every full hour of every zone. */
  const every = step < HOUR ? 60 : 1_800;
  const clock = new Intl.DateTimeFormat("en-GB", {
    hour: "numeric",
    minute: "numeric",
    hourCycle: "h23",
    timeZone: zone,
  });
  const first = Math.ceil((start / 1000 + from) / every) * every;
  const found: Tick[] = [];
  for (let second = first; second <= start / 1000 + to; second += every) {
    const parts = clock.formatToParts(second * 1000);
    const read = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0);
    const minutes = read("hour") * 60 + read("minute");
    if (minutes % (step / 60) === 0)
      found.push({ at: second - start / 1000, instant: second * 1000, minutes });
  }
  return found;
}

interface Props {
  run: Pick<RunResult, "start">;
  width: number;
  height: number;
  zone: string;
}

/** Hours and days of the site's clock. */
export function Axis({ run, width, height, zone }: Props) {
  const span = useSpan();
  const x = useScale(width);
  const { clock } = useUnits();
  const start = new Date(run.start).getTime();
  const weekday = new Intl.DateTimeFormat("en-GB", { weekday: "short", timeZone: zone });
  const day = new Intl.DateTimeFormat("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: zone,
  });
  const px = (seconds: number) => x(span.from + seconds) - x(span.from);
  const step = STEPS.find((s) => px(s) >= ROOM[clock][s < HOUR ? 1 : 0]) ?? 24 * HOUR;
  const ticks = ticksOf(run, span.from, span.to, step, zone);
  /** Where even a tick a day stands too close, only some are written. */
  const every = Math.max(1, Math.ceil(ROOM[clock][step < HOUR ? 1 : 0] / px(step)));
  const written = (minutes: number) => {
    const whole = timeOf(`${Math.floor(minutes / 60)}:${minutes % 60}`, clock);
    return step < HOUR ? whole : whole.replace(":00", "");
  };
  const days = Math.max(1, Math.ceil(DAY_ROOM / px(24 * HOUR)));
  const named = ticks
    .filter((tick) => tick.minutes === 0)
    .filter((tick) => x(tick.at) + DAY_ROOM - 20 <= width)
    .filter((_, index) => index % days === 0);
  /** An outage that begins in the evening: its first day is named as far as there is room. */
  const room = (named[0] ? x(named[0].at) : width) - LEFT;
  const bottom = height - 28;
  return (
    <g fontSize="12" fill="var(--faint)">
      {ticks.map((tick, index) => (
        <g key={tick.at} transform={`translate(${x(tick.at)} 0)`}>
          <line
            y1={tick.minutes === 0 ? 4 : 16}
            y2={bottom + 4}
            stroke="var(--rule)"
            strokeWidth={tick.minutes === 0 ? 1.5 : 0.6}
          />
          <text
            y={height - 6}
            x={x(tick.at) > width - EDGE ? EDGE / 2 - 2 : 0}
            textAnchor={x(tick.at) > width - EDGE ? "end" : "middle"}
          >
            {index % every === 0 && written(tick.minutes)}
          </text>
        </g>
      ))}
      {named.map((tick) => (
        <text key={tick.at} x={x(tick.at) + 5} y={13} fontWeight="600" fill="var(--ink)">
          {day.format(tick.instant)}
        </text>
      ))}
      <text x={LEFT} y={13} fontWeight="600" fill="var(--ink)">
        {room >= DAY_ROOM && day.format(start + span.from * 1000)}
        {room < DAY_ROOM && room >= WEEKDAY_ROOM && weekday.format(start + span.from * 1000)}
      </text>
    </g>
  );
}
