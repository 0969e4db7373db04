import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema.gen";
import { unbroken } from "../../ui/format";
import { CouldNot } from "./CouldNot";
import { type Given, newPlan } from "./given";

const TOPICS = [
  ["house", "House and outage"],
  ["gear", "Gear"],
  ["feed", "How it reaches the house"],
  ["needs", "What must run"],
] as const;

/** The plan as it would be: built again at every answer, with its verdict. */
export function PlanSoFar({ given }: { given: Given }) {
  const body = useDeferredValue(JSON.stringify({ ...newPlan(given), name: "This house" }));
  const found = useQuery({
    queryKey: ["beginning", body],
    queryFn: () => answer(client.POST("/api/beginnings", { body: JSON.parse(body) })),
    placeholderData: (before) => before,
    retry: 0,
  });
  const plan = found.data;
  const before = useBefore(found.isPlaceholderData || found.isError ? undefined : plan?.verdict);
  return (
    <section aria-label="The plan so far" aria-live="polite" data-testid="so-far">
      <h2 className="border-b border-ink pb-1">The plan so far</h2>
      {found.isError && <CouldNot error={found.error} kept="The plan stands as it was before." />}
      {plan && (
        <>
          <p className="py-2 text-[16px]">
            <strong className={COLOURS[plan.verdict.status] ?? ""}>{plan.verdict.headline}</strong>{" "}
            {unbroken(plan.verdict.sentence)}
          </p>
          {before && (
            <p className="pb-2 text-faint" data-testid="before-that">
              before the last answer: {before.headline} {unbroken(before.sentence)}
            </p>
          )}
          {plan.verdict.how_sure && <p className="pb-2">how sure: {unbroken(plan.verdict.how_sure)}</p>}
          {TOPICS.map(([topic, title]) => {
            const lines = plan.lines.filter((line) => line.topic === topic);
            return (
              <div key={topic} className="mb-2">
                <h3 className="text-faint">{title}</h3>
                {lines.length === 0 && <p>not yet</p>}
                <ul>
                  {lines.map((line) => (
                    <li key={line.name}>
                      <strong>{line.name}</strong>: {line.words}
                    </li>
                  ))}
                </ul>
              </div>
            );
          })}
          {(plan.verdict.assumed ?? []).length > 0 && (
            <div className="mb-2">
              <h3 className="text-faint">Taken for granted until you say it</h3>
              <ul>
                {plan.verdict.assumed?.map((words) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
            </div>
          )}
          {plan.stops.length > 0 && (
            <div className="border-l-4 border-stop pl-3">
              <p className="text-stop">Do not energise it so:</p>
              <ul>
                {plan.stops.map((stop) => (
                  <li key={stop}>{stop}</li>
                ))}
              </ul>
            </div>
          )}
          <p className="text-faint">
            {plan.cautions === 1 ? "1 caution" : `${plan.cautions} cautions`} and{" "}
            {plan.open === 1 ? "1 open question" : `${plan.open} open questions`} wait under Checks.
          </p>
        </>
      )}
    </section>
  );
}

type Verdict = components["schemas"]["Beginning"]["verdict"];

/** The verdict before the last answer that changed it. */
function useBefore(now: Verdict | undefined): Verdict | undefined {
  const [kept, setKept] = useState<{ now?: Verdict; before?: Verdict }>({});
  if (now && `${kept.now?.headline} ${kept.now?.sentence}` !== `${now.headline} ${now.sentence}`) {
    setKept(kept.now ? { now, before: kept.now } : { now });
  }
  return kept.before;
}

const COLOURS: Record<string, string> = { lasts: "text-good", does_not_last: "text-stop" };
