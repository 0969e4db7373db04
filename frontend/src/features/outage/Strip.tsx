import { type KeyboardEvent, memo, type PointerEvent, type WheelEvent } from "react";
import type { RunResult } from "../../api/client";
import { whole } from "../../ui/format";
import { useMoments } from "../../ui/useMoments";
import { Axis } from "./Axis";
import { Bands } from "./Bands";
import { Compartments } from "./Compartments";
import { EventMarks } from "./EventMarks";
import { Indoor } from "./Indoor";
import { LEFT, layout, RIGHT } from "./lanes";
import { SourceLanes } from "./SourceLanes";
import { chargeAt } from "./series";
import { around, type Span, useScale, useSpan } from "./span";

interface Props {
  run: RunResult;
  at: number;
  zone: string;
  split: boolean;
  width: number;
  onAt: (at: number) => void;
  onSpan: (span: Span) => void;
  /** Up to here the run is worked out. */
  until: number;
}

/** The outage as a strip: every source's leg A up and leg B down, events, then a lane for each device. */
export function Strip({ run, at, zone, split, width, onAt, onSpan, until }: Props) {
  const { moment } = useMoments(zone);
  const span = useSpan();
  const x = useScale(width);
  const length = span.to - span.from;
  const point = (event: PointerEvent<HTMLDivElement>) => {
    const { left } = event.currentTarget.getBoundingClientRect();
    onAt(Math.min(run.length_s, Math.max(0, x.invert(event.clientX - left))));
  };
  const wheel = (event: WheelEvent<HTMLDivElement>) => {
    if (event.ctrlKey) {
      const { left } = event.currentTarget.getBoundingClientRect();
      const here = x.invert(event.clientX - left);
      onSpan(around(here, length * (event.deltaY > 0 ? 1.25 : 0.8), run.length_s));
    } else if (event.deltaX !== 0 || event.shiftKey) {
      const moved = ((event.deltaX || event.deltaY) * length) / width;
      onSpan(around((span.from + span.to) / 2 + moved, length, run.length_s));
    }
  };
  const fine = length < 7_200 ? 10 : 300;
  const step = (event: KeyboardEvent) => {
    const events = (run.events ?? []).map((item) => item.t_s);
    const targets: Record<string, number | undefined> = {
      ArrowRight: at + (event.shiftKey ? fine * 12 : fine),
      ArrowLeft: at - (event.shiftKey ? fine * 12 : fine),
      Home: 0,
      End: run.length_s,
      PageDown: events.find((t) => t > at + 0.5),
      PageUp: events.findLast((t) => t < at - 0.5),
    };
    const zoom: Record<string, number> = { "+": 0.5, "=": 0.5, "-": 2, "0": Number.POSITIVE_INFINITY };
    const factor = zoom[event.key];
    if (factor !== undefined && !event.ctrlKey) {
      event.preventDefault();
      onSpan(around(at, length * factor, run.length_s));
    } else if (event.key in targets) {
      event.preventDefault();
      onAt(Math.min(run.length_s, Math.max(0, targets[event.key] ?? at)));
    }
  };
  const instant = new Date(run.start).getTime() + at * 1000;
  const seen = at >= span.from && at <= span.to;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Moment of the outage"
      aria-valuemin={0}
      aria-valuemax={run.length_s}
      aria-valuenow={Math.round(at)}
      aria-valuetext={`${moment(instant)}, ${whole(chargeAt(run, at))} % charged`}
      onPointerMove={point}
      onPointerDown={point}
      onWheel={wheel}
      onKeyDown={step}
      className="relative cursor-crosshair touch-pan-y border-y border-rule"
      data-testid="strip"
    >
      <Drawing run={run} width={width} zone={zone} split={split} />
      {until < run.length_s && (
        <p
          className="pointer-events-none absolute top-5 bottom-0 bg-paper/65 pt-2 pl-2"
          style={{ left: Math.max(LEFT, x(until)), right: RIGHT }}
        >
          From here on as before: it follows when the block rests.
        </p>
      )}
      {seen && (
        <div
          aria-hidden="true"
          className="pointer-events-none absolute top-0 bottom-0 w-px bg-cedar will-change-transform"
          style={{ transform: `translateX(${x(at)}px)` }}
        />
      )}
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
      <clipPath id="strip-span">
        <rect x={LEFT} y={0} width={Math.max(0, width - LEFT - RIGHT)} height={lanes.height} />
      </clipPath>
      <Axis run={run} width={width} height={lanes.height} zone={zone} />
      <Indoor run={run} width={width} lane={lanes.indoor} />
      <Bands run={run} width={width} lanes={lanes} />
      <SourceLanes run={run} width={width} lanes={lanes} />
      <Compartments run={run} width={width} lanes={lanes} />
      <EventMarks run={run} width={width} top={lanes.marks} />
    </svg>
  );
});
