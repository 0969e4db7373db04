import type { Load } from "../../api/client";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import { TextField } from "../../ui/TextField";

type Behaviour = Load["behaviour"];
type Cycling = Extract<Behaviour, { kind?: "cycling" }>;
type Job = Extract<Behaviour, { kind?: "job" }>;
type Thermostatic = Extract<Behaviour, { kind?: "thermostatic" }>;
type Steady = Extract<Behaviour, { kind?: "steady" }>;

const ORIGINS = [
  ["measured", "measured"],
  ["plate", "from the plate"],
  ["estimate", "estimate"],
  ["library", "typical of its class"],
] as const;

/** One load: its watts, how it comes and goes, and where the figure is from. */
export function LoadEditor({ load, onChange }: { load: Load; onChange: (load: Load) => void }) {
  const set = (behaviour: Behaviour) => onChange({ ...load, behaviour });
  const spec = load.behaviour;
  const start = load.start;
  return (
    <fieldset className="mb-2 border-b border-rule pb-2">
      <legend className="font-semibold">{load.name}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {spec.kind === "cycling" && <CyclingFields spec={spec} set={set} />}
        {spec.kind === "job" && <JobFields spec={spec} set={set} />}
        {spec.kind === "thermostatic" && <ThermostatFields spec={spec} set={set} />}
        {spec.kind === "measured" && <span>a measured series, {spec.t_s.length} changes</span>}
        {(spec.kind === "steady" || spec.kind === undefined) && (
          <SteadyFields spec={spec as Steady} set={set} />
        )}
        <ChoiceField
          label="figure"
          value={load.origin ?? "estimate"}
          choices={ORIGINS}
          onSave={(origin) => onChange({ ...load, origin })}
        />
        <NumberField
          label="may be dark for"
          value={(load.tolerance_s ?? 900) / 60}
          unit="min"
          width="w-12"
          onSave={(minutes) => onChange({ ...load, tolerance_s: minutes * 60 })}
        />
        {start && (
          <NumberField
            label="start"
            value={start.va}
            unit="VA"
            onSave={(va) => onChange({ ...load, start: { ...start, va } })}
          />
        )}
      </div>
    </fieldset>
  );
}

function SteadyFields({ spec, set }: { spec: Steady; set: (spec: Behaviour) => void }) {
  return (
    <NumberField label="always" value={spec.watts} unit="W" onSave={(watts) => set({ ...spec, watts })} />
  );
}

function CyclingFields({ spec, set }: { spec: Cycling; set: (spec: Behaviour) => void }) {
  return (
    <>
      <NumberField label="while on" value={spec.on_w} unit="W" onSave={(on_w) => set({ ...spec, on_w })} />
      <NumberField
        label="on for"
        value={spec.duty * 100}
        unit="%"
        width="w-12"
        onSave={(share) => set({ ...spec, duty: share / 100 })}
      />
      <NumberField
        label="of every"
        value={(spec.period_s ?? 2400) / 60}
        unit="min"
        width="w-12"
        onSave={(minutes) => set({ ...spec, period_s: minutes * 60 })}
      />
    </>
  );
}

function ThermostatFields({ spec, set }: { spec: Thermostatic; set: (spec: Behaviour) => void }) {
  return (
    <>
      <NumberField label="set to °C" value={spec.set_c} unit="" onSave={(set_c) => set({ ...spec, set_c })} />
      <NumberField
        label="while heating"
        value={spec.run_w}
        unit="W"
        onSave={(run_w) => set({ ...spec, run_w })}
      />
      <NumberField
        label="heat output"
        value={spec.output_w}
        unit="W"
        onSave={(output_w) => set({ ...spec, output_w })}
      />
      <NumberField
        label="house loses W/K"
        value={spec.loss_w_per_k}
        unit=""
        onSave={(loss_w_per_k) => set({ ...spec, loss_w_per_k })}
      />
    </>
  );
}

function JobFields({ spec, set }: { spec: Job; set: (spec: Behaviour) => void }) {
  const step = (index: number, part: Partial<Job["steps"][number]>) =>
    set({ ...spec, steps: spec.steps.map((item, at) => (at === index ? { ...item, ...part } : item)) });
  return (
    <>
      <TextField
        label="from"
        type="time"
        width="w-24"
        value={spec.earliest.slice(0, 5)}
        onSave={(at) => set({ ...spec, earliest: `${at}:00` })}
      />
      <TextField
        label="begun by"
        type="time"
        width="w-24"
        value={spec.latest.slice(0, 5)}
        onSave={(at) => set({ ...spec, latest: `${at}:00` })}
      />
      {spec.steps.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps have no identity but their place
        <span key={index} className="inline-flex gap-2">
          <NumberField
            label={`step ${index + 1}`}
            value={item.watts}
            unit="W"
            onSave={(watts) => step(index, { watts })}
          />
          <NumberField
            label="for"
            value={item.minutes}
            unit="min"
            width="w-12"
            onSave={(minutes) => step(index, { minutes })}
          />
        </span>
      ))}
    </>
  );
}
