import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { AtPanel } from "./AtPanel";
import { StepLine } from "./StepLine";

type Sheet = components["schemas"]["Sheet"];

/** Kinds of sheets in the order in which they are looked for, and what each heads. */
const KINDS: readonly (readonly [Sheet["kind"], string])[] = [
  ["change_over", "Change over"],
  ["swap", "Swap sources"],
  ["charge", "Charge"],
  ["return", "Back to the utility"],
  ["recover", "After a trip"],
  ["make_safe", "Something is wrong"],
];

/** What is done at the panel, in which order: a sheet for every act, made from the plan. */
export function RunbookScreen() {
  const { view } = useDesk();
  const [asked, ask] = useSearchParams();
  const found = useQuery({
    queryKey: ["sheets", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/sheets", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  const sheets = found.data?.sheets ?? [];
  const shown = sheets.find((sheet) => sheet.key === asked.get("sheet")) ?? sheets[0];
  if (shown && asked.get("at") === "panel" && (shown.steps ?? []).length > 0)
    return (
      <AtPanel
        key={shown.key}
        sheet={shown}
        planId={view.id}
        revision={view.revision}
        zone={view.plan.site.time_zone ?? "UTC"}
        onClose={() => ask({ sheet: shown.key }, { replace: true })}
      />
    );
  return (
    <>
      <h1 className="sr-only">Runbook</h1>
      <CannotShow asked={found} what="sheets" />
      {found.data && sheets.length === 0 && (
        <p className="border-l-4 border-caution py-2 pl-3">
          No sheet can be made: nothing feeds anything in this plan yet. Say on Feed how a source reaches the
          house.
        </p>
      )}
      {shown && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[280px_minmax(0,1fr)]">
          <nav aria-label="Sheets" className="unprinted">
            {KINDS.map(([kind, title]) => {
              const some = sheets.filter((sheet) => sheet.kind === kind);
              if (some.length === 0) return null;
              return (
                <div key={kind} className="mb-2">
                  <h2 className="text-faint">{title}</h2>
                  {some.map((sheet) => (
                    <button
                      key={sheet.key}
                      type="button"
                      aria-current={sheet === shown ? "page" : undefined}
                      className={`block min-h-[44px] w-full border-l-4 px-3 text-left ${
                        sheet === shown ? "border-cedar font-semibold" : "border-rule"
                      }`}
                      onClick={() => ask({ sheet: sheet.key }, { replace: true })}
                    >
                      {sheet.title.replace(/^[^:]*: /, "")}
                      {(sheet.held_by ?? []).length > 0 && <span className="ml-2 text-stop">held back</span>}
                    </button>
                  ))}
                </div>
              );
            })}
          </nav>
          <SheetOf
            sheet={shown}
            cautions={found.data?.cautions ?? []}
            planId={view.id}
            onPanel={() => ask({ sheet: shown.key, at: "panel" })}
          />
        </div>
      )}
    </>
  );
}

interface SheetProps {
  sheet: Sheet;
  cautions: readonly string[];
  planId: string;
  onPanel: () => void;
}

function SheetOf({ sheet, cautions, planId, onPanel }: SheetProps) {
  const held = sheet.held_by ?? [];
  return (
    <article aria-label={sheet.title} className="printed max-w-[760px]" data-testid="sheet">
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1">
        {sheet.title}
        <span className="ml-auto flex gap-3 text-[14px] font-normal unprinted">
          <a
            className="act"
            href={`/api/plans/${planId}/sheets.pdf?sheet=${encodeURIComponent(sheet.key)}`}
            download
          >
            On paper
          </a>
          <a className="act" href={`/api/plans/${planId}/sheets.pdf`} download>
            All sheets
          </a>
        </span>
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
      {(sheet.steps ?? []).length > 0 && (
        <p className="my-3 unprinted">
          <button type="button" className="big" onClick={onPanel}>
            Go through it at the panel
          </button>
        </p>
      )}
      <ol>
        {(sheet.steps ?? []).map((step, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: steps are known by their place
          <StepLine key={index} number={index + 1} step={step} />
        ))}
      </ol>
    </article>
  );
}
