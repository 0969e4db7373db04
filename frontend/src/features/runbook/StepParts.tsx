import type { components } from "../../api/schema.gen";
import { expectedWords } from "./judged";

type Step = components["schemas"]["Step"];
type Expected = components["schemas"]["Expected"];

/** What is done, where, and what is seen: the head of a step at the panel. */
export function StepHead({ told, step }: { told: string; step: Step }) {
  return (
    <>
      <p className="mt-3 text-faint">
        {told}, {step.where}
      </p>
      <p className="my-2 text-[24px] leading-8 font-semibold">{step.action}</p>
      <p className="text-[18px]">
        <span className="text-faint">See: </span>
        {step.see}
      </p>
    </>
  );
}

interface ReadingProps {
  reading: Expected;
  text: string;
  onType: (text: string) => void;
}

/** What a meter should show, and where that is typed. */
export function ReadingInput({ reading, text, onType }: ReadingProps) {
  return (
    <label className="flex items-center gap-3 text-[18px]">
      <span className="min-w-0 flex-1">{expectedWords(reading)}</span>
      <input
        inputMode="decimal"
        aria-label={`${reading.where} read`}
        className="field h-[48px] w-28 text-[20px]"
        value={text}
        onChange={(event) => onType(event.target.value)}
      />
    </label>
  );
}

/** Why it is done, for whoever asks. */
export function Why({ why }: { why: string | undefined }) {
  if (!why) return null;
  return (
    <details className="mt-1">
      <summary className="min-h-[44px] cursor-pointer py-2 text-faint">Why</summary>
      <p>{why}</p>
    </details>
  );
}
