import { useState } from "react";
import type { components } from "../../api/schema.gen";
import type { Tick } from "./progress";
import { ReadingInput, StepHead, Why } from "./StepParts";

type Step = components["schemas"]["Step"];
type Answer = components["schemas"]["Answer"];

interface Props {
  step: Step;
  number: number;
  onTick: (tick: Omit<Tick, "id" | "at">, answer: Answer) => void;
}

/** What a reading picks: the answer in whose span it is. */
function picked(answers: readonly Answer[], value: number): Answer | undefined {
  return answers.find(({ low, high }) => (low == null || value >= low) && (high == null || value < high));
}

/** One look of a search: what is seen or read there picks the next one, or the end. */
export function SearchStep({ step, number, onTick }: Props) {
  const [text, setText] = useState("");
  const [reading] = step.readings ?? [];
  const answers = step.answers ?? [];
  const value = text.trim() === "" ? Number.NaN : Number(text.replace(",", "."));
  const found = Number.isFinite(value) ? picked(answers, value) : undefined;
  const choose = (answer: Answer) =>
    onTick(
      {
        read: reading && text.trim() !== "" ? { [reading.where]: text.trim().slice(0, 40) } : {},
        kind: "done",
        wrong: [],
        unread: [],
        step: number,
        ...(answer.to == null ? { ends: true } : { to: answer.to }),
      },
      answer,
    );
  return (
    <>
      <StepHead told={`Look ${number}`} step={step} />
      {reading && (
        <div className="mt-2">
          <ReadingInput reading={reading} text={text} onType={setText} />
        </div>
      )}
      {text.trim() !== "" && !Number.isFinite(value) && (
        <p role="alert" className="mt-1 border-l-4 border-stop py-1 pl-3">
          “{text}” is no number.
        </p>
      )}
      <fieldset className="mt-3">
        <legend className="text-faint">Which is it?</legend>
        {answers.map((answer) => (
          <button
            key={answer.when}
            type="button"
            disabled={found !== undefined && found !== answer}
            className={`big mb-2 block w-full !min-h-[64px] text-left text-[18px] ${
              found === answer ? "border-cedar font-semibold" : ""
            }`}
            onClick={() => choose(answer)}
          >
            {answer.when}
          </button>
        ))}
      </fieldset>
      <Why why={step.why} />
    </>
  );
}

const STOPPED = ["Nothing is turned on before whoever was called has looked"];

/** Where a search has ended: the cause, what to do, and whether it stops there. */
export function SearchEnd({ end, next }: { end: NonNullable<Answer["end"]>; next: readonly string[] }) {
  return (
    <div data-testid="search-end">
      {end.stop && <p className="mt-4 text-[24px] font-semibold text-stop">Stop here.</p>}
      <p className="my-2 text-[22px] font-semibold">{end.cause}.</p>
      <p className={`my-3 border-l-4 py-1 pl-3 text-[20px] ${end.stop ? "border-stop" : "border-cedar"}`}>
        {end.do}.
      </p>
      <h3 className="text-faint">Next</h3>
      <ul className="list-disc pl-5 text-[18px]">
        {(end.stop ? STOPPED : next).map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </div>
  );
}
