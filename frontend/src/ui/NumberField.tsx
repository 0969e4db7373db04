import { useEffect, useId, useState } from "react";
import { example, readQuantity, shownAs, type Unit, useUnits, withPoint } from "./quantity";

interface Props {
  label: string;
  /** In the stored unit; null where nothing is given yet. */
  value: number | "unknown" | null;
  unit: Unit;
  onSave: (value: number) => void;
  /** Called when the field is emptied; without it an empty field is refused. */
  onEmpty?: () => void;
  hideLabel?: boolean;
  /** What stands in it while it is empty. */
  empty?: string;
  width?: string;
}

/** Whether a plain number was perhaps meant in thousands: it is asked, never guessed. */
function mayBeThousands(text: string, read: number, before: number | null, unit: Unit): boolean {
  const plain = /^[\s\d.,]+$/.test(text);
  const kilo = unit === "W" || unit === "VA" || unit === "Wh";
  return kilo && plain && read > 0 && read <= 30 && (before === null || before >= 100 * read);
}

/** A number with its unit; takes units as people write them, saves on leaving or Enter. */
export function NumberField({
  label,
  value: held,
  unit,
  onSave,
  onEmpty,
  hideLabel,
  empty,
  width = "w-16",
}: Props) {
  const id = useId();
  const value = held === "unknown" ? null : held;
  const as = shownAs(unit, useUnits());
  /** A converted figure is shown to a tenth, a stored one to a thousandth. */
  const places = as.factor === 1 ? 1000 : 10;
  const written = (stored: number | null) =>
    stored === null ? "" : String(Math.round((stored * as.factor + as.offset) * places) / places);
  const present = written(value);
  const [text, setText] = useState(present);
  const [wrong, setWrong] = useState(false);
  const [unsure, setUnsure] = useState<number | null>(null);
  const [comma, setComma] = useState<string | null>(null);
  useEffect(() => setText(present), [present]);

  const take = (read: number) => {
    setUnsure(null);
    setComma(null);
    setWrong(false);
    const stored = (read - as.offset) / as.factor;
    if (written(stored) !== present) onSave(as.factor === 1 ? stored : Number(stored.toPrecision(12)));
    setText(written(stored));
  };
  const save = () => {
    if (text.trim() === "" && (onEmpty || value === null)) {
      setWrong(false);
      if (value !== null) onEmpty?.();
      return;
    }
    const read = readQuantity(text, as.unit);
    const pointed = read === null ? withPoint(text) : null;
    setComma(pointed);
    setWrong(read === null && pointed === null);
    if (read === null) return;
    if (mayBeThousands(text, read, value, as.unit)) setUnsure(read);
    else take(read);
  };
  return (
    <span className="inline-flex flex-wrap items-baseline gap-1">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "text-faint"}>
        {label}
      </label>
      <input
        id={id}
        className={`field ${empty && value === null ? "w-20" : width} text-right`}
        placeholder={empty}
        inputMode="decimal"
        value={text}
        data-unsaved={text !== present || undefined}
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
      {unsure !== null && (
        <span role="alert" className="basis-full text-caution">
          {label}: {unsure} {as.unit}, or {unsure} k{as.unit}?{" "}
          <button type="button" className="act" onClick={() => take(unsure)}>
            {unsure} {as.unit}
          </button>{" "}
          <button type="button" className="act" onClick={() => take(unsure * 1000)}>
            {unsure} k{as.unit}
          </button>
        </span>
      )}
      {comma !== null && (
        <span role="alert" className="basis-full text-caution">
          {label}: is {text.trim()} meant as{" "}
          <button
            type="button"
            className="act"
            onClick={() => {
              const read = readQuantity(comma, as.unit);
              if (read === null) setWrong(true);
              else take(read);
            }}
          >
            {comma}
          </button>
          ? Nothing was changed yet.
        </span>
      )}
      {wrong && (
        <span id={`${id}-wrong`} role="alert" className="basis-full text-stop">
          {label}: {text.trim() || "nothing"} is not read; write it as {example[as.unit]}.{" "}
          {present || "Nothing"} {present && as.unit} is kept.
        </span>
      )}
    </span>
  );
}
