import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ClockField } from "../../ui/ClockField";
import { NumberField } from "../../ui/NumberField";
import { Acts } from "./Acts";
import { Incidents } from "./Incidents";
import { SpanFields } from "./SpanFields";
import { WeatherFields } from "./WeatherFields";
import { GridWindows, Skies } from "./Windows";

type Strategy = NonNullable<Plan["strategy"]>;
type Outage = Plan["outage"];

/** Who is there to do things by hand, what stays off after a trip, and what may go wrong. */
export function Circumstances() {
  const { view, edit } = useDesk();
  const { outage, strategy } = view.plan;
  const change = (part: Partial<Outage>) =>
    edit((plan) => ({ ...plan, outage: { ...plan.outage, ...part } }));
  const behave = (part: Partial<Strategy>) =>
    edit((plan) => ({ ...plan, strategy: { ...plan.strategy, ...part } as Strategy }));
  return (
    <details className="mb-3 border-l-2 border-rule pl-3">
      <summary className="cursor-pointer py-0.5">People, weather, sun, utility and incidents</summary>
      <div className="flex flex-wrap gap-x-6 gap-y-1 py-1">
        <Hours outage={outage} change={change} />
        <NumberField
          label="someone reacts within"
          value={strategy?.reaction_s ?? 60}
          unit="s"
          width="w-12"
          onSave={(reaction_s) => behave({ reaction_s })}
        />
        <NumberField
          label="resets a trip after"
          value={(strategy?.reset_after_s ?? 900) / 60}
          unit="min"
          width="w-12"
          onSave={(minutes) => behave({ reset_after_s: minutes * 60 })}
        />
        <NumberField
          label="room goes off below"
          value={strategy?.room_off_below_percent ?? 0}
          unit="%"
          width="w-12"
          onSave={(share) => behave({ room_off_below_percent: share })}
        />
        <NumberField
          label="moving the cord takes"
          value={(strategy?.swap_s ?? 300) / 60}
          unit="min"
          width="w-12"
          onSave={(minutes) => behave({ swap_s: minutes * 60 })}
        />
        <NumberField
          label="pipes may freeze with indoors under"
          value={view.plan.site.pipes_c ?? null}
          unit="°C"
          width="w-12"
          onSave={(pipes_c) => edit((plan) => ({ ...plan, site: { ...plan.site, pipes_c } }))}
        />
        <IdleCutouts />
      </div>
      <Recovery strategy={strategy} behave={behave} />
      <WeatherFields outage={outage} change={change} />
      <Skies outage={outage} change={change} />
      <GridWindows outage={outage} change={change} />
      <Acts outage={outage} change={change} />
      <Incidents outage={outage} change={change} />
    </details>
  );
}

interface HoursProps {
  outage: Outage;
  change: (part: Partial<Outage>) => void;
}

function Hours({ outage, change }: HoursProps) {
  const hours = outage.occupancy;
  if (!hours) return null;
  const set = (part: Partial<typeof hours>) => change({ occupancy: { ...hours, ...part } });
  const away = hours.away ?? [];
  const gone = hours.gone ?? [];
  return (
    <>
      <ClockField label="awake from" value={hours.wakes} onSave={(at) => set({ wakes: at })} />
      <ClockField label="to" value={hours.sleeps} onSave={(at) => set({ sleeps: at })} />
      {away.map((window, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: windows have no identity but their place
        <span key={index} className="inline-flex items-baseline gap-2">
          <ClockField
            label="away from"
            value={window.leaves}
            onSave={(at) => set({ away: away.map((w, i) => (i === index ? { ...w, leaves: at } : w)) })}
          />
          <ClockField
            label="to"
            value={window.returns}
            onSave={(at) => set({ away: away.map((w, i) => (i === index ? { ...w, returns: at } : w)) })}
          />
          <button
            type="button"
            className="act"
            onClick={() => set({ away: away.filter((_, other) => other !== index) })}
          >
            Take away
          </button>
        </span>
      ))}
      <button
        type="button"
        className="act"
        onClick={() => set({ away: [...away, { leaves: "08:00:00", returns: "17:00:00" }] })}
      >
        Add hours away
      </button>
      {gone.map((span, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: spans have no identity but their place
        <span key={index} className="inline-flex flex-wrap items-baseline gap-2">
          nobody there
          <SpanFields
            span={span}
            set={(part) =>
              set({ gone: gone.map((item, at) => (at === index ? { ...item, ...part } : item)) })
            }
            remove={() => set({ gone: gone.filter((_, at) => at !== index) })}
          />
        </span>
      ))}
      <button
        type="button"
        className="act"
        onClick={() => set({ gone: [...gone, { at_s: 86_400, for_s: 86_400 }] })}
      >
        Add days with nobody there
      </button>
    </>
  );
}

function IdleCutouts() {
  const { view, edit } = useDesk();
  return Object.entries(view.plan.stations ?? {}).map(([id, station]) => {
    const cutout = station.idle_cutout;
    const set = (next: typeof cutout) =>
      edit((plan) => ({
        ...plan,
        stations: { ...plan.stations, [id]: { ...station, idle_cutout: next } },
      }));
    return (
      <span key={id} className="inline-flex items-baseline gap-2">
        <label>
          <input
            type="checkbox"
            className="size-4 accent-cedar"
            checked={Boolean(cutout)}
            onChange={(event) => set(event.target.checked ? { threshold_w: 10, after_s: 7200 } : null)}
          />{" "}
          {station.name} turns itself off when idle
          {cutout === "unknown" && ": not known, counted as if it did"}
        </label>
        {cutout && cutout !== "unknown" && (
          <NumberField
            label="after"
            value={cutout.after_s / 3600}
            unit="h"
            width="w-10"
            onSave={(hours) => set({ ...cutout, after_s: hours * 3600 })}
          />
        )}
      </span>
    );
  });
}

function Recovery({ strategy, behave }: { strategy?: Strategy; behave: (part: Partial<Strategy>) => void }) {
  const { view } = useDesk();
  const off = strategy?.recovery_off ?? [];
  const marked = Object.entries(view.plan.circuits ?? {}).filter(([, circuit]) => circuit.mark !== "off");
  return (
    <fieldset className="py-1">
      <legend className="text-faint">Left off when someone resets after a trip</legend>
      <div className="flex flex-wrap gap-x-4">
        {marked.map(([id, circuit]) => (
          <label key={id} className="min-h-[24px]">
            <input
              type="checkbox"
              className="size-4 accent-cedar"
              checked={off.includes(id)}
              onChange={(event) =>
                behave({
                  recovery_off: event.target.checked ? [...off, id] : off.filter((other) => other !== id),
                })
              }
            />{" "}
            {circuit.label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
