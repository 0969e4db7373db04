import { useState } from "react";
import { answer, client, type GearLibrary } from "../../api/client";
import { useGear } from "../../api/library";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { ANSWERS, Fields, Group, Groups } from "../../ui/Fields";
import { KeyedItems, ListedItems } from "../../ui/Items";
import { freeId } from "../../ui/ids";
import { NumberField } from "../../ui/NumberField";
import { DischargeTest } from "./DischargeTest";
import {
  AC_INPUT,
  BANK,
  BANK_BATTERY,
  CURVE,
  DC_INPUT,
  DC_OUTPUT,
  PACK,
  PLATE,
  STATION,
  STATION_OUTLET,
  TAPER,
} from "./fields/station";
import type { Bank, Fresh, Pack, Station } from "./fields/types";
import { Parts, PlaceOf, useRoom } from "./Parts";
import { PlateText } from "./PlateText";

interface Props {
  gear: GearLibrary;
  onAdd: (name: string, station: Station) => void;
}

/** Stations with their packs, outlets, inputs and, where built up from parts, their batteries. */
export function Stations({ gear, onAdd }: Props) {
  const room = useRoom("stations");
  const classes = gear.stations;
  return (
    <Parts
      title="Stations"
      room="stations"
      parts={room.parts}
      choices={classes.map((item) => [item.class_id, item.station.name])}
      onAdd={(id) => {
        const found = classes.find((item) => item.class_id === id);
        if (found) onAdd(found.station.name, found.station);
      }}
      onRemove={room.remove}
    >
      {(id, station) => (
        <StationFields id={id} station={station} fresh={gear.fresh} set={(part) => room.set(id, part)} />
      )}
    </Parts>
  );
}

interface StationProps {
  id: string;
  station: Station;
  fresh: Fresh;
  set: (part: Partial<Station>) => void;
}

function StationFields({ id, station, fresh, set }: StationProps) {
  return (
    <>
      <Groups value={station} groups={PLATE} set={set} />
      <KeyedItems
        title="Outlets"
        one="an outlet"
        items={station.receptacles}
        fields={STATION_OUTLET}
        fresh={fresh.receptacle}
        onChange={(receptacles) => set({ receptacles })}
      />
      <Packs id={id} station={station} fresh={fresh} set={set} />
      <Inputs id={id} station={station} fresh={fresh} set={set} />
      <Group title="Place">
        <PlaceOf value={station.place_id} onSave={(place_id) => set({ place_id })} />
      </Group>
      <details>
        <summary className="min-h-[26px] cursor-pointer text-faint">
          All else about it: losses, neutral, charging, what it does when empty
        </summary>
        <div className="flex flex-col gap-2 pt-1">
          <Groups value={station} groups={STATION} set={set} />
          <Group
            title="A full discharge"
            hint="From full until its output goes off, at a load that you know: head unit alone, or with all its packs."
          >
            <DischargeTest station={station} set={set} />
          </Group>
          <Group
            title="Near full"
            hint="Watch it charge at its most: where the watts begin to fall, and the last of them."
          >
            <ChoiceField
              label="near full it takes"
              value={station.taper ? "less" : "all"}
              choices={[
                ["less", "less and less"],
                ["all", "all it can until it is full"],
              ]}
              onSave={(way) => set({ taper: way === "less" ? { knee_percent: 95, end_percent: 35 } : null })}
            />
            {station.taper && (
              <Fields
                value={station.taper}
                fields={TAPER}
                set={(part) => station.taper && set({ taper: { ...station.taper, ...part } })}
              />
            )}
          </Group>
          <Group
            title="With little on it"
            hint="Eco or power-saving mode: it may turn off between two cycles of a refrigerator."
          >
            <Cutout id={id} station={station} fresh={fresh} set={set} />
          </Group>
          <KeyedItems
            title="12 V and USB"
            one="a direct-current outlet"
            items={station.dc_outputs}
            fields={DC_OUTPUT}
            fresh={fresh.dc_output}
            onChange={(dc_outputs) => set({ dc_outputs })}
          />
          <ListedItems
            title={pointsOf(station).length > 0 ? "Overload" : "Overload: not known, counted as usual"}
            one="a point"
            items={pointsOf(station)}
            fields={CURVE}
            fresh={fresh.curve_point}
            onChange={(points) => set({ overload_curve: points.length > 0 ? points : "unknown" })}
          />
          <Refused station={station} set={set} />
          {station.bank && <BankFields bank={station.bank} set={(bank) => set({ bank })} />}
          <p>
            <button
              type="button"
              className="act"
              onClick={() => set({ bank: station.bank ? null : fresh.bank })}
            >
              {station.bank ? "It is one piece" : "It is built up from parts"}
            </button>
          </p>
        </div>
      </details>
      <Replace id={id} station={station} />
    </>
  );
}

/** What a station is built up from: its batteries, cables and fuse. */
function BankFields({ bank, set }: { bank: Bank; set: (bank: Bank) => void }) {
  return (
    <>
      <Groups value={bank} groups={BANK} set={(part) => set({ ...bank, ...part })} />
      <KeyedItems
        title="Batteries, where they are not alike"
        one="a battery"
        items={bank.batteries}
        fields={BANK_BATTERY}
        fresh={{ name: "battery" }}
        onChange={(batteries) => set({ ...bank, batteries })}
      />
    </>
  );
}

