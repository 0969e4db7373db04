import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Load } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { percent, tenth, whole } from "../../ui/format";
import { told, useUnits } from "../../ui/quantity";
import { LossFields } from "./LossFields";

type Answer = components["schemas"]["HeaterAnswer"];
export type Loss = components["schemas"]["HeaterQuestion"]["loss"];
type Thermostatic = Extract<Load["behaviour"], { kind?: "thermostatic" }>;

/** The furnace or boiler: loss of the house from one of three, electricity by day, worst moment. */
export function HeaterSheet({ loadId }: { loadId: string }) {
  const { view, edit } = useDesk();
  const [loss, setLoss] = useState<Loss | null>(null);
  const library = useQuery({
    queryKey: ["heaters"],
    queryFn: () => answer(client.GET("/api/library/heaters")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const ask = useMutation({
    mutationFn: (question: components["schemas"]["HeaterQuestion"]) =>
      answer(
        client.POST("/api/plans/{plan_id}/heater", {
          params: { path: { plan_id: view.id } },
          body: question,
        }),
      ),
  });
  const load = view.plan.loads?.[loadId];
  if (!load) return null;
  const spec = load.behaviour.kind === "thermostatic" ? load.behaviour : null;
  const put = (part: Partial<Load>) =>
    edit((plan) => ({ ...plan, loads: { ...plan.loads, [loadId]: { ...load, ...part } as Load } }));
  const chosen = (id: string) => {
    const found = library.data?.heaters.find((item) => item.heater_id === id);
    if (!found) return;
    const house = spec && { loss_w_per_k: spec.loss_w_per_k, gain_w: spec.gain_w, set_c: spec.set_c };
    put({
      behaviour: { ...found.behaviour, ...house },
      start: found.start,
      origin: "library",
    } as Partial<Load>);
  };
  return (
    <section aria-label="Heater" className="mb-5">
      <h2 className="border-b border-ink pb-1">Heater: {load.name}</h2>
      <label className="mt-1 flex items-baseline gap-2">
        <span className="text-faint">begin from a typical</span>
        <select className="field" value="" onChange={(event) => chosen(event.target.value)}>
          <option value="">choose</option>
          {(library.data?.heaters ?? []).map((item) => (
            <option key={item.heater_id} value={item.heater_id}>
              {item.name}
            </option>
          ))}
        </select>
      </label>
      {!spec && (
        <p className="text-faint">
          Choose its class, or let it behave by a thermostat, to see what it takes by outdoor temperature.
        </p>
      )}
      {spec && (
        <>
          <LossFields spec={spec} fuels={library.data?.fuels ?? []} onLoss={setLoss} />
          <button
            type="button"
            className="act font-semibold"
            onClick={() =>
              ask.mutate({
                load_id: loadId,
                behaviour: spec,
                start: load.start ?? null,
                standby_w: 0,
                loss: loss ?? { basis: "known", loss_w_per_k: spec.loss_w_per_k },
              })
            }
          >
            Work it out
          </button>
        </>
      )}
      {ask.isError && (
        <p role="alert" className="text-stop">
          {ask.error.message}
        </p>
      )}
      {ask.data && spec && (
        <Worked found={ask.data} spec={spec} onUse={(behaviour) => put({ behaviour, origin: "estimate" })} />
      )}
    </section>
  );
}

interface WorkedProps {
  found: Answer;
  spec: Thermostatic;
  onUse: (behaviour: Thermostatic) => void;
}

function Worked({ found, spec, onUse }: WorkedProps) {
  const units = useUnits();
  const worst = found.worst;
  const together = worst.others_w + worst.heater_w;
  const starting = worst.others_w + worst.start_va;
  const different = Math.abs(found.loss_w_per_k - spec.loss_w_per_k) > 0.5;
  return (
    <div data-testid="heater">
      <p className="mt-1">
        The house loses <strong>{whole(found.loss_w_per_k)} W/K</strong>.{" "}
        {different && (
          <button type="button" className="act" onClick={() => onUse(found.behaviour as Thermostatic)}>
            Take that into the plan
          </button>
        )}
      </p>
      <p>
        Worst on leg {worst.legs.join(" and ")}: {whole(together)} W with everything kept on
        {worst.limit_va != null && ` of ${whole(worst.limit_va)} VA`}; at its start {whole(starting)} VA
        {worst.carried_va != null && ` of ${whole(worst.carried_va)} VA carried that long`}.
        {worst.carried_va != null && starting > worst.carried_va && (
          <strong className="text-caution"> Its start may trip the station.</strong>
        )}
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
          {found.days.map((day) => (
            <tr key={day.outdoor_c}>
              <td className="text-left">{told(day.outdoor_c, "°C", units)}</td>
              <td>{day.short ? "cannot keep up" : percent(day.run_fraction)}</td>
              <td>{tenth(day.cycles_per_hour)}</td>
              <td>{whole(day.electrical_wh)}</td>
              <td>{day.setback_saving > 0 ? `up to ${percent(day.setback_saving)}` : "nothing"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
