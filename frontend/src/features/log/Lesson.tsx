import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Plan } from "../../api/client";
import { applyPatch } from "../../api/patch";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { Worth } from "./Worth";

type View = components["schemas"]["SessionView"];
type Learnt = components["schemas"]["Learnt"];

/** What the readings teach: figures beside what was assumed, taken over one by one. */
export function Lesson({ view }: { view: View }) {
  const { view: plan } = useDesk();
  const [asked, setAsked] = useState(false);
  const params = { path: { plan_id: plan.id, session_id: view.id } };
  const found = useQuery({
    queryKey: ["lesson", view.id, view.rows_total],
    enabled: asked,
    staleTime: 60_000,
    retry: false,
    queryFn: ({ signal }) =>
      answer(client.GET("/api/plans/{plan_id}/sessions/{session_id}/lesson", { params, signal })),
  });
  const data = found.data;
  return (
    <section aria-label="What it teaches" className="mb-4">
      <h2 className="border-b border-ink pb-1">What it teaches</h2>
      {!asked && (
        <button type="button" className="act" onClick={() => setAsked(true)}>
          Learn from the readings
        </button>
      )}
      <CannotShow asked={found} what="lesson" />
      {asked && found.isFetching && (
        <p role="status" className="text-faint">
          Figures are being fitted, each try a run …
        </p>
      )}
      {data && !found.isFetching && (
        <>
          <p data-testid="lesson">{data.sentence}</p>
          {plan.revision > view.revision && (data.figures ?? []).some((item) => item.learnt) && (
            <p className="border-l-4 border-caution pl-3">
              The plan was changed since this log began (revision {view.revision}): what is taken over stands
              in place of what it says about the same figures now.
            </p>
          )}
          <ul>
            {(data.figures ?? []).map((item) => (
              <Figure key={item.key} item={item} />
            ))}
          </ul>
          {(data.figures ?? []).some((item) => item.learnt) && (
            <Worth sessionId={view.id} rows={view.rows_total} />
          )}
          {(data.misfits ?? []).map((item) => (
            <p key={item.row_id} className="border-l-4 border-caution pl-3">
              Does not fit: {item.told}; {shown(item.expected)} was expected: {item.slip}.
            </p>
          ))}
          {data.next && <p className="text-faint">{data.next}.</p>}
        </>
      )}
    </section>
  );
}

const shown = (value: number) => Number(value.toPrecision(3)).toLocaleString("en-US");

function Figure({ item }: { item: Learnt }) {
  const { edit } = useDesk();
  return (
    <li className="border-b border-rule py-1">
      {item.words}: <span className="text-faint">{shown(item.before)}</span> →{" "}
      <strong className="tabular-nums">
        {shown(item.after)} {item.unit}
      </strong>{" "}
      <span className="text-faint">
        ({shown(item.low)} to {shown(item.high)}){item.learnt ? "" : ", hardly learnt"}
      </span>{" "}
      {item.learnt && (
        <button
          type="button"
          className="act"
          onClick={() => edit((plan) => applyPatch(plan, item.patch) as Plan)}
        >
          Take over as measured
        </button>
      )}
    </li>
  );
}
