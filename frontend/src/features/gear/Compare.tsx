import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type GearLibrary } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { percent, whole } from "../../ui/format";
import { NumberField } from "../../ui/NumberField";
import { told, useUnits } from "../../ui/quantity";

type Option = components["schemas"]["Option"];

/** Two to four stations side by side, at this house's load or a stated one. */
export function Compare({ gear }: { gear: GearLibrary }) {
  const classes = gear.stations;
  const { view } = useDesk();
  const own = Object.entries(view.plan.stations ?? {});
  const [chosen, setChosen] = useState<string[]>(own.slice(0, 1).map(([id]) => id));
  const [meanW, setMeanW] = useState<number | null>(null);
  const [engine, setEngine] = useState<string | undefined>();
  const units = useUnits();
  const found = useQuery({
    queryKey: ["compare", view.id, view.revision, chosen, meanW, engine],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/compare", {
          params: {
            path: { plan_id: view.id },
            query: { option: chosen, generator: engine, ...(meanW === null ? {} : { mean_w: meanW }) },
          },
        }),
      ),
    placeholderData: (before) => before,
    enabled: chosen.length > 0,
  });
  const choices = [
    ...own.map(([id, station]) => [id, station.name] as const),
    ...classes.map((item) => [item.class_id, item.station.name] as const),
    ...classes
      .filter((item) => item.station.output === "120")
      .map((item) => [`pair:${item.class_id}`, `two linked: ${item.station.name}`] as const),
  ];
  const engines = [
    ...Object.entries(view.plan.generators ?? {}).map(([id, item]) => [id, item.name] as const),
    ...gear.generators.map((item) => [item.class_id, item.generator.name] as const),
  ];
  const hours = (value: number | null) => (value === null ? "" : `${value.toFixed(1)} h`);
  const rows: readonly (readonly [string, (option: Option) => string])[] = [
    ["output", (o) => `${o.output} V`],
    ["arrives as AC", (o) => `${whole(o.delivered_wh)} Wh`],
    ["full and alone, with nothing that recharges it, it lasts", (o) => hours(o.runtime_h)],
    ["limit of a leg", (o) => `${whole(o.leg_va)} VA`],
    ["start it carries", (o) => `${whole(o.start_va)} VA`],
    ["idle draw takes", (o) => percent(o.idle_share)],
    ["empty to full by the wall", (o) => hours(o.recharge_h)],
    ["empty to full by all the sun it takes", (o) => hours(o.recharge_sun_h)],
    [
      "with the generator, for as long as there is fuel",
      (o) =>
        o.generator_h_day == null
          ? ""
          : `${o.generator_h_day.toFixed(1)} h, ${told(o.fuel_l_day ?? 0, "L", units)} a day`,
    ],
    ["fuel in the house lasts", (o) => (o.fuel_days == null ? "" : `${o.fuel_days.toFixed(1)} days`)],
    ["weighs", (o) => (o.weight_kg === null ? "" : told(o.weight_kg, "kg", units))],
    ["noise", (o) => (o.noise_db === null ? "" : `${whole(o.noise_db)} dB`)],
    ["price of a kWh stored", (o) => (o.price_per_kwh === null ? "" : whole(o.price_per_kwh))],
    [
      "price of a kWh over its life",
      (o) => (o.price_per_kwh_life === null ? "" : o.price_per_kwh_life.toFixed(2)),
    ],
    ["when you move", (o) => (o.moves_with_you ? "goes along" : "two people lift it")],
  ];
  const options = found.data?.options ?? [];
  return (
    <details className="mb-6 border-l-2 border-rule pl-3">
      <summary className="min-h-[26px] cursor-pointer">Compare stations side by side</summary>
      <div className="flex flex-wrap items-baseline gap-x-4 py-1">
        <label className="inline-flex items-baseline gap-2">
          <span className="text-faint">add to the comparison</span>
          <select
            className="field"
            value=""
            onChange={(event) => {
              const id = event.target.value;
              if (id && !chosen.includes(id)) setChosen([...chosen, id].slice(-4));
            }}
          >
            <option value="">choose</option>
            {choices.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <NumberField
          label="at a mean load of"
          value={meanW ?? Math.round(found.data?.mean_w ?? 0)}
          unit="W"
          onSave={setMeanW}
        />
        <label className="inline-flex items-baseline gap-2">
          <span className="text-faint">and a generator</span>
          <select
            className="field"
            value={found.data?.generator ?? "none"}
            onChange={(event) => setEngine(event.target.value)}
          >
            <option value="none">none</option>
            {engines.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="relative overflow-x-auto">
        <table className="w-full text-right" data-testid="compare">
          <thead>
            <tr className="border-b border-ink">
              <th className="text-left font-normal text-faint">at this load</th>
              {options.map((option, index) => (
                <th key={chosen[index]} className="named py-1 pl-3 font-semibold">
                  {option.name}{" "}
                  <button
                    type="button"
                    className="act"
                    aria-label={`Leave ${option.name} out`}
                    onClick={() => setChosen(chosen.filter((_, at) => at !== index))}
                  >
                    ×
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([words, say]) => (
              <tr key={words} className="border-b border-rule">
                <td className="text-left text-faint">{words}</td>
                {options.map((option, index) => (
                  <td key={chosen[index]} className="pl-3">
                    {say(option)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {chosen.some((id) => id.startsWith("pair:")) && (
        <p className="text-[12px] text-faint">
          Linked units: the first to be empty stops both, so these hours need balanced legs; most kits refuse
          AC charging while they are on.
        </p>
      )}
    </details>
  );
}
