import type { Load } from "../../api/client";
import { useLibrary } from "../../api/library";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { ClockField } from "../../ui/ClockField";
import { type FieldOf, Fields } from "../../ui/Fields";
import { HoursField } from "../../ui/HoursField";
import { NumberField } from "../../ui/NumberField";
import { Ticks } from "../../ui/Ticks";
import { feedingSources, sourceKey, splitSource } from "../feed/leads";
import { CompartmentFields } from "./CompartmentFields";
import { ThermostatFields } from "./ThermostatFields";

type Behaviour = Load["behaviour"];
type Cycling = Extract<Behaviour, { kind?: "cycling" }>;
type Job = Extract<Behaviour, { kind?: "job" }>;
type Start = NonNullable<Load["start"]>;
type Seen = NonNullable<Start["seen_on"]>[number];
type Steady = Extract<Behaviour, { kind?: "steady" }>;

const ORIGINS = [
  ["measured", "measured"],
  ["plate", "from the plate"],
  ["estimate", "estimate"],
  ["library", "typical of its class"],
] as const;

const KINDS = [
  ["steady", "always on"],
  ["cycling", "on and off"],
  ["job", "at a time of day"],
  ["thermostatic", "by a thermostat"],
  ["refrigerating", "by what it keeps cold"],
  ["measured", "as measured"],
] as const;

/** What it is for decides which checks look at it. */
const ASKS: readonly FieldOf<Load>[] = [
  {
    key: "role",
    label: "it is",
    choices: [
      ["", "nothing special"],
      ["life_support", "life support"],
      ["sleep_apnoea", "a sleep apnoea machine"],
      ["light", "light on stairs or in the hall"],
      ["communication", "telephone, router or alarm"],
      ["heat", "heat for the house"],
      ["food", "a refrigerator or freezer"],
      ["pump", "a pump"],
      ["hot", "hot when left on: cooker, iron, heater"],
      ["tool", "a tool"],
    ],
  },
  { key: "needs_bonded", label: "senses a flame, wants neutral at ground", tick: true },
  { key: "needs_sine", label: "wants a pure sine", tick: true },
  { key: "compressor", label: "has a compressor", tick: true },
  { key: "soft_start", label: "starts without inrush (a drive, or a soft starter)", tick: true },
  { key: "drops_on_dip", label: "stays off after a dip", tick: true },
  { key: "largest_gap_ms", label: "rides through a gap of, ms", unit: "", optional: true },
  { key: "locked_rotor_a", label: "locked-rotor amps", unit: "A", optional: true },
  {
    key: "protection_class",
    label: "protection class",
    choices: [
      ["", "not known"],
      ["I", "I, its case is earthed"],
      ["II", "II, doubly insulated"],
    ],
  },
  { key: "plate_volts", label: "plate", unit: "V", optional: true },
];

/** One load: its watts, how it comes and goes, and where the figure is from. */
export function LoadEditor({ load, onChange }: { load: Load; onChange: (load: Load) => void }) {
  const set = (behaviour: Behaviour) => onChange({ ...load, behaviour });
  const spec = load.behaviour;
  const start = load.start;
  const { behaviours } = useLibrary();
  return (
    <fieldset className="mb-2 border-b border-rule pb-2">
      <legend className="font-semibold">{load.name}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        <ChoiceField
          label="behaves"
          value={spec.kind ?? "steady"}
          choices={KINDS.filter(([kind]) => kind !== "measured" || spec.kind === "measured")}
          onSave={(kind) => kind !== "measured" && set(behaviours[kind])}
        />
        {spec.kind === "cycling" && <CyclingFields spec={spec} set={set} />}
        {spec.kind === "job" && <JobFields spec={spec} set={set} />}
        {spec.kind === "thermostatic" && <ThermostatFields spec={spec} set={set} />}
        {spec.kind === "refrigerating" && <CompartmentFields spec={spec} set={set} />}
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
        <label className="inline-flex items-baseline gap-1">
          <span className="text-faint">read on</span>
          <input
            type="date"
            className="field"
            value={load.read_on ?? ""}
            onChange={(event) => onChange({ ...load, read_on: event.target.value || null })}
          />
        </label>
        <NumberField
          label="may be dark for"
          value={(load.tolerance_s ?? 900) / 60}
          unit="min"
          width="w-12"
          onSave={(minutes) => onChange({ ...load, tolerance_s: minutes * 60 })}
        />
        <NumberField
          label="start"
          value={start?.va ?? null}
          unit="VA"
          empty={load.soft_start ? "none" : "not said"}
          onSave={(va) => onChange({ ...load, start: { seconds: 0.5, seen_on: [], ...start, va } })}
          onEmpty={() => onChange({ ...load, start: null })}
        />
        <NumberField
          label="power factor"
          value={load.power_factor}
          unit=""
          width="w-10"
          onSave={(power_factor) => onChange({ ...load, power_factor, power_factor_origin: "measured" })}
        />
      </div>
      <details>
        <summary className="min-h-[24px] cursor-pointer text-faint">
          What it is for, and what it asks of a source
        </summary>
        <Fields value={load} fields={ASKS} set={(part) => onChange({ ...load, ...part })} />
        {start && <SeenOn start={start} onChange={(next) => onChange({ ...load, start: next })} />}
      </details>
    </fieldset>
  );
}

/** Sources on which it was seen to start well: none of them is said to be too weak for it any more. */
function SeenOn({ start, onChange }: { start: Start; onChange: (start: Start) => void }) {
  const { view } = useDesk();
  const seen = start.seen_on ?? [];
  const tick = (key: string, on: boolean) => {
    const others = seen.filter((source) => sourceKey(source) !== key);
    const { kind, id } = splitSource(key);
    onChange({ ...start, seen_on: on ? [...others, { kind, id } as Seen] : others });
  };
  return (
    <Ticks
      title="It was seen to start well on"
      of={feedingSources(view.plan)}
      chosen={seen.map(sourceKey)}
      onTick={tick}
    />
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
      <HoursField hours={spec.hours ?? null} onSave={(hours) => set({ ...spec, hours })} />
    </>
  );
}

function JobFields({ spec, set }: { spec: Job; set: (spec: Behaviour) => void }) {
  const step = (index: number, part: Partial<Job["steps"][number]>) =>
    set({ ...spec, steps: spec.steps.map((item, at) => (at === index ? { ...item, ...part } : item)) });
  return (
    <>
      <ClockField label="from" value={spec.earliest} onSave={(at) => set({ ...spec, earliest: at })} />
      <ClockField label="begun by" value={spec.latest} onSave={(at) => set({ ...spec, latest: at })} />
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
