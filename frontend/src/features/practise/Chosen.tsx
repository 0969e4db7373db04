import type { components } from "../../api/schema.gen";
import { Outcome } from "./Outcome";
import { usePlay } from "./usePlay";

type Exercise = components["schemas"]["Exercise"];

/** An exercise in which one chooses: what follows from what is seen, or what is done first of all. */
export function Chosen({
  exercise,
  person,
  onLeave,
}: {
  exercise: Exercise;
  person: string;
  onLeave: () => void;
}) {
  const play = usePlay(exercise, person);
  const found = play.played;
  const moment = found?.moment;
  const stopped = Boolean(found?.score.hazard) || play.over;
  return (
    <section aria-label={exercise.title} className="max-w-[900px]">
      <h2 className="border-b border-ink pb-1">{exercise.title}</h2>
      <p className="my-1 text-faint">{exercise.tells}</p>
      {play.error && (
        <p role="alert" className="border-l-4 border-stop pl-3">
          {play.error.message}
        </p>
      )}
      {play.chosen.length > 0 && (
        <ol className="ml-4 list-decimal" aria-label="Chosen so far">
          {play.chosen.map((words, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the same may be chosen twice
            <li key={place}>{words}</li>
          ))}
        </ol>
      )}
      {found && (
        <Outcome
          score={found.score}
          over={play.over}
          onBack={play.back}
          onAgain={play.again}
          onLeave={onLeave}
        />
      )}
      {!stopped && moment && (
        <>
          {exercise.form === "search" && <p className="mt-2 font-semibold">{moment.action}</p>}
          {moment.seen && (
            <p data-testid="seen" className="border-l-4 border-cedar pl-3 text-[1.05rem]">
              {moment.seen}
            </p>
          )}
          <p className="mt-2 text-faint">{exercise.form === "search" ? "What follows?" : "What next?"}</p>
          <ul className="flex flex-col gap-2">
            {moment.choices.map((words) => (
              <li key={words}>
                <button
                  type="button"
                  className="act min-h-11 w-full border border-rule px-3 py-2 text-left"
                  disabled={play.pending}
                  onClick={() => play.choose(words)}
                >
                  {words}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {!stopped && found && (
        <p className="mt-3 flex flex-wrap gap-x-4">
          {found.hint && (
            <span role="status" className="border-l-4 border-cedar pl-3">
              {found.hint}
            </span>
          )}
          <button type="button" className="act min-h-11" onClick={play.hint}>
            A hint
          </button>
          <button type="button" className="act min-h-11 font-semibold" onClick={play.finish}>
            That is all
          </button>
          <button type="button" className="act min-h-11" onClick={onLeave}>
            Leave
          </button>
        </p>
      )}
      {found?.score.hazard && !play.over && (
        <p>
          <button type="button" className="act min-h-11" onClick={play.finish}>
            End it here
          </button>
        </p>
      )}
    </section>
  );
}
