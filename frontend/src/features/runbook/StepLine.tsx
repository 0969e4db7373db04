import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";
import { expectedWords } from "./judged";

type Step = components["schemas"]["Step"];
type Answer = components["schemas"]["Answer"];

/** Where an answer of a search leads: to a step, or to a cause and what to do. */
export function Leads({ answer }: { answer: Answer }) {
  const { to, end } = answer;
  if (!end) return <>go to {to}</>;
  return (
    <>
      {end.stop && <strong className="text-stop">Stop. </strong>}
      {end.cause}. {end.do}.
    </>
  );
}

/** One step: what, where, what should be seen, what it means if not, and why. */
export function StepLine({ number, step }: { number: number; step: Step }) {
  const wait = step.wait_s ?? 0;
  return (
    <li className="grid grid-cols-[2.2rem_minmax(0,1fr)] border-b border-rule py-2">
      <span className="text-faint">{number}</span>
      <div>
        <p>
          <strong>{step.action}</strong> <span className="text-faint">{step.where}</span>
          {wait >= 60 && <span className="ml-2 text-caution">after {whole(wait / 60)} min</span>}
        </p>
        <p>
          <span className="text-faint">See: </span>
          {step.see}
        </p>
        {(step.readings ?? []).length > 0 && (
          <ul className="flex flex-wrap gap-x-6" aria-label={`Readings of step ${number}`}>
            {step.readings?.map((reading) => (
              <li key={reading.where}>{expectedWords(reading)}</li>
            ))}
          </ul>
        )}
        {(step.answers ?? []).length > 0 ? (
          <ul className="mt-1" aria-label={`Answers of step ${number}`}>
            {step.answers?.map((answer) => (
              <li key={answer.when} className="border-l-2 border-rule pl-3">
                <span className="font-semibold">{answer.when}: </span>
                <Leads answer={answer} />
              </li>
            ))}
          </ul>
        ) : (
          <p>
            <span className="text-faint">If not: </span>
            {step.if_not}
          </p>
        )}
        {step.why && (
          <details>
            <summary className="cursor-pointer text-faint">Why</summary>
            <p>{step.why}</p>
          </details>
        )}
      </div>
    </li>
  );
}
