import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { answer, client, Refused, type RunResult } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";

type Schemas = components["schemas"];
export type Block = Schemas["Block"];
export type Lane = Schemas["LaneOf"];
export type Deed = Schemas["BlockDeed"];
type Trial = Schemas["BlockTrial"];

/** A deed that is tried, and what the server says that it would do. */
interface Tried {
  deed: Deed;
  trial: Trial | null;
  problem: Refused | null;
}

/** While a block is dragged, the whole outage is worked out where that takes no longer than this, ms. */
const WHOLE_MS = 140;
/** Else as much of it as takes about this long, ms. */
const PART_MS = 50;
/** What a moment of a run takes until it is known better, ms. */
const FIRST_PACE = 0.08;
/** A block that rests so long is answered in full, ms. */
const RESTS_MS = 250;

/** Blocks of the plan: each deed is tried while a block is dragged, and stored once it is dropped. */
export function useBlocks({ length_s, intervals = 0 }: RunResult) {
  const { view, request } = useDesk();
  const path = { plan_id: view.id };
  const stored = useQuery({
    queryKey: ["blocks", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/blocks", { params: { path } })),
    placeholderData: (before) => before,
  });
  const [tried, setTried] = useState<Tried | null>(null);
  /** The deed that is wanted now, and whether one is on its way: the server answers one at a time. */
  const wanted = useRef<Deed | null>(null);
  const asking = useRef(false);
  const pace = useRef(FIRST_PACE);
  const rests = useRef(0);
  /** What was stored last: leaving a block after Enter does not store it twice. */
  const sent = useRef<Deed | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was tried is true or gone with every revision
  useEffect(() => {
    wanted.current = null;
    window.clearTimeout(rests.current);
    setTried(null);
  }, [view.revision]);

  const ask = async (whole = false) => {
    const deed = wanted.current;
    if (asking.current || deed === null) return;
    asking.current = true;
    window.clearTimeout(rests.current);
    const takes = intervals * pace.current;
    const query = whole || takes <= WHOLE_MS ? {} : { until_s: (length_s * PART_MS) / takes };
    let found: Omit<Tried, "deed">;
    try {
      const begun = performance.now();
      const params = { path, query };
      const trial = await answer(client.POST("/api/plans/{plan_id}/blocks/try", { params, body: deed }));
      pace.current = (performance.now() - begun) / Math.max(400, trial.run.intervals ?? 0);
      found = { trial, problem: null };
    } catch (error) {
      found = { trial: null, problem: error instanceof Refused ? error : null };
    }
    asking.current = false;
    if (wanted.current === null) return;
    setTried((before) => ({
      deed: wanted.current ?? deed,
      trial: found.trial ?? before?.trial ?? null,
      problem: found.problem,
    }));
    if (wanted.current !== deed) void ask();
    else if (found.trial && found.trial.until_s < length_s)
      rests.current = window.setTimeout(() => void ask(true), RESTS_MS);
  };
  const attempt = (deed: Deed) => {
    wanted.current = deed;
    setTried((before) => ({ deed, trial: before?.trial ?? null, problem: before?.problem ?? null }));
    void ask();
  };
  const cancel = () => {
    window.clearTimeout(rests.current);
    wanted.current = null;
    setTried(null);
  };
  const commit = (deed: Deed) => {
    if (deed === sent.current) return;
    sent.current = deed;
    wanted.current = null;
    request(async (header) => {
      try {
        return await answer(
          client.POST("/api/plans/{plan_id}/blocks", { params: { path, header }, body: deed }),
        );
      } catch (error) {
        setTried(null);
        throw error;
      }
    });
  };
  const latest = useRef({ attempt, cancel, commit });
  latest.current = { attempt, cancel, commit };
  /** The same at every drawing, so that only the block that moves is drawn anew. */
  const doing = useMemo(
    () => ({
      attempt: (deed: Deed) => latest.current.attempt(deed),
      cancel: () => latest.current.cancel(),
      commit: (deed: Deed) => latest.current.commit(deed),
    }),
    [],
  );
  return { lanes: tried?.trial?.lanes ?? stored.data ?? [], stored, tried, ...doing, doing };
}

export type Blocks = ReturnType<typeof useBlocks>;

/** The deed that is on its way for a block, if one is. */
export const deedOf = (blocks: Blocks, block: Block): Deed | null =>
  blocks.tried?.deed.key === block.key && blocks.tried.deed.deed === "move" ? blocks.tried.deed : null;
