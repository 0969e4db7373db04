import { scaleLinear } from "d3-scale";
import { type KeyboardEvent, memo, type PointerEvent, useEffect, useRef, useState } from "react";
import type { RunEvent, RunResult } from "../../api/client";
import { whole } from "../../ui/format";
import { useMoments } from "../../ui/useMoments";
import { Axis } from "./Axis";
import { Bands } from "./Bands";
import { Compartments } from "./Compartments";
import { Indoor } from "./Indoor";
import { LEFT, layout, RIGHT } from "./lanes";
import { SourceLanes } from "./SourceLanes";
import { chargeAt } from "./series";

interface Props {
  run: RunResult;
  at: number;
  zone: string;
  split: boolean;
  onAt: (at: number) => void;
}

/** The outage as a strip: every source's leg A up and leg B down, events, then a lane for each device. */
export function Strip({ run, at, zone, split, onAt }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const { moment } = useMoments(zone);
  const [width, setWidth] = useState(1200);
  useEffect(() => {
    const watcher = new ResizeObserver(
      ([entry]) => entry && setWidth(Math.max(320, entry.contentRect.width)),
    );
    if (box.current) watcher.observe(box.current);
    return () => watcher.disconnect();
  }, []);
  const x = scaleLinear()
    .domain([0, run.length_s])
    .range([LEFT, width - RIGHT]);

  const point = (event: PointerEvent) => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    onAt(Math.min(run.length_s, Math.max(0, x.invert(event.clientX - left))));
  };
  const step = (event: KeyboardEvent) => {
    const events = (run.events ?? []).map((item) => item.t_s);
    const targets: Record<string, number | undefined> = {
      ArrowRight: at + (event.shiftKey ? 3600 : 300),
      ArrowLeft: at - (event.shiftKey ? 3600 : 300),
      Home: 0,
      End: run.length_s,
      PageDown: events.find((t) => t > at + 0.5),
      PageUp: events.findLast((t) => t < at - 0.5),
    };
    if (!(event.key in targets)) return;
    event.preventDefault();
    onAt(Math.min(run.length_s, Math.max(0, targets[event.key] ?? at)));
  };
  const instant = new Date(run.start).getTime() + at * 1000;
  return (
    <div
      ref={box}
      role="slider"
      tabIndex={0}
      aria-label="Moment of the outage"
      aria-valuemin={0}
      aria-valuemax={run.length_s}
      aria-valuenow={Math.round(at)}
      aria-valuetext={`${moment(instant)}, ${whole(chargeAt(run, at))} % charged`}
      onPointerMove={point}
      onPointerDown={point}
      onKeyDown={step}
      className="relative cursor-crosshair touch-pan-y border-y border-rule"
      data-testid="strip"
    >
      <Drawing run={run} width={width} zone={zone} split={split} />
      <div
        aria-hidden="true"
        className="pointer-events-none absolute top-0 bottom-0 w-px bg-cedar will-change-transform"
        style={{ transform: `translateX(${x(at)}px)` }}
      />
    </div>
  );
}

interface DrawingProps {
  run: RunResult;
  width: number;
  zone: string;
  split: boolean;
}

const Drawing = memo(function Drawing({ run, width, zone, split }: DrawingProps) {
  const lanes = layout(run, split);
  return (
    <svg width={width} height={lanes.height} aria-hidden="true" className="block">
      <Axis run={run} width={width} height={lanes.height} zone={zone} />
      <Indoor run={run} width={width} lane={lanes.indoor} />
      <Bands run={run} width={width} lanes={lanes} />
      <SourceLanes run={run} width={width} lanes={lanes} />
      <Compartments run={run} width={width} lanes={lanes} />
      <EventMarks run={run} width={width} top={lanes.marks} />
    </svg>
  );
});

const SIGNS: Partial<Record<RunEvent["kind"], [string, string]>> = {
  trip: ["var(--stop)", "M-5,5 L0,-5 L5,5 Z"],
  empty: ["var(--stop)", "M-5,-5 H5 V5 H-5 Z"],
  breaker_trip: ["var(--stop)", "M-5,5 L0,-5 L5,5 Z"],
  locked_out: ["var(--stop)", "M-5,-5 L5,5 M5,-5 L-5,5"],
  engine_dry: ["var(--caution)", "M-5,-5 H5 V5 H-5 Z"],
  input_trip: ["var(--caution)", "M-5,5 L0,-5 L5,5 Z"],
  keep_lost: ["var(--stop)", "M-5,-5 L5,5 M5,-5 L-5,5"],
  over_limit: ["var(--caution)", "M-5,5 L0,-5 L5,5 Z"],
  shed: ["var(--caution)", "M0,-5 V5 M-4,1 L0,5 L4,1"],
  room_shed: ["var(--caution)", "M0,-5 V5 M-4,1 L0,5 L4,1"],
  idle_cutout: ["var(--caution)", "M-5,-5 H5 V5 H-5 Z"],
  food_warm: ["var(--stop)", "M-5,-5 H5 V5 H-5 Z"],
  dip: ["var(--caution)", "M-5,-3 L0,5 L5,-3"],
};

function EventMarks({ run, width, top }: { run: RunResult; width: number; top: number }) {
  const x = scaleLinear()
    .domain([0, run.length_s])
    .range([LEFT, width - RIGHT]);
  return (
    <g>
      <text x={LEFT - 8} y={top + 4} textAnchor="end" fontSize="12" fill="var(--faint)">
        events
      </text>
      {(run.events ?? []).map((event, index) => {
        const [colour, path] = SIGNS[event.kind] ?? ["var(--faint)", "M0,-4 V4"];
        return (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: events are in order of time and never move
            key={index}
            d={path}
            transform={`translate(${x(event.t_s)} ${top})`}
            fill={path.endsWith("Z") ? colour : "none"}
            stroke={colour}
            strokeWidth="1.6"
          >
            <title>{event.what}</title>
          </path>
        );
      })}
    </g>
  );
}
