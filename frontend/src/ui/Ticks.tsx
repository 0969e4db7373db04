interface Props {
  title: string;
  of: readonly (readonly [string, string])[];
  chosen: readonly string[];
  onTick: (id: string, on: boolean) => void;
}

/** Some of a few things, each with its own tick. */
export function Ticks({ title, of, chosen, onTick }: Props) {
  return (
    <fieldset>
      <legend className="text-faint">{title}</legend>
      <div className="flex flex-wrap gap-x-4">
        {of.map(([key, words]) => (
          <label key={key} className="min-h-[24px]">
            <input
              type="checkbox"
              className="size-4 accent-cedar"
              checked={chosen.includes(key)}
              onChange={(event) => onTick(key, event.target.checked)}
            />{" "}
            {words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
