import type { Circuit, Load } from "../../api/client";
import { useDesk } from "../../api/plan";
import { NumberField } from "../../ui/NumberField";
import { TextField } from "../../ui/TextField";
import { LoadEditor } from "./LoadEditor";

/** One circuit: its name and order, and what is on it. */
export function CircuitSheet({ circuitId }: { circuitId: string }) {
  const { view, edit } = useDesk();
  const circuit = view.plan.circuits?.[circuitId];
  if (!circuit) return null;
  const loads = Object.entries(view.plan.loads ?? {}).filter(([, load]) => load.circuit_id === circuitId);
  const change = (part: Partial<Circuit>) =>
    edit((plan) => ({ ...plan, circuits: { ...plan.circuits, [circuitId]: { ...circuit, ...part } } }));
  const changeLoad = (loadId: string, load: Load) =>
    edit((plan) => ({ ...plan, loads: { ...plan.loads, [loadId]: load } }));
  return (
    <section
      id="circuit-sheet"
      aria-label={`Breaker ${circuit.spaces.join(" and ")}`}
      onKeyDown={(event) => {
        if (event.key === "Escape")
          document.querySelector<HTMLElement>(`[data-circuit="${circuitId}"]`)?.focus();
      }}
    >
      <h2 className="border-b border-ink pb-1">
        Breaker {circuit.spaces.join(" and ")} · {circuit.label}
      </h2>
      <div className="flex flex-wrap gap-x-4 gap-y-1 py-2">
        <TextField label="label" value={circuit.label} onSave={(label) => change({ label })} />
        <NumberField
          label="order, 1 goes last"
          value={circuit.order ?? 50}
          unit=""
          width="w-10"
          onSave={(order) => change({ order: Math.round(order) })}
        />
      </div>
      {loads.map(([id, load]) => (
        <LoadEditor key={id} load={load} onChange={(next) => changeLoad(id, next)} />
      ))}
      {loads.length === 0 && <p className="text-faint">Nothing is on this circuit.</p>}
    </section>
  );
}
