import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { whole } from "../../ui/format";
import { useAlarm } from "./useAlarm";

type View = components["schemas"]["SessionView"];
type Found = components["schemas"]["SessionForecast"];

/** Until when it lasts from the last row on, made anew with every row. */
export function Forecast({ view }: { view: View }) {
  const { view: plan } = useDesk();
  const params = { path: { plan_id: plan.id, session_id: view.id } };
  const found = useQuery<Found>({
    queryKey: ["forecast", view.id, view.rows_total],
    staleTime: 60_000,
    retry: false,
    placeholderData: (before) => before,
    queryFn: ({ signal }) =>
      answer(client.GET("/api/plans/{plan_id}/sessions/{session_id}/forecast", { params, signal })),
  });
  const data = found.data;
  const due = (data?.due ?? []).map((item) => `${item.at.slice(11, 16)} ${item.words}`);
  const { on, arm } = useAlarm([...(data?.alarms ?? []), ...due.slice(0, 1)]);
  return (
    <section aria-label="Forecast" className="mb-3">
      <h2 className="border-b border-ink pb-1">From here on</h2>
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
          {due.length > 0 && (
            <ul aria-label="Due soon" className="ml-4 list-disc">
              {due.map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          )}
          {data.night && <p>{data.night}</p>}
          {(data.food ?? []).map((item) => (
            <p
              key={item.name}
              className={`border-l-4 pl-3 ${item.do === "keep" ? "border-good" : "border-stop"}`}
            >
              {item.sentence}
            </p>
          ))}
          {data.display && <p>{data.display}</p>}
          <p className="text-faint">
            {Object.entries(data.charges ?? {})
              .map(([key, percent]) => `${plan.plan.stations?.[key]?.name ?? key} ${whole(percent)} %`)
              .join(", ")}
            {data.read ? ", by what was read" : ", by the plan alone"}
          </p>
          <p>
            {on ? (
              <span className="text-faint">This page sounds when an alarm comes.</span>
            ) : (
              <button type="button" className="act min-h-9" onClick={() => void arm()}>
                Sound on this device when an alarm comes
              </button>
            )}
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
