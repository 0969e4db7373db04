import type { Load } from "../../api/client";
import { type FieldOf, Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { NumberField } from "../../ui/NumberField";

export type Refrigerating = Extract<Load["behaviour"], { kind?: "refrigerating" }>;
type Compartment = Refrigerating["compartments"][string];

const FIELDS: readonly FieldOf<Compartment>[] = [
  { key: "name", label: "compartment" },
  { key: "contents_kg", label: "holds", unit: "kg" },
  { key: "set_c", label: "kept at", unit: "°C" },
  { key: "band_k", label: "may warm by", unit: "K" },
  { key: "loss_w_per_k", label: "lets in", unit: "W/K" },
  { key: "limit_c", label: "too warm over", unit: "°C" },
  { key: "start_c", label: "at the start", unit: "°C", optional: true },
];

interface Props {
  spec: Refrigerating;
  set: (spec: Refrigerating) => void;
}

/** A refrigerator or freezer: its compressor, and what lies in each compartment. */
export function CompartmentFields({ spec, set }: Props) {
  const parts = Object.entries(spec.compartments);
  const put = (compartments: Record<string, Compartment>) => set({ ...spec, compartments });
  const first = parts[0]?.[1];
  return (
    <>
      <NumberField label="while on" value={spec.on_w} unit="W" onSave={(on_w) => set({ ...spec, on_w })} />
      <NumberField
        label="heat out for each watt"
        value={spec.cop ?? 1.4}
        unit=""
        width="w-10"
        onSave={(cop) => set({ ...spec, cop })}
      />
      <NumberField
        label="in air of"
        value={spec.room_c ?? 21}
        unit="°C"
        width="w-12"
        onSave={(room_c) => set({ ...spec, room_c })}
      />
      <span className="basis-full" />
      {parts.map(([id, part]) => (
        <div key={id} className="flex basis-full flex-wrap items-baseline gap-x-3">
          <Fields
            value={part}
            fields={FIELDS}
            set={(next) => put({ ...spec.compartments, [id]: { ...part, ...next } })}
          />
          {parts.length > 1 && (
            <button
              type="button"
              className="act"
              onClick={() => put(Object.fromEntries(parts.filter(([key]) => key !== id)))}
            >
              Take {part.name} away
            </button>
          )}
        </div>
      ))}
      {first && parts.length < 4 && (
        <button
          type="button"
          className="act"
          onClick={() =>
            put({
              ...spec.compartments,
              [freeId("compartment", spec.compartments)]: {
                ...first,
                name: `${first.name} ${parts.length + 1}`,
              },
            })
          }
        >
          Add a compartment
        </button>
      )}
      <p className="basis-full text-[12px] text-faint">
        Without power it counts as missed once its contents, not the air, are too warm; what it may be dark
        for begins then. Full keeps about twice as long as half full.
      </p>
    </>
  );
}
