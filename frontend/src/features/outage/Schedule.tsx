import { useState } from "react";
import { answer, client, type Plan } from "../../api/client";
import { useCursor } from "../../api/cursor";
import { applyPatch } from "../../api/patch";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { OnDemand } from "../../ui/OnDemand";
import { useMoments } from "../../ui/useMoments";

type Found = components["schemas"]["Schedule"];

/** When to do what: worked out for all of the outage or from the cursor on, taken over as one edit. */
export function Schedule({ start }: { start: string }) {
  const { view } = useDesk();
  const { moment } = useMoments(view.plan.site.time_zone);
  const [cursor] = useCursor();
  const [from, setFrom] = useState(0);
  const at = (s: number) => moment(new Date(start).getTime() + 1000 * s);
  return (
    <OnDemand<Found>
      title="When to do what"
      id="schedule"
      button="Work out a schedule"
      takes="engine hours, jobs, plugging in, turning modules: each schedule by a run of its own, some seconds"
      waiting="Schedules are being worked out, each by a run …"
      what="schedule"
      about={[from]}
      ask={(signal) => {
        const params = { path: { plan_id: view.id }, query: { from_s: from } };
        return answer(client.GET("/api/plans/{plan_id}/schedule", { params, signal }));
      }}
      fields={
        <p>
          <span className="text-faint">{from ? `from ${at(from)} on` : "over the whole outage"}</span>{" "}
          {from > 0 && (
            <button type="button" className="act" onClick={() => setFrom(0)}>
              Over the whole outage
            </button>
          )}
          {cursor !== null && cursor > 0 && Math.round(cursor) !== from && (
            <button type="button" className="act" onClick={() => setFrom(Math.round(cursor))}>
              From the cursor on: {at(cursor)}
            </button>
          )}
        </p>
      }
    >
      {(found) => <Answer found={found} />}
    </OnDemand>
  );
}

function Answer({ found }: { found: Found }) {
  const { edit } = useDesk();
  return (
    <>
      <p className="mt-1 text-[1.05rem]" data-testid="schedule-sentence">
        {found.sentence}
      </p>
      {(found.doings ?? []).length > 0 && (
        <ul className="ml-4 list-disc" aria-label="What is done when">
          {found.doings?.map((item) => (
            <li key={item.words}>{item.words}</li>
          ))}
        </ul>
      )}
      {found.better && (
        <p className="my-1">
          <button
            type="button"
            className="act font-semibold"
            onClick={() => edit((plan) => applyPatch(plan, found.patch ?? {}) as Plan)}
          >
            Take this schedule over
          </button>{" "}
          <span className="text-faint">
            {found.daily
              ? "as rules for every day, which can be moved on the strip"
              : "as acts at these hours, which can be moved on the strip"}
            . {found.verdict}
          </span>
        </p>
      )}
      <Costs found={found} />
      {found.gap && <p className="text-faint">{found.gap}</p>}
      {found.chance && <p data-testid="schedule-chance">{found.chance}.</p>}
      {found.better && <Days found={found} />}
    </>
  );
}

/** What the outage costs as the plan stands, and by the schedule. */
function Costs({ found }: { found: Found }) {
  const costs = found.costs ?? [];
  if (costs.length === 0) return null;
  return (
    <table className="named my-1 text-left" data-testid="schedule-costs">
      <thead>
        <tr className="border-b border-ink">
          <th className="pr-4 font-normal text-faint">what it costs</th>
          <th className="pr-4 font-normal text-faint">as it stands</th>
          {found.better && <th className="font-normal text-faint">by this schedule</th>}
        </tr>
      </thead>
      <tbody>
        {costs.map((line) => (
          <tr key={line.words} className="border-b border-rule">
            <th scope="row" className="pr-4 font-normal">
              {line.words}
            </th>
            <td className="pr-4 tabular-nums">{line.before}</td>
            {found.better && (
              <td className={line.better ? "font-semibold text-good" : ""}>
                {line.after}
                {line.better && " · better"}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The days by this schedule, in words. */
function Days({ found }: { found: Found }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-faint hover:text-cedar">Its days in words</summary>
      {(found.days ?? []).map((day) => (
        <p key={day.day} className="mt-1 max-w-[900px]">
          <strong>{day.day}</strong> {day.text}
        </p>
      ))}
    </details>
  );
}
