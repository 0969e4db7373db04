import { useEffect, useState } from "react";
import type { components } from "../../api/schema.gen";
import { misfits, unread } from "./judged";
import type { Tick } from "./progress";
import { ReadingInput, StepHead, Why } from "./StepParts";

type Step = components["schemas"]["Step"];

/** A second tap within this is the same one: a glove trembles, ms. */
const TWICE_MS = 400;

interface Props {
  step: Step;
  number: number;
  of: number;
  /** When the step before was done, ms. */
  since: number;
  /** Where it leads when something is wrong, or something tripped; nothing where there is no such sheet. */
  wrong: (() => void) | undefined;
  trip: (() => void) | undefined;
  onTick: (tick: Omit<Tick, "id" | "at">) => void;
}

/** One step: what, where, what is seen and read. A reading that does not fit holds it. */
export function OneStep({ step, number, of, since, wrong, trip, onTick }: Props) {
  const [read, setRead] = useState<Record<string, string>>({});
  /** What was said not to be as it should, and asks where to go. */
  const [said, setSaid] = useState<string[] | null>(null);
  const left = useLeft(since + (step.wait_s ?? 0) * 1000);
  const readings = step.readings ?? [];
  const found = misfits(readings, read);
  const typed = Object.fromEntries(Object.entries(read).filter(([, text]) => text.trim() !== ""));
  const tick = (kind: Tick["kind"], because: string[] = []) =>
    Date.now() - since > TWICE_MS &&
    onTick({ read: typed, kind, wrong: because, unread: unread(readings, read) });
  return (
    <>
      <StepHead told={`Step ${number} of ${of}`} step={step} />
      {readings.map((reading) => {
        const text = read[reading.where] ?? "";
        const [words] = misfits([reading], read);
        return (
          <div key={reading.where} className="mt-2">
            <ReadingInput
              reading={reading}
              text={text}
              onType={(typed) => {
                setSaid(null);
                setRead({ ...read, [reading.where]: typed });
              }}
            />
            {words && (
              <p role="alert" className="mt-1 border-l-4 border-stop py-1 pl-3">
                {words}
              </p>
            )}
          </div>
        );
      })}
      <p className="mt-2 text-[18px]">
        <span className="text-faint">If not: </span>
        {step.if_not}
      </p>
      <Why why={step.why} />
      {left > 0 && (
        <p role="timer" className="mt-3 text-[20px] text-caution">
          Wait {Math.floor(left / 60)}:{String(left % 60).padStart(2, "0")} more
        </p>
      )}
      {said ? (
        <div
          ref={intoSight}
          role="alert"
          className="mt-3 border-l-4 border-stop py-1 pl-3"
          data-testid="not-so"
        >
          <p className="text-[18px]">Not as it should be. It then means: {said.join(" ") || step.if_not}</p>
          <div className="mt-2 flex flex-wrap gap-3">
            {wrong && (
              <button type="button" className="big border-stop text-stop" onClick={wrong}>
                Stop: something is wrong
              </button>
            )}
            {trip && (
              <button type="button" className="big" onClick={trip}>
                It tripped
              </button>
            )}
            <button type="button" className="big" onClick={() => tick("left_off", said)}>
              Leave this off
            </button>
            <button type="button" className="big" onClick={() => tick("deviates", said)}>
              Go on, it is known why
            </button>
          </div>
        </div>
      ) : (
        <div className="mt-3 flex flex-wrap gap-3">
          {trip && (
            <button type="button" className="big" onClick={trip}>
              It tripped
            </button>
          )}
          <button type="button" className="big" onClick={() => setSaid([])}>
            It is not as written
          </button>
          <button type="button" className="big" onClick={() => tick("left_off")}>
            Left off
          </button>
        </div>
      )}
      <div className="fixed inset-x-0 bottom-0 border-t border-rule bg-paper px-5 py-2">
        {found.length > 0 ? (
          <div className="mx-auto flex max-w-[560px] gap-3">
            <button
              type="button"
              className="big !min-h-[72px] flex-1 text-[20px] font-semibold"
              onClick={() => {
                setSaid(null);
                setRead({});
              }}
            >
              Read again
            </button>
            {!said && (
              <button
                type="button"
                className="big !min-h-[72px] flex-1 border-stop text-[20px] font-semibold text-stop"
                onClick={() => setSaid(found)}
              >
                It is so
              </button>
            )}
          </div>
        ) : (
          !said && (
            <button
              type="button"
              className="big mx-auto block w-full max-w-[560px] !min-h-[72px] border-cedar text-[20px] font-semibold"
              onClick={() => tick("done")}
            >
              {left > 0 ? "It has waited already: done" : "Done"}
            </button>
          )
        )}
      </div>
    </>
  );
}

/** What it then means is looked at, not scrolled for. */
const intoSight = (part: HTMLElement | null) => part?.scrollIntoView({ block: "center" });

/** Whole seconds until a moment, counted down. */
function useLeft(until: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (until <= Date.now()) return;
    const timer = window.setInterval(() => setNow(Date.now()), 500);
    return () => window.clearInterval(timer);
  }, [until]);
  return Math.max(0, Math.ceil((until - now) / 1000));
}
