import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";

/** What changed and when; any revision can be opened and brought back. */
export function HistoryScreen() {
  const { view, restore } = useDesk();
  const [opened, setOpened] = useState<number | null>(null);
  const path = { plan_id: view.id };
  const history = useQuery({
    queryKey: ["history", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/history", { params: { path } })),
    placeholderData: (before) => before,
  });
  return (
    <>
      <h1 className="mb-1">History of this plan</h1>
      <p className="mb-3 text-faint">
        Every edit is kept, the newest first. Open one to see what the plan said then; bringing it back adds a
        line here and takes nothing away.
      </p>
      <ol data-testid="history">
        {(history.data ?? []).map((line) => (
          <li key={line.revision} className="border-b border-rule py-1">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <span className="w-10 text-right text-faint">{line.revision}</span>
              <span className="w-40 text-faint">{new Date(line.saved_at).toLocaleString()}</span>
              <span className="min-w-0 flex-1">{line.summary}</span>
              {line.current ? (
                <span className="text-faint">as it stands</span>
              ) : (
                <>
                  <button
                    type="button"
                    className="act"
                    aria-expanded={opened === line.revision}
                    onClick={() => setOpened(opened === line.revision ? null : line.revision)}
                  >
                    Open
                  </button>
                  <button type="button" className="act" onClick={() => restore(line.revision)}>
                    Bring back
                  </button>
                </>
              )}
            </div>
            {opened === line.revision && <Opened revision={line.revision} />}
          </li>
        ))}
      </ol>
    </>
  );
}

function Opened({ revision }: { revision: number }) {
  const { view } = useDesk();
  const params = { path: { plan_id: view.id, number: revision } };
  const old = useQuery({
    queryKey: ["revision", view.id, revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/revisions/{number}", { params })),
  });
  if (!old.data) return <p className="text-faint">Opening…</p>;
  const circuits = Object.values(old.data.plan.circuits ?? {});
  const marked = (mark: string) =>
    circuits
      .filter((circuit) => (circuit.mark ?? "off") === mark)
      .map((circuit) => circuit.label)
      .join(", ") || "none";
  return (
    <dl className="my-2 ml-14 grid grid-cols-[90px_1fr] gap-x-3 border-l-2 border-rule pl-3">
      <dt className="text-faint">verdict</dt>
      <dd>{old.data.verdict.sentence}</dd>
      <dt className="text-faint">keep</dt>
      <dd>{marked("keep")}</dd>
      <dt className="text-faint">room</dt>
      <dd>{marked("room")}</dd>
      <dt className="text-faint">off</dt>
      <dd>{marked("off")}</dd>
    </dl>
  );
}
