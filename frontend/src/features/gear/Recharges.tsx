import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import { RECHARGE } from "./fields/place";
import type { Recharge } from "./fields/types";
import { Parts, useRoom } from "./Parts";
import { useGear } from "./useGear";

/** From where stations are recharged: a circuit, a generator, another station, a vehicle. */
export function Recharges({ onAdd }: { onAdd: (name: string, link: Recharge) => void }) {
  const { view } = useDesk();
  const room = useRoom("recharges");
  const fresh = useGear()?.fresh.recharge;
  const plan = view.plan;
  const sources = [
    ...Object.entries(plan.generators ?? {}).map(([id, item]) => [`generator/${id}`, item.name] as const),
    ...Object.entries(plan.stations ?? {}).map(([id, item]) => [`station/${id}`, item.name] as const),
    ...Object.entries(plan.vehicles ?? {}).map(([id, item]) => [`vehicle/${id}`, item.name] as const),
    ...Object.entries(plan.circuits ?? {}).map(
      ([id, item]) => [`circuit/${id}`, `breaker of ${item.label}`] as const,
    ),
  ];
  const inputs = Object.entries(plan.stations ?? {}).flatMap(([station, item]) =>
    Object.keys(item.ac_inputs ?? {}).map(
      (input) => [`${station}/${input}`, `${item.name}, ${input}`] as const,
    ),
  );
  const direct = Object.entries(plan.stations ?? {}).flatMap(([station, item]) =>
    Object.keys(item.dc_inputs ?? {}).map(
      (input) => [`${station}/${input}`, `${item.name}, ${input} (direct current)`] as const,
    ),
  );
  const from = (joined: string) => {
    const [kind, from_id] = joined.split("/");
    return { kind: kind as Recharge["kind"], from_id: from_id ?? "" };
  };
  const into = (joined: string) => {
    const [station_id, input_id] = joined.split("/");
    return { station_id: station_id ?? "", input_id: input_id ?? "" };
  };
  return (
    <Parts
      title="Recharging"
      room="recharges"
      parts={room.parts}
      choices={sources.map(([key, name]) => [key, `from ${name}`])}
      onAdd={(joined) => {
        const input = inputs.find(([key]) => !joined.endsWith(`station/${key.split("/")[0]}`));
        if (!input || !fresh) return;
        const name = `from ${sources.find(([key]) => key === joined)?.[1] ?? "a source"}`;
        onAdd(name, { ...fresh, name, ...from(joined), ...into(input[0]) });
      }}
      onRemove={room.remove}
    >
      {(id, link) => (
        <>
          <div className="flex flex-wrap gap-x-5">
            <ChoiceField
              label="from"
              value={`${link.kind}/${link.from_id}`}
              choices={sources}
              onSave={(joined) => room.set(id, from(joined))}
            />
            <ChoiceField
              label="into"
              value={`${link.station_id}/${link.input_id}`}
              choices={link.kind === "vehicle" ? [...inputs, ...direct] : inputs}
              onSave={(joined) => room.set(id, into(joined))}
            />
          </div>
          <Fields value={link} fields={RECHARGE} set={(part) => room.set(id, part)} />
        </>
      )}
    </Parts>
  );
}
