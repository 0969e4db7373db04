import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import { leadWords } from "../feed/leads";

type Outage = Plan["outage"];
type Act = NonNullable<Outage["acts"]>[string];
type Part = Pick<Act, "room" | "part_id" | "pack_id">;

/** Everything that someone may switch, plug or unplug, by one word each. */
function partsOf(plan: Plan): [string, string, Part][] {
  const found: [string, Part][] = [
    ...Object.entries(plan.stations ?? {}).flatMap(([id, station]): [string, Part][] => [
      [`output of ${station.name}`, { room: "stations", part_id: id, pack_id: null }],
      ...Object.entries(station.packs ?? {}).map(([key, pack]): [string, Part] => [
        `${pack.name} of ${station.name}`,
        { room: "stations", part_id: id, pack_id: key },
      ]),
    ]),
    ...Object.keys(plan.leads ?? {}).map((id): [string, Part] => [
      leadWords(plan, id),
      { room: "leads", part_id: id, pack_id: null },
    ]),
    ...Object.entries(plan.generators ?? {}).map(([id, item]): [string, Part] => [
      item.name,
      { room: "generators", part_id: id, pack_id: null },
    ]),
    ...Object.entries(plan.circuits ?? {}).map(([id, item]): [string, Part] => [
      `breaker of ${item.label}`,
      { room: "circuits", part_id: id, pack_id: null },
    ]),
    ...Object.entries(plan.loads ?? {}).map(([id, item]): [string, Part] => [
      item.name,
      { room: "loads", part_id: id, pack_id: null },
    ]),
  ];
  return found.map(([words, part]) => [keyOf(part), words, part]);
}

const keyOf = ({ room, part_id, pack_id }: Part) => [room, part_id, pack_id ?? ""].join("/");

/** What someone does, or did, at set hours: a part is switched off or on, plugged in or unplugged. */
export function Acts({ outage, change }: { outage: Outage; change: (part: Partial<Outage>) => void }) {
  const { view } = useDesk();
  const acts = outage.acts ?? {};
  const parts = partsOf(view.plan);
  const choices = parts.map(([key, words]) => [key, words] as const);
  const first = parts[0]?.[2];
  const set = (id: string, part: Partial<Act>) =>
    change({ acts: { ...acts, [id]: { ...(acts[id] as Act), ...part } } });
  const add = () => {
    let number = 1;
    while (acts[`act-${number}`]) number += 1;
    if (first) change({ acts: { ...acts, [`act-${number}`]: { ...first, at_s: 6 * 3600, turn: "off" } } });
  };
  const remove = (id: string) =>
    change({ acts: Object.fromEntries(Object.entries(acts).filter(([key]) => key !== id)) });
  return (
    <fieldset className="py-1">
      <legend className="text-faint">What someone does at set hours</legend>
      {Object.entries(acts).map(([id, act]) => (
        <div key={id} className="flex flex-wrap items-baseline gap-x-4">
          <ChoiceField
            label="part"
            value={keyOf(act)}
            choices={choices}
            onSave={(key) => set(id, parts.find(([other]) => other === key)?.[2] ?? {})}
          />
          <ChoiceField
            label="goes"
            value={act.turn}
            choices={[
              ["off", "off, or out"],
              ["on", "on, or in"],
            ]}
            onSave={(turn) => set(id, { turn })}
          />
          <NumberField
            label="after the start"
            value={act.at_s / 3600}
            unit="h"
            width="w-12"
            onSave={(hours) => set(id, { at_s: hours * 3600 })}
          />
          <button type="button" className="act" onClick={() => remove(id)}>
            Take away
          </button>
        </div>
      ))}
      {first && (
        <button type="button" className="act" onClick={add}>
          Add an act
        </button>
      )}
    </fieldset>
  );
}
