import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { FileButton } from "../../ui/FileButton";
import { filesBody } from "../../ui/files";
import { CouldNot } from "./CouldNot";
import { PlanRow } from "./PlanRow";

type Job = () => Promise<unknown>;

/** All plans with what each amounts to: begin, copy, rename, put away and bring back, files in and out. */
export function PlansScreen() {
  const queries = useQueryClient();
  const [words, setWords] = useState("");
  const plans = useQuery({ queryKey: ["plans"], queryFn: () => answer(client.GET("/api/plans")) });
  const away = useQuery({
    queryKey: ["plans", "away"],
    queryFn: () => answer(client.GET("/api/plans", { params: { query: { put_away: true } } })),
  });
  const sought = words.trim().toLowerCase();
  const found = (plans.data ?? []).filter((plan) => plan.name.toLowerCase().includes(sought));
  const act = useMutation({
    mutationFn: (job: Job) => job(),
    onSettled: () => queries.invalidateQueries({ queryKey: ["plans"] }),
  });
  const at = (plan_id: string) => ({ params: { path: { plan_id } } });

  const read = (chosen: File) =>
    act.mutate(() => answer(client.POST("/api/plans/import", filesBody({ file: chosen }))));
  return (
    <main className="mx-auto max-w-[960px] px-5 py-6">
      <p className="font-semibold text-cedar">Weary Cedar</p>
      <h1>Plans</h1>
      <p className="mb-4 text-faint">
        How portable power stations carry a house through an outage. Open a plan, or begin one.
      </p>
      <p className="mb-4">
        <Link
          to="/begin"
          className="inline-flex min-h-[44px] items-center border border-cedar bg-cedar px-4 font-semibold text-paper"
        >
          Begin a plan
        </Link>{" "}
        <Link to="/guide" className="act ml-3">
          Guide
        </Link>
      </p>
      {act.isError && <CouldNot error={act.error} kept="Nothing was changed." />}
      {(plans.data?.length ?? 0) > 3 && (
        <label className="mb-2 block">
          <span className="text-faint">find a plan </span>
          <input
            type="search"
            className="field w-52"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
      )}
      <ul data-testid="plans" className="border-t border-ink">
        {found.map((plan) => (
          <PlanRow key={plan.id} plan={plan}>
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
              onClick={() => act.mutate(() => answer(client.DELETE("/api/plans/{plan_id}", at(plan.id))))}
            >
              Put away
            </button>
          </PlanRow>
        ))}
        {plans.data?.length === 0 && (
          <li className="py-3">There is no plan yet. Begin one, or import a file.</li>
        )}
        {plans.data && plans.data.length > 0 && found.length === 0 && (
          <li className="py-3">No plan has “{words}” in its name.</li>
        )}
      </ul>
      {(away.data?.length ?? 0) > 0 && (
        <details className="mt-3">
          <summary className="min-h-[26px] cursor-pointer text-faint">
            Put away: {away.data?.length === 1 ? "1 plan" : `${away.data?.length} plans`}
          </summary>
          <ul data-testid="put-away">
            {(away.data ?? []).map((plan) => (
              <li key={plan.id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-1">
                <span className="min-w-0 flex-1">{plan.name}</span>
                <button
                  type="button"
                  className="act"
                  onClick={() =>
                    act.mutate(() => answer(client.POST("/api/plans/{plan_id}/undelete", at(plan.id))))
                  }
                >
                  Bring {plan.name} back
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
      <p className="mt-2 text-right">
        <FileButton label="Plan file" accept="application/json,.json" onChoose={read}>
          Import a plan file
        </FileButton>
      </p>
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
