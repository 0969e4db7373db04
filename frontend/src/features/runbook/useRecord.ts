import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, Refused } from "../../api/client";
import { dropRows, holdRow, keepRow, newId, type Row, useRows } from "./rows";

/** So often rows are sent again while the server does not answer, ms. */
const TRIED_EVERY_MS = 2_000;
/** So many rows go at once. */
const AT_ONCE = 500;

const pathOf = (planId: string) => ({ params: { path: { plan_id: planId } } });

/** Send rows; the same row twice counts once, so that they can be sent again. */
const sendRows = (planId: string, rows: readonly Row[]) =>
  answer(
    client.POST("/api/plans/{plan_id}/record", {
      ...pathOf(planId),
      body: { record: 1, plan_id: planId, rows: rows.map((row) => ({ ...row, undoes: row.undoes ?? null })) },
    }),
  );

type Known = Awaited<ReturnType<typeof sendRows>>;
type Wrong = NonNullable<Known["refused"]>[number];

/** What was known, and the rows that the server has taken since, by the time of the act. */
function joined(before: Known | undefined, found: Known): Known {
  const rows = new Map([...(before?.rows ?? []), ...found.rows].map((row) => [row.id, row]));
  return { ...found, rows: [...rows.values()].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)) };
}

/** Which rows were refused, where all that was sent was. */
function wrongRows(error: Refused, sent: readonly Row[]): Wrong[] {
  const problems = error.problem.problems ?? [];
  const found = sent.map((row, index) => ({
    index,
    id: row.id,
    problems: problems.filter(({ field }) => field.startsWith(`/rows/${index}/`)),
  }));
  return error.status === 422 ? found.filter((row) => row.problems.length > 0) : [];
}

/** Send some rows; those that are refused are held with why, and stand in no others' way. */
async function send(planId: string, rows: readonly Row[]): Promise<Known | null> {
  let found: Known | null = null;
  let wrong: Wrong[];
  try {
    found = await sendRows(planId, rows);
    wrong = found.refused ?? [];
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    wrong = wrongRows(error, rows);
    if (wrong.length === 0) throw error;
  }
  for (const { index, problems } of wrong) {
    const row = rows[index];
    if (row) holdRow(planId, { row, problems, aside: false });
  }
  const held = new Set(wrong.map(({ index }) => index));
  if (found)
    dropRows(
      planId,
      rows.filter((_, index) => !held.has(index)),
    );
  return found;
}

/** What was done at the panel: what the server knows, what waits here, and why it could not be taken. */
export function useRecord(planId: string) {
  const queries = useQueryClient();
  const { waiting, held } = useRows(planId);
  const [refused, setRefused] = useState<Refused | null>(null);
  const key = ["record", planId];
  const known = useQuery({
    queryKey: key,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/record", pathOf(planId))),
  });
  /** What the server has taken; an answer that is under way was asked for before, and is asked for again. */
  const learn = (found: Known) => {
    queries.setQueryData(key, (before: Known | undefined) => joined(before, found));
    if (queries.isFetching({ queryKey: key }) > 0) void queries.invalidateQueries({ queryKey: key });
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for every set of rows that waits
  useEffect(() => {
    if (waiting.length === 0) return;
    let over = false;
    let timer = 0;
    const go = async () => {
      try {
        const found = await send(planId, waiting.slice(0, AT_ONCE));
        if (found) learn(found);
        setRefused(null);
      } catch (error) {
        if (over) return;
        if (error instanceof Refused && error.status > 0) setRefused(error);
        timer = window.setTimeout(go, TRIED_EVERY_MS);
      }
    };
    void go();
    return () => {
      over = true;
      window.clearTimeout(timer);
    };
  }, [planId, waiting]);
  return {
    planId,
    known: known.data?.rows ?? [],
    asked: known,
    waiting,
    held,
    refused,
    add: (row: Row) => keepRow(planId, row),
    /** Rows of a pocket file: how many of them are new, and which cannot be taken in. */
    takeIn: async (text: string) => {
      const found = await answer(
        client.POST("/api/plans/{plan_id}/record", {
          ...pathOf(planId),
          body: text as never,
          bodySerializer: (body: unknown) => String(body),
          headers: { "Content-Type": "application/json" },
        }),
      );
      learn(found);
      const wrong = found.refused ?? [];
      const rows: unknown[] = wrong.length > 0 ? JSON.parse(text).rows : [];
      for (const { index, id, problems } of wrong) {
        const given = rows[index];
        const row = typeof given === "object" && given ? given : { action: JSON.stringify(given) };
        holdRow(planId, { row: { ...(row as Row), id: id || newId() }, problems, aside: false });
      }
      return found;
    },
  };
}
