import { useGear } from "../../api/library";
import { useDesk } from "../../api/plan";
import { isToInput, type Lead, type ToInput } from "../feed/feedFields";
import { leadWords, sourcesOf, splitSource } from "../feed/leads";
import { CHARGES, Charging, inputsOf, splitInput } from "./Charging";
import { Parts, useRoom } from "./Parts";

/** Leads into the inputs of stations: from a circuit, a generator, another station, a vehicle. */
export function Recharges({ onAdd }: { onAdd: (name: string, lead: Lead) => void }) {
  const { view } = useDesk();
  const room = useRoom("leads");
  const fresh = useGear().fresh.charging;
  const plan = view.plan;
  const inputs = inputsOf(plan);
  const inputFor = (source: string) =>
    inputs.find(([key]) => !source.endsWith(`station/${key.split("/")[0]}`))?.[0];
  const sources = sourcesOf(plan, CHARGES).filter(([key]) => inputFor(key));
  const charging = Object.entries(room.parts).filter(([, lead]) => isToInput(lead.to));
  const named = Object.fromEntries(
    charging.map(([id, lead]) => [id, { ...lead, name: leadWords(plan, id) }]),
  );
  return (
    <Parts
      title="Recharging"
      room="leads"
      parts={named}
      none="What charges comes first: modules, an engine, a vehicle or the utility, and a station with an input."
      choices={sources.map(([key, name]) => [key, `from ${name}`])}
      onAdd={(joined) => {
        const input = inputFor(joined);
        if (!input) return;
        const name = `from ${sources.find(([key]) => key === joined)?.[1] ?? "a source"}`;
        const to = { ...(fresh.to as ToInput), ...splitInput(input) };
        onAdd(name, { ...(fresh as Lead), name, source: splitSource(joined), to });
      }}
      onRemove={room.remove}
    >
      {(id) => {
        const lead = room.parts[id];
        return lead && <Charging id={id} lead={lead} />;
      }}
    </Parts>
  );
}
