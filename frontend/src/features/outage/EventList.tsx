import type { RunEvent, RunResult } from "../../api/client";
import { useMoments } from "../../ui/useMoments";

const GRAVE: ReadonlySet<RunEvent["kind"]> = new Set(["trip", "empty", "keep_lost", "left_off"]);

interface Props {
  run: RunResult;
  at: number;
  zone: string;
  onAt: (at: number) => void;
}

/** What happens, why, and what would have prevented it; choosing one moves the cursor there. */
export function EventList({ run, at, zone, onAt }: Props) {
  const events = run.events ?? [];
  const { moment } = useMoments(zone);
  return (
    <section aria-label="Events">
      <h2 className="border-b border-ink pb-1">What happens</h2>
      <ol className="max-h-[420px] overflow-auto" data-testid="events">
        {events.map((event, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: events are in order of time and never move
          <li key={index} className="border-b border-rule">
            <button
              type="button"
              onClick={() => onAt(event.t_s)}
              aria-current={Math.abs(event.t_s - at) < 1 || undefined}
              className="grid w-full grid-cols-[120px_1fr] gap-3 py-1 text-left aria-[current]:bg-leaf hover:bg-leaf"
            >
              <span className="text-faint">{moment(event.at)}</span>
              <span>
                <span className={GRAVE.has(event.kind) ? "font-semibold text-stop" : "font-semibold"}>
                  {event.what}
                </span>
                {event.why && <span className="text-faint">. {event.why}</span>}
                {event.remedy && <span className="block">To prevent it: {event.remedy}</span>}
              </span>
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
