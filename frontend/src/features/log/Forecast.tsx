import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { whole } from "../../ui/format";

type View = components["schemas"]["SessionView"];
type Found = components["schemas"]["SessionForecast"];

/** Until when it lasts from the last row on, made anew with every row. */
export function Forecast({ view }: { view: View }) {
  const { view: plan } = useDesk();
  const params = { path: { plan_id: plan.id, session_id: view.id } };
  const found = useQuery<Found>({
    queryKey: ["forecast", view.id, view.session.rows?.length ?? 0],
    staleTime: 60_000,
    retry: false,
    placeholderData: (before) => before,
    queryFn: ({ signal }) =>
      answer(client.GET("/api/plans/{plan_id}/sessions/{session_id}/forecast", { params, signal })),
  });
  const data = found.data;
  return (
    <section aria-label="Forecast" className="mb-3">
      <h3 className="font-semibold">From here on</h3>
      <CannotShow asked={found} what="forecast" />
      {!data && !found.error && (
        <p role="status" className="text-faint">
          It is being worked out …
        </p>
      )}
      {data && (
        <>
          <p className="text-[1.05rem]" data-testid="forecast-sentence">
            {data.sentence}
          </p>
          {(data.alarms ?? []).map((alarm) => (
            <p key={alarm} role="alert" className="border-l-4 border-stop pl-3 font-semibold">
              {alarm}.
            </p>
          ))}
          {data.night && <p>{data.night}</p>}
          {data.display && <p>{data.display}</p>}
          <p className="text-faint">
            {Object.entries(data.charges ?? {})
              .map(([key, percent]) => `${plan.plan.stations?.[key]?.name ?? key} ${whole(percent)} %`)
              .join(", ")}
            {data.read ? ", by what was read" : ", by the plan alone"}
          </p>
          {(data.notes ?? []).map((note) => (
            <p key={note} className="border-l-4 border-caution pl-3">
              {note}
            </p>
          ))}
        </>
      )}
    </section>
  );
}
