import { type ReactNode, useEffect, useState } from "react";
import type { components } from "../../api/schema.gen";
import { useMoments } from "../../ui/useMoments";
import { expectedWords, judged } from "./judged";
import { newId, type Row } from "./kept";
import { keepProgress, keptProgress, type Progress, type Tick } from "./progress";
import { canSpeak, say } from "./speech";

type Sheet = components["schemas"]["Sheet"];
type Step = components["schemas"]["Step"];

/** A second tap within this is the same one: a glove trembles, ms. */
const TWICE_MS = 400;

interface Props {
  sheet: Sheet;
  planId: string;
  revision: number;
  zone: string;
  /** Said above the step: that the server is away, that this is kept. */
  told?: ReactNode;
  onRow: (row: Row) => void;
  onClose: () => void;
}

/** One step at a time, for one hand and a glove in the dark; what was done stays on this device. */
export function AtPanel({ sheet, planId, revision, zone, told, onRow, onClose }: Props) {
  const [progress, setProgress] = useState<Progress>(
    () => keptProgress(planId, sheet.key) ?? { revision, begun: Date.now(), ticks: [] },
  );
  const [aloud, setAloud] = useState(false);
  const [sure, setSure] = useState(false);
  const { time } = useMoments(zone);
  const steps = sheet.steps ?? [];
  const done = progress.ticks.length;
  const step = steps[done];
  const change = (next: Progress) => {
    setSure(false);
    setProgress(next);
    keepProgress(planId, sheet.key, next);
  };
  const row = (id: string, number: number, more: Partial<Row>): Row => ({
    id,
    kind: "done",
    at: new Date().toISOString(),
    sheet: sheet.key,
    revision: progress.revision,
    step: number,
    action: (steps[number - 1]?.action ?? "").slice(0, 400),
    ...more,
  });
  const doneNow = (read: Record<string, string>) => {
    const id = newId();
    onRow(row(id, done + 1, { read }));
    change({ ...progress, ticks: [...progress.ticks, { id, at: Date.now(), read }] });
  };
  const takenBack = (ticks: readonly Tick[]) => {
    for (const tick of ticks.filter(({ id }) => id))
      onRow(row(newId(), progress.ticks.indexOf(tick) + 1, { kind: "undone", undoes: tick.id }));
  };
  const words = step ? `${step.action}, ${step.where}. You should see: ${step.see}` : "";
  useEffect(() => {
    if (aloud && words) say(words);
  }, [aloud, words]);
  const last = progress.ticks[done - 1];
  return (
    <article
      aria-label={`At the panel: ${sheet.title}`}
      className="fixed inset-0 z-30 overflow-y-auto bg-paper px-5 pt-3 pb-[110px]"
      data-testid="at-panel"
    >
      <div className="mx-auto max-w-[560px]">
        <p className="flex items-baseline gap-4">
          <strong>{sheet.title}</strong>
          <button type="button" className="big ml-auto" onClick={onClose}>
            Hold
          </button>
        </p>
        {told}
        {progress.revision !== revision && (
          <p role="alert" className="my-2 border-l-4 border-stop py-1 pl-3">
            The plan was changed after this was begun: its steps may be others now. Begin again.
          </p>
        )}
        {step ? (
          <OneStep
            key={done}
            step={step}
            number={done + 1}
            of={steps.length}
            since={last?.at ?? progress.begun}
            onDone={doneNow}
          />
        ) : (
          <p className="my-6 text-[20px]">All {steps.length} steps are done.</p>
        )}
        <div className="mt-3 flex flex-wrap gap-3">
          {done > 0 && (
            <button
              type="button"
              className="big"
              onClick={() => {
                takenBack(progress.ticks.slice(-1));
                change({ ...progress, ticks: progress.ticks.slice(0, -1) });
              }}
            >
              Back one step
            </button>
          )}
          {done > 0 && (
            <button
              type="button"
              className="big"
              onClick={() => {
                setSure(!sure);
                if (!sure) return;
                takenBack(progress.ticks);
                keepProgress(planId, sheet.key, null);
                setProgress({ revision, begun: Date.now(), ticks: [] });
              }}
            >
              {sure ? "Yes, forget all ticks" : "Begin again"}
            </button>
          )}
          {canSpeak() && (
            <button type="button" className="big" aria-pressed={aloud} onClick={() => setAloud(!aloud)}>
              {aloud ? "Be quiet" : "Read aloud"}
            </button>
          )}
        </div>
        <ol className="mt-4" aria-label="Done">
          {progress.ticks.map((tick, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: ticks are known by their place
            <li key={index} className="border-t border-rule py-1 text-faint">
              {time(tick.at)} {steps[index]?.action}
              {Object.entries(tick.read).map(([where, text]) => (
                <span key={where}>
                  {" "}
                  · {where}: {text}
                </span>
              ))}
            </li>
          ))}
        </ol>
      </div>
    </article>
  );
}

interface StepProps {
  step: Step;
  number: number;
  of: number;
  /** When the step before was done, ms. */
  since: number;
  onDone: (read: Record<string, string>) => void;
}

function OneStep({ step, number, of, since, onDone }: StepProps) {
  const [read, setRead] = useState<Record<string, string>>({});
  const left = useLeft(since + (step.wait_s ?? 0) * 1000);
  const typed = Object.fromEntries(Object.entries(read).filter(([, text]) => text.trim() !== ""));
  return (
    <>
      <p className="mt-3 text-faint">
        Step {number} of {of}, {step.where}
      </p>
      <p className="my-2 text-[24px] leading-8 font-semibold">{step.action}</p>
      <p className="text-[18px]">
        <span className="text-faint">See: </span>
        {step.see}
      </p>
      {step.readings?.map((reading) => {
        const text = read[reading.where] ?? "";
        const value = Number(text.replace(",", "."));
        const wrong =
          text.trim() === "" ? "" : Number.isFinite(value) ? judged(reading, value) : "This is no number.";
        return (
          <div key={reading.where} className="mt-2">
            <label className="flex items-center gap-3 text-[18px]">
              <span className="min-w-0 flex-1">{expectedWords(reading)}</span>
              <input
                inputMode="decimal"
                aria-label={`${reading.where} read`}
                className="field h-[48px] w-28 text-[20px]"
                value={text}
                onChange={(event) => setRead({ ...read, [reading.where]: event.target.value })}
              />
            </label>
            {wrong && (
              <p role="alert" className="mt-1 border-l-4 border-stop py-1 pl-3">
                {wrong}
              </p>
            )}
          </div>
        );
      })}
      <p className="mt-2 text-[18px]">
        <span className="text-faint">If not: </span>
        {step.if_not}
      </p>
      {step.why && (
        <details className="mt-1">
          <summary className="min-h-[44px] cursor-pointer py-2 text-faint">Why</summary>
          <p>{step.why}</p>
        </details>
      )}
      {left > 0 && (
        <p role="timer" className="mt-3 text-[20px] text-caution">
          Wait {Math.floor(left / 60)}:{String(left % 60).padStart(2, "0")} more
        </p>
      )}
      <div className="fixed inset-x-0 bottom-0 border-t border-rule bg-paper px-5 py-2">
        <button
          type="button"
          className="big mx-auto block w-full max-w-[560px] !min-h-[72px] border-cedar text-[20px] font-semibold"
          onClick={() => Date.now() - since > TWICE_MS && onDone(typed)}
        >
          {left > 0 ? "It has waited already: done" : "Done"}
        </button>
      </div>
    </>
  );
}

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
