import type { Plan } from "../../api/client";
import { useGear } from "../../api/library";
import { useDesk } from "../../api/plan";
import { Fields, OfferedContext } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { NumberField } from "../../ui/NumberField";
import { FindingItem } from "../checks/FindingItem";
import { Box } from "./Box";
import { Compare } from "./Compare";
import { Generators, Vehicles } from "./Engines";
import { Externals } from "./Externals";
import { PLACE } from "./fields/place";
import { HowMuch } from "./HowMuch";
import { InventoryTable } from "./InventoryTable";
import { Links } from "./Links";
import { Parts, type Room, useRoom } from "./Parts";
import { Recharges } from "./Recharges";
import { SolarArrays } from "./SolarArrays";
import { Stations } from "./Stations";

/** Rooms whose findings are shown here. */
const ROOMS = ["stations", "links", "generators", "arrays", "vehicles", "externals"];

/** What there is or might be: stations, generators, solar, vehicles, and where they stand. */
export function GearScreen() {
  const { view, edit } = useDesk();
  const gear = useGear();
  const places = useRoom("places");
  const add = (room: Room) => (name: string, part: object) =>
    edit((plan) => {
      const parts = (plan[room] ?? {}) as object;
      return { ...plan, [room]: { ...parts, [freeId(name, parts)]: part } } as Plan;
    });
  const charging = (id: string) => view.plan.leads?.[id]?.to.end === "input";
  const findings = view.findings.filter(
    ({ element: { room, id } }) => ROOMS.includes(room) || (room === "leads" && charging(id)),
  );
  return (
    <OfferedContext.Provider value={{ receptacles: gear.receptacle_kinds }}>
      <h1 className="sr-only">Gear</h1>
      <p className="mb-3 max-w-[900px] text-faint">
        Describe what you own or think of buying. Begin from a class and put in what the plate says: typical
        figures are as sure as typical figures are.
        {gear.stations[0] && ` Figures of classes: ${gear.stations[0].source.toLowerCase()}.`}
      </p>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_360px]">
        <div className="min-w-0">
          <Stations gear={gear} onAdd={add("stations")} />
          <Links fresh={gear.fresh} />
          <Compare gear={gear} />
          <HowMuch />
          <SolarArrays gear={gear} onAdd={add("arrays")} />
          <Generators gear={gear} onAdd={add("generators")} />
          <Vehicles gear={gear} onAdd={add("vehicles")} />
          <Externals gear={gear} onAdd={add("externals")} />
          <Recharges onAdd={add("leads")} />
          <Box gear={gear} />
          <Parts
            title="Places"
            room="places"
            parts={places.parts}
            choices={[["new", "a new place"]]}
            onAdd={() => add("places")("place", gear.fresh.place)}
            onRemove={places.remove}
          >
            {(id, part) => <Fields value={part} fields={PLACE} set={(next) => places.set(id, next)} />}
          </Parts>
          <NumberField
            label="coldest that solar modules may see"
            value={view.plan.site.design_low_c ?? null}
            unit="°C"
            onSave={(design_low_c) => edit((plan) => ({ ...plan, site: { ...plan.site, design_low_c } }))}
          />
        </div>
        <aside>
          <h2 className="border-b border-ink pb-1">About the gear</h2>
          <ul aria-label="Findings of the gear">
            {findings.map((finding, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: one part may have the same finding twice
              <FindingItem key={`${finding.key} ${index}`} finding={finding} />
            ))}
            {findings.length === 0 && <li className="py-1 text-faint">Nothing was found.</li>}
          </ul>
          <InventoryTable />
        </aside>
      </div>
    </OfferedContext.Provider>
  );
}
