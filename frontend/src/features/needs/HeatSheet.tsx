import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Load } from "../../api/client";
import { useDesk } from "../../api/plan";
import { percent, tenth, whole } from "../../ui/format";
import { NumberField } from "../../ui/NumberField";

const WAYS = [
  ["known", "known in W/K"],
  ["fuel", "from last winter's fuel"],
  ["run", "from how long the heater ran"],
] as const;
const FUELS = [
  "natural_gas",
  "natural_gas_m3",
  "propane",
  "heating_oil",
  "wood_pellets",
  "electricity",
] as const;

/** Heat loss of the house from one of three, and what the furnace takes in electricity. */
export function HeatSheet() {
  const { view, edit } = useDesk();
  const [way, setWay] = useState<(typeof WAYS)[number][0]>("known");
  const [loss, setLoss] = useState(200);
  const [fuel, setFuel] = useState<(typeof FUELS)[number]>("natural_gas");
  const [amount, setAmount] = useState(600);
  const [degreeDays, setDegreeDays] = useState(2500);
  const [fraction, setFraction] = useState(40);
  const [outdoor, setOutdoor] = useState(0);
  const [output, setOutput] = useState(15_000);
  const [run, setRun] = useState(600);
  const ask = useMutation({
    mutationFn: () => {
      const common = { output_w: output, run_w: run, efficiency: 0.85, set_c: 20, gain_w: 400 };
      const rest = { extra_wh_per_cycle: 5, setback_c: 16, setback_hours: 8 };
      const by = {
        known: { loss_w_per_k: loss },
        fuel: { fuel, fuel_amount: amount, degree_days_k: degreeDays },
        run: { run_fraction: fraction / 100, run_fraction_outdoor_c: outdoor },
      }[way];
      return answer(client.POST("/api/heat", { body: { ...common, ...rest, ...by } }));
    },
  });
  const heaters = Object.entries(view.plan.loads ?? {}).filter(([, load]) =>
    /furnace|boiler|heat/i.test(load.name),
  );
  const use = (id: string, load: Load, lossWPerK: number) => {
    const behaviour = {
      kind: "thermostatic",
      loss_w_per_k: Math.round(lossWPerK),
      output_w: output,
      run_w: run,
      before: [
        { name: "inducer", watts: 70, seconds: 30 },
        { name: "igniter", watts: 300, seconds: 20 },
      ],
      after: [{ name: "post-purge", watts: 70, seconds: 30 }],
    };
    edit((plan) => ({
      ...plan,
      loads: { ...plan.loads, [id]: { ...load, origin: "estimate", behaviour } as unknown as Load },
    }));
  };
  return (
    <section aria-label="Furnace" className="mb-5">
      <h2 className="border-b border-ink pb-1">Furnace or boiler</h2>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 pt-1">
        <label className="inline-flex items-baseline gap-1">
          <span className="text-faint">heat loss of the house</span>
          <select
            className="field"
            value={way}
            onChange={(event) => setWay(event.target.value as typeof way)}
          >
            {WAYS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        {way === "known" && <NumberField label="W/K" value={loss} unit="" onSave={setLoss} />}
        {way === "fuel" && (
          <>
            <select
              className="field"
              aria-label="fuel"
              value={fuel}
              onChange={(event) => setFuel(event.target.value as typeof fuel)}
            >
              {FUELS.map((name) => (
                <option key={name} value={name}>
                  {name.replaceAll("_", " ")}
                </option>
              ))}
            </select>
            <NumberField label="used (therm, litre, kg)" value={amount} unit="" onSave={setAmount} />
            <NumberField label="degree days (°C)" value={degreeDays} unit="" onSave={setDegreeDays} />
          </>
        )}
        {way === "run" && (
          <>
            <NumberField label="ran" value={fraction} unit="%" width="w-12" onSave={setFraction} />
            <NumberField label="at °C outside" value={outdoor} unit="" width="w-12" onSave={setOutdoor} />
          </>
        )}
        <NumberField label="heat output" value={output} unit="W" onSave={setOutput} />
        <NumberField label="electricity while heating" value={run} unit="W" onSave={setRun} />
        <button type="button" className="act font-semibold" onClick={() => ask.mutate()}>
          Work it out
        </button>
      </div>
      {ask.isError && (
        <p role="alert" className="text-stop">
          {ask.error.message}
        </p>
      )}
      {ask.data && (
        <div data-testid="heat">
          <p className="mt-1">
            The house loses <strong>{whole(ask.data.loss_w_per_k)} W/K</strong>.
          </p>
          <table className="w-full text-right">
            <thead className="text-faint">
              <tr className="border-b border-rule [&>th]:font-normal">
                <th className="text-left">outside</th>
                <th>runs</th>
                <th>cycles an hour</th>
                <th>Wh a day</th>
                <th>set back saves</th>
              </tr>
            </thead>
            <tbody>
              {ask.data.days.map((day) => (
                <tr key={day.outdoor_c}>
                  <td className="text-left">{day.outdoor_c} °C</td>
                  <td>{day.short ? "cannot keep up" : percent(day.run_fraction)}</td>
                  <td>{tenth(day.cycles_per_hour)}</td>
                  <td>{whole(day.electrical_wh)}</td>
                  <td>up to {percent(day.setback_saving)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {heaters.map(([id, load]) => (
            <button
              key={id}
              type="button"
              className="act mr-3"
              onClick={() => use(id, load, ask.data.loss_w_per_k)}
            >
              Run {load.name} by this thermostat
            </button>
          ))}
        </div>
      )}
    </section>
  );
}
