import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { Displays } from "./Displays";
import { Handles } from "./Handles";

type Exercise = components["schemas"]["Exercise"];
type Move = components["schemas"]["Move"];

interface Props {
  exercise: Exercise;
  seed: number;
  acts: Move[];
}

/** What was done, act by act: the handles and displays after each; nothing can be moved here. */
export function Playback({ exercise, seed, acts }: Props) {
  const { view } = useDesk();
  const [at, setAt] = useState(acts.length);
  const done = acts.slice(0, at);
  const asked = useQuery({
    queryKey: ["played back", view.id, view.revision, exercise.key, seed, done],
    queryFn: () =>
      answer(
        client.POST("/api/plans/{plan_id}/drill/play", {
          params: { path: { plan_id: view.id } },
          body: {
            exercise: exercise.key,
            seed,
            acts: done,
            chosen: [],
            hints: 0,
            hint: false,
            finished: false,
            person: "",
          },
        }),
      ),
    placeholderData: (before) => before,
  });
  const found = asked.data;
  const stand = found?.stand;
  const last = done.at(-1);
  const handle = (found?.handles ?? []).find((item) => item.key === last?.what);
  const name = last?.what === "look" ? "look and read" : `${handle?.name ?? last?.what}: ${last?.to}`;
  const waited = Math.round((last?.wait_s ?? 0) / 60);
  return (
    <section aria-label="Played back" className="my-2 border-l-4 border-cedar pl-3">
      <label className="flex flex-wrap items-baseline gap-x-3">
        Act by act
        <input
          type="range"
          className="grow accent-cedar"
          min={0}
          max={acts.length}
          value={at}
          onChange={(event) => setAt(Number(event.target.value))}
        />
      </label>
      <p className="flex flex-wrap gap-x-3">
        <button type="button" className="act min-h-11" disabled={at === 0} onClick={() => setAt(at - 1)}>
          The act before
        </button>
        <button
          type="button"
          className="act min-h-11"
          disabled={at === acts.length}
          onClick={() => setAt(at + 1)}
        >
          The act after
        </button>
      </p>
      <p role="status" data-testid="played-act">
        {last
          ? `Act ${at} of ${acts.length}${waited > 0 ? `, after ${waited} min` : ""}: ${name}`
          : "Before the first act"}
      </p>
      <CannotShow asked={asked} what="acts" />
      {stand?.impossible && <p>{stand.impossible}</p>}
      {(stand?.answer ?? []).length > 0 && <p>{stand?.answer?.join(" · ")}</p>}
      {found?.score.hazard && <p className="text-stop">{found.score.hazard.why}</p>}
      {found && stand && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_340px]">
          <Handles handles={found.handles ?? []} stand={stand} stopped onAct={() => {}} />
          <Displays stand={stand} />
        </div>
      )}
    </section>
  );
}