/** Another station in its place: what is plugged into it stays plugged. */
function Replace({ id, station }: { id: string; station: Station }) {
  const { view, request } = useDesk();
  const gear = useGear();
  const [chosen, setChosen] = useState("");
  const classes = gear.stations.map((item) => [item.class_id, item.station.name] as const);
  return (
    <form
      className="flex flex-wrap items-baseline gap-x-3 border-t border-rule pt-1"
      onSubmit={(event) => {
        event.preventDefault();
        request((header) =>
          answer(
            client.POST("/api/plans/{plan_id}/stations/{station_id}/replace", {
              params: { path: { plan_id: view.id, station_id: id }, query: { class_id: chosen }, header },
            }),
          ),
        );
        setChosen("");
      }}
    >
      <ChoiceField
        label="another in its place"
        value={chosen}
        choices={[["", "choose"], ...classes]}
        onSave={setChosen}
      />
      <button type="submit" className="act disabled:invisible" disabled={chosen === ""}>
        Put it in the place of {station.name}
      </button>
    </form>
  );
}

/** Its overload curve; without a point where that is not known. */
const pointsOf = ({ overload_curve }: Station) =>
  typeof overload_curve === "object" && overload_curve !== null ? overload_curve : [];

/** Whether it turns its output off by itself with little on it. */
function Cutout({ station, fresh, set }: StationProps) {
  const cutout = station.idle_cutout;
  return (
    <div className="flex flex-wrap items-baseline gap-x-5">
      <ChoiceField
        label="turns its output off by itself"
        value={cutout === "unknown" ? cutout : cutout ? "yes" : "no"}
        choices={ANSWERS}
        onSave={(answer) =>
          set({ idle_cutout: answer === "unknown" ? answer : answer === "yes" ? fresh.idle_cutout : null })
        }
      />
      {cutout && cutout !== "unknown" && (
        <>
          <NumberField
            label="under"
            value={cutout.threshold_w}
            unit="W"
            onSave={(threshold_w) => set({ idle_cutout: { ...cutout, threshold_w } })}
          />
          <NumberField
            label="for"
            value={cutout.after_s / 60}
            unit="min"
            onSave={(minutes) => set({ idle_cutout: { ...cutout, after_s: minutes * 60 } })}
          />
        </>
      )}
    </div>
  );
}

/** Packs; each may have solar inputs of its own. */
function Packs({ id: stationId, station, fresh, set }: StationProps) {
  const { command } = useDesk();
  const packs = station.packs ?? {};
  const change = (id: string, part: Partial<Pack>) =>
    set({ packs: { ...packs, [id]: { ...(packs[id] as Pack), ...part } } });
  return (
    <>
      <KeyedItems
        title="Extra packs, made for it"
        one="a pack"
        items={packs}
        fields={PACK}
        fresh={fresh.pack}
        onChange={(next) => set({ packs: next })}
        onRemove={(pack_id) => command({ command: "packs", station_id: stationId, pack_id, count: 0 })}
      />
      {Object.entries(packs).map(([id, pack]) => (
        <KeyedItems
          key={id}
          title={`Inputs of ${pack.name}`}
          one="a solar input"
          items={pack.dc_inputs}
          fields={DC_INPUT}
          fresh={fresh.dc_input}
          onChange={(dc_inputs) => change(id, { dc_inputs })}
        />
      ))}
      {Object.entries(packs).map(([id, pack]) => (
        <KeyedItems
          key={id}
          title={`Direct current of ${pack.name}`}
          one="a direct-current outlet"
          items={pack.dc_outputs}
          fields={DC_OUTPUT}
          fresh={fresh.dc_output}
          onChange={(dc_outputs) => change(id, { dc_outputs })}
        />
      ))}
    </>
  );
}

/** Where it takes power; an input may be typed as its plate has it. */
function Inputs({ station, fresh, set }: StationProps) {
  const read = (kind: "ac_inputs" | "dc_inputs", base: object | undefined) => (fields: object) => {
    const items = station[kind] ?? {};
    const id = freeId(kind === "ac_inputs" ? "wall" : "sun", items);
    set({ [kind]: { ...items, [id]: { ...base, ...fields } } } as Partial<Station>);
  };
  return (
    <>
      <KeyedItems
        title="AC inputs"
        one="an AC input"
        items={station.ac_inputs}
        fields={AC_INPUT}
        fresh={fresh.ac_input}
        onChange={(ac_inputs) => set({ ac_inputs })}
      />
      <PlateText kind="ac_input" label="an AC input as printed" onRead={read("ac_inputs", fresh.ac_input)} />
      <KeyedItems
        title="DC inputs"
        one="a DC input"
        items={station.dc_inputs}
        fields={DC_INPUT}
        fresh={fresh.dc_input}
        onChange={(dc_inputs) => set({ dc_inputs })}
        beside={
          <PlateText kind="dc_input" label="or as printed" onRead={read("dc_inputs", fresh.dc_input)} />
        }
      />
    </>
  );
}

const WAVES = [
  ["inverter", "inverter"],
  ["conventional", "conventional"],
  ["standby", "standby"],
] as const;

/** Classes of generator that its charger is known to refuse. */
function Refused({ station, set }: Omit<StationProps, "fresh" | "id">) {
  const refuses = station.refuses ?? [];
  return (
    <Group title="Its charger refuses" hint="Generators by class, where a manual says so or where you tried.">
      <div className="flex flex-wrap gap-x-4">
        {WAVES.map(([key, words]) => (
          <label key={key} className="min-h-[26px]">
            <input
              type="checkbox"
              className="size-4 accent-cedar"
              checked={refuses.includes(key)}
              onChange={(event) =>
                set({
                  refuses: event.target.checked ? [...refuses, key] : refuses.filter((item) => item !== key),
                })
              }
            />{" "}
            {words}
          </label>
        ))}
      </div>
    </Group>
  );
}
