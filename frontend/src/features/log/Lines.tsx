import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";

type View = components["schemas"]["SessionView"];
type Row = components["schemas"]["SessionRow"];

/** A line is looked at once it has rested so long, ms. */
const REST_MS = 300;

/** The line that is typed with what is understood of it, and all rows, the newest first. */
export function Lines({ view }: { view: View }) {
  const { view: plan } = useDesk();
  const queries = useQueryClient();
  const params = { path: { plan_id: plan.id, session_id: view.id } };
  const [line, setLine] = useState("");
  const [rested, setRested] = useState("");
  const [corrects, setCorrects] = useState<Row | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setRested(line.trim()), REST_MS);
    return () => clearTimeout(timer);
  }, [line]);
  const heard = useQuery({
    queryKey: ["heard", view.id, rested],
    enabled: rested !== "",
    staleTime: 60_000,
    retry: false,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/plans/{plan_id}/sessions/{session_id}/heard", {
          params,
          body: { line: rested, corrects: "" },
          signal,
        }),
      ),
  });
  const added = useMutation({
    mutationFn: (text: string) =>
      answer(
        client.POST("/api/plans/{plan_id}/sessions/{session_id}/rows", {
          params,
          body: { line: text, corrects: corrects?.id ?? "" },
        }),
      ),
    onSuccess: (found) => {
      if (!found.added) return;
      setLine("");
      setCorrects(null);
      for (const key of ["session", "forecast", "lesson"])
        void queries.invalidateQueries({ queryKey: [key, view.id] });
    },
  });
  const shown = rested === line.trim() && rested !== "" ? heard.data : undefined;
  return (
    <div>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (line.trim()) added.mutate(line.trim());
        }}
      >
        <label className="block">
          <span className="text-faint">What do you read, or what was done?</span>
          <input
            className="block min-h-11 w-full border-b border-ink bg-transparent text-[1.1rem]"
            value={line}
            maxLength={300}
            placeholder="main 64, pack 68 · in 290 W · fridge off · gen on · freezer 20 F"
            onChange={(event) => setLine(event.target.value)}
          />
        </label>
        {corrects && (
          <p className="text-caution">
            In place of “{corrects.told}”.{" "}
            <button type="button" className="act" onClick={() => setCorrects(null)}>
              As a new row instead
            </button>
          </p>
        )}
        <div aria-live="polite" data-testid="heard" className="min-h-6">
          {shown?.rows.map((row) => (
            <p key={row.told} className="border-l-4 border-cedar pl-3">
              {row.at.slice(11, 16)} · {row.told}
            </p>
          ))}
          {shown?.questions.map((question) => (
            <p key={question} className="border-l-4 border-caution pl-3">
              {question}
            </p>
          ))}
          {(added.error ?? heard.error) && (
            <p role="alert" className="border-l-4 border-stop pl-3">
              {(added.error ?? heard.error)?.message}
            </p>
          )}
        </div>
        <button
          type="submit"
          className="act min-h-11 font-semibold"
          disabled={added.isPending || !line.trim() || (shown?.questions.length ?? 0) > 0}
        >
          Add to the log
        </button>
      </form>
      <Rows rows={view.session.rows ?? []} onCorrect={setCorrects} />
    </div>
  );
}

function Rows({ rows, onCorrect }: { rows: Row[]; onCorrect: (row: Row) => void }) {
  const gone = new Set(rows.map((row) => row.corrects).filter(Boolean));
  const newest = [...rows].sort((a, b) => (a.at < b.at ? 1 : -1));
  return (
    <ol className="mt-3" aria-label="Rows of the log">
      {newest.map((row) => (
        <li key={row.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1">
          <span className="tabular-nums text-faint">
            {row.at.slice(8, 10)}. {row.at.slice(11, 16)}
          </span>
          <span className={gone.has(row.id) ? "line-through" : ""}>{row.told}</span>
          {row.text && row.text !== row.told && <span className="text-faint">“{row.text}”</span>}
          {!gone.has(row.id) && (
            <button type="button" className="act ml-auto" onClick={() => onCorrect(row)}>
              Correct
            </button>
          )}
        </li>
      ))}
      {rows.length === 0 && <li className="py-1 text-faint">Nothing is in the log yet.</li>}
    </ol>
  );
}
