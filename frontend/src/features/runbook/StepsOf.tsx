import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";
import { bandWords } from "./judged";
import { StepLine } from "./StepLine";

type Step = components["schemas"]["Step"];

interface Group {
  number: number;
  steps: Step[];
}

/** Whether two steps stand in one list: same head, place, sight, way out, and places of readings. */
function standTogether(one: Step, other: Step): boolean {
  const shared = (step: Step) =>
    JSON.stringify([
      step.list_head,
      step.where,
      step.see,
      step.if_not,
      step.readings?.map((reading) => reading.where),
    ]);
  return Boolean(one.list_head) && shared(one) === shared(other);
}

/** Steps as they are written out: those that are done alike stand in one list. */
function folded(steps: readonly Step[]): Group[] {
  const found: Group[] = [];
  steps.forEach((step, index) => {
    const last = found.at(-1);
    if (last?.steps[0] && standTogether(last.steps[0], step)) last.steps.push(step);
    else found.push({ number: index + 1, steps: [step] });
  });
  return found;
}

/** All steps of a sheet, those of many circuits folded into lists. */
export function StepsOf({ steps }: { steps: readonly Step[] }) {
  return (
    <ol>
      {folded(steps).map(({ number, steps: together }) =>
        together.length > 1 ? (
          <StepList key={number} number={number} steps={together} />
        ) : (
          together.map((step) => <StepLine key={number} number={number} step={step} />)
        ),
      )}
    </ol>
  );
}

/** What need not be there makes room on a phone; at the panel each step has all of it. */
const NOT_NARROW = "hidden sm:table-cell print:table-cell";

/** Steps that are done alike, one line each. */
function StepList({ number, steps }: { number: number; steps: readonly Step[] }) {
  const [head] = steps;
  if (!head) return null;
  const places = head.readings ?? [];
  const whys = [...new Set(steps.map((step) => step.why).filter(Boolean))];
  return (
    <li className="grid grid-cols-[2.2rem_minmax(0,1fr)] border-b border-rule py-2">
      <span className="text-faint">{number}</span>
      <div className="min-w-0">
        <p>
          <strong>{head.list_head}</strong> <span className="text-faint">{head.where}</span>
        </p>
        <p>
          <span className="text-faint">See: </span>
          {head.see}
        </p>
        <p>
          <span className="text-faint">If not: </span>
          {head.if_not}
        </p>
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: on a phone it scrolls sideways, by keyboard too */}
        <div className="overflow-x-auto" tabIndex={0}>
          <table className="mt-1 w-full text-left" aria-label={`${head.list_head}, from step ${number}`}>
            {places.length > 0 && (
              <thead>
                <tr>
                  <th className="w-8" />
                  <th />
                  {places.map((place) => (
                    <th
                      key={place.where}
                      scope="col"
                      className={`pr-3 font-normal text-faint ${place.optional ? NOT_NARROW : ""}`}
                    >
                      {place.where}
                    </th>
                  ))}
                </tr>
              </thead>
            )}
            <tbody>
              {steps.map((step, index) => (
                <tr key={step.action} className="border-t border-rule align-top">
                  <td className="py-0.5 pr-2 text-faint">{number + index}</td>
                  <td className="py-0.5 pr-3">
                    {step.line}
                    {(step.wait_s ?? 0) >= 60 && (
                      <span className="ml-2 text-caution">after {whole((step.wait_s ?? 0) / 60)} min</span>
                    )}
                  </td>
                  {step.readings?.map((reading) => (
                    <td
                      key={reading.where}
                      className={`py-0.5 pr-3 whitespace-nowrap ${reading.optional ? NOT_NARROW : ""}`}
                    >
                      {bandWords(reading)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {whys.length > 0 && (
          <details>
            <summary className="cursor-pointer text-faint">Why</summary>
            {whys.map((why) => (
              <p key={why}>{why}</p>
            ))}
          </details>
        )}
      </div>
    </li>
  );
}
