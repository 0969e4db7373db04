import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Plan } from "../api/client";
import { useDesk } from "../api/plan";
import { CannotShow } from "../ui/CannotShow";
import { ChoiceField } from "../ui/ChoiceField";

type System = Plan["site"]["system"];

const SYSTEMS = [
  ["split_phase_120_240", "120/240 V, two legs"],
  ["single_phase_230", "230 V, one line"],
] as const;

const EARTHING = [
  ["unknown", "not known"],
  ["tn_c_s", "TN-C-S, from the neutral at the house"],
  ["tn_s", "TN-S, a conductor of its own"],
  ["tt", "TT, an electrode of the house"],
] as const;

/** The voltage of the house: what another one does is shown before it is set. */
export function Voltage() {
  const { view, request, edit } = useDesk();
  const present = view.plan.site.system;
  const [wanted, setWanted] = useState<System | null>(null);
  const asked = wanted !== null && wanted !== present ? wanted : null;
  const params = { path: { plan_id: view.id }, query: { system: asked ?? present } };
  const trial = useQuery({
    queryKey: ["voltage", view.id, view.revision, asked],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/voltage", { params })),
    enabled: asked !== null,
  });
  const set = () => {
    request((header) =>
      answer(client.POST("/api/plans/{plan_id}/voltage", { params: { ...params, header } })),
    );
    setWanted(null);
  };
  return (
    <div>
      <ChoiceField label="House of" value={wanted ?? present} choices={SYSTEMS} onSave={setWanted} />
      {present === "single_phase_230" && (
        <ChoiceField
          label="Earthing"
          value={view.plan.site.earthing}
          choices={EARTHING}
          onSave={(earthing) => edit((plan) => ({ ...plan, site: { ...plan.site, earthing } }))}
        />
      )}
      {asked && (
        <section aria-label="What that does" className="mt-1 max-w-[420px] border-l-4 border-caution pl-3">
          <CannotShow asked={trial} what="what that does" />
          {trial.data && (
            <>
              <ul className="list-disc pl-4">
                {trial.data.effects.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
              <p className="mt-1">Now: {trial.data.before}.</p>
              <p>Then: {trial.data.after}.</p>
              {trial.data.stops.length > 0 && (
                <p className="text-stop">New stops: {trial.data.stops.join("; ")}.</p>
              )}
              <p className="mt-1 flex gap-3">
                <button type="button" className="act font-semibold" onClick={set}>
                  Change it
                </button>
                <button type="button" className="act" onClick={() => setWanted(null)}>
                  Leave it
                </button>
              </p>
            </>
          )}
        </section>
      )}
    </div>
  );
}
