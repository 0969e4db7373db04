import { NumberField } from "../../ui/NumberField";

interface Props {
  span: { at_s: number; for_s: number };
  set: (part: { at_s?: number; for_s?: number }) => void;
  remove: () => void;
}

/** A stretch of the outage: when it begins, how long it lasts, and taking it away. */
export function SpanFields({ span, set, remove }: Props) {
  return (
    <>
      <NumberField
        label="after the start"
        value={span.at_s / 3600}
        unit="h"
        width="w-12"
        onSave={(hours) => set({ at_s: hours * 3600 })}
      />
      <NumberField
        label="for"
        value={span.for_s / 60}
        unit="min"
        width="w-12"
        onSave={(minutes) => set({ for_s: minutes * 60 })}
      />
      <button type="button" className="act" onClick={remove}>
        Take away
      </button>
    </>
  );
}
