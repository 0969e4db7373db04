import { useState } from "react";
import type { Circuit } from "../../api/client";
import { useDesk } from "../../api/plan";

/** Find which breaker is which: turn one off, tick what went dead. */
export function FindBreaker({ circuitId }: { circuitId: string | null }) {
  const { view, edit } = useDesk();
  const [text, setText] = useState("");
  const circuits = view.plan.circuits ?? {};
  const circuit = circuitId ? circuits[circuitId] : undefined;
  const unknown = view.plan.outlets ?? [];
  const holder = new Map(
    Object.entries(circuits).flatMap(([id, item]) => item.outlets.map((name) => [name, id] as const)),
  );
  const all = [...new Set([...unknown, ...holder.keys()])].sort((a, b) => a.localeCompare(b));

  const add = () => {
    const names = text
      .split(/[\n,;]/)
      .map((name) => name.trim().slice(0, 80))
      .filter((name) => name && !all.includes(name));
    edit((plan) => ({ ...plan, outlets: [...(plan.outlets ?? []), ...names] }));
    setText("");
  };
  /** An outlet is dead with one breaker only: it moves here, or back to those not found yet. */
  const tick = (name: string, dead: boolean) =>
    edit((plan) => {
      const next: Record<string, Circuit> = {};
      for (const [id, item] of Object.entries(plan.circuits ?? {})) {
        const others = item.outlets.filter((outlet) => outlet !== name);
        next[id] = { ...item, outlets: dead && id === circuitId ? [...others, name] : others };
      }
      const outlets = (plan.outlets ?? []).filter((outlet) => outlet !== name);
      return { ...plan, circuits: next, outlets: dead ? outlets : [...outlets, name] };
    });
  return (
    <details className="mb-3 border-l-2 border-rule pl-3">
      <summary className="cursor-pointer py-0.5">
        Find the breaker
        {all.length > 0 && <span className="text-faint"> · {unknown.length} outlets not found yet</span>}
      </summary>
      <p className="text-faint">
        List outlets and lights, plug a lamp into each, turn one breaker off, choose it in the panel and tick
        what went dead.
      </p>
      <form
        className="flex items-baseline gap-2 py-1"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <label className="grow">
          <span className="sr-only">Outlets and lights</span>
          <input
            className="field w-full"
            placeholder="hall by the door, kitchen left of the sink, porch light"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <button type="submit" className="act" disabled={text.trim() === ""}>
          Add outlets
        </button>
      </form>
      {circuit && all.length > 0 && (
        <fieldset>
          <legend>
            With breaker {circuit.spaces.join(" and ")}, <strong>{circuit.label}</strong>, off, these are
            dead:
          </legend>
          <div className="flex flex-wrap gap-x-4">
            {all.map((name) => {
              const where = holder.get(name);
              return (
                <label key={name} className="min-h-[24px]">
                  <input
                    type="checkbox"
                    className="size-4 accent-cedar"
                    checked={where === circuitId}
                    onChange={(event) => tick(name, event.target.checked)}
                  />{" "}
                  {name}
                  {where && where !== circuitId && (
                    <span className="text-faint"> (on {circuits[where]?.label})</span>
                  )}
                </label>
              );
            })}
          </div>
        </fieldset>
      )}
    </details>
  );
}
