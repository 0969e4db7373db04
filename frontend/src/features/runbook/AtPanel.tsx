import * as Dialog from "@radix-ui/react-dialog";
import { type ReactNode, useEffect, useState } from "react";
import type { components } from "../../api/schema.gen";
import { useMoments } from "../../ui/useMoments";
import { Asked } from "./Asked";
import { Ended } from "./Ended";
import { ENDING, ledTo, type Sheet } from "./kinds";
import { OneStep } from "./OneStep";
import {
  endAll,
  keepProgress,
  keptProgress,
  listenProgress,
  nextStep,
  type Progress,
  stepOf,
  type Tick,
} from "./progress";
import { newId, type Row } from "./rows";
import { SearchEnd, SearchStep } from "./SearchStep";
import { canSpeak, say } from "./speech";

type Answer = components["schemas"]["Answer"];

/** Resets after which nothing is reset any more. */
const MOST_TRIPS = 2;

interface Props {
  sheet: Sheet;
  /** All sheets of the plan: where this one leads when something happens. */
  sheets: readonly Sheet[];
  planId: string;
  born: string;
  revision: number;
  zone: string;
  /** How often something tripped in the last hours. */
  trips: number;
  /** Said above the step: that the server is away, that this is kept. */
  above?: ReactNode;
  onRow: (row: Row) => void;
  onGo: (key: string) => void;
  onClose: () => void;
}

