import type { Load, Mark } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import { leadWords } from "../feed/leads";
import { leadOf } from "./hangs";

const MARKS = [
  ["keep", "must run"],
  ["room", "when there is room"],
  ["off", "stays off"],
] as const;

/** Where a load hangs at home, and in the outage; its own mark where no breaker has one for it. */
export function Hanging({ id, load, onChange }: { id: string; load: Load; onChange: (load: Load) => void }) {
  const { view, command } = useDesk();
  const plan = view.plan;
  const circuits = Object.entries(plan.circuits ?? {}).map(([key, item]) => [key, item.label] as const);
  const leads = Object.entries(plan.leads ?? {})
    .filter(([, lead]) => lead.to.end === "loads")
    .map(([key]) => [key, leadWords(plan, key)] as const);
  const lead = leadOf(plan, id);
  const along = leads.find(([key]) => {
    const to = plan.leads?.[key]?.to;
    return to?.end === "loads" && load.circuit_id != null && to.circuit_ids?.includes(load.circuit_id);
  });
  const usual = along ? `with its circuit, on ${along[1]}` : "on its breaker";
  const own = lead !== null || load.circuit_id == null;
  return (
    <div className="mb-1 flex flex-wrap gap-x-4 gap-y-1">
      <ChoiceField
        label="at home on"
        value={load.circuit_id ?? ""}
        choices={[["", "no breaker"], ...circuits]}
        onSave={(key) =>
          onChange({
            ...load,
            circuit_id: key || null,
            ...(key && lead === null ? { mark: null, order: null } : {}),
          })
        }
      />
      {leads.length > 0 && (
        <ChoiceField
          label="in the outage"
          value={lead ?? ""}
          choices={[["", load.circuit_id == null ? "on nothing" : usual], ...leads]}
          onSave={(key) => command({ command: "plug", load_id: id, lead_id: key || null })}
        />
      )}
      {own && (
        <>
          <ChoiceField
            label="it"
            value={load.mark ?? "keep"}
            choices={MARKS}
            onSave={(mark: Mark) => onChange({ ...load, mark })}
          />
          <NumberField
            label="order, 1 is the last to go"
            value={load.order ?? null}
            unit=""
            width="w-10"
            onSave={(order) => onChange({ ...load, order })}
            onEmpty={() => onChange({ ...load, order: null })}
          />
        </>
      )}
    </div>
  );
}
