import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { Buttons } from "./Buttons";
import { useLines } from "./useLines";

type View = components["schemas"]["SessionView"];
type Row = components["schemas"]["SessionRow"];
type Heard = components["schemas"]["Heard"];

/** A line is looked at once it has rested so long, ms. */
const REST_MS = 300;

/** The line that is typed with what is understood of it, and all rows, the newest first. */
export function Lines({ view, clock }: { view: View; clock: string | null }) {
  const [line, setLine] = useState("");
  const [corrects, setCorrects] = useState<Row | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const { add, busy, refused, waiting } = useLines(view.id, clock);
  const heard = useHeard(view.id, line, clock);
  const say = (text: string) => {
    setLine(text);
    field.current?.focus();
  };
  const submit = async () => {
    const text = line.trim();
    if (!text) return;
    const found = await add(text, corrects?.id ?? "");
    if (found !== null && !found.added) return;
    setLine("");
    setCorrects(null);
  };
  return (
    <div>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <label className="block">
          <span className="text-faint">What do you read, or what was done?</span>
          <input
            ref={field}
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
        <HeardLine found={heard.data} wrong={refused || heard.error?.message || ""} />
        <button
          type="submit"
          className="act min-h-11 font-semibold"
          disabled={busy || !line.trim() || (heard.data?.questions.length ?? 0) > 0}
        >
          Add to the log
        </button>
        {waiting.length > 0 && (
          <p role="status" className="border-l-4 border-caution pl-3" data-testid="waiting">
            {waiting.length === 1 ? "One line waits" : `${waiting.length} lines wait`} for the server: “
            {waiting[0]?.line}”. Kept on this device, sent by itself, counted once.
          </p>
        )}
      </form>
      <Buttons onSay={say} />
      <Rows rows={view.session.rows ?? []} total={view.rows_total} onCorrect={setCorrects} />
    </div>
  );
}

/** What is understood of a line once it rests. */
function useHeard(session: string, line: string, clock: string | null) {
  const { view: plan } = useDesk();
  const [rested, setRested] = useState("");
  useEffect(() => {
    const timer = setTimeout(() => setRested(line.trim()), REST_MS);
    return () => clearTimeout(timer);
  }, [line]);
  const now = rested === line.trim() && rested !== "";
  const found = useQuery({
    queryKey: ["heard", session, rested],
    enabled: now,
    staleTime: 60_000,
    retry: false,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/plans/{plan_id}/sessions/{session_id}/heard", {
          params: { path: { plan_id: plan.id, session_id: session } },
          body: { line: rested, corrects: "", row_id: "", now: clock, ago_s: 0 },
          signal,
        }),
      ),
  });
  return { data: now ? found.data : undefined, error: now ? found.error : null };
}

function HeardLine({ found, wrong }: { found: Heard | undefined; wrong: string }) {
  return (
    <div aria-live="polite" data-testid="heard" className="min-h-6">
      {found?.rows.map((row) => (
        <p key={row.told} className="border-l-4 border-cedar pl-3">
          {row.at.slice(11, 16)} · {row.told}
        </p>
      ))}
      {found?.questions.map((question) => (
        <p key={question} className="border-l-4 border-caution pl-3">
          {question}
        </p>
      ))}
      {wrong && (
        <p role="alert" className="border-l-4 border-stop pl-3">
          {wrong}
        </p>
      )}
    </div>
  );
}

function Rows({ rows, total, onCorrect }: { rows: Row[]; total: number; onCorrect: (row: Row) => void }) {
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
          {row.by && <span className="text-faint">by {row.by}</span>}
          {!gone.has(row.id) && (
            <button type="button" className="act ml-auto" onClick={() => onCorrect(row)}>
              Correct
            </button>
          )}
        </li>
      ))}
      {total > rows.length && (
        <li className="py-1 text-faint">
          The newest {rows.length} of {total} rows; all are in its file.
        </li>
      )}
      {rows.length === 0 && <li className="py-1 text-faint">Nothing is in the log yet.</li>}
    </ol>
  );
}
