import type { ReactNode } from "react";
import type { Sheet } from "./kinds";
import { StepsOf } from "./StepsOf";

interface Props {
  sheet: Sheet;
  cautions: readonly string[];
  /** Ways to paper, beside the title. */
  beside?: ReactNode;
  /** What of it can be chosen. */
  choices?: ReactNode;
  onPanel: () => void;
}

/** One sheet to read: cautions, what holds it back, what stays off, every step. */
export function SheetOf({ sheet, cautions, beside, choices, onPanel }: Props) {
  const held = sheet.held_by ?? [];
  return (
    <article aria-label={sheet.title} className="printed max-w-[760px]" data-testid="sheet">
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1">
        {sheet.title}
        {beside}
      </h2>
      {cautions.map((words) => (
        <p key={words} className="mt-1 text-faint">
          {words}
        </p>
      ))}
      {held.length > 0 && (
        <div role="alert" className="my-3 border-l-4 border-stop py-1 pl-3">
          <strong className="text-stop">This sheet is held back: do not energise.</strong>
          <ul>
            {held.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </div>
      )}
      {(sheet.stay_off ?? []).length > 0 && (
        <p className="my-3 border-l-4 border-caution py-1 pl-3">
          There is no room for these at once; they stay off: {sheet.stay_off?.join(", ")}.
        </p>
      )}
      {(sheet.leave_off ?? []).length > 0 && (
        <p className="my-3 border-l-4 border-rule py-1 pl-3">
          Leave off, marked so in the plan: {sheet.leave_off?.join(", ")}.
        </p>
      )}
      {(sheet.first ?? []).length > 0 && (
        <div className="my-3 border-l-4 border-stop py-1 pl-3">
          <strong>First: is it one of these? Then only that, and nothing after it.</strong>
          {sheet.first?.map(({ when, do: acts }) => (
            <div key={when} className="mt-1">
              <p className="font-semibold">{when}</p>
              <ul className="list-disc pl-5">
                {acts.map((words) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
            </div>
          ))}
        </div>
      )}
      {sheet.notes?.map((words) => (
        <p key={words} className="my-3 border-l-4 border-rule py-1 pl-3">
          {words}
        </p>
      ))}
      {choices}
      {(sheet.steps ?? []).length > 0 && (
        <p className="my-3 unprinted">
          <button type="button" className="big" onClick={onPanel}>
            Go through it at the panel
          </button>
        </p>
      )}
      <StepsOf steps={sheet.steps ?? []} />
      {(sheet.next ?? []).length > 0 && (
        <>
          <h3 className="mt-3 text-faint">Next</h3>
          <ul className="list-disc pl-5">
            {sheet.next?.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </>
      )}
    </article>
  );
}
