import { useMoments } from "../../ui/useMoments";
import type { Progress } from "./progress";

interface Props {
  before: { progress: Progress; same: boolean };
  of: number;
  zone: string;
  onGoOn: () => void;
  onBegin: () => void;
}

/** What was begun before: to be gone on with where it is this very sheet, and never by itself. */
export function Asked({ before, of, zone, onGoOn, onBegin }: Props) {
  const { moment } = useMoments(zone);
  const { progress, same } = before;
  const last = progress.ticks.at(-1);
  const at = moment(last?.at ?? progress.begun);
  return (
    <div role="alert" data-testid="begun-before">
      {same ? (
        <p className="my-3 text-[20px]">
          {progress.ticks.length} of {of} done, the last at {at}. Go on, or begin again?
        </p>
      ) : (
        <p className="my-3 border-l-4 border-stop py-1 pl-3 text-[18px]">
          {progress.ticks.length} steps were done until {at}, of another sheet (revision {progress.revision})
          or too long ago: they do not count here.
        </p>
      )}
      {progress.ticks.at(-1)?.kind === "deviates" && <p>The last one was not as it should be.</p>}
      <div className="flex flex-wrap gap-3">
        {same && (
          <button type="button" className="big" onClick={onGoOn}>
            Go on
          </button>
        )}
        <button type="button" className="big" onClick={onBegin}>
          Begin at the first step
        </button>
      </div>
    </div>
  );
}
