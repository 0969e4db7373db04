import type { GearLibrary } from "../../api/client";
import { Fields, Group, Groups } from "../../ui/Fields";
import { KeyedItems, ListedItems } from "../../ui/Items";
import { GENERATOR, QUIET, SECOND_FUEL, VEHICLE, VEHICLE_AWAY } from "./fields/engine";
import { OUTLET } from "./fields/station";
import type { Generator, Vehicle } from "./fields/types";
import { Parts, PlaceOf, useRoom } from "./Parts";
import { PlateText } from "./PlateText";

interface Props<T> {
  gear: GearLibrary;
  onAdd: (name: string, part: T) => void;
}

/** Generators: output, neutral, fuel, quiet hours. */
export function Generators({ gear, onAdd }: Props<Generator>) {
  const room = useRoom("generators");
  return (
    <Parts
      title="Generators"
      room="generators"
      parts={room.parts}
      choices={gear.generators.map((item) => [item.class_id, item.generator.name])}
      onAdd={(id) => {
        const found = gear.generators.find((item) => item.class_id === id);
        if (found) onAdd(found.generator.name, found.generator);
      }}
      onRemove={room.remove}
    >
      {(id, part) => {
        const set = (next: Partial<Generator>) => room.set(id, next);
        const quiet = part.quiet;
        return (
          <>
            <Groups value={part} groups={GENERATOR} set={set} />
            <PlateText kind="generator" label="its watts as printed" onRead={set} />
            <Group title="Place and hours">
              <div className="flex flex-wrap items-baseline gap-x-5">
                <PlaceOf value={part.place_id} onSave={(place_id) => set({ place_id })} />
                <label className="min-h-[26px]">
                  <input
                    type="checkbox"
                    className="size-4 accent-cedar"
                    checked={Boolean(quiet)}
                    onChange={(event) => set({ quiet: event.target.checked ? gear.fresh.quiet : null })}
                  />{" "}
                  keeps quiet hours
                </label>
                {quiet && (
                  <Fields
                    value={quiet}
                    fields={QUIET}
                    set={(hours) => set({ quiet: { ...quiet, ...hours } })}
                  />
                )}
              </div>
            </Group>
            <Group title="Second fuel">
              <label className="min-h-[26px]">
                <input
                  type="checkbox"
                  className="size-4 accent-cedar"
                  checked={Boolean(part.second_fuel)}
                  onChange={(event) =>
                    set({ second_fuel: event.target.checked ? gear.fresh.second_fuel : null })
                  }
                />{" "}
                goes on with another fuel when the first is used up
              </label>
              {part.second_fuel && (
                <Fields
                  value={part.second_fuel}
                  fields={SECOND_FUEL}
                  set={(next) => part.second_fuel && set({ second_fuel: { ...part.second_fuel, ...next } })}
                />
              )}
            </Group>
            <KeyedItems
              title="Outlets"
              one="an outlet"
              items={part.receptacles}
              fields={OUTLET}
              fresh={gear.fresh.receptacle}
              onChange={(receptacles) => set({ receptacles })}
            />
          </>
        );
      }}
    </Parts>
  );
}

/** Vehicles: what they give, for how long, and whether they stay on. */
export function Vehicles({ gear, onAdd }: Props<Vehicle>) {
  const room = useRoom("vehicles");
  return (
    <Parts
      title="Vehicles"
      room="vehicles"
      parts={room.parts}
      choices={gear.vehicles.map((item) => [item.class_id, item.vehicle.name])}
      onAdd={(id) => {
        const found = gear.vehicles.find((item) => item.class_id === id);
        if (found) onAdd(found.vehicle.name, found.vehicle);
      }}
      onRemove={room.remove}
    >
      {(id, part) => (
        <>
          <Groups value={part} groups={VEHICLE} set={(next) => room.set(id, next)} />
          <ListedItems
            title="Away every day"
            one="hours away"
            items={part.away}
            fields={VEHICLE_AWAY}
            fresh={gear.fresh.away}
            onChange={(away) => room.set(id, { away })}
          />
          <PlaceOf value={part.place_id} onSave={(place_id) => room.set(id, { place_id })} />
        </>
      )}
    </Parts>
  );
}
