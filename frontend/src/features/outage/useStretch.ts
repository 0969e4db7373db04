import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type RunResult } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { Span } from "./span";

/** Under this share of the outage the strip asks for every change in what it shows. */
const CLOSE = 0.25;
/** Courses of fewer rows are whole already. */
const WHOLE_ROWS = 1_900;

/** The run with every change of the stretch that is shown, where the whole one is too long to be told in full. */
export function useStretch(run: RunResult, span: Span, tried: boolean): RunResult {
  const { view } = useDesk();
  const length = span.to - span.from;
  const long = (run.intervals ?? 0) > WHOLE_ROWS;
  const close = long && !tried && length < CLOSE * run.length_s;
  /** Fetched with as much again on both sides, so that panning a little asks for nothing. */
  const from_s = Math.max(0, Math.floor((span.from - length) / 600) * 600);
  const to_s = Math.min(run.length_s, Math.ceil((span.to + length) / 600) * 600);
  const params = { path: { plan_id: view.id }, query: { from_s, to_s } };
  const found = useQuery({
    queryKey: ["stretch", view.id, view.revision, from_s, to_s],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/run/stretch", { params })),
    placeholderData: keepPreviousData,
    enabled: close,
  });
  return close && found.data ? found.data : run;
}
