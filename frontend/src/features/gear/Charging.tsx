import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import type { Lead, ToInput } from "../feed/feedFields";
import { Joints } from "../feed/Joints";
import { outletsOf, sourceKey, sourcesOf, splitSource } from "../feed/leads";
import { CHARGING } from "./fields/place";
import { useRoom } from "./Parts";

/** What a station may be recharged from. */
export const CHARGES = ["generator", "station", "vehicle", "circuit"] as const;

/** AC inputs of all stations, or their inputs of direct current, by name. */
export function inputsOf(plan: Plan, direct = false): (readonly [string, string])[] {
  return Object.entries(plan.stations ?? {}).flatMap(([station, item]) =>
    Object.keys((direct ? item.dc_inputs : item.ac_inputs) ?? {}).map(
      (input) =>
        [`${station}/${input}`, `${item.name}, ${input}${direct ? " (direct current)" : ""}`] as const,
    ),
  );
}

export function splitInput(joined: string) {
  const [station_id, input_id] = joined.split("/");
  return { station_id: station_id ?? "", input_id: input_id ?? "" };
}

const NAME = [{ key: "name", label: "name" }] as const;

/** A lead into an input of a station: from where, through what, how hard and when. */
export function Charging({ id, lead }: { id: string; lead: Lead }) {
  const { view } = useDesk();
  const room = useRoom("leads");
  const plan = view.plan;
  const to = lead.to as ToInput;
  const outlets = Object.entries(outletsOf(plan, lead.source));
  const set = (part: Partial<ToInput>) => room.set(id, { to: { ...to, ...part } });
  const vehicle = lead.source.kind === "vehicle";
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-x-5">
        <ChoiceField
          label="from"
          value={sourceKey(lead.source)}
          choices={sourcesOf(plan, CHARGES)}
          onSave={(joined) => room.set(id, { source: splitSource(joined) })}
        />
        {outlets.length > 0 && lead.source.kind !== "circuit" && !vehicle && (
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
          choices={vehicle ? [...inputsOf(plan), ...inputsOf(plan, true)] : inputsOf(plan)}
          onSave={(joined) => set(splitInput(joined))}
        />
      </div>
      <Joints id={id} lead={lead} />
      <Fields value={{ name: lead.name ?? "" }} fields={NAME} set={(part) => room.set(id, part)} />
      <Fields value={to} fields={CHARGING} set={set} />
    </div>
  );
}
