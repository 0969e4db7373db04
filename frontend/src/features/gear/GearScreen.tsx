import { useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { NumberField } from "../../ui/NumberField";
import { FindingItem } from "../checks/FindingItem";
import { Compare } from "./Compare";
import { GENERATOR, OUTLET, PLACE, VEHICLE } from "./gearFields";
import { Links } from "./Links";
import { Parts, PlaceOf, type Room, useRoom } from "./Parts";
import { Recharges } from "./Recharges";
import { SolarArrays } from "./SolarArrays";
import { Stations } from "./Stations";

/** What there is or might be: stations, generators, solar, vehicles, and where they stand. */
export function GearScreen() {
  const { view, edit } = useDesk();
  const library = useQuery({
    queryKey: ["gear"],
    queryFn: () => answer(client.GET("/api/library/gear")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const generators = useRoom("generators");
  const vehicles = useRoom("vehicles");
  const places = useRoom("places");
  const add = (room: Room, name: string, part: object) =>
    edit((plan) => {
      const parts = (plan[room] ?? {}) as object;
      return { ...plan, [room]: { ...parts, [freeId(name, parts)]: part } } as Plan;
    });
  const gear = library.data;
  const rooms = ["stations", "links", "generators", "arrays", "vehicles", "recharges"];
  const findings = view.findings.filter((finding) => rooms.includes(finding.element.room));
  return (
    <>
      <h1 className="sr-only">Gear</h1>
      <p className="mb-3 max-w-[900px] text-faint">
        Describe what you own or think of buying. Begin from a class and put in what the plate says: typical
        figures are as sure as typical figures are.
      </p>
      <div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
        <div>
          <Stations
            classes={gear?.stations ?? []}
            onAdd={(name, station) => add("stations", name, station)}
          />
          <Links />
          <Compare classes={gear?.stations ?? []} />
          <SolarArrays modules={gear?.modules ?? []} onAdd={(name, array) => add("arrays", name, array)} />
          <Parts
            title="Generators"
            parts={generators.parts}
            choices={(gear?.generators ?? []).map((item) => [item.class_id, item.generator.name])}
            onAdd={(id) => {
              const found = gear?.generators.find((item) => item.class_id === id);
              if (found) add("generators", found.generator.name, found.generator);
            }}
            onRemove={generators.remove}
          >
            {(id, part) => (
              <>
                <Fields value={part} fields={GENERATOR} set={(next) => generators.set(id, next)} />
                {Object.entries(part.receptacles ?? {}).map(([key, outlet]) => (
                  <Fields
                    key={key}
                    value={outlet}
                    fields={OUTLET}
                    set={(next) =>
                      generators.set(id, {
                        receptacles: { ...part.receptacles, [key]: { ...outlet, ...next } },
                      })
                    }
                  />
                ))}
                <PlaceOf value={part.place_id} onSave={(place_id) => generators.set(id, { place_id })} />
              </>
            )}
          </Parts>
          <Parts
            title="Vehicles"
            parts={vehicles.parts}
            choices={(gear?.vehicles ?? []).map((item) => [item.class_id, item.vehicle.name])}
            onAdd={(id) => {
              const found = gear?.vehicles.find((item) => item.class_id === id);
              if (found) add("vehicles", found.vehicle.name, found.vehicle);
            }}
            onRemove={vehicles.remove}
          >
            {(id, part) => (
              <>
                <Fields value={part} fields={VEHICLE} set={(next) => vehicles.set(id, next)} />
                <PlaceOf value={part.place_id} onSave={(place_id) => vehicles.set(id, { place_id })} />
              </>
            )}
          </Parts>
          <Recharges onAdd={(name, link) => add("recharges", name, link)} />
          <Parts
            title="Places"
            parts={places.parts}
            choices={[["new", "a new place"]]}
            onAdd={() =>
              add("places", "place", {
                name: "New place",
                kind: "garage",
                opening_m: null,
                co_alarm: "unknown",
                coldest_c: null,
                hottest_c: null,
                below_flood_level: "unknown",
                escape_route: "unknown",
              })
            }
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
        </aside>
      </div>
    </>
  );
}
