import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { tenth } from "../../ui/format";
import { OnDemand } from "../../ui/OnDemand";

type Found = components["schemas"]["HeatChoices"];

const WHICH = { station: "on the station", engine: "while the engine runs", gas: "by gas" } as const;
const PURPOSE = { space: "rooms", water: "water", cooking: "cooking" } as const;

/** Everything that heats: by the station, by the engine, by gas. */
export function HeatWays() {
  const { view } = useDesk();
  return (
    <OnDemand<Found>
      title="Heat: by the station, the engine or gas"
      id="heat"
      button="Compare how to heat"
      takes="rooms, water and cooking, each with and without by a run"
      waiting="The outage is being run without each of them …"
      what="comparison"
      ask={(signal) => {
        const params = { path: { plan_id: view.id } };
        return answer(client.GET("/api/plans/{plan_id}/heat", { params, signal }));
      }}
    >
      {(found) => (
        <>
          {found.why_not && (
            <p className="mt-1 border-l-4 border-caution pl-3">Not compared: {found.why_not}.</p>
          )}
          <ul>
            {(found.choices ?? []).map((item) => (
              <li key={item.load_id} className="border-b border-rule py-1" data-testid="heat-choice">
                <strong>{item.name}</strong>{" "}
                <span className="text-faint">
                  {PURPOSE[item.purpose]} · {tenth(item.kwh_day)} kWh a day · {WHICH[item.which]}
                </span>
                <span className="block">{item.sentence}</span>
              </li>
            ))}
          </ul>
          {(found.choices ?? []).length > 0 && <p className="mt-1 text-caution">{found.caution}</p>}
        </>
      )}
    </OnDemand>
  );
}
