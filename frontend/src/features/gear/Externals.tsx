import type { GearLibrary } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Groups } from "../../ui/Fields";
import { dcInputs, inputKey, onInput } from "./dcInputs";
import { EXTERNAL } from "./fields/solar";
import type { External } from "./fields/types";
import { Parts, PlaceOf, useRoom } from "./Parts";

interface Props {
  gear: GearLibrary;
  onAdd: (name: string, battery: External) => void;
}

/** Tool packs and other batteries that refill a station by a DC input. */
export function Externals({ gear, onAdd }: Props) {
  const { view } = useDesk();
  const room = useRoom("externals");
  return (
    <Parts
      title="Batteries from elsewhere, on a DC input"
      room="externals"
      parts={room.parts}
      choices={gear.externals.map((item) => [item.class_id, item.battery.name])}
      onAdd={(id) => {
        const found = gear.externals.find((item) => item.class_id === id);
        if (found) onAdd(found.battery.name, found.battery);
      }}
      onRemove={room.remove}
    >
      {(id, battery) => (
        <>
          <Groups value={battery} groups={EXTERNAL} set={(part) => room.set(id, part)} />
          <div className="flex flex-wrap gap-x-5">
            <ChoiceField
              label="on"
              value={inputKey(battery)}
              choices={[["", "no input"] as const, ...dcInputs(view.plan)]}
              onSave={(key) => room.set(id, onInput(key))}
            />
            <PlaceOf value={battery.place_id} onSave={(place_id) => room.set(id, { place_id })} />
          </div>
        </>
      )}
    </Parts>
  );
}
