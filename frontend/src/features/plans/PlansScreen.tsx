import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { answer, client, Refused } from "../../api/client";
import { filesBody } from "../../ui/files";
import { Begin } from "./Begin";

type Job = () => Promise<unknown>;

/** All plans: begin, copy, rename, delete with undo, and plan files in and out. */
export function PlansScreen() {
  const queries = useQueryClient();
  const [deleted, setDeleted] = useState<{ id: string; name: string } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const plans = useQuery({ queryKey: ["plans"], queryFn: () => answer(client.GET("/api/plans")) });
  const act = useMutation({
    mutationFn: (job: Job) => job(),
    onSettled: () => queries.invalidateQueries({ queryKey: ["plans"] }),
  });
  const at = (plan_id: string) => ({ params: { path: { plan_id } } });

  const read = (chosen: File) =>
    act.mutate(() => answer(client.POST("/api/plans/import", filesBody({ file: chosen }))));
  return (
    <main className="mx-auto max-w-[860px] px-5 py-6">
      <p className="font-semibold text-cedar">Weary Cedar</p>
      <h1>Plans</h1>
      <p className="mb-4 text-faint">
        How portable power stations carry a house through an outage. Open a plan, or begin one.
      </p>
      {act.isError && (
        <div role="alert" className="mb-3 border-l-4 border-stop pl-3">
          <strong>{act.error instanceof Refused ? act.error.problem.title : "Refused"}.</strong> Nothing was
          changed.
          <br />
          {act.error.message}
        </div>
      )}
      {deleted && (
        <p role="status" className="mb-3 border-l-4 border-rule pl-3">
          {deleted.name} is deleted.{" "}
          <button
            type="button"
            className="act"
            onClick={() => {
              act.mutate(() => answer(client.POST("/api/plans/{plan_id}/undelete", at(deleted.id))));
              setDeleted(null);
            }}
          >
            Bring it back
          </button>
        </p>
      )}
      <ul data-testid="plans" className="border-t border-ink">
        {(plans.data ?? []).map((plan) => (
          <li key={plan.id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-2">
            <Link to={`/plans/${plan.id}/panel`} className="min-w-0 flex-1 font-semibold hover:text-cedar">
              {plan.name}
            </Link>
            <span className="text-faint">saved {new Date(plan.saved_at).toLocaleString()}</span>
            <Rename id={plan.id} name={plan.name} revision={plan.revision} act={act.mutate} />
            <button
              type="button"
              className="act"
              onClick={() =>
                act.mutate(() => answer(client.POST("/api/plans/{plan_id}/duplicate", at(plan.id))))
              }
            >
              Duplicate
            </button>
            <a className="act" href={`/api/plans/${plan.id}/file`} download>
              Export
            </a>
            <button
              type="button"
              className="act"
              onClick={() =>
                act.mutate(async () => {
                  await answer(client.DELETE("/api/plans/{plan_id}", at(plan.id)));
                  setDeleted({ id: plan.id, name: plan.name });
                })
              }
            >
              Delete
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-right">
        <button type="button" className="act" onClick={() => file.current?.click()}>
          Import a plan file
        </button>
        <input
          ref={file}
          type="file"
          accept="application/json,.json"
          className="sr-only"
          tabIndex={-1}
          aria-label="Plan file"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            if (chosen) read(chosen);
            event.target.value = "";
          }}
        />
      </p>
      <Begin onBegin={(plan) => act.mutate(() => answer(client.POST("/api/plans", { body: plan })))} />
    </main>
  );
}

function Rename(props: { id: string; name: string; revision: number; act: (job: Job) => void }) {
  const { id, name, revision, act } = props;
  const [text, setText] = useState<string | null>(null);
  if (text === null)
    return (
      <button type="button" className="act" onClick={() => setText(name)}>
        Rename
      </button>
    );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const params = { path: { plan_id: id }, header: { "if-match": `"${revision}"` } };
        act(() => answer(client.PATCH("/api/plans/{plan_id}", { params, body: { name: text } as never })));
        setText(null);
      }}
    >
      <input
        className="field"
        aria-label={`New name of ${name}`}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <button type="submit" className="act">
        Save
      </button>
    </form>
  );
}
