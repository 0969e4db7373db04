import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { TextField } from "../../ui/TextField";

/** A token for a script or a home automation: it sends readings to the newest log, and nothing else. */
export function Machine() {
  const { view } = useDesk();
  const [name, setName] = useState("home automation");
  const path = { plan_id: view.id };
  const sessions = useQuery({
    queryKey: ["sessions", view.id],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/sessions", { params: { path } })),
  });
  const newest = sessions.data?.[0];
  const made = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/network/machines", {
          body: { name, plan_id: view.id, session_id: newest?.id ?? "" },
        }),
      ),
  });
  return (
    <section aria-label="Machines" className="mt-3">
      <h3 className="font-semibold">A machine that sends readings</h3>
      {newest ? (
        <p className="flex flex-wrap items-baseline gap-x-3">
          <TextField label="called" value={name} onSave={setName} />
          <button type="button" className="act" onClick={() => made.mutate()}>
            Make a token for “{newest.name}”
          </button>
        </p>
      ) : (
        <p className="text-faint">Begin a log first: its readings belong to one.</p>
      )}
      {made.data && (
        <div data-testid="machine-token">
          <p className="text-faint">Shown only now. Send with it, for example:</p>
          <pre className="whitespace-pre-wrap break-all border border-rule p-2 text-[0.85rem]">
            {`curl ${made.data.address} \\
  -H "Authorization: Bearer ${made.data.token}" -H "Content-Type: application/json" \\
  -d '{"readings": [{"part": "stations/${Object.keys(view.plan.stations ?? {})[0] ?? "station"}", "what": "charge", "value": 64, "unit": "%"}]}'`}
          </pre>
        </div>
      )}
      {made.error && (
        <p role="alert" className="border-l-4 border-stop pl-3">
          {made.error.message}
        </p>
      )}
    </section>
  );
}
