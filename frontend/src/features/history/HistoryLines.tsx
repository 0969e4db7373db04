import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { here } from "../../ui/format";

interface Props {
  planId: string;
  revision: number;
  restore: (revision: number) => void;
}

/** The lines of a plan's history, and how much of it is kept; needs nothing of the plan itself. */
export function HistoryLines({ planId, revision, restore }: Props) {
  const [opened, setOpened] = useState<number | null>(null);
  const path = { plan_id: planId };
  const history = useQuery({
    queryKey: ["history", planId, revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/history", { params: { path } })),
    placeholderData: (before) => before,
  });
  if (history.isError)
    return (
      <p role="alert" className="text-stop">
        {history.error.message}
      </p>
    );
  if (!history.data) return <p className="text-faint">Opening…</p>;
  const { lines, kept, thinned, bytes, rule } = history.data;
  return (
    <>
      <ol data-testid="history">
        {lines.map((line) => (
          <li key={line.revision} className="border-b border-rule py-1">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <span className="w-10 text-right text-faint">{line.revision}</span>
              <span className="w-40 text-faint">{here(line.saved_at)}</span>
              <span className="min-w-0 flex-1 basis-40">{line.summary}</span>
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
            {opened === line.revision && <Opened planId={planId} revision={line.revision} />}
          </li>
        ))}
      </ol>
      <p data-testid="kept" className="mt-3 text-faint">
        {kept.toLocaleString()} {kept === 1 ? "revision" : "revisions"} kept, {size(bytes)} in all
        {thinned > 0 && `, ${thinned.toLocaleString()} older ones thinned out`}. Kept are {rule}, and those
        that undo leads to.
      </p>
    </>
  );
}

const size = (bytes: number) =>
  bytes < 1_000_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;

function Opened({ planId, revision }: { planId: string; revision: number }) {
  const params = { path: { plan_id: planId, number: revision } };
  const old = useQuery({
    queryKey: ["revision", planId, revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/revisions/{number}", { params })),
  });
  if (old.isError)
    return (
      <p role="alert" className="ml-14 text-stop">
        This revision cannot be opened: {old.error.message}
      </p>
    );
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
