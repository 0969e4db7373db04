import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { leadWords } from "../feed/leads";
import { SpanFields } from "./SpanFields";

type Outage = Plan["outage"];
type Incident = NonNullable<Outage["incidents"]>[string];

const KINDS = [
  ["cord_unplugged", "the cord comes out"],
  ["door_open", "a door is left open"],
] as const;

/** Things that go wrong on purpose, to see what the plan makes of them. */
export function Incidents({ outage, change }: { outage: Outage; change: (part: Partial<Outage>) => void }) {
  const { view } = useDesk();
  const incidents = outage.incidents ?? {};
  const cold = Object.entries(view.plan.loads ?? {})
    .filter(([, load]) => ["cycling", "refrigerating"].includes(load.behaviour.kind ?? ""))
    .map(([id, load]) => [id, load.name] as const);
  const leads = Object.entries(view.plan.leads ?? {})
    .filter(([, lead]) => lead.to.end !== "input")
    .map(([id]) => [id, leadWords(view.plan, id)] as const);
  const set = (id: string, part: Partial<Incident>) =>
    change({ incidents: { ...incidents, [id]: { ...(incidents[id] as Incident), ...part } } });
  const add = () => {
    let number = 1;
    while (incidents[`incident-${number}`]) number += 1;
    const incident: Incident = { kind: "cord_unplugged", at_s: 6 * 3600, for_s: 600 };
    change({ incidents: { ...incidents, [`incident-${number}`]: incident } });
  };
  const remove = (id: string) =>
    change({ incidents: Object.fromEntries(Object.entries(incidents).filter(([key]) => key !== id)) });
  return (
    <fieldset className="py-1">
      <legend className="text-faint">Incidents</legend>
      {Object.entries(incidents).map(([id, incident]) => (
        <div key={id} className="flex flex-wrap items-baseline gap-x-4">
          <ChoiceField
            label="what"
            value={incident.kind}
            choices={KINDS}
            onSave={(kind) =>
              set(id, { kind, lead_id: null, load_id: kind === "door_open" ? (cold[0]?.[0] ?? null) : null })
            }
          />
          {incident.kind === "cord_unplugged" && leads.length > 1 && (
            <ChoiceField
              label="of"
              value={incident.lead_id ?? ""}
              choices={[["", "everything that is fed"], ...leads]}
              onSave={(lead_id) => set(id, { lead_id: lead_id || null })}
            />
          )}
          {incident.kind === "door_open" && (
            <ChoiceField
              label="of"
              value={incident.load_id ?? ""}
              choices={cold}
              onSave={(load_id) => set(id, { load_id })}
            />
          )}
          <SpanFields span={incident} set={(part) => set(id, part)} remove={() => remove(id)} />
        </div>
      ))}
      <button type="button" className="act" onClick={add}>
        Add an incident
      </button>
    </fieldset>
  );
}
