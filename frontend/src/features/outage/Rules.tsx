import type { Plan } from "../../api/client";
import { useDesk, useRun } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import { TextField } from "../../ui/TextField";
import { useGear } from "../gear/useGear";

type Strategy = NonNullable<Plan["strategy"]>;
type Rule = NonNullable<Strategy["rules"]>[number];

const PURPOSES = [
  ["both", "the house and charging"],
  ["charging", "charging only"],
  ["house", "the house only"],
] as const;

/** What the household does by charge: rules in their order, each a sentence whose figures can be changed. */
export function Rules({ strategy }: { strategy?: Strategy }) {
  const { view, edit } = useDesk();
  const rules = strategy?.rules ?? [];
  const plan = view.plan;
  const put = (next: Rule[]) =>
    edit((before) => ({ ...before, strategy: { ...before.strategy, rules: next } as Strategy }));
  const set = (index: number, part: Partial<Rule>) =>
    put(rules.map((rule, other) => (other === index ? ({ ...rule, ...part } as Rule) : rule)));
  const move = (index: number) => {
    const next = [...rules];
    next.splice(index - 1, 2, rules[index] as Rule, rules[index - 1] as Rule);
    put(next);
  };
  const engines = Object.entries(plan.generators ?? {}).map(([id, item]) => [id, item.name] as const);
  const links = Object.entries(plan.leads ?? {})
    .filter(([, item]) => item.to.end === "input" && item.source.kind !== "generator")
    .map(([id, item]) => [id, item.name ?? `lead ${id}`] as const);
  const marked = Object.entries(plan.circuits ?? {})
    .filter(([, item]) => item.mark !== "off")
    .map(([id, item]) => [id, item.label] as const);
  const loads = Object.entries(plan.loads ?? {})
    .filter(([, item]) => plan.circuits?.[item.circuit_id]?.mark !== "off")
    .map(([id, item]) => [id, item.name] as const);
  const gear = useGear()?.fresh;
  const acts = useRun().data?.rules ?? [];
  const add = (rule: Rule | undefined) => rule && put([...rules, rule]);
  return (
    <fieldset className="py-1">
      <legend className="text-faint">Rules, followed from the top down</legend>
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
            <Sentence
              rule={rule}
              set={(part) => set(index, part)}
              engines={engines}
              links={links}
              circuits={marked}
              loads={loads}
            />
            {rule.on && acts[index] && (
              <span className={acts[index].never ? "text-caution" : "text-faint"}>
                {acts[index].never
                  ? `can never act: ${acts[index].never}`
                  : `acted ${acts[index].acted === 1 ? "once" : `${acts[index].acted} times`}`}
              </span>
            )}
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
      <span className="flex flex-wrap gap-x-4">
        {engines.length > 0 && (
          <button
            type="button"
            className="act"
            onClick={() => add(gear && { ...gear.engine_rule, generator_id: engines[0]?.[0] ?? "" })}
          >
            Add a rule for an engine
          </button>
        )}
        {links.length > 0 && (
          <button
            type="button"
            className="act"
            onClick={() => add(gear && { ...gear.plug_rule, lead_id: links[0]?.[0] ?? "" })}
          >
            Add a rule for plugging in
          </button>
        )}
        {marked.length > 0 && (
          <button
            type="button"
            className="act"
            onClick={() => add(gear && { ...gear.shed_rule, circuit_ids: [marked[0]?.[0] ?? ""] })}
          >
            Add a rule for shedding
          </button>
        )}
        {loads.length > 0 && (
          <button
            type="button"
            className="act"
            onClick={() => add(gear && { ...gear.surplus_rule, load_ids: [loads[0]?.[0] ?? ""] })}
          >
            Add a rule for spare sun
          </button>
        )}
        {loads.length > 1 && (
          <button
            type="button"
            className="act"
            onClick={() =>
              add(gear && { ...gear.together_rule, load_ids: loads.slice(0, 2).map(([id]) => id) })
            }
          >
            Add a rule for never together
          </button>
        )}
      </span>
    </fieldset>
  );
}

interface SentenceProps {
  rule: Rule;
  set: (part: Partial<Rule>) => void;
  engines: readonly (readonly [string, string])[];
  links: readonly (readonly [string, string])[];
  circuits: readonly (readonly [string, string])[];
  loads: readonly (readonly [string, string])[];
}

