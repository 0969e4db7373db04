import { useState } from "react";
import type { RunResult } from "../../api/client";
import { useUnits } from "../../ui/quantity";
import { readMoment } from "./readMoment";
import { around, type Span, useSpan } from "./span";

const LENGTHS: readonly (readonly [string, number])[] = [
  ["a day", 86_400],
  ["6 h", 21_600],
  ["an hour", 3_600],
  ["10 min", 600],
];

interface Props {
  run: RunResult;
  at: number;
  zone: string;
  onAt: (at: number) => void;
  onSpan: (span: Span) => void;
}

/** How much of the outage the strip shows, and where the cursor jumps to. */
export function ZoomBar({ run, at, zone, onAt, onSpan }: Props) {
  const span = useSpan();
  const { clock } = useUnits();
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState(false);
  const length = span.to - span.from;
  const start = new Date(run.start).getTime();
  const now = (Date.now() - start) / 1000;
  const events = run.events ?? [];
  const next = events.find((event) => event.t_s > at + 0.5);
  const before = events.findLast((event) => event.t_s < at - 0.5);
  const show = (seconds: number) => onSpan(around(at, seconds, run.length_s));
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1">
      {/* biome-ignore lint/a11y/useSemanticElements: a fieldset cannot stand in a line */}
      <span role="group" aria-label="Shown on the strip" className="inline-flex flex-wrap gap-x-2">
        <button
          type="button"
          className="act"
          aria-pressed={length >= run.length_s}
          onClick={() => show(run.length_s)}
        >
          the whole
        </button>
        {LENGTHS.filter(([, seconds]) => seconds < run.length_s).map(([words, seconds]) => (
          <button
            key={words}
            type="button"
            className="act"
            aria-pressed={Math.abs(length - seconds) < 1}
            onClick={() => show(seconds)}
          >
            {words}
          </button>
        ))}
        <button type="button" className="act" aria-label="Show less of it" onClick={() => show(length / 2)}>
          +
        </button>
        <button type="button" className="act" aria-label="Show more of it" onClick={() => show(length * 2)}>
          −
        </button>
      </span>
      {/* biome-ignore lint/a11y/useSemanticElements: a fieldset cannot stand in a line */}
      <span role="group" aria-label="The cursor" className="inline-flex flex-wrap items-baseline gap-x-2">
        <button type="button" className="act" disabled={!before} onClick={() => before && onAt(before.t_s)}>
          event before
        </button>
        <button type="button" className="act" disabled={!next} onClick={() => next && onAt(next.t_s)}>
          next event
        </button>
        {now >= 0 && now <= run.length_s && (
          <button type="button" className="act" onClick={() => onAt(now)}>
            now
          </button>
        )}
        <form
          className="inline-flex items-baseline gap-x-1"
          onSubmit={(event) => {
            event.preventDefault();
            const found = readMoment(text, run, at, zone, clock);
            setWrong(found === null);
            if (found !== null) onAt(found);
          }}
        >
          <label>
            <span className="text-faint">go to </span>
            <input
              className="field w-28"
              placeholder={clock === "12" ? "Thu 3:10 am" : "Thu 3:10"}
              aria-invalid={wrong}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <button type="submit" className="act">
            Go
          </button>
        </form>
      </span>
      {wrong && (
        <span role="alert" className="basis-full text-stop">
          go to: {text || "nothing"} is no moment of this outage; write it as{" "}
          {clock === "12" ? "Thu 3:10 am, 3:10 am" : "Thu 3:10, 3:10"}, 14 Oct 18:00 or 36 h after the start.
        </span>
      )}
    </div>
  );
}
