import { useEffect, useId, useState } from "react";

interface Props {
  label: string;
  value: string;
  onSave: (value: string) => void;
  /** Called when the field is emptied; without it what was there comes back. */
  onEmpty?: () => void;
  width?: string;
  /** Several lines, under the label; saves on leaving. */
  long?: boolean;
}

/** A line of text; saves on leaving or Enter. */
export function TextField({ label, value, onSave, onEmpty, width = "w-40", long = false }: Props) {
  const id = useId();
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const save = () => {
    if (text.trim() !== "" && text !== value) onSave(text.trim());
    else if (text.trim() === "" && value !== "" && onEmpty) onEmpty();
    else setText(value);
  };
  const unsaved = text !== value || undefined;
  if (long)
    return (
      <p className="mb-4">
        <label htmlFor={id} className="text-faint">
          {label}
        </label>
        <textarea
          id={id}
          className="field mt-1 block h-[56px] w-full border border-rule"
          value={text}
          data-unsaved={unsaved}
          onChange={(event) => setText(event.target.value)}
          onBlur={save}
        />
      </p>
    );
  return (
    <span className="inline-flex items-baseline gap-1">
      <label htmlFor={id} className="text-faint">
        {label}
      </label>
      <input
        id={id}
        className={`field ${width}`}
        value={text}
        data-unsaved={unsaved}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === "Enter" && save()}
      />
    </span>
  );
}
