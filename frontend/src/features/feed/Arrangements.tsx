import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";

type Danger = components["schemas"]["Danger"];

/** What every arrangement of handles lets meet that must not; each way can be gone through act by act. */
export function Arrangements() {
  const { view } = useDesk();
  const looked = useQuery({
    queryKey: ["arrangements", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/arrangements", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  const found = looked.data;
  if (found && found.handles === 0) return null;
  const colour = found?.sound ? "border-rule" : found?.dangers.length ? "border-stop" : "border-caution";
  return (
    <section aria-label="Every arrangement of handles" className="mb-6 max-w-[900px]">
      <h2 className="mb-1 border-b border-ink pb-1">Every arrangement of handles</h2>
      <CannotShow asked={looked} what="arrangements" />
      {found && <p className={`border-l-4 pl-3 ${colour}`}>{found.words}.</p>}
      {found?.dangers.map((danger) => (
        <Way key={`${danger.code} ${danger.leads.join(" ")}`} danger={danger} />
      ))}
    </section>
  );
}

/** The shortest way to a danger, one act after another. */
function Way({ danger }: { danger: Danger }) {
  const [done, setDone] = useState(0);
  const acts = danger.acts ?? [];
  const there = done >= acts.length;
  return (
    <div className="mt-2 border-l-4 border-stop pl-3" data-testid="way">
      <p>
        <strong className="text-stop">Never: {danger.why}.</strong>{" "}
        {acts.length === 0
          ? `It is ${danger.words}.`
          : `The shortest way, ${acts.length === 1 ? "one act" : `${acts.length} acts`}:`}
      </p>
      <ol className="ml-6 list-decimal">
        {acts.map((act, index) => (
          <li key={`${act.what} ${act.to}`} className={index < done ? "" : "text-faint"}>
            {act.name}: {act.to}
            {index < done && <span> ✓</span>}
          </li>
        ))}
      </ol>
      {acts.length > 0 && (
        <p>
          <button type="button" className="act" disabled={there} onClick={() => setDone(done + 1)}>
            Next act
          </button>
          {done > 0 && (
            <button type="button" className="act ml-4" onClick={() => setDone(0)}>
              From the beginning
            </button>
          )}
          <span role="status" className="ml-4">
            {there ? <strong className="text-stop">Here {danger.why}.</strong> : `${done} of ${acts.length}`}
          </span>
        </p>
      )}
    </div>
  );
}
