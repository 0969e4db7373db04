import { useDesk } from "../../api/plan";
import { without } from "../../api/without";
import { isToInput, type Lead, type ToInput } from "../feed/feedFields";
import { leadWords, sourcesOf, splitSource } from "../feed/leads";
import { CHARGES, Charging, inputsOf, splitInput } from "./Charging";
import { Parts, useRoom } from "./Parts";
import { useGear } from "./useGear";

/** Leads into the inputs of stations: from a circuit, a generator, another station, a vehicle. */
export function Recharges({ onAdd }: { onAdd: (name: string, lead: Lead) => void }) {
  const { view, edit } = useDesk();
  const room = useRoom("leads");
  const fresh = useGear()?.fresh.charging;
  const plan = view.plan;
  const sources = sourcesOf(plan, CHARGES);
  const inputs = inputsOf(plan);
  const charging = Object.entries(room.parts).filter(([, lead]) => isToInput(lead.to));
  const named = Object.fromEntries(
    charging.map(([id, lead]) => [id, { ...lead, name: leadWords(plan, id) }]),
  );
  return (
    <Parts
      title="Recharging"
      room="leads"
      parts={named}
      choices={sources.map(([key, name]) => [key, `from ${name}`])}
      onAdd={(joined) => {
        const input = inputs.find(([key]) => !joined.endsWith(`station/${key.split("/")[0]}`));
        if (!input || !fresh) return;
        const name = `from ${sources.find(([key]) => key === joined)?.[1] ?? "a source"}`;
        const to = { ...(fresh.to as ToInput), ...splitInput(input[0]) };
        onAdd(name, { ...(fresh as Lead), name, source: splitSource(joined), to });
      }}
      onRemove={(id) => edit((now) => without(now, "leads", id))}
    >
      {(id) => {
        const lead = room.parts[id];
        return lead && <Charging id={id} lead={lead} />;
      }}
    </Parts>
  );
}
