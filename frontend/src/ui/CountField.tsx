interface Props {
  label: string;
  value: string;
  onSave: (value: string) => void;
}

/** A short figure as text: whoever takes it reads it. */
export function CountField({ label, value, onSave }: Props) {
  return (
    <label className="inline-flex items-baseline gap-1">
      <span className="text-faint">{label}</span>
      <input
        className="field w-16 text-right"
        inputMode="numeric"
        value={value}
        onChange={(event) => onSave(event.target.value)}
      />
    </label>
  );
}
