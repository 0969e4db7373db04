import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client } from "./client";
import { useDesk } from "./plan";
import type { components } from "./schema.gen";

type Asked = { outages: number } & Omit<Varied, "one_in_ten_s"> & { one_in_ten_s?: number };
export type Chance = components["schemas"]["Chance"];

/** What varies beside the figures of the plan; the server's own where absent. */
export interface Varied {
  begins?: "as_said" | "any_hour";
  one_in_ten_s?: number | null;
  no_start?: number;
  forgets?: number;
}

/** So many outages are run at a time. */
const STEP = 20;
/** An edit has rested when nothing was edited for so long, ms. */
const REST_MS = 2_500;

/** What is kept in this window as long as it is open, for whoever shows it. */
const KEPT = { enabled: false, staleTime: Number.POSITIVE_INFINITY, gcTime: Number.POSITIVE_INFINITY };

/** What varies for a plan, the same on every screen of it. */
export function useVaried(): [Varied, (next: Varied) => void] {
  const { view } = useDesk();
  const queries = useQueryClient();
  const queryKey = ["varied", view.id];
  const kept = useQuery<Varied>({ queryKey, queryFn: () => ({}), initialData: {}, ...KEPT });
  return [kept.data, (next) => queries.setQueryData(queryKey, next)];
}

/**
 * The chance that the plan as it is shown lasts: worked out step by step once the last edit rests, as far as
 * asked; whoever edits on, or leaves, ends it. All who show it show the same.
 */
export function useChance(upTo: number) {
  const { view, saving } = useDesk();
  const [varied] = useVaried();
  const queries = useQueryClient();
  const [rested, setRested] = useState(-1);
  useEffect(() => {
    if (saving) return;
    const timer = setTimeout(() => setRested(view.revision), REST_MS);
    return () => clearTimeout(timer);
  }, [view.revision, saving]);
  const about = [view.id, view.revision, varied];
  const best = useQuery<Chance | null>({
    queryKey: ["chance", ...about],
    queryFn: () => null,
    initialData: null,
    ...KEPT,
  });
  const chance = best.data;
  const got = chance ? chance.outages + (chance.skipped ?? 0) : 0;
  const next = Math.min(upTo, got + STEP);
  const goesOn = !chance?.done && got < upTo;
  const asked = useQuery({
    queryKey: ["chance after", ...about, next],
    enabled: rested === view.revision && !saving && goesOn,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    queryFn: ({ signal }) => {
      const params = { path: { plan_id: view.id }, query: { ...varied, outages: next } as Asked };
      return answer(client.GET("/api/plans/{plan_id}/chance", { params, signal }));
    },
  });
  const found = asked.data;
  // biome-ignore lint/correctness/useExhaustiveDependencies: it belongs to what was asked
  useEffect(() => {
    if (found) queries.setQueryData(["chance", ...about], found);
  }, [found]);
  return { chance, asked, working: goesOn && asked.isFetching };
}
