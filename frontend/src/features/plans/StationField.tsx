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

/** Two that were linked are not, once it is another station: only units of 120 V are. */
const alone = ({ how_many }: Given): Partial<Given> => (how_many === "linked" ? { how_many: "one" } : {});

/** A station of a class, or by the five figures of its plate, with its packs. */
export function StationField({ given, set, classes, receptacles }: Props) {
  const chosen = classes.find((item) => item.class_id === given.station);
  const output = given.station === "plate" ? given.output : chosen?.station.output;
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
        onSave={(station) => set({ station, ...alone(given) })}
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
            onSave={(output) => set({ output, ...alone(given) })}
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
        <ChoiceField
          label="how many"
          value={given.how_many}
          choices={[
            ["one", "one"],
            ["two", "two alike"],
            ...(output === "120" ? ([["linked", "two, linked by their kit"]] as const) : []),
          ]}
          onSave={(how_many) => set({ how_many: how_many as Given["how_many"] })}
        />
      )}
      {given.station !== "" && given.how_many === "linked" && (
        <ChoiceField
          label="outlet of the kit"
          value={given.kit_outlet}
          choices={receptacles.map((kind) => [kind, kind] as const)}
          onSave={(kit_outlet) => set({ kit_outlet })}
        />
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
