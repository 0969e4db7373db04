import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { TextField } from "../../ui/TextField";
import { ByHand } from "./ByHand";
import { Chosen } from "./Chosen";
import { Questions } from "./Questions";
import { WholeOutage } from "./WholeOutage";

type View = components["schemas"]["DrillView"];
type Exercise = components["schemas"]["Exercise"];

/** Practise on the own panel before the night: exercises as they are due, and questions. */
export function PractiseScreen() {
  const { view } = useDesk();
  const [playing, setPlaying] = useState<Exercise | null>(null);
  const [person, setPerson] = useState("");
  const [outage, setOutage] = useState(false);
  const found = useQuery({
    queryKey: ["drill", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/drill", { params: { path: { plan_id: view.id } } })),
  });
  const outages = (found.data?.outages ?? []).map((row, at) => ({ row, at }));
  const leave = () => {
    setPlaying(null);
    setOutage(false);
    void found.refetch();
  };
  return (
    <>
      <h1 className="text-[1.15rem] font-semibold">Practise</h1>
      <p className="mb-2 max-w-[900px] border-l-4 border-caution pl-3">
        {found.data?.caution ??
          "A drill is not the real panel: nothing here is switched. Local code and licensed practice come first."}
      </p>
      <CannotShow asked={found} what="exercises" />
      {playing && playing.form === "order" && (
        <ByHand key={playing.key} exercise={playing} person={person} onLeave={leave} />
      )}
      {playing && playing.form !== "order" && (
        <Chosen key={playing.key} exercise={playing} person={person} onLeave={leave} />
      )}
      {outage && <WholeOutage person={person} onLeave={leave} />}
      {!playing && !outage && found.data && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 lg:grid-cols-2">
          <Exercises found={found.data} person={person} onPerson={setPerson} onPlay={setPlaying} />
          <div>
            <section aria-label="A whole outage in ten minutes" className="mb-6">
              <h2 className="border-b border-ink pb-1">A whole outage in ten minutes</h2>
              {found.data.no_outage ? (
                <p className="text-caution">No outage can be practised: {found.data.no_outage}.</p>
              ) : (
                <p className="mt-1">
                  The run of this plan, hurried; it stops where someone has to decide.{" "}
                  <button type="button" className="act min-h-9 font-semibold" onClick={() => setOutage(true)}>
                    Practise a whole outage
                  </button>
                </p>
              )}
              <ul className="text-faint">
                {outages.map(({ row, at }) => (
                  <li key={at}>
                    number {row.exercise.split("/")[1]}, {row.on}
                    {row.person ? `, ${row.person}` : ""}:{" "}
                    {row.passed ? "as good as the best that was found" : row.wrong}
                  </li>
                ))}
              </ul>
            </section>
            <Questions kinds={found.data.questions} />
          </div>
        </div>
      )}
      <p className="mt-4 flex gap-x-4">
        <Link className="act" to={`/plans/${view.id}/runbook`}>
          To the sheets
        </Link>
        <a className="act" href={`/api/plans/${view.id}/drill/card.pdf`} download>
          A card with the weakest points (PDF)
        </a>
      </p>
    </>
  );
}

function Exercises({
  found,
  person,
  onPerson,
  onPlay,
}: {
  found: View;
  person: string;
  onPerson: (name: string) => void;
  onPlay: (exercise: Exercise) => void;
}) {
  const ready = found.readiness;
  const missing = Object.entries(found.not_here);
  return (
    <section aria-label="Exercises">
      <h2 className="border-b border-ink pb-1">Exercises</h2>
      <p data-testid="readiness" className={ready.ready ? "text-good" : "text-caution"}>
        {ready.sentence}
      </p>
      <p className="my-1">
        <TextField label="who practises, if that should be kept" value={person} onSave={onPerson} />
      </p>
      {(ready.weakest ?? []).length > 0 && (
        <div className="my-1 border-l-4 border-caution pl-3">
          <strong>Weakest points</strong>
          <ol className="ml-4 list-decimal">
            {ready.weakest?.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ol>
        </div>
      )}
      <ul>
        {ready.exercises.map((item) => (
          <li
            key={item.exercise.key}
            className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1"
          >
            <span className="min-w-0 flex-1">{item.exercise.title}</span>
            <span className="text-faint">
              {item.ready ? `passed ${item.last}` : item.last ? `tried ${item.last}` : "never"}
              {item.due ? `, due ${item.due}` : ""}
            </span>
            <button type="button" className="act min-h-9" onClick={() => onPlay(item.exercise)}>
              Practise<span className="sr-only"> {item.exercise.title}</span>
            </button>
          </li>
        ))}
      </ul>
      {missing.length > 0 && (
        <details className="mt-2 text-faint">
          <summary className="cursor-pointer hover:text-cedar">
            {missing.length} kinds do not fit this plan
          </summary>
          <ul className="ml-4 list-disc">
            {missing.map(([kind, why]) => (
              <li key={kind}>
                {kind.replaceAll("-", " ")}: {why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
