import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import { isToInput, type Lead, type ToInput } from "../feed/feedFields";
import { Joints } from "../feed/Joints";
import { outletsOf, sourceKey, sourcesOf, splitSource } from "../feed/leads";
import { CHARGING } from "./fields/place";
import { Parts, useRoom } from "./Parts";
import { useGear } from "./useGear";

const KINDS = ["generator", "station", "vehicle", "circuit"] as const;

/** Leads into the inputs of stations: from a circuit, a generator, another station, a vehicle. */
export function Recharges({ onAdd }: { onAdd: (name: string, lead: Lead) => void }) {
  const { view } = useDesk();
  const room = useRoom("leads");
  const fresh = useGear()?.fresh.charging;
  const plan = view.plan;
  const sources = sourcesOf(plan, KINDS);
  const stations = Object.entries(plan.stations ?? {});
  const inputs = stations.flatMap(([station, item]) =>
    Object.keys(item.ac_inputs ?? {}).map(
      (input) => [`${station}/${input}`, `${item.name}, ${input}`] as const,
    ),
  );
  const direct = stations.flatMap(([station, item]) =>
    Object.keys(item.dc_inputs ?? {}).map(
      (input) => [`${station}/${input}`, `${item.name}, ${input} (direct current)`] as const,
    ),
  );
  const into = (joined: string) => {
    const [station_id, input_id] = joined.split("/");
    return { station_id: station_id ?? "", input_id: input_id ?? "" };
  };
  const charging = Object.entries(room.parts).filter(([, lead]) => isToInput(lead.to));
  const named = Object.fromEntries(
    charging.map(([id, lead]) => [id, { ...lead, name: lead.name ?? `lead ${id}` }]),
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
        const to = { ...(fresh.to as ToInput), ...into(input[0]) };
        onAdd(name, { ...(fresh as Lead), name, source: splitSource(joined), to });
      }}
      onRemove={room.remove}
    >
      {(id, lead) => {
        const to = lead.to as ToInput;
        const outlets = Object.entries(outletsOf(plan, lead.source));
        const set = (part: Partial<ToInput>) => room.set(id, { to: { ...to, ...part } });
        return (
          <>
            <div className="flex flex-wrap gap-x-5">
              <ChoiceField
                label="from"
                value={sourceKey(lead.source)}
                choices={sources}
                onSave={(joined) => room.set(id, { source: splitSource(joined) })}
              />
              {outlets.length > 0 && lead.source.kind !== "circuit" && lead.source.kind !== "vehicle" && (
                <ChoiceField
                  label="its outlet"
                  value={lead.source.outlet ?? ""}
                  choices={[
                    ["", "not said"] as const,
                    ...outlets.map(([key, item]) => [key, `${item.kind}, ${item.rating_a} A`] as const),
                  ]}
                  onSave={(outlet) => room.set(id, { source: { ...lead.source, outlet: outlet || null } })}
                />
              )}
              <ChoiceField
                label="into"
                value={`${to.station_id}/${to.input_id}`}
                choices={lead.source.kind === "vehicle" ? [...inputs, ...direct] : inputs}
                onSave={(joined) => set(into(joined))}
              />
            </div>
            <Joints id={id} lead={room.parts[id] ?? lead} />
            <Fields value={lead} fields={NAME} set={(part) => room.set(id, part)} />
            <Fields value={to} fields={CHARGING} set={set} />
          </>
        );
      }}
    </Parts>
  );
}

const NAME = [{ key: "name", label: "name" }] as const;
