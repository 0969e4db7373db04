import type { GearLibrary } from "../../api/client";
import { ChoiceField } from "../../ui/ChoiceField";
import { CountField } from "../../ui/CountField";
import type { Given } from "./given";

interface Props {
  given: Given;
  set: (part: Partial<Given>) => void;
  classes: GearLibrary["stations"];
  receptacles: readonly string[];
}

/** A station of a class, or by the five figures of its plate, with its packs. */
export function StationField({ given, set, classes, receptacles }: Props) {
  const chosen = classes.find((item) => item.class_id === given.station);
  return (
    <div className="flex w-full flex-wrap items-baseline gap-x-6 gap-y-2">
      <ChoiceField
        label="power station"
        value={given.station}
        choices={[
          ["", "nothing yet"],
          ["plate", "by the figures on its plate"],
          ...classes.map((item) => [item.class_id, item.station.name] as const),
        ]}
        onSave={(station) => set({ station })}
      />
      {given.station === "plate" && (
        <>
          <ChoiceField
            label="gives"
            value={given.output}
            choices={[
              ["120/240", "120/240 V"],
              ["120", "120 V"],
              ["230", "230 V"],
            ]}
            onSave={(output) => set({ output })}
          />
          <CountField label="rated, W" value={given.rated_va} onSave={(rated_va) => set({ rated_va })} />
          <CountField
            label="holds, Wh"
            value={given.nameplate_wh}
            onSave={(nameplate_wh) => set({ nameplate_wh })}
          />
          <ChoiceField
            label="largest outlet"
            value={given.outlet}
            choices={receptacles.map((kind) => [kind, kind] as const)}
            onSave={(outlet) => set({ outlet })}
          />
          <CountField
            label="from the wall, W"
            value={given.charge_w}
            onSave={(charge_w) => set({ charge_w })}
          />
        </>
      )}
      {given.station !== "" && (
        <CountField label="extra packs" value={given.packs} onSave={(packs) => set({ packs })} />
      )}
      {given.station !== "" && Number(given.packs) > 0 && !chosen?.pack_wh && (
        <CountField label="each holds, Wh" value={given.pack_wh} onSave={(pack_wh) => set({ pack_wh })} />
      )}
    </div>
  );
}