function Sentence({ rule, set, engines, links, circuits, loads }: SentenceProps) {
  const gear = useGear()?.fresh;
  if (rule.kind === "engine") {
    const hours = rule.hours ?? null;
    const usual = gear?.engine_hours;
    return (
      <>
        <ChoiceField
          label="start"
          value={rule.generator_id}
          choices={engines}
          onSave={(generator_id) => set({ generator_id })}
        />
        <Share label="below" value={rule.on_below_percent} onSave={(v) => set({ on_below_percent: v })} />
        <Share
          label="stop above"
          value={rule.off_above_percent}
          onSave={(v) => set({ off_above_percent: v })}
        />
        <NumberField
          label="run at least"
          value={rule.least_s / 60}
          unit="min"
          width="w-12"
          onSave={(minutes) => set({ least_s: minutes * 60 })}
        />
        <ChoiceField
          label="for"
          value={rule.purpose}
          choices={PURPOSES}
          onSave={(purpose) => set({ purpose })}
        />
        {hours === null ? (
          <button
            type="button"
            className="act"
            disabled={!usual}
            onClick={() => usual && set({ hours: usual })}
          >
            Only in some hours
          </button>
        ) : (
          <>
            <TextField
              label="from"
              type="time"
              width="w-28"
              value={hours.begins.slice(0, 5)}
              onSave={(at) => set({ hours: { ...hours, begins: `${at}:00` } })}
            />
            <TextField
              label="to"
              type="time"
              width="w-28"
              value={hours.ends.slice(0, 5)}
              onSave={(at) => set({ hours: { ...hours, ends: `${at}:00` } })}
            />
            <button type="button" className="act" onClick={() => set({ hours: null })}>
              At any hour
            </button>
          </>
        )}
      </>
    );
  }
  if (rule.kind === "plug")
    return (
      <>
        <ChoiceField
          label="plug in"
          value={rule.lead_id}
          choices={links}
          onSave={(lead_id) => set({ lead_id })}
        />
        <Share label="below" value={rule.in_below_percent} onSave={(v) => set({ in_below_percent: v })} />
        <Share
          label="out above"
          value={rule.out_above_percent}
          onSave={(v) => set({ out_above_percent: v })}
        />
      </>
    );
  if (rule.kind === "surplus")
    return (
      <>
        <Named words="on sun that is left over:" ids={rule.load_ids} of={loads} />
        <OneMore ids={rule.load_ids} of={loads} onAdd={(id) => set({ load_ids: [...rule.load_ids, id] })} />
        <Share
          label="from a charge of"
          value={rule.above_percent}
          onSave={(v) => set({ above_percent: v })}
        />
      </>
    );
  if (rule.kind === "together")
    return (
      <>
        <Named words="never together:" ids={rule.load_ids} of={loads} />
        <OneMore ids={rule.load_ids} of={loads} onAdd={(id) => set({ load_ids: [...rule.load_ids, id] })} />
        {rule.load_ids.length > 2 && (
          <button type="button" className="act" onClick={() => set({ load_ids: rule.load_ids.slice(0, -1) })}>
            One less
          </button>
        )}
      </>
    );
  return (
    <>
      <Named words="switch off" ids={rule.circuit_ids} of={circuits} />
      <OneMore
        ids={rule.circuit_ids}
        of={circuits}
        onAdd={(id) => set({ circuit_ids: [...rule.circuit_ids, id] })}
      />
      <Share label="below" value={rule.off_below_percent} onSave={(v) => set({ off_below_percent: v })} />
      <Share
        label="back above"
        value={rule.back_above_percent}
        onSave={(v) => set({ back_above_percent: v })}
      />
    </>
  );
}

type Choices = readonly (readonly [string, string])[];

/** What a rule speaks about, by name. */
function Named({ words, ids, of }: { words: string; ids: readonly string[]; of: Choices }) {
  return (
    <span>
      <span className="text-faint">{words}</span>{" "}
      {ids.map((id) => of.find(([key]) => key === id)?.[1] ?? id).join(", ")}
    </span>
  );
}

function OneMore(props: { ids: readonly string[]; of: Choices; onAdd: (id: string) => void }) {
  const free = props.of.filter(([id]) => !props.ids.includes(id));
  if (free.length === 0) return null;
  return (
    <ChoiceField
      label="and"
      value=""
      choices={[["", "one more"], ...free]}
      onSave={(id) => id && props.onAdd(id)}
    />
  );
}

function Share({ label, value, onSave }: { label: string; value: number; onSave: (value: number) => void }) {
  return <NumberField label={label} value={value} unit="%" width="w-12" onSave={onSave} />;
}
