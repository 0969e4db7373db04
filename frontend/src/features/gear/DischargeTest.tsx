import { useState } from "react";
import { NumberField } from "../../ui/NumberField";
import { told, useUnits } from "../../ui/quantity";
import type { Station } from "./fields/types";

/** What a station gave from full to empty at a known load: it says more than its plate. */
export function DischargeTest({ station, set }: { station: Station; set: (part: Partial<Station>) => void }) {
  const units = useUnits();
  const packs = Object.keys(station.packs ?? {}).length > 0;
  const [wh, setWh] = useState<number | null>(null);
  const [watts, setWatts] = useState<number | null>(null);
  if (station.delivered_wh != null && station.delivered_at_w != null)
    return (
      <p className="flex flex-wrap items-baseline gap-x-3">
        A full discharge gave {told(station.delivered_wh, "Wh", units)} at{" "}
        {told(station.delivered_at_w, "W", units)}
        {packs && (station.delivered_with_packs ? ", its packs plugged in" : ", head unit alone")}; losses and
        idle draw are taken out of it once.
        <button
          type="button"
          className="act"
          onClick={() => set({ delivered_wh: null, delivered_at_w: null })}
        >
          Forget this test
        </button>
      </p>
    );
  return (
    <p className="flex flex-wrap items-baseline gap-x-3">
      <NumberField label="a full discharge gave" value={wh} unit="Wh" onSave={setWh} />
      <NumberField label="at a mean load of" value={watts} unit="W" onSave={setWatts} />
      {(packs ? [false, true] : [false]).map((delivered_with_packs) => (
        <button
          key={String(delivered_with_packs)}
          type="button"
          className="act"
          disabled={wh === null || watts === null}
          onClick={() =>
            set({
              delivered_wh: wh,
              delivered_at_w: watts,
              delivered_with_packs,
              cell_wh: null,
              capacity_origin: "measured",
            })
          }
        >
          {delivered_with_packs ? "Take it, packs plugged in" : "Take this test"}
        </button>
      ))}
    </p>
  );
}
