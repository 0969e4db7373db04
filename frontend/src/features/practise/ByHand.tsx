import { useState } from "react";
import type { components } from "../../api/schema.gen";
import { Displays } from "./Displays";
import { Handles } from "./Handles";
import { Outcome } from "./Outcome";
import { Playback } from "./Playback";
import { usePlay } from "./usePlay";

type Exercise = components["schemas"]["Exercise"];

/** What a hand takes from one act to the next, s. */
const HAND_S = 5;

/** An exercise on the simulated panel: handles, displays, lamps, and time that can be hurried. */
export function ByHand({
  exercise,
  person,
  onLeave,
}: {
  exercise: Exercise;
  person: string;
  onLeave: () => void;
}) {
  const play = usePlay(exercise, person);
  const [wait, setWait] = useState(HAND_S);
  const [playsBack, setPlaysBack] = useState(false);
  const found = play.played;
  const stand = found?.stand;
  const stopped = Boolean(found?.score.hazard) || play.over;
  const act = (what: string, to: string) => {
    play.act({ what, to, wait_s: wait });
    setWait(HAND_S);
    setPlaysBack(false);
  };
  return (
    <section
      aria-label={exercise.title}
      data-palette={exercise.night ? "night" : undefined}
      className="drill"
    >
      <h2 className="border-b border-ink pb-1">{exercise.title}</h2>
      <p className="my-1">{exercise.tells}</p>
      {play.error && (
        <p role="alert" className="border-l-4 border-stop pl-3">
          {play.error.message}
        </p>
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
      {stopped && play.acts.length > 0 && (
        <button
          type="button"
          className="act min-h-11"
          aria-expanded={playsBack}
          onClick={() => setPlaysBack(!playsBack)}
        >
          Play it back, act by act
        </button>
      )}
      {stopped && playsBack && <Playback exercise={exercise} seed={play.seed} acts={play.acts} />}
      <div aria-live="polite" className="min-h-7">
        {stand?.impossible && (
          <p data-testid="impossible" className="border-l-4 border-caution pl-3">
            {stand.impossible}
          </p>
        )}
        {(stand?.answer ?? []).length > 0 && (
          <p data-testid="answer" className="border-l-4 border-rule pl-3">
            {stand?.answer?.join(" · ")}
          </p>
        )}
        {found?.hint && <p className="border-l-4 border-cedar pl-3">{found.hint}</p>}
      </div>
      {found && stand && !(stopped && playsBack) && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_340px]">
          <Handles handles={found.handles ?? []} stand={stand} stopped={stopped} onAct={act} />
          <div className="max-lg:row-start-1">
            <Displays stand={stand} />
            <p className="mt-2 flex flex-wrap gap-2">
              <Big onClick={() => act("look", "all")} stopped={stopped}>
                Look and read
              </Big>
              <Big onClick={() => setWait(wait + 60)} stopped={stopped}>
                Wait a minute
              </Big>
              <Big onClick={() => setWait(wait + 300)} stopped={stopped}>
                Wait 5 minutes
              </Big>
              <Big onClick={play.hint} stopped={stopped}>
                A hint
              </Big>
              <Big onClick={play.finish} stopped={play.over}>
                That is all
              </Big>
              <Big onClick={onLeave} stopped={false}>
                Leave
              </Big>
            </p>
            {wait > HAND_S && (
              <p role="status" className="text-faint">
                {Math.round((wait - HAND_S) / 60)} min pass before the next act.
              </p>
            )}
            <p className="text-faint" data-testid="acts">
              {play.acts.length} {play.acts.length === 1 ? "act" : "acts"}, {Math.round(stand.t_s / 60)} min
            </p>
          </div>
        </div>
      )}
    </section>
  );
}

function Big({
  onClick,
  stopped,
  children,
}: {
  onClick: () => void;
  stopped: boolean;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      className="act min-h-11 border border-rule px-3"
      disabled={stopped}
      onClick={onClick}
    >
      {children}
    </button>
  );
}
