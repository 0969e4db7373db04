import { useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";

type Outage = Plan["outage"];
type Act = NonNullable<Outage["acts"]>[string];
type Part = Pick<Act, "room" | "part_id" | "pack_id" | "outlet_id" | "input_id">;

/** A part that someone switches, as the strip names it: room, id, then a pack, an outlet or an input. */
function partOf(value: string): Part {
  const [room, part_id = "", ...more] = value.split("/");
  const named = (kind: string) =>
    more.find((item) => item.startsWith(`${kind}:`))?.slice(kind.length + 1) ?? null;
  return {
    room: room as Act["room"],
    part_id,
    pack_id: more.find((item) => !item.includes(":")) ?? null,
    outlet_id: named("outlet"),
    input_id: named("input"),
  };
}

function keyOf({ room, part_id, pack_id, outlet_id, input_id }: Part): string {
  const inner = [pack_id, outlet_id && `outlet:${outlet_id}`, input_id && `input:${input_id}`];
  return [room, part_id, ...inner].filter(Boolean).join("/");
}

/** Everything that someone may switch, plug or unplug, by one word each. */
function useSwitched(): (readonly [string, string])[] {
  const { view } = useDesk();
  const path = { plan_id: view.id };
  const blocks = useQuery({
    queryKey: ["blocks", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/blocks", { params: { path } })),
    placeholderData: (before) => before,
  });
  const lane = blocks.data?.find(({ lane }) => lane === "acts");
  return (lane?.parts ?? []).map(({ value, name }) => [value, name] as const);
}

/** What someone does, or did, at set hours: a part is switched off or on, plugged in or unplugged. */
export function Acts({ outage, change }: { outage: Outage; change: (part: Partial<Outage>) => void }) {
  const acts = outage.acts ?? {};
  const choices = useSwitched();
  const first = choices[0] && partOf(choices[0][0]);
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
            onSave={(key) => set(id, partOf(key))}
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
