import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { percent, whole } from "../../ui/format";
import { HourLegs } from "./HourLegs";

type Goal = "peak" | "energy";

/** Which breakers to move so that the legs lean least, each answer proven. */
export function BalanceSheet({ panelId }: { panelId: string }) {
  const { view, request } = useDesk();
  const [goal, setGoal] = useState<Goal>(Object.keys(view.plan.links ?? {}).length > 0 ? "energy" : "peak");
  const path = { plan_id: view.id, panel_id: panelId };
  const named = view.schedules.length > 1 ? `: ${view.plan.panels?.[panelId]?.name ?? panelId}` : "";
  const balance = useQuery({
    queryKey: ["balance", view.id, view.revision, panelId, goal],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/panels/{panel_id}/balance", { params: { path, query: { goal } } }),
      ),
    placeholderData: (before) => before,
    enabled: view.plan.site.system !== "single_phase_230",
  });
  const apply = (moves: number) =>
    request((header) =>
      answer(
        client.POST("/api/plans/{plan_id}/panels/{panel_id}/balance", {
          params: { path, query: { moves, goal }, header },
        }),
      ),
    );
  const moveOne = (circuit_id: string, to_space: number) =>
    request((header) =>
      answer(
        client.POST("/api/plans/{plan_id}/panels/{panel_id}/move", {
          params: { path, header },
          body: { circuit_id, to_space },
        }),
      ),
    );
  if (view.plan.site.system === "single_phase_230") return null;
  const unit = goal === "peak" ? "W" : "Wh a day";
  const answers = balance.data?.answers ?? [];
  const now = answers[0];
  const different = answers.filter(
    (item, index) => index > 0 && item.lean < (answers[index - 1]?.lean ?? 1) - 1e-9,
  );
  return (
    <section aria-label="Balance">
      <h2 className="border-b border-ink pb-1">Balance the legs{named}</h2>
      <p className="my-1">
        <label>
          <span className="text-faint">for </span>
          <select className="field" value={goal} onChange={(event) => setGoal(event.target.value as Goal)}>
            <option value="peak">everything on at once (one split-phase inverter)</option>
            <option value="energy">energy of a day (one unit on each leg)</option>
          </select>
        </label>
      </p>
      {balance.isError && <p role="alert">{balance.error.message}</p>}
      {balance.isFetching && (
        <p role="status" className="text-faint">
          Looking for the least lean, and proving it…
        </p>
      )}
      {now && (
        <p>
          Now A {whole(now.leg_a)} and B {whole(now.leg_b)} {unit}: <strong>lean {percent(now.lean)}</strong>.
          {different.length === 0 && " No move makes it less."}
        </p>
      )}
      <ol data-testid="balance">
        {different.map((item) => (
          <li key={item.moves.length} className="flex items-baseline gap-3 border-b border-rule py-1">
            <span className="w-40 shrink-0">
              {item.moves.length} moved: <strong>lean {percent(item.lean)}</strong>
            </span>
            <span className="min-w-0 grow text-faint">
              {item.moves.map((move) => (
                <button
                  key={move.circuit_id}
                  type="button"
                  className="act mr-1"
                  title="Move this one alone; what is there comes to its place"
                  onClick={() => moveOne(move.circuit_id, move.to_space)}
                >
                  {move.label} {move.from_space} → {move.to_space}
                </button>
              ))}
              {item.proven ? "proven least" : `not proven, within ${percent(item.gap)}`}
            </span>
            <button type="button" className="act shrink-0" onClick={() => apply(item.moves.length)}>
              Apply
            </button>
          </li>
        ))}
      </ol>
      {balance.data && <HourLegs hours={balance.data.by_hour} />}
      {balance.data && <p className="text-[12px] text-faint">{balance.data.remark}</p>}
    </section>
  );
}
