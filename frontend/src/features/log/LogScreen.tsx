import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { moment } from "../../ui/format";
import { Afterwards } from "./Afterwards";
import { Follow, useFollowing } from "./Follow";
import { Forecast } from "./Forecast";
import { Lesson } from "./Lesson";
import { Lines } from "./Lines";
import { WhatNow } from "./WhatNow";

/** Another device may have added rows: the session is asked for so often, ms. */
const LOOK_MS = 10_000;

type SessionLine = components["schemas"]["SessionLine"];

/** What really happens, line by line, on the way; and what follows from it. */
export function LogScreen() {
  const { view } = useDesk();
  const path = { plan_id: view.id };
  const [chosen, setChosen] = useState<string | null>(null);
  const sessions = useQuery({
    queryKey: ["sessions", view.id],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/sessions", { params: { path } })),
  });
  const known = sessions.data ?? [];
  const current = known.find((item) => item.id === chosen) ?? known[0];
  return (
    <>
      <h1 className="sr-only">Log</h1>
      <p className="mb-2 max-w-[900px] text-faint">
        Keep the log of an outage, or of a day on which you try it: what the displays show and what is
        switched, in a line as you would say it. From the last reading on it says until when it lasts.
      </p>
      <CannotShow asked={sessions} what="sessions" />
      {current && <Session key={current.id} session={current} />}
      {sessions.data && <Begin first={known.length === 0} onBegun={setChosen} />}
      {known.length > 1 && <Others known={known} current={current?.id} onChoose={setChosen} />}
    </>
  );
}

function Session({ session }: { session: SessionLine }) {
  const { view } = useDesk();
  const params = { path: { plan_id: view.id, session_id: session.id } };
  const found = useQuery({
    queryKey: ["session", session.id],
    refetchInterval: LOOK_MS,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/sessions/{session_id}", { params })),
  });
  const following = useFollowing(session.id);
  const clock = following.data?.on && following.data.simulated ? (following.data.at ?? null) : null;
  return (
    <section aria-label={session.name} className="mb-6">
      <h2 className="pb-1 text-[1.15rem]">
        {session.name}
        <span className="ml-3 font-normal text-faint">
          {session.kind === "test" ? "a test" : "an outage"} from {moment(`${session.begins}Z`, "UTC")}
          {found.data && `, by revision ${found.data.revision} of the plan`}
        </span>
      </h2>
      <CannotShow asked={found} what="session" />
      {found.data && (
        <div className="mt-2 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_440px]">
          <div>
            <Lines view={found.data} clock={clock} />
          </div>
          <div className="max-lg:row-start-1">
            <Forecast view={found.data} />
          </div>
          <div className="lg:col-span-2">
            <WhatNow view={found.data} />
            <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 lg:grid-cols-2">
              <div>
                <Lesson view={found.data} />
                <Follow session={session.id} found={following.data} />
              </div>
              <div>
                <Afterwards view={found.data} />
              </div>
            </div>
          </div>
        </div>
      )}
    </section>
  );
}

function Begin({ first, onBegun }: { first: boolean; onBegun: (id: string) => void }) {
  const { view } = useDesk();
  const queries = useQueryClient();
  const made = useMutation({
    mutationFn: (kind: "outage" | "test") =>
      answer(
        client.POST("/api/plans/{plan_id}/sessions", {
          params: { path: { plan_id: view.id } },
          body: { kind, name: kind === "test" ? "Test" : "Outage" },
        }),
      ),
    onSuccess: async (begun) => {
      await queries.invalidateQueries({ queryKey: ["sessions", view.id] });
      onBegun(begun.id);
    },
  });
  return (
    <p className="mb-4 flex flex-wrap gap-x-4">
      <button
        type="button"
        className={`act ${first ? "font-semibold" : ""}`}
        disabled={made.isPending}
        onClick={() => made.mutate("outage")}
      >
        The power is out: begin a log now
      </button>
      <button type="button" className="act" disabled={made.isPending} onClick={() => made.mutate("test")}>
        Begin a test day
      </button>
      {made.error && (
        <span role="alert" className="text-stop">
          {made.error.message}
        </span>
      )}
    </p>
  );
}

function Others({
  known,
  current,
  onChoose,
}: {
  known: SessionLine[];
  current: string | undefined;
  onChoose: (id: string) => void;
}) {
  return (
    <ul aria-label="Sessions of this plan">
      {known
        .filter((item) => item.id !== current)
        .map((item) => (
          <li key={item.id}>
            <button type="button" className="act" onClick={() => onChoose(item.id)}>
              {item.name}, {moment(`${item.begins}Z`, "UTC")}
            </button>
          </li>
        ))}
    </ul>
  );
}
