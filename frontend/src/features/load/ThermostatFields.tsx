import type { Load } from "../../api/client";
import { ChoiceField } from "../../ui/ChoiceField";
import { ClockField } from "../../ui/ClockField";
import { NumberField } from "../../ui/NumberField";

export type Thermostatic = Extract<Load["behaviour"], { kind?: "thermostatic" }>;
type Step = Thermostatic["before"][number];

const MODES = [
  ["heat", "heats"],
  ["cool", "cools"],
] as const;

interface Props {
  spec: Thermostatic;
  set: (spec: Thermostatic) => void;
}

/** A heater or cooler: set point, setback, heat moved, and its electrical sequence. */
export function ThermostatFields({ spec, set }: Props) {
  return (
    <>
      <ChoiceField label="it" value={spec.mode} choices={MODES} onSave={(mode) => set({ ...spec, mode })} />
      <NumberField
        label="set to"
        value={spec.set_c}
        unit="°C"
        width="w-12"
        onSave={(set_c) => set({ ...spec, set_c })}
      />
      <SetbackFields spec={spec} set={set} />
      <NumberField
        label="moves heat"
        value={spec.output_w}
        unit="W"
        onSave={(output_w) => set({ ...spec, output_w })}
      />
      <NumberField
        label="house loses"
        value={spec.loss_w_per_k}
        unit="W/K"
        width="w-12"
        onSave={(loss_w_per_k) => set({ ...spec, loss_w_per_k })}
      />
      <NumberField
        label="free heat"
        value={spec.gain_w}
        unit="W"
        width="w-12"
        onSave={(gain_w) => set({ ...spec, gain_w })}
      />
      <span className="basis-full" />
      <Steps label="first" steps={spec.before} set={(before) => set({ ...spec, before })} />
      <NumberField
        label="while running"
        value={spec.run_w}
        unit="W"
        width="w-14"
        onSave={(run_w) => set({ ...spec, run_w })}
      />
      <Steps label="then" steps={spec.after} set={(after) => set({ ...spec, after })} />
    </>
  );
}

function SetbackFields({ spec, set }: Props) {
  const night = spec.setback;
  if (!night)
    return (
      <button
        type="button"
        className="act"
        onClick={() =>
          set({
            ...spec,
            setback: {
              begins: "22:30:00",
              ends: "06:00:00",
              set_c: spec.set_c - (spec.mode === "heat" ? 3 : -3),
            },
          })
        }
      >
        Set back at night
      </button>
    );
  return (
    <>
      <NumberField
        label="at night"
        value={night.set_c}
        unit="°C"
        width="w-12"
        onSave={(set_c) => set({ ...spec, setback: { ...night, set_c } })}
      />
      <ClockField
        label="from"
        value={night.begins}
        onSave={(at) => set({ ...spec, setback: { ...night, begins: at } })}
      />
      <ClockField
        label="until"
        value={night.ends}
        onSave={(at) => set({ ...spec, setback: { ...night, ends: at } })}
      />
      <button type="button" className="act" onClick={() => set({ ...spec, setback: null })}>
        No setback
      </button>
    </>
  );
}

function Steps({ label, steps, set }: { label: string; steps: Step[]; set: (steps: Step[]) => void }) {
  const change = (index: number, part: Partial<Step>) =>
    set(steps.map((step, at) => (at === index ? { ...step, ...part } : step)));
  return (
    <>
      {steps.map((step, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps have no identity but their place
        <span key={index} className="inline-flex flex-wrap items-baseline gap-1">
          <NumberField
            label={`${label} ${step.name}`}
            value={step.watts}
            unit="W"
            width="w-12"
            onSave={(watts) => change(index, { watts })}
          />
          <NumberField
            label="for"
            value={step.seconds}
            unit="s"
            width="w-10"
            onSave={(seconds) => change(index, { seconds })}
          />
          <button
            type="button"
            className="act"
            aria-label={`Take ${step.name} away`}
            onClick={() => set(steps.filter((_, at) => at !== index))}
          >
            ×
          </button>
        </span>
      ))}
      <button
        type="button"
        className="act"
        onClick={() => set([...steps, { name: `step ${steps.length + 1}`, watts: 70, seconds: 30 }])}
      >
        Add a step {label === "first" ? "before" : "after"}
      </button>
    </>
  );
}
