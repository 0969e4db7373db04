import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { answer, client, Refused } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { keepWaiting, rowId, type WaitingLine, waitingOf } from "./waiting";

type Heard = components["schemas"]["Heard"];

/** Lines that wait are sent again so often, ms. */
const AGAIN_MS = 4_000;

const secondsSince = (ms: number) => Math.max(0, (Date.now() - ms) / 1000);

/** Adds lines to a session; where the server is away they wait and are sent again, each once. */
export function useLines(session: string, clock: string | null) {
  const { view } = useDesk();
  const queries = useQueryClient();
  const [waiting, setWaiting] = useState(() => waitingOf(session));
  const [refused, setRefused] = useState("");
  const [busy, setBusy] = useState(false);
  const refresh = useCallback(() => {
    for (const key of ["session", "forecast", "sessions"])
      void queries.invalidateQueries({ queryKey: [key] });
  }, [queries]);
  const send = useCallback(
    ({ line: text, row_id, corrects, now, typed_ms }: WaitingLine) =>
      answer(
        client.POST("/api/plans/{plan_id}/sessions/{session_id}/rows", {
          params: { path: { plan_id: view.id, session_id: session } },
          body: {
            line: text,
            row_id,
            corrects,
            now: now || null,
            ago_s: typed_ms ? secondsSince(typed_ms) : 0,
          },
        }),
      ),
    [view.id, session],
  );
  const change = useCallback(
    (lines: WaitingLine[]) => {
      if (!keepWaiting(session, lines)) setRefused("This browser has no room to keep it: write it down.");
      setWaiting(lines);
    },
    [session],
  );
  useEffect(() => {
    if (waiting.length === 0) return;
    const again = async () => {
      const first = waiting[0];
      if (!first) return;
      try {
        const found = await send(first);
        if (!found.added) setRefused(`“${first.line}”, typed earlier: ${found.questions.join(" ")}`);
        change(waiting.slice(1));
        refresh();
      } catch (error) {
        if (error instanceof Refused && error.status !== 0 && error.status !== 503) {
          setRefused(`“${first.line}”, typed earlier: ${error.message}`);
          change(waiting.slice(1));
        } else setWaiting([...waiting]);
      }
    };
    const timer = setTimeout(again, AGAIN_MS);
    return () => clearTimeout(timer);
  }, [waiting, send, change, refresh]);
  /** What came of it; nothing where it waits. */
  const add = async (text: string, corrects: string): Promise<Heard | null> => {
    const line = { line: text, row_id: rowId(), now: clock ?? "", corrects };
    setRefused("");
    setBusy(true);
    try {
      const found = await send(line);
      if (found.added) refresh();
      return found;
    } catch (error) {
      if (error instanceof Refused && error.status === 0) {
        change([...waiting, line.now ? line : { ...line, typed_ms: Date.now() }]);
        return null;
      }
      setRefused((error as Error).message);
      return { rows: [], questions: [], added: false };
    } finally {
      setBusy(false);
    }
  };
  return { add, busy, refused, waiting };
}
