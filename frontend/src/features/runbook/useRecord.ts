import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, Refused } from "../../api/client";
import { dropRows, keepRow, type Row, useKeptRows } from "./kept";

/** So often rows are sent again while the server does not answer, ms. */
const TRIED_EVERY_MS = 2_000;

const pathOf = (planId: string) => ({ params: { path: { plan_id: planId } } });

/** Send rows; the same row twice counts once, so that they can be sent again. */
export const sendRows = (planId: string, rows: readonly Row[]) =>
  answer(
    client.POST("/api/plans/{plan_id}/record", {
      ...pathOf(planId),
      body: { record: 1, plan_id: planId, rows: rows.map((row) => ({ ...row, undoes: row.undoes ?? null })) },
    }),
  );

type Known = Awaited<ReturnType<typeof sendRows>>;

/** What was known, and the rows that the server has taken since, by the time of the act. */
function joined(before: Known | undefined, found: Known): Known {
  const rows = new Map([...(before?.rows ?? []), ...found.rows].map((row) => [row.id, row]));
  return { ...found, rows: [...rows.values()].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)) };
}

/** What was done at the panel: what the server knows, what waits here, and why it could not be taken. */
export function useRecord(planId: string) {
  const queries = useQueryClient();
  const waiting = useKeptRows(planId);
  const [refused, setRefused] = useState<Refused | null>(null);
  const key = ["record", planId];
  const known = useQuery({
    queryKey: key,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/record", pathOf(planId))),
  });
  const next = waiting.map((row) => row.id).join(" ");
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for every set of rows that waits
  useEffect(() => {
    if (next === "") return;
    let over = false;
    let timer = 0;
    const send = async () => {
      try {
        const found = await sendRows(planId, waiting);
        queries.setQueryData(key, (before: Known | undefined) => joined(before, found));
        setRefused(null);
        dropRows(planId, waiting);
      } catch (error) {
        if (over) return;
        if (error instanceof Refused && error.status > 0) setRefused(error);
        timer = window.setTimeout(send, TRIED_EVERY_MS);
      }
    };
    void send();
    return () => {
      over = true;
      window.clearTimeout(timer);
    };
  }, [planId, next]);
  return {
    known: known.data?.rows ?? [],
    asked: known,
    waiting,
    refused,
    add: (row: Row) => keepRow(planId, row),
    /** Rows of a pocket file; how many of them are new. */
    takeIn: async (text: string) => {
      const found = await answer(
        client.POST("/api/plans/{plan_id}/record", {
          ...pathOf(planId),
          body: text as never,
          bodySerializer: (body: unknown) => String(body),
          headers: { "Content-Type": "application/json" },
        }),
      );
      queries.setQueryData(key, (before: Known | undefined) => joined(before, found));
      return found.taken ?? 0;
    },
  };
}
