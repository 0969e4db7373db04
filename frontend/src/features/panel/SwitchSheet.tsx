import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { energy, tenth } from "../../ui/format";

/** Interlock or a switch with chosen circuits: what each leaves dark, how often each is overloaded. */
export function SwitchSheet({ panelId }: { panelId: string }) {
  const { view } = useDesk();
  const queries = useQueryClient();
  const path = { plan_id: view.id, panel_id: panelId };
  const named = view.schedules.length > 1 ? `: ${view.plan.panels?.[panelId]?.name ?? panelId}` : "";
  const found = useQuery({
    queryKey: ["switch", view.id, view.revision, panelId],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/panels/{panel_id}/switch", { params: { path } })),
    placeholderData: (before) => before,
  });
  const copy = useMutation({
    mutationFn: (handles: number) =>
      answer(
        client.POST("/api/plans/{plan_id}/panels/{panel_id}/switch", {
          params: { path, query: { handles } },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["plans"] }),
  });
  const keep = (handles: number) => (
    <button type="button" className="act shrink-0" onClick={() => copy.mutate(handles)}>
      Keep as a copy
    </button>
  );
  return (
    <section aria-label="Interlock or switch">
      <h2 className="border-b border-ink pb-1">Interlock or transfer switch{named}</h2>
      <CannotShow asked={found} what="comparison" />
      {found.data && (
        <dl data-testid="switch">
          <div className="border-b border-rule py-1">
            <dt className="font-semibold">
              Interlock, nobody shedding:{" "}
              {found.data.interlock_overloads_per_day === null
                ? "overloads cannot be judged for this source yet"
                : `overloaded ${tenth(found.data.interlock_overloads_per_day)} times a day`}
              {(found.data.interlock_trips ?? 0) > 0 &&
                `, ${found.data.interlock_trips} trips in this outage`}
            </dt>
            <dd className="flex items-baseline gap-3">
              <span className="grow text-faint">
                every circuit can be had; someone has to manage breakers
              </span>
              {keep(0)}
            </dd>
          </div>
          {found.data.switches.map((item) => (
            <div key={item.handles} className="border-b border-rule py-1">
              <dt className="font-semibold">
                Switch of {item.handles}: {item.blind_spots.length === 0 ? "nothing wanted stays dark" : null}
                {item.blind_spots.length > 0 && `${item.blind_spots.length} wanted circuits stay dark`}
              </dt>
              <dd className="flex items-baseline gap-3">
                <span className="grow text-faint">
                  {item.chosen.join(", ")}
                  {item.blind_spots.length > 0 && (
                    <span className="block">
                      dark: {item.blind_spots.join(", ")} ({energy(item.dark_wh_day)} a day)
                    </span>
                  )}
                </span>
                {keep(item.handles)}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {copy.isError && (
        <p role="alert" className="text-stop">
          {copy.error.message}
        </p>
      )}
      {copy.data && (
        <p role="status">
          Kept as{" "}
          <Link className="act" to={`/plans/${copy.data.id}/panel`}>
            {copy.data.plan.name}
          </Link>
        </p>
      )}
    </section>
  );
}
