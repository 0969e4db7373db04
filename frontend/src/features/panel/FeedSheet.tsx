import { Link } from "react-router";
import type { PanelSchedule, Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import { FindingsOf } from "../checks/FindingsOf";

type Feed = NonNullable<Plan["feeds"]>[string];

/** The feed whose breaker sits in a space of a panel. */
export function feedAt(plan: Plan, panelId: string, space: number): [string, Feed] | undefined {
  return Object.entries(plan.feeds ?? {}).find(
    ([, feed]) => feed.panel_id === panelId && (feed.breaker_spaces ?? []).includes(space),
  );
}

/** Places of a panel where a breaker of so many poles could sit, its own included. */
export function placesFor(schedule: PanelSchedule, poles: number, own: readonly number[]): number[][] {
  const free = new Set([
    ...own,
    ...schedule.rows.flat().flatMap((cell) => (cell.kind === "empty" ? [cell.space] : [])),
  ]);
  return [...free]
    .sort((a, b) => a - b)
    .map((space) => Array.from({ length: poles }, (_, index) => space + 2 * index))
    .filter((spaces) => spaces.every((space) => free.has(space)));
}

/** The breaker of a feed: its rating and where it sits; the rest of the feed is on its own screen. */
export function FeedSheet({ feedId }: { feedId: string }) {
  const { view, edit } = useDesk();
  const feed = view.plan.feeds?.[feedId];
  if (!feed) return null;
  const schedule = view.schedules.find((item) => item.panel_id === feed.panel_id);
  const spaces = feed.breaker_spaces ?? [];
  const places = schedule ? placesFor(schedule, spaces.length, spaces) : [];
  const set = (part: Partial<Feed>) =>
    edit((plan) => ({ ...plan, feeds: { ...plan.feeds, [feedId]: { ...feed, ...part } } }));
  return (
    <section id="circuit-sheet" aria-label="Breaker of the feed">
      <h2 className="border-b border-ink pb-1">
        Breaker {spaces.join(" and ")} · {feed.name ?? "feed from the inlet"}
      </h2>
      <div className="flex flex-wrap gap-x-4 gap-y-1 py-2">
        <NumberField
          label="rated"
          value={feed.breaker_a}
          unit="A"
          width="w-10"
          onSave={(breaker_a) => set({ breaker_a })}
        />
        <ChoiceField
          label="in the spaces"
          value={spaces.join(" ")}
          choices={places.map((place) => [place.join(" "), place.join(" and ")] as const)}
          onSave={(text) => set({ breaker_spaces: text.split(" ").map(Number) })}
        />
      </div>
      <p className="pb-2">
        Interlocked with the main: only one of both can be on.{" "}
        <Link className="underline" to={`/plans/${view.id}/feed`}>
          Inlet, cord and source are on Feed
        </Link>
        .
      </p>
      <FindingsOf of={[["feeds", feedId]]} />
    </section>
  );
}
