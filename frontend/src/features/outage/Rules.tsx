import { useState } from "react";
import type { Plan } from "../../api/client";
import { useGear } from "../../api/library";
import { useDesk, useRun } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { RuleSentence } from "./RuleSentence";
import { RuleWorth } from "./RuleWorth";
import { newRules, type Rule } from "./rules";

type Strategy = NonNullable<Plan["strategy"]>;

/** What the household does by rule: in their order, each a sentence whose figures can be changed. */
export function Rules() {
  const { view, edit } = useDesk();
  const rules = view.plan.strategy?.rules ?? [];
  const put = (next: Rule[]) =>
    edit((before) => ({ ...before, strategy: { ...before.strategy, rules: next } as Strategy }));
  const set = (index: number, part: Partial<Rule>) =>
    put(rules.map((rule, other) => (other === index ? ({ ...rule, ...part } as Rule) : rule)));
  const move = (index: number) => {
    const next = [...rules];
    next.splice(index - 1, 2, rules[index] as Rule, rules[index - 1] as Rule);
    put(next);
  };
  const fresh = useGear().fresh;
  const offered = newRules(view.plan, fresh);
  const [chosen, setKind] = useState("");
  const kind = offered.some(([words]) => words === chosen) ? chosen : (offered[0]?.[0] ?? "");
  const added = offered.find(([words]) => words === kind)?.[1];
  const shares = useRun().data?.rules ?? [];
  return (
    <fieldset className="mb-3 border-b border-rule py-1">
      <legend className="font-semibold">Rules, followed from the top down</legend>
      <ol>
        {rules.map((rule, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rules have no identity but their place
          <li key={index} className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-0.5">
            <label className="min-h-[24px]">
              <input
                type="checkbox"
                className="size-4 accent-cedar"
                aria-label={`rule ${index + 1} is on`}
                checked={rule.on}
                onChange={(event) => set(index, { on: event.target.checked })}
              />{" "}
              {index + 1}.
            </label>
            <RuleSentence rule={rule} set={(part) => set(index, part)} />
            {rule.on && shares[index] && (
              <span className={shares[index].never ? "text-caution" : "text-faint"}>
                {deeds(shares[index])}
              </span>
            )}
            <RuleWorth index={index} />
            <button type="button" className="act" disabled={index === 0} onClick={() => move(index)}>
              Move up
            </button>
            <button
              type="button"
              className="act"
              onClick={() => put(rules.filter((_, other) => other !== index))}
            >
              Take away
            </button>
          </li>
        ))}
      </ol>
      {rules.length === 0 && <p className="text-faint">None yet.</p>}
      <span className="flex flex-wrap items-baseline gap-x-4">
        <ChoiceField
          label="a rule for"
          value={kind}
          choices={offered.map(([words]) => [words, words] as const)}
          onSave={setKind}
        />
        <button
          type="button"
          className="act"
          disabled={!added}
          onClick={() => added && put([...rules, added])}
        >
          Add this rule
        </button>
      </span>
    </fieldset>
  );
}

/** What a rule did in the run, in words. */
function deeds({ acted, never, lasting }: { acted: number; never?: string; lasting?: boolean }): string {
  if (never) return `can never act: ${never}`;
  if (lasting) return "holds all the time";
  return acted === 1 ? "acted once" : `acted ${acted} times`;
}
