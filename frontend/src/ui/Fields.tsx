import { ChoiceField } from "./ChoiceField";
import { NumberField } from "./NumberField";
import type { Unit } from "./quantity";
import { TextField } from "./TextField";

/** How one property of a part of the plan is shown and edited. */
export type FieldOf<T> = {
  key: keyof T & string;
  label: string;
  /** A number in this stored unit. */
  unit?: Unit;
  /** One of a few words; an empty key stands for nothing. */
  choices?: readonly (readonly [string, string])[];
  /** A choice whose keys are numbers. */
  numeric?: boolean;
  /** A tick. */
  tick?: boolean;
  /** May be left empty. */
  optional?: boolean;
};

export const ANSWERS = [
  ["unknown", "not known"],
  ["yes", "yes"],
  ["no", "no"],
] as const;

interface Props<T> {
  value: T;
  fields: readonly FieldOf<T>[];
  set: (part: Partial<T>) => void;
}

/** The properties of a part of the plan, one after the other. */
export function Fields<T extends object>({ value, fields, set }: Props<T>) {
  return (
    <div className="flex flex-wrap gap-x-5 gap-y-1">
      {fields.map((field) => (
        <One key={field.key} value={value} field={field} set={set} />
      ))}
    </div>
  );
}

function One<T extends object>({ value, field, set }: Omit<Props<T>, "fields"> & { field: FieldOf<T> }) {
  const present = value[field.key] as unknown;
  const save = (next: unknown) => set({ [field.key]: next } as Partial<T>);
  if (field.tick)
    return (
      <label className="min-h-[26px]">
        <input
          type="checkbox"
          className="size-4 accent-cedar"
          checked={present === true}
          onChange={(event) => save(event.target.checked)}
        />{" "}
        {field.label}
      </label>
    );
  if (field.choices)
    return (
      <ChoiceField
        label={field.label}
        value={present === null || present === undefined ? "" : String(present)}
        choices={field.choices}
        onSave={(text) => save(text === "" ? null : field.numeric ? Number(text) : text)}
      />
    );
  if (field.unit !== undefined)
    return (
      <NumberField
        label={field.label}
        value={typeof present === "number" ? present : null}
        unit={field.unit}
        onSave={save}
        onEmpty={field.optional ? () => save(null) : undefined}
      />
    );
  return <TextField label={field.label} value={String(present ?? "")} onSave={save} />;
}
