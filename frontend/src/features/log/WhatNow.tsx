import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { OnDemand } from "../../ui/OnDemand";
import { MayStart } from "../outage/MayStart";

type View = components["schemas"]["SessionView"];
type Suggestions = components["schemas"]["Suggestions"];
type Schedule = components["schemas"]["Schedule"];

const NEW_ROWS = "rows were added since it was worked out";

/** Decided from the present state: may I start it, what would make it last, what tonight. */
export function WhatNow({ view }: { view: View }) {
  const { view: plan } = useDesk();
  const path = { plan_id: plan.id, session_id: view.id };
  const last = (view.session.rows ?? []).reduce(
    (at, row) => (row.at > at ? row.at : at),
    view.session.begins,
  );
  return (
    <section aria-label="What now" className="mb-3">
      <h2 className="border-b border-ink pb-1">What now?</h2>
      <MayStart at={0} begins={`${last}Z`} zone="UTC" session={view.id} />
      <OnDemand<Suggestions>
        title="What would help from here on"
        button="Try changes from here on"
        takes="each by a run of its own, some seconds"
        waiting="Changes are being tried, each by a run …"
        what="suggestions"
        version={view.rows_total}
        changed={NEW_ROWS}
        about={[view.id]}
        ask={(signal) =>
          answer(
            client.GET("/api/plans/{plan_id}/sessions/{session_id}/suggestions", {
              params: { path },
              signal,
            }),
          )
        }
      >
        {(found) => (
          <>
            <p data-testid="help-now">{found.sentence}</p>
            <ul className="ml-4 list-disc">
              {(found.singles ?? []).slice(0, 6).map((item) => (
                <li key={item.words}>
                  {item.words}: {item.outcome}
                </li>
              ))}
            </ul>
          </>
        )}
      </OnDemand>
      <OnDemand<Schedule>
        title="Tonight, and after"
        button="Work it out from here on"
        takes="engine hours, jobs, plugging in; some seconds"
        waiting="Schedules are being worked out, each by a run …"
        what="schedule"
        version={view.rows_total}
        changed={NEW_ROWS}
        about={[view.id]}
        ask={(signal) =>
          answer(
            client.GET("/api/plans/{plan_id}/sessions/{session_id}/schedule", { params: { path }, signal }),
          )
        }
      >
        {(found) => (
          <>
            <p data-testid="tonight">{found.sentence}</p>
            <ul className="ml-4 list-disc">
              {(found.doings ?? []).map((item) => (
                <li key={item.words}>{item.words}</li>
              ))}
            </ul>
            {(found.days ?? []).slice(0, 2).map((day) => (
              <p key={day.day} className="mt-1">
                <strong>{day.day}</strong> {day.text}
              </p>
            ))}
          </>
        )}
      </OnDemand>
    </section>
  );
}
