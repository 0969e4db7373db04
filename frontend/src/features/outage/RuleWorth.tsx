import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";

/** What a rule is worth: the verdict with it, and without it, in a line. */
export function RuleWorth({ index }: { index: number }) {
  const { view } = useDesk();
  const [asked, setAsked] = useState(false);
  const rules = view.plan.strategy?.rules ?? [];
  const on = rules[index]?.on ?? false;
  const turned = rules.map((rule, other) => (other === index ? { ...rule, on: !on } : rule));
  const trial = useQuery({
    queryKey: ["rule worth", view.id, view.revision, index],
    queryFn: () =>
      answer(
        client.POST("/api/plans/{plan_id}/try", {
          params: { path: { plan_id: view.id } },
          body: { strategy: { rules: turned } } as never,
          headers: { "Content-Type": "application/merge-patch+json" },
        }),
      ),
    enabled: asked,
  });
  const told = trial.data;
  const same = told && told.before.verdict.sentence === told.after.verdict.sentence;
  return (
    <>
      <button type="button" className="act" aria-expanded={asked} onClick={() => setAsked(!asked)}>
        {on ? "What without it?" : "What with it?"}
      </button>
      {asked && (
        <span className="basis-full border-l-2 border-rule pl-3" data-testid="rule-worth">
          {trial.isPending && <span className="text-faint">Trying…</span>}
          {trial.error && <span className="text-stop">{trial.error.message}</span>}
          {told &&
            (same
              ? `${on ? "Without" : "With"} it the same: ${told.after.verdict.sentence}.`
              : `${on ? "Without" : "With"} it: ${told.after.verdict.sentence}. Now: ${told.before.verdict.sentence}.`)}
        </span>
      )}
    </>
  );
}
