import { useEffect, useId, useState } from "react";
import { example, readQuantity, shownAs, type Unit, useUnits } from "./quantity";

interface Props {
  label: string;
  /** In the stored unit; null where nothing is given yet. */
  value: number | null;
  unit: Unit;
  onSave: (value: number) => void;
  /** Called when the field is emptied; without it an empty field is refused. */
  onEmpty?: () => void;
  hideLabel?: boolean;
  width?: string;
}

/** A number with its unit; takes units as people write them, saves on leaving or Enter. */
export function NumberField({ label, value, unit, onSave, onEmpty, hideLabel, width = "w-16" }: Props) {
  const id = useId();
  const as = shownAs(unit, useUnits());
  const written = (stored: number | null) =>
    stored === null ? "" : String(Math.round((stored * as.factor + as.offset) * 1000) / 1000);
  const present = written(value);
  const [text, setText] = useState(present);
  const [wrong, setWrong] = useState(false);
  useEffect(() => setText(present), [present]);

  const save = () => {
    if (text.trim() === "" && (onEmpty || value === null)) {
      setWrong(false);
      if (value !== null) onEmpty?.();
      return;
    }
    const read = readQuantity(text, as.unit);
    setWrong(read === null);
    if (read === null) return;
    const stored = (read - as.offset) / as.factor;
    if (written(stored) !== present) onSave(as.factor === 1 ? stored : Number(stored.toPrecision(12)));
    setText(written(stored));
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
          if (event.key === "Escape") setText(present);
        }}
      />
      <span className="text-faint">{as.unit}</span>
      {wrong && (
        <span id={`${id}-wrong`} role="alert" className="basis-full text-stop">
          {label}: write it as {example[as.unit]}
        </span>
      )}
    </span>
  );
}
