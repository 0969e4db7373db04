import { useMutation, useQuery } from "@tanstack/react-query";
import { Calculator } from "lucide-react";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { answer, client, type Plan, type PlanView } from "../api/client";
import { useDesk } from "../api/plan";
import type { components } from "../api/schema.gen";

type SumView = components["schemas"]["SumView"];
const fine = new Intl.NumberFormat("en-US", { maximumSignificantDigits: 4 });

/** Figures of the plan that stand in for the defaults of a sum, by key. */
function fromPlan(view: PlanView): Record<string, number | undefined> {
  const station = Object.values(view.plan.stations ?? {})[0];
  const feed = Object.values(view.plan.feeds ?? {})[0];
  const array = Object.values(view.plan.arrays ?? {})[0];
  const bank = station?.bank;
  return {
    energy: view.capacity_wh > 0 ? view.capacity_wh : undefined,
    idle: station?.idle_w,
    efficiency: station ? 100 * station.inverter_efficiency : undefined,
    cutoff: station?.cutoff_percent,
    load: view.verdict.mean_w ? Math.round(view.verdict.mean_w) : undefined,
    pack: Object.values(station?.packs ?? {})[0]?.nameplate_wh,
    rated: station?.rated_va,
    length: feed?.cords[0]?.length_m,
    awg: feed?.cords[0]?.awg,
    voc: array?.module.voc_v,
    series: array?.series,
    beta: array?.module.voc_percent_per_k ?? undefined,
    limit: view.plan.stations?.[array?.station_id ?? ""]?.dc_inputs?.[array?.input_id ?? ""]?.high_v,
    coldest: view.plan.site.design_low_c ?? undefined,
    volts: bank?.lowest_v,
    cycles: station?.cycle_life ?? undefined,
    price: station?.price ?? undefined,
  };
}

/** Results that can be put back into the plan: sum and label → the edit. */
const BACK: Record<string, (plan: Plan, value: number) => Plan> = {
  "packs packs": (plan, value) => {
    const [id, station] = Object.entries(plan.stations ?? {})[0] ?? [];
    const [packId, pack] = Object.entries(station?.packs ?? {})[0] ?? [];
    if (!id || !station || !packId || !pack || value < 1) return plan;
    const packs = { ...station.packs, [packId]: { ...pack, count: Math.round(value) } };
    return { ...plan, stations: { ...plan.stations, [id]: { ...station, packs } } };
  },
  "string most in series": (plan, value) => {
    const [id, array] = Object.entries(plan.arrays ?? {})[0] ?? [];
    if (!id || !array || value < 1) return plan;
    return { ...plan, arrays: { ...plan.arrays, [id]: { ...array, series: Math.round(value) } } };
  },
};

/** Quick sums of the trade, at hand on every screen. */
export function Sums() {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("runtime");
  const sums = useQuery({
    queryKey: ["sums"],
    queryFn: () => answer(client.GET("/api/sums")),
    staleTime: Number.POSITIVE_INFINITY,
    enabled: open,
  });
  const chosen = sums.data?.find((item) => item.name === name);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="act inline-flex items-center" aria-label="Sums">
        <Calculator size={16} aria-hidden />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-0 right-0 bottom-0 z-30 w-[min(100vw,420px)] overflow-auto border-l border-ink bg-paper p-5"
        >
          <div className="flex items-baseline justify-between border-b border-ink pb-1">
            <Dialog.Title className="text-[1rem] font-[650]">Sums</Dialog.Title>
            <Dialog.Close className="act">Close</Dialog.Close>
          </div>
          <label className="block py-2">
            <span className="sr-only">Which sum</span>
            <select className="field w-full" value={name} onChange={(event) => setName(event.target.value)}>
              {(sums.data ?? []).map((item) => (
                <option key={item.name} value={item.name}>
                  {item.title}
                </option>
              ))}
            </select>
          </label>
          {chosen && <OneSum key={chosen.name} sum={chosen} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function OneSum({ sum }: { sum: SumView }) {
  const { view, edit } = useDesk();
  const plan = fromPlan(view);
  const [figures, setFigures] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      sum.given.map((item) => {
        const value = plan[item.key] ?? item.default;
        return [item.key, `${Math.round(value * 1000) / 1000}${item.unit ? ` ${item.unit}` : ""}`];
      }),
    ),
  );
  const work = useMutation({
    mutationFn: (now: Record<string, string>) =>
      answer(client.POST("/api/sums/{name}", { params: { path: { name: sum.name } }, body: now })),
  });
  const mutate = work.mutate;
  useEffect(() => {
    const soon = setTimeout(() => mutate(figures), 150);
    return () => clearTimeout(soon);
  }, [figures, mutate]);
  return (
    <>
      {sum.given.map((item) => (
        <label key={item.key} className="flex items-baseline justify-between gap-3 py-0.5">
          <span className="text-faint">{item.label}</span>
          <input
            className="field w-32 text-right"
            value={figures[item.key] ?? ""}
            onChange={(event) => setFigures({ ...figures, [item.key]: event.target.value })}
          />
        </label>
      ))}
      {work.isError ? (
        <p role="alert" className="mt-3 text-stop">
          {work.error.message}
        </p>
      ) : (
        <dl className="mt-3 border-t border-ink pt-1" data-testid="sum">
          {(work.data ?? []).map((item) => {
            const back = BACK[`${sum.name} ${item.label}`];
            return (
              <div key={`${item.label} ${item.unit}`} className="flex items-baseline justify-between gap-3">
                <dt>{item.label}</dt>
                <dd className="font-semibold">
                  {fine.format(item.value)} {item.unit}{" "}
                  {back && (
                    <button
                      type="button"
                      className="act"
                      onClick={() => edit((now) => back(now, item.value))}
                    >
                      Put into the plan
                    </button>
                  )}
                </dd>
              </div>
            );
          })}
        </dl>
      )}
      <p className="mt-2 text-[12px] text-faint">
        {sum.source}. Figures begin from the plan where it has them; units may be written.
      </p>
    </>
  );
}
