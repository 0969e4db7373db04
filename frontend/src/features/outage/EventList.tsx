import { useState } from "react";
import type { RunEvent, RunResult } from "../../api/client";
import { ChoiceField } from "../../ui/ChoiceField";
import { useMoments } from "../../ui/useMoments";
import { Remedies } from "./Remedies";

const GRAVE: ReadonlySet<RunEvent["kind"]> = new Set([
  "trip",
  "empty",
  "keep_lost",
  "left_off",
  "breaker_trip",
  "locked_out",
  "food_warm",
  "food_thaws",
  "left_running",
]);

const KINDS: Record<string, readonly RunEvent["kind"][]> = {
  "trips and too much at once": [
    "trip",
    "over_limit",
    "shed",
    "dip",
    "breaker_trip",
    "input_trip",
    "locked_out",
  ],
  "dark, empty, too warm": [
    "empty",
    "source_empty",
    "keep_lost",
    "left_off",
    "food_warm",
    "food_thaws",
    "idle_cutout",
  ],
  "engines and recharging": [
    "engine_on",
    "engine_off",
    "engine_dry",
    "engine_fails",
    "left_running",
    "refuelled",
    "full",
    "vehicle_off",
    "cold",
  ],
  "rules, plugs and people": [
    "room_shed",
    "room_back",
    "swap",
    "plug",
    "act",
    "hand",
    "unplugged",
    "plugged_in",
  ],
};

type Filter = "all" | "grave" | keyof typeof KINDS;

/** More than this are put together by days. */
const MANY = 30;
/** Of more than this only days with something grave are open. */
const VERY_MANY = 150;

interface Props {
  run: RunResult;
  at: number;
  zone: string;
  onAt: (at: number) => void;
}

interface Numbered {
  event: RunEvent;
  number: number;
}

/** What happens, why, and what would have prevented it; choosing one moves the cursor there. */
export function EventList({ run, at, zone, onAt }: Props) {
  const [filter, setFilter] = useState<Filter>("all");
  const { moment } = useMoments(zone);
  const all = (run.events ?? []).map((event, number) => ({ event, number }));
  const events = all.filter(({ event }) => fits(event, filter));
  const choices = [
    ["all", `everything, ${all.length}`],
    ["grave", `what is grave, ${all.filter(({ event }) => fits(event, "grave")).length}`],
    ...Object.keys(KINDS).map(
      (key) => [key, `${key}, ${all.filter(({ event }) => fits(event, key)).length}`] as const,
    ),
  ] as const;
  const items = (some: readonly Numbered[]) =>
    some.map(({ event, number }) => (
      <EventLine key={number} event={event} number={number} at={at} zone={zone} onAt={onAt} />
    ));
  const dayOf = ({ event }: Numbered) => moment(event.at).split(" ").slice(0, 3).join(" ");
  const days = new Map<string, Numbered[]>();
  for (const item of events) days.set(dayOf(item), [...(days.get(dayOf(item)) ?? []), item]);
  return (
    <section aria-label="Events">
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1">
        What happens
        <span className="ml-auto text-[14px] font-normal">
          <ChoiceField label="show" value={filter} choices={choices} onSave={setFilter} />
        </span>
      </h2>
      {events.length === 0 && <p className="py-1 text-faint">Nothing of this kind happens.</p>}
      <div className="max-h-[460px] overflow-auto" data-testid="events">
        {events.length <= MANY ? (
          <ol>{items(events)}</ol>
        ) : (
          [...days].map(([day, some]) => {
            const grave = some.filter(({ event }) => GRAVE.has(event.kind)).length;
            const here = some.some(({ event }) => Math.abs(event.t_s - at) < 1);
            return (
              <details key={day} open={events.length <= VERY_MANY || here || grave > 0}>
                <summary className="cursor-pointer border-b border-rule py-1">
                  {day}: {some.length} {some.length === 1 ? "event" : "events"}
                  {grave > 0 && <strong className="ml-2 text-stop">{grave} grave</strong>}
                </summary>
                <ol>{items(some)}</ol>
              </details>
            );
          })
        )}
      </div>
    </section>
  );
}

function fits(event: RunEvent, filter: Filter): boolean {
  if (filter === "all") return true;
  if (filter === "grave") return GRAVE.has(event.kind);
  return KINDS[filter]?.includes(event.kind) ?? false;
}

interface LineProps extends Numbered {
  at: number;
  zone: string;
  onAt: (at: number) => void;
}

function EventLine({ event, number, at, zone, onAt }: LineProps) {
  const [open, setOpen] = useState(false);
  const { moment } = useMoments(zone);
  return (
    <li className="border-b border-rule">
      <button
        type="button"
        onClick={() => {
          onAt(event.t_s);
          setOpen(!open);
        }}
        aria-expanded={open}
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
      {open && <Remedies number={number} />}
    </li>
  );
}
