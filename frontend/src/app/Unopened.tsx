import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client, type Problem, Refused } from "../api/client";
import { HistoryLines } from "../features/history/HistoryLines";
import { ProblemLines } from "../ui/ProblemLines";
import { PaletteChoice } from "./Settings";

interface Props {
  planId: string;
  refused: Refused;
  again: () => void;
}

/** A plan that cannot be opened: what is wrong with it, and every way back. */
export function Unopened({ planId, refused, again }: Props) {
  const { problem } = refused;
  const stored = problem.stored;
  return (
    <main className="mx-auto max-w-[860px] px-5 py-6">
      <Link to="/plans" className="font-semibold text-cedar">
        Weary Cedar: all plans
      </Link>
      <h1 className="mt-1">{stored ? `${stored.name}: ${problem.title}` : problem.title}</h1>
      <div role="alert" className="mt-3 border-l-4 border-stop pl-3">
        {stored ? "What is stored is kept as it is; the other plans are not touched by it." : null}
        <ProblemLines problem={problem} />
      </div>
      {stored ? <WaysBack stored={stored} again={again} /> : null}
      {!stored && (
        <p className="mt-3">
          <button type="button" className="act" onClick={again}>
            Try again
          </button>
        </p>
      )}
      <div className="mt-4">
        <PaletteChoice />
      </div>
      {stored && planId === stored.id && <h2 className="mt-5 border-b border-ink pb-1">History</h2>}
      {stored && <Restorable planId={planId} revision={stored.revision} again={again} />}
    </main>
  );
}

type Stored = NonNullable<Problem["stored"]>;

function WaysBack({ stored, again }: { stored: Stored; again: () => void }) {
  const step = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/plans/{plan_id}/undo", {
          params: { path: { plan_id: stored.id }, header: { "if-match": `"${stored.revision}"` } },
        }),
      ),
    onSuccess: again,
  });
  return (
    <>
      <p className="mt-3 flex flex-wrap items-baseline gap-3">
        <button type="button" className="act" disabled={!stored.can_undo} onClick={() => step.mutate()}>
          Undo the last edit
        </button>
        <a className="act" href={`/api/plans/${stored.id}/file`} download>
          Export it as it is
        </a>
        <button type="button" className="act" onClick={again}>
          Try again
        </button>
      </p>
      <Refusal error={step.error} />
    </>
  );
}

function Restorable({ planId, revision, again }: { planId: string; revision: number; again: () => void }) {
  const restore = useMutation({
    mutationFn: (number: number) => {
      const params = { path: { plan_id: planId, number }, header: { "if-match": `"${revision}"` } };
      return answer(client.POST("/api/plans/{plan_id}/revisions/{number}/restore", { params }));
    },
    onSuccess: again,
  });
  return (
    <>
      <Refusal error={restore.error} />
      <HistoryLines planId={planId} revision={revision} restore={(number) => restore.mutate(number)} />
    </>
  );
}

function Refusal({ error }: { error: Error | null }) {
  if (!error) return null;
  return (
    <div role="alert" className="mt-2 border-l-4 border-stop pl-3">
      <strong>{error instanceof Refused ? error.problem.title : "Refused"}.</strong> Nothing was changed.
      <p>{error.message}</p>
    </div>
  );
}