/** One step at a time, for one hand and a glove in the dark; what was done stays on this device. */
export function AtPanel(props: Props) {
  const { sheet, sheets, planId, born, revision, zone, trips, above, onRow, onGo, onClose } = props;
  const edition = { born, revision, fingerprint: sheet.fingerprint };
  const anew = (): Progress => ({ ...edition, begun: Date.now(), ticks: [] });
  /** What was begun before: asked about, and never gone on with by itself. */
  const [before, setBefore] = useState(() => keptProgress(planId, sheet.key, edition, Date.now()));
  const [progress, setProgress] = useState<Progress>(anew);
  const [asked, setAsked] = useState((sheet.first ?? []).length === 0);
  /** How far another window has gone through this sheet meanwhile. */
  const [elsewhere, setElsewhere] = useState<Progress | null>(null);
  useEffect(
    () =>
      listenProgress(planId, sheet.key, (found) =>
        setElsewhere(found?.fingerprint === sheet.fingerprint ? found : null),
      ),
    [planId, sheet.key, sheet.fingerprint],
  );
  const [aloud, setAloud] = useState(false);
  const [sure, setSure] = useState(false);
  const { time } = useMoments(zone);
  const steps = sheet.steps ?? [];
  const done = progress.ticks.length;
  const number = nextStep(progress);
  const last = progress.ticks[done - 1];
  const step = last?.ends ? undefined : steps[number - 1];
  const wrong = ledTo(sheets, sheet, "make_safe");
  const trip = ledTo(sheets, sheet, "recover");
  const change = (next: Progress) => {
    const { ended: _, ...open } = next;
    const ends = next.ticks.at(-1)?.ends;
    const over = ends || nextStep(next) > steps.length;
    setSure(false);
    setProgress(over ? { ...open, ended: Date.now() } : open);
    if (over && ENDING.has(sheet.kind)) endAll(planId);
    else keepProgress(planId, sheet.key, over ? null : open);
  };
  const row = (id: string, number: number, more: Partial<Row>): Row => ({
    id,
    kind: "done",
    at: new Date().toISOString(),
    sheet: sheet.key,
    revision,
    fingerprint: sheet.fingerprint,
    step: number,
    action: (steps[number - 1]?.action ?? "").slice(0, 400),
    ...more,
  });
  const tick = (given: Omit<Tick, "id" | "at">, more: Partial<Row> = {}) => {
    const id = newId();
    onRow(row(id, number, { kind: given.kind, read: given.read, ...more }));
    change({ ...progress, ticks: [...progress.ticks, { ...given, id, at: Date.now() }] });
  };
  const takenBack = (ticks: readonly Tick[]) => {
    for (const tick of ticks.filter(({ id }) => id))
      onRow(row(newId(), stepOf(tick, progress.ticks.indexOf(tick)), { kind: "undone", undoes: tick.id }));
  };
  const tripped = () => {
    onRow(row(newId(), number, { kind: "tripped" }));
    if (trip) onGo(trip.key);
  };
  const words = step ? `${step.action}, ${step.where}. You should see: ${step.see}` : "";
  const shown = before === null && asked && step !== undefined;
  useEffect(() => {
    if (aloud && shown) say(words);
  }, [aloud, shown, words]);
  const end = last?.ends
    ? steps[stepOf(last, done - 1) - 1]?.answers?.find(({ when }) => when === last.answer)?.end
    : undefined;
  const forget = () => {
    keepProgress(planId, sheet.key, null);
    setBefore(null);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Content
          aria-label={`At the panel: ${sheet.title}`}
          aria-describedby={undefined}
          onEscapeKeyDown={(event) => event.preventDefault()}
          onInteractOutside={(event) => event.preventDefault()}
          className="fixed inset-0 z-30 overflow-y-auto bg-paper px-5 pt-3 pb-[110px]"
          data-testid="at-panel"
        >
          <div className="mx-auto max-w-[560px]">
            <div className="flex items-baseline gap-4">
              <Dialog.Title className="font-semibold">{sheet.title}</Dialog.Title>
              <button type="button" className="big ml-auto shrink-0" onClick={onClose}>
                Leave for now
              </button>
            </div>
            {wrong && sheet.kind !== "make_safe" && (
              <button
                type="button"
                className="big mt-2 w-full border-stop font-semibold text-stop"
                onClick={() => onGo(wrong.key)}
              >
                Something is wrong
              </button>
            )}
            {above}
            {elsewhere && (
              <p role="alert" className="my-2 border-l-4 border-caution py-1 pl-3">
                Another window goes through this sheet, too: {elsewhere.ticks.length} of {steps.length} are
                done there.{" "}
                <button
                  type="button"
                  className="act"
                  onClick={() => {
                    setProgress(elsewhere);
                    setAsked(true);
                    setBefore(null);
                    setElsewhere(null);
                  }}
                >
                  Go on from there
                </button>
              </p>
            )}
            {sheet.kind === "recover" && trips >= MOST_TRIPS && (
              <p role="alert" className="my-2 border-l-4 border-stop py-1 pl-3">
                It tripped {trips} times. Never a third reset: leave it off, and find out why before anything
                is turned on again.
              </p>
            )}
            {before ? (
              <Asked
                before={before}
                of={steps.length}
                zone={zone}
                onGoOn={() => {
                  setProgress(before.progress);
                  setAsked(true);
                  setBefore(null);
                }}
                onBegin={forget}
              />
            ) : !asked ? (
              <First sheet={sheet} onNone={() => setAsked(true)} />
            ) : step?.answers?.length ? (
              <SearchStep
                key={done}
                step={step}
                number={number}
                onTick={(given, answer) =>
                  tick({ ...given, answer: answer.when }, { action: told(step.action, answer) })
                }
              />
            ) : end ? (
              <SearchEnd end={end} next={sheet.next ?? []} />
            ) : step ? (
              <OneStep
                key={done}
                step={step}
                number={number}
                of={steps.length}
                since={last?.at ?? progress.begun}
                wrong={wrong && (() => onGo(wrong.key))}
                trip={trip && tripped}
                onTick={tick}
              />
            ) : (
              <Ended sheet={sheet} ticks={progress.ticks} />
            )}
            {done === 0 && (
              <div className="mt-4">
                {sheet.cautions?.map((words) => (
                  <p key={words} className="mt-1 text-[13px] text-faint">
                    {words}
                  </p>
                ))}
              </div>
            )}
            {!before && asked && (
              <div className="mt-3 flex flex-wrap gap-3">
                {done > 0 && (step || end) && (
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
                      if (step) takenBack(progress.ticks);
                      keepProgress(planId, sheet.key, null);
                      setProgress(anew());
                    }}
                  >
                    {sure ? "Yes, from the first step" : "Begin again"}
                  </button>
                )}
                {canSpeak() && (
                  <button type="button" className="big" aria-pressed={aloud} onClick={() => setAloud(!aloud)}>
                    {aloud ? "Be quiet" : "Read aloud"}
                  </button>
                )}
              </div>
            )}
            <ol className="mt-4" aria-label="Done">
              {progress.ticks.map((tick, index) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: ticks are known by their place
                <li key={index} className="border-t border-rule py-1 text-faint">
                  {time(tick.at)} {steps[stepOf(tick, index) - 1]?.action}
                  {tick.answer && <strong>: {tick.answer}</strong>}
                  {tick.kind === "left_off" && <strong className="text-stop"> left off</strong>}
                  {tick.kind === "deviates" && <strong className="text-stop"> not as it should be</strong>}
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
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** A look of a search with what was seen there, and the cause where it ends: as a line of the record. */
function told(action: string, { when, end }: Answer): string {
  return `${action}: ${when}${end ? `. ${end.cause}` : ""}`.slice(0, 400);
}

/** What is asked before the first step: where one of them is so, it is done and nothing after it. */
function First({ sheet, onNone }: { sheet: Sheet; onNone: () => void }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const found = sheet.first?.find(({ when }) => when === chosen);
  if (found)
    return (
      <>
        <p className="my-2 text-[22px] font-semibold">{found.when}</p>
        <ol className="list-decimal pl-6 text-[20px]">
          {found.do.map((words) => (
            <li key={words} className="py-1">
              {words}
            </li>
          ))}
        </ol>
        <p className="my-3 border-l-4 border-stop py-1 pl-3 text-[18px]">Nothing after that.</p>
        <button type="button" className="big" onClick={() => setChosen(null)}>
          It is something else
        </button>
      </>
    );
  return (
    <>
      <p className="my-2 text-[22px] font-semibold">What is it?</p>
      {sheet.first?.map(({ when }) => (
        <button
          key={when}
          type="button"
          className="big mb-2 block w-full !min-h-[64px] border-stop text-left text-[18px]"
          onClick={() => setChosen(when)}
        >
          {when}
        </button>
      ))}
      <button type="button" className="big block w-full !min-h-[64px] text-left text-[18px]" onClick={onNone}>
        None of these: go on
      </button>
    </>
  );
}
