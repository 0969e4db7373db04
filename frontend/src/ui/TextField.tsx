import { useEffect, useId, useState } from "react";

interface Props {
  label: string;
  value: string;
  type?: "text" | "time" | "date" | "datetime-local";
  onSave: (value: string) => void;
  /** Called when the field is emptied; without it what was there comes back. */
  onEmpty?: () => void;
  width?: string;
}

/** A line of text, a time or a moment; saves on leaving or Enter. */
export function TextField({ label, value, type = "text", onSave, onEmpty, width = "w-40" }: Props) {
  const id = useId();
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const save = () => {
    if (text.trim() !== "" && text !== value) onSave(text.trim());
    else if (text.trim() === "" && value !== "" && onEmpty) onEmpty();
    else setText(value);
  };
  return (
    <span className="inline-flex items-baseline gap-1">
      <label htmlFor={id} className="text-faint">
        {label}
      </label>
      <input
        id={id}
        type={type}
        className={`field ${width}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === "Enter" && save()}
      />
    </span>
  );
}
