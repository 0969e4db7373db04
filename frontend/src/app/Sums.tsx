import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Calculator } from "lucide-react";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { answer, client, type Plan } from "../api/client";
import { applyPatch } from "../api/patch";
import { useDesk } from "../api/plan";
import type { components } from "../api/schema.gen";

type SumView = components["schemas"]["SumView"];
type SumOfPlan = components["schemas"]["SumOfPlan"];
const fine = new Intl.NumberFormat("en-US", { maximumSignificantDigits: 4 });

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

/** One sum, about one part of the plan: its figures begin from that part. */
function OneSum({ sum }: { sum: SumView }) {
  const { view } = useDesk();
  const [about, setAbout] = useState<string | undefined>();
  const path = { plan_id: view.id, name: sum.name };
  const known = useQuery({
    queryKey: ["sum", view.id, view.revision, sum.name, about],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/sums/{name}", { params: { path, query: { about } } })),
    placeholderData: keepPreviousData,
  });
  if (!known.data) return null;
  const parts = known.data.parts;
  return (
    <>
      {parts.length > 1 && (
        <label className="flex items-baseline justify-between gap-3 pb-1">
          <span className="text-faint">for</span>
          <select
            aria-label="for which part"
            className="field min-w-0"
            value={known.data.about ?? ""}
            onChange={(event) => setAbout(event.target.value)}
          >
            {parts.map((part) => (
              <option key={part.id} value={part.id}>
                {part.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <Worksheet key={`${known.data.about}`} sum={sum} plan={known.data} />
    </>
  );
}

/** Figures as they are written, at first those of the plan or the defaults. */
function begin(sum: SumView, plan: SumOfPlan): Record<string, string> {
  return Object.fromEntries(
    sum.given.map((item) => {
      const value = plan.known[item.key] ?? item.default;
      const places = Math.abs(value) >= 100 ? 10 : 1000;
      return [item.key, `${Math.round(value * places) / places}${item.unit ? ` ${item.unit}` : ""}`];
    }),
  );
}

function Worksheet({ sum, plan }: { sum: SumView; plan: SumOfPlan }) {
  const { view, edit } = useDesk();
  const [figures, setFigures] = useState(() => begin(sum, plan));
  const [settled, setSettled] = useState(figures);
  useEffect(() => {
    const soon = setTimeout(() => setSettled(figures), 150);
    return () => clearTimeout(soon);
  }, [figures]);
  const about = plan.about ?? undefined;
  const work = useQuery({
    queryKey: ["worked", view.id, view.revision, sum.name, about, settled],
    queryFn: () =>
      answer(
        client.POST("/api/plans/{plan_id}/sums/{name}", {
          params: { path: { plan_id: view.id, name: sum.name }, query: { about } },
          body: settled,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  /** Results of figures that have changed since are not offered to the plan. */
  const stale = settled !== figures || work.isPlaceholderData;
  return (
    <>
      {sum.given.map((item) => (
        <label key={item.key} className="flex items-baseline justify-between gap-3 py-0.5">
          <span className="text-faint">
            {item.label}
            {item.key in plan.known && (
              <span className="text-cedar" title="from the plan">
                {" "}
                · plan
              </span>
            )}
          </span>
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
        <dl className={`mt-3 border-t border-ink pt-1 ${stale ? "opacity-60" : ""}`} data-testid="sum">
          {(work.data ?? []).map((item) => (
            <div
              key={`${item.label} ${item.unit}`}
              className="flex flex-wrap items-baseline justify-between gap-x-3"
            >
              <dt>{item.label}</dt>
              <dd className="font-semibold">
                {fine.format(item.value)} {item.unit}
              </dd>
              {item.back && (
                <button
                  type="button"
                  className="act basis-full text-right"
                  disabled={stale}
                  onClick={() => edit((now) => applyPatch(now, item.back?.patch) as Plan)}
                >
                  Put into the plan as {item.back.words}
                </button>
              )}
            </div>
          ))}
          {sum.basis && <p className="text-faint">{sum.basis}</p>}
        </dl>
      )}
      <p className="mt-2 text-[12px] text-faint">
        {sum.source}. Figures marked “plan” begin from it; units may be written.
      </p>
    </>
  );
}
