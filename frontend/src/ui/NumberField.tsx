import { useEffect, useId, useState } from "react";
import { example, readQuantity, type Unit } from "./quantity";

interface Props {
  label: string;
  value: number;
  unit: Unit;
  onSave: (value: number) => void;
  hideLabel?: boolean;
  width?: string;
}

const shown = (value: number) => String(Math.round(value * 1000) / 1000);

/** A number with its unit; takes units as people write them, saves on leaving or Enter. */
export function NumberField({ label, value, unit, onSave, hideLabel, width = "w-16" }: Props) {
  const id = useId();
  const [text, setText] = useState(shown(value));
  const [wrong, setWrong] = useState(false);
  useEffect(() => setText(shown(value)), [value]);

  const save = () => {
    const read = readQuantity(text, unit);
    setWrong(read === null);
    if (read === null) return;
    if (shown(read) !== shown(value)) onSave(read);
    setText(shown(read));
  };
  return (
    <span className="inline-flex flex-wrap items-baseline gap-1">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "text-faint"}>
        {label}
      </label>
      <input
        id={id}
        className={`field ${width} text-right`}
        inputMode="decimal"
        value={text}
        aria-invalid={wrong}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => {
          if (event.key === "Enter") save();
          if (event.key === "Escape") setText(shown(value));
        }}
      />
      <span className="text-faint">{unit}</span>
      {wrong && (
        <span id={`${id}-wrong`} role="alert" className="basis-full text-stop">
          {label}: write it as {example[unit]}
        </span>
      )}
    </span>
  );
}
