import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { ClockField, DateField } from "../../ui/ClockField";
import { NumberField } from "../../ui/NumberField";

const SHEDDING = [
  ["automatic", "by a controller, at once"],
  ["by_hand", "by hand, when someone is there"],
  ["none", "nobody"],
] as const;

const RESTORE = [
  ["one_at_a_time", "one at a time"],
  ["all_at_once", "all at once"],
] as const;

const OUTPUTS = [
  ["off", "off, until it is changed over"],
  ["on", "on"],
] as const;

/** Start, length, charge at the start, and how the household behaves. */
export function OutageFields() {
  const { view, edit } = useDesk();
  const { outage, strategy, stations } = view.plan;
  const change = (part: Partial<Plan["outage"]>) =>
    edit((plan) => ({ ...plan, outage: { ...plan.outage, ...part } }));
  const behave = (part: Partial<NonNullable<Plan["strategy"]>>) =>
    edit((plan) => ({ ...plan, strategy: { ...plan.strategy, ...part } as Plan["strategy"] }));
  return (
    <fieldset className="mb-3 flex flex-wrap gap-x-6 gap-y-1">
      <legend className="sr-only">The outage</legend>
      <DateField
        label="starts on"
        value={outage.start_local.slice(0, 10)}
        onSave={(day) => change({ start_local: `${day}T${outage.start_local.slice(11)}` })}
      />
      <ClockField
        label="starts at"
        value={outage.start_local.slice(11)}
        onSave={(at) => change({ start_local: `${outage.start_local.slice(0, 10)}T${at}` })}
      />
      <NumberField
        label="lasts"
        value={(outage.length_s ?? 0) / 3600}
        unit="h"
        width="w-12"
        onSave={(hours) => change({ length_s: hours * 3600 })}
      />
      {Object.entries(stations ?? {}).map(([id, station]) => (
        <span key={id} className="inline-flex flex-wrap gap-x-3">
          <NumberField
            label={`charge of ${station.name} at the start`}
            value={outage.start_charge_percent?.[id] ?? 100}
            unit="%"
            width="w-12"
            onSave={(charge) =>
              change({ start_charge_percent: { ...outage.start_charge_percent, [id]: charge } })
            }
          />
          {Object.entries(station.packs ?? {}).map(([pack, { name }]) => (
            <PackCharge key={pack} station={id} pack={pack} name={name} outage={outage} change={change} />
          ))}
        </span>
      ))}
      <ChoiceField
        label="outputs of stations at the start"
        value={outage.ac_on_at_start ? "on" : "off"}
        choices={OUTPUTS}
        onSave={(now) => change({ ac_on_at_start: now === "on" })}
      />
      <NumberField
        label="changed over after"
        value={(outage.changeover_after_s ?? 0) / 60}
        unit="min"
        width="w-12"
        onSave={(minutes) => change({ changeover_after_s: minutes * 60 })}
      />
      <ChoiceField
        label="breakers back on"
        value={outage.restore ?? "one_at_a_time"}
        choices={RESTORE}
        onSave={(restore) => change({ restore })}
      />
      <ChoiceField
        label="too much is shed"
        value={strategy?.shedding ?? "automatic"}
        choices={SHEDDING}
        onSave={(shedding) => behave({ shedding })}
      />
    </fieldset>
  );
}

interface PackProps {
  station: string;
  pack: string;
  name: string;
  outage: Plan["outage"];
  change: (part: Partial<Plan["outage"]>) => void;
}

/** A pack may begin at another charge than its station. */
function PackCharge({ station, pack, name, outage, change }: PackProps) {
  const own = outage.pack_charge_percent?.[station] ?? {};
  const put = (next: Record<string, number>) =>
    change({ pack_charge_percent: { ...outage.pack_charge_percent, [station]: next } });
  return (
    <NumberField
      label={`if other, of its ${name}`}
      value={own[pack] ?? null}
      unit="%"
      width="w-12"
      onSave={(charge) => put({ ...own, [pack]: charge })}
      onEmpty={() => put(Object.fromEntries(Object.entries(own).filter(([key]) => key !== pack)))}
    />
  );
}
