import type { GearLibrary } from "../../api/client";
import { Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { NumberField } from "../../ui/NumberField";
import { AC_INPUT, BANK, type Bank, DC_INPUT, OUTLET, PACK, STATION, type Station } from "./gearFields";
import { Parts, PlaceOf, useRoom } from "./Parts";

type Class = GearLibrary["stations"][number];

const FRESH_BANK: Bank = {
  nominal_v: 51.2,
  lowest_v: 48,
  cable_a: null,
  fuse_a: null,
  fuse_for_dc: "unknown",
  fuse_interrupts_a: null,
  fault_a: null,
  bms_a: null,
  parallel: 1,
  fuse_per_battery: "unknown",
  in_series: 1,
  most_in_series: null,
  alike: "unknown",
  joined_apart_v: null,
  precharge: "unknown",
  closed_room: "unknown",
  low_temperature_lockout: "unknown",
};

interface Props {
  classes: Class[];
  onAdd: (name: string, station: Station) => void;
}

/** Stations with their packs, outlets, inputs and, where built up from parts, their batteries. */
export function Stations({ classes, onAdd }: Props) {
  const room = useRoom("stations");
  return (
    <Parts
      title="Stations"
      parts={room.parts}
      choices={classes.map((item) => [item.class_id, item.station.name])}
      onAdd={(id) => {
        const found = classes.find((item) => item.class_id === id);
        if (found) onAdd(found.station.name, found.station);
      }}
      onRemove={room.remove}
    >
      {(id, station) => (
        <StationFields
          station={station}
          pack={classes.find((item) => item.pack_wh !== null)?.pack_wh ?? 2048}
          set={(part) => room.set(id, part)}
        />
      )}
    </Parts>
  );
}

interface StationProps {
  station: Station;
  pack: number;
  set: (part: Partial<Station>) => void;
}

function StationFields({ station, pack, set }: StationProps) {
  const addPack = () => {
    const id = freeId("pack", station.packs ?? {});
    set({ packs: { ...station.packs, [id]: { name: "pack", nameplate_wh: pack, count: 1 } } });
  };
  return (
    <>
      <Fields value={station} fields={STATION} set={set} />
      <NumberField
        label="inverter efficiency"
        value={station.inverter_efficiency * 100}
        unit="%"
        width="w-12"
        onSave={(percent) => set({ inverter_efficiency: percent / 100 })}
      />
      <PlaceOf value={station.place_id} onSave={(place_id) => set({ place_id })} />
      {Object.entries(station.packs ?? {}).map(([key, item]) => (
        <Fields
          key={key}
          value={item}
          fields={PACK}
          set={(part) => set({ packs: { ...station.packs, [key]: { ...item, ...part } } })}
        />
      ))}
      {Object.entries(station.receptacles ?? {}).map(([key, outlet]) => (
        <Fields
          key={key}
          value={outlet}
          fields={OUTLET}
          set={(part) => set({ receptacles: { ...station.receptacles, [key]: { ...outlet, ...part } } })}
        />
      ))}
      {Object.entries(station.ac_inputs ?? {}).map(([key, entry]) => (
        <Fields
          key={key}
          value={entry}
          fields={AC_INPUT}
          set={(part) => set({ ac_inputs: { ...station.ac_inputs, [key]: { ...entry, ...part } } })}
        />
      ))}
      {Object.entries(station.dc_inputs ?? {}).map(([key, entry]) => (
        <Fields
          key={key}
          value={entry}
          fields={DC_INPUT}
          set={(part) => set({ dc_inputs: { ...station.dc_inputs, [key]: { ...entry, ...part } } })}
        />
      ))}
      {station.bank && (
        <Fields
          value={station.bank}
          fields={BANK}
          set={(part) => set({ bank: { ...FRESH_BANK, ...station.bank, ...part } })}
        />
      )}
      <p className="flex gap-x-3">
        <button type="button" className="act" onClick={addPack}>
          Add a pack
        </button>
        <button type="button" className="act" onClick={() => set({ bank: station.bank ? null : FRESH_BANK })}>
          {station.bank ? "It is one piece" : "It is built up from parts"}
        </button>
      </p>
    </>
  );
}
