import { useEffect, useId, useState } from "react";

interface Props {
  label: string;
  /** As it is stored. */
  value: string;
  /** What is stored, as it is shown. */
  written: (stored: string) => string;
  /** What was typed, as it is to be stored; nothing where it is not read. */
  read: (text: string) => string | null;
  /** How it may be written. */
  example: string;
  onSave: (stored: string) => void;
  width?: string;
  hideLabel?: boolean;
}

/** A line that is read before it is saved; what is not read stays, with what was kept. */
export function ReadField({ label, value, written, read, example, onSave, width, hideLabel }: Props) {
  const id = useId();
  const present = written(value);
  const [text, setText] = useState(present);
  const [wrong, setWrong] = useState(false);
  useEffect(() => {
    setText(present);
    setWrong(false);
  }, [present]);
  const save = () => {
    if (text.trim() === present) return setWrong(false);
    const stored = read(text.trim());
    setWrong(stored === null);
    if (stored === null) return;
    setText(written(stored));
    if (stored !== value) onSave(stored);
  };
  return (
    <span className="inline-flex flex-wrap items-baseline gap-1">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "text-faint"}>
        {label}
      </label>
      <input
        id={id}
        className={`field ${width ?? "w-24"}`}
        value={text}
        data-unsaved={text.trim() !== present || undefined}
        aria-invalid={wrong}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => {
          if (event.key === "Enter") save();
          if (event.key === "Escape") setText(present);
        }}
      />
      {wrong && (
        <span id={`${id}-wrong`} role="alert" className="basis-full text-stop">
          {label}: {text.trim() || "nothing"} is not read; write it as {example}. {present} is kept.
        </span>
      )}
    </span>
  );
}
