import { useId } from "react";

interface Props<T extends string> {
  label: string;
  value: T;
  choices: readonly (readonly [T, string])[];
  onSave: (value: T) => void;
}

/** One of a few words. */
export function ChoiceField<T extends string>({ label, value, choices, onSave }: Props<T>) {
  const id = useId();
  return (
    <span className="inline-flex min-w-0 max-w-full flex-wrap items-baseline gap-x-1">
      <label htmlFor={id} className="text-faint">
        {label}
      </label>
      <select
        id={id}
        className="field max-w-full"
        value={value}
        onChange={(event) => onSave(event.target.value as T)}
      >
        {choices.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </span>
  );
}
