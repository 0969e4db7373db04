import { createContext, type ReactNode, useContext } from "react";
import { ChoiceField } from "./ChoiceField";
import { ClockField } from "./ClockField";
import { NumberField } from "./NumberField";
import type { Unit } from "./quantity";
import { TextField } from "./TextField";

/** How one property of a part of the plan is shown and edited. */
export type FieldOf<T> = {
  key: keyof T & string;
  label: string;
  /** A number in this unit. */
  unit?: Unit;
  /** What is stored for one of that unit, where it is not stored in it: 60 for minutes held in seconds. */
  scale?: number;
  /** One of a few words; an empty key stands for nothing. */
  choices?: readonly (readonly [string, string])[];
  /** One of the words of a list that the library gives. */
  offered?: keyof Offered;
  /** A choice whose keys are numbers. */
  numeric?: boolean;
  /** A tick. */
  tick?: boolean;
  /** A time of day. */
  clock?: boolean;
  /** Several numbers, with commas between them. */
  numbers?: boolean;
  /** May be left empty. */
  optional?: boolean;
  /** A figure of a plate: left empty, it is not known. */
  plate?: boolean;
  /** Yes, no, or not known. */
  answered?: boolean;
};

/** Lists of words that come from the library. */
export interface Offered {
  receptacles: readonly string[];
}

export const OfferedContext = createContext<Offered>({ receptacles: [] });

export const ANSWERS = [
  ["unknown", "not known"],
  ["yes", "yes"],
  ["no", "no"],
] as const;

interface Props<T> {
  value: T;
  fields: readonly FieldOf<T>[];
  set: (part: Partial<T>) => void;
  /** What stands after the last one. */
  children?: ReactNode;
}

/** Properties that are asked for together, with where they are found. */
export interface GroupOf<T> {
  title: string;
  hint?: string;
  fields: readonly FieldOf<T>[];
}

/** The properties of a part of the plan in groups, each with where to look. */
export function Groups<T extends object>({
  value,
  groups,
  set,
}: Omit<Props<T>, "fields"> & { groups: readonly GroupOf<T>[] }) {
  return groups.map((group) => (
    <Group key={group.title} title={group.title} hint={group.hint}>
      <Fields value={value} fields={group.fields} set={set} />
    </Group>
  ));
}

/** What belongs together, under its title, with where to look for it. */
export function Group({ title, hint, children }: { title: string; hint?: string; children: ReactNode }) {
  return (
    <fieldset className="grid grid-cols-[minmax(0,1fr)] gap-x-4 border-t border-rule pt-1 sm:grid-cols-[9.5rem_minmax(0,1fr)]">
      <legend className="sr-only">{title}</legend>
      <p aria-hidden="true" className="font-semibold">
        {title}
      </p>
      <div>
        {children}
        {hint && <p className="text-[12px] text-faint">{hint}</p>}
      </div>
    </fieldset>
  );
}

/** The properties of a part of the plan, one after the other. */
export function Fields<T extends object>({ value, fields, set, children }: Props<T>) {
  return (
    <div className="flex flex-wrap gap-x-5 gap-y-1">
      {fields.map((field) => (
        <One key={field.key} value={value} field={field} set={set} />
      ))}
      {children}
    </div>
  );
}

/** Numbers as people list them, each once, rising. */
function numbersOf(text: string): number[] {
  const found = text
    .split(/[\s,;/]+/)
    .map(Number)
    .filter((number) => Number.isFinite(number) && number > 0);
  return [...new Set(found)].sort((a, b) => a - b);
}

function One<T extends object>({ value, field, set }: Omit<Props<T>, "fields"> & { field: FieldOf<T> }) {
  const present = value[field.key] as unknown;
  const lists = useContext(OfferedContext);
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
  if (field.answered)
    return (
      <ChoiceField
        label={field.label}
        value={present === true ? "yes" : present === false ? "no" : "unknown"}
        choices={ANSWERS}
        onSave={(answer) => save(answer === "unknown" ? answer : answer === "yes")}
      />
    );
  if (field.offered) {
    const own = String(present ?? "");
    const words = lists[field.offered];
    const choices = (words.includes(own) ? words : [own, ...words]).map((word) => [word, word] as const);
    return <ChoiceField label={field.label} value={own} choices={choices} onSave={save} />;
  }
  if (field.choices)
    return (
      <ChoiceField
        label={field.label}
        value={present === null || present === undefined ? "" : String(present)}
        choices={field.choices}
        onSave={(text) =>
          save(text === "" ? null : field.numeric && text !== "unknown" ? Number(text) : text)
        }
      />
    );
  if (field.clock)
    return <ClockField label={field.label} value={String(present ?? "")} onSave={(at) => save(at)} />;
  if (field.numbers)
    return (
      <TextField
        label={field.label}
        value={((present as number[] | undefined) ?? []).join(", ")}
        onSave={(text) => save(numbersOf(text))}
        onEmpty={() => save([])}
      />
    );
  if (field.unit !== undefined) {
    const scale = field.scale ?? 1;
    return (
      <NumberField
        label={field.label}
        value={typeof present === "number" ? present / scale : null}
        unit={field.unit}
        onSave={(number) => save(scale === 1 ? number : Number((number * scale).toPrecision(12)))}
        empty={field.plate ? "not known" : undefined}
        onEmpty={field.optional || field.plate ? () => save(field.plate ? "unknown" : null) : undefined}
      />
    );
  }
  return <TextField label={field.label} value={String(present ?? "")} onSave={save} />;
}
