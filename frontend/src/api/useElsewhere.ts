import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answer, client, type PlanView } from "./client";

/** So often the server is asked whether someone else has saved, ms. */
const ASKED_EVERY_MS = 10_000;

const CHANNEL = "weary-cedar plans";

interface Saved {
  planId: string;
  revision: number;
}

/**
 * Windows of one plan hear of each other at once where they share a browser, and within seconds where they do not:
 * a stale one fetches the plan anew, and says what changed.
 */
export function useElsewhere(planId: string, view: PlanView | undefined) {
  const queries = useQueryClient();
  const [elsewhere, setElsewhere] = useState<string | null>(null);
  const channel = useRef<BroadcastChannel | null>(null);
  /** The last revision that this window made or said. */
  const known = useRef(0);
  const revision = view?.revision ?? 0;

  const stale = useCallback(
    (newest: number) => {
      if (newest <= (queries.getQueryData<PlanView>(["plan", planId])?.revision ?? newest)) return;
      void queries.invalidateQueries({ queryKey: ["plan", planId] });
      void queries.invalidateQueries({ queryKey: ["history", planId] });
    },
    [queries, planId],
  );
  useEffect(() => {
    const opened = new BroadcastChannel(CHANNEL);
    channel.current = opened;
    opened.onmessage = ({ data }: MessageEvent<Saved>) => {
      if (data.planId === planId) stale(data.revision);
    };
    return () => opened.close();
  }, [planId, stale]);
  const head = useQuery({
    queryKey: ["head", planId],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/head", { params: { path: { plan_id: planId } } })),
    refetchInterval: ASKED_EVERY_MS,
    enabled: view !== undefined,
    retry: false,
  });
  useEffect(() => {
    if (head.data) stale(head.data.revision);
  }, [head.data, stale]);
  useEffect(() => {
    if (known.current > 0 && revision > known.current && view) setElsewhere(view.last_change);
    known.current = Math.max(known.current, revision);
  }, [revision, view]);

  return {
    elsewhere,
    /** This window saved it: nothing to say about it here. */
    own: (saved: PlanView) => {
      known.current = saved.revision;
      setElsewhere(null);
      channel.current?.postMessage({ planId, revision: saved.revision } satisfies Saved);
    },
    forget: () => setElsewhere(null),
  };
}
