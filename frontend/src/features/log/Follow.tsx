import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { ChoiceField } from "../../ui/ChoiceField";

type Following = components["schemas"]["FollowingView"];

const SPEEDS = [
  ["1", "as time goes"],
  ["60", "60 times as fast"],
  ["600", "600 times as fast"],
] as const;
/** While something is followed its state is asked so often, ms. */
const LOOK_MS = 2_000;

/** What a session follows, asked again and again while it does. */
export function useFollowing(session: string) {
  const { view } = useDesk();
  const queries = useQueryClient();
  return useQuery({
    queryKey: ["following", session],
    refetchInterval: (query) => (query.state.data?.on ? LOOK_MS : false),
    queryFn: async () => {
      const params = { path: { plan_id: view.id, session_id: session } };
      const found = await answer(
        client.GET("/api/plans/{plan_id}/sessions/{session_id}/following", { params }),
      );
      const before = queries.getQueryData<Following>(["following", session]);
      if (found.rows !== before?.rows) void queries.invalidateQueries({ queryKey: ["session", session] });
      return found;
    },
  });
}

/** A simulated station is followed, as a real one would be; or it is said how a real one sends its readings. */
export function Follow({ session, found }: { session: string; found: Following | undefined }) {
  const { view } = useDesk();
  const queries = useQueryClient();
  const [speed, setSpeed] = useState("60");
  const stations = Object.entries(view.plan.stations ?? {}).map(([id, part]) => [id, part.name] as const);
  const [chosen, setChosen] = useState(stations[0]?.[0] ?? "");
  const params = { path: { plan_id: view.id, session_id: session } };
  const follow = useMutation({
    mutationFn: (on: boolean) =>
      answer(
        client.PUT("/api/plans/{plan_id}/sessions/{session_id}/following", {
          params,
          body: { on, address: "", station: chosen, seed: 1, speed: Number(speed) },
        }),
      ),
    onSuccess: (now) => queries.setQueryData(["following", session], now),
  });
  if (stations.length === 0) return null;
  return (
    <section aria-label="Follow a station" className="mb-3">
      <h2 className="border-b border-ink pb-1">Follow a station</h2>
      {found?.on || found?.ended ? (
        <p data-testid="following">
          {found.ended ? "The outage is over at the station" : "A simulated station is followed"}:{" "}
          {found.rows} readings so far{found.at ? `, there it is ${found.at.slice(11, 16)}` : ""}.{" "}
          <button type="button" className="act min-h-9" onClick={() => follow.mutate(false)}>
            Follow no more
          </button>
        </p>
      ) : (
        <p className="flex flex-wrap items-center gap-x-3">
          {stations.length > 1 && (
            <ChoiceField label="Which" value={chosen} choices={stations} onSave={setChosen} />
          )}
          <ChoiceField label="Its clock" value={speed} choices={SPEEDS} onSave={setSpeed} />
          <button
            type="button"
            className="act min-h-9 font-semibold"
            disabled={follow.isPending}
            onClick={() => follow.mutate(true)}
          >
            Follow a simulated one
          </button>
        </p>
      )}
      {found?.trouble && (
        <p role="alert" className="border-l-4 border-caution pl-3">
          Nothing comes from it: {found.trouble}
        </p>
      )}
      {follow.error && (
        <p role="alert" className="border-l-4 border-stop pl-3">
          {follow.error.message}
        </p>
      )}
      <p className="text-faint">
        A script or a home automation sends its readings to{" "}
        <code className="break-all">
          /api/plans/{view.id}/sessions/{session}/readings
        </code>
        ; from another device with a token, made under “Other devices” in the settings.
      </p>
    </section>
  );
}
