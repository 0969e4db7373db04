import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import { ADAPTER, BACKFED, CORD, FEED, type Feed, KINDS, WIRED } from "./feedFields";

interface Props {
  id: string;
  feed: Feed;
}

/** Two free spaces of one side for a back-fed breaker. */
function freePair(plan: Plan, panelId: string): number[] {
  const taken = new Set(
    Object.values(plan.circuits ?? {})
      .filter((circuit) => circuit.panel_id === panelId)
      .flatMap((circuit) => circuit.spaces),
  );
  const spaces = plan.panels?.[panelId]?.spaces ?? 0;
  const poles = plan.site.system === "single_phase_230" ? 1 : 2;
  for (let space = 1; space + 2 * (poles - 1) <= spaces; space += 1)
    if (!taken.has(space) && (poles === 1 || !taken.has(space + 2)))
      return poles === 1 ? [space] : [space, space + 2];
  return [];
}

/** What is at each joint of a feed. */
export function FeedEditor({ id, feed }: Props) {
  const { view, edit } = useDesk();
  const plan = view.plan;
  const change = (part: Partial<Feed>) =>
    edit((now) => ({ ...now, feeds: { ...now.feeds, [id]: { ...feed, ...part } } }));
  const sources = [
    ...Object.entries(plan.stations ?? {}),
    ...Object.entries(plan.links ?? {}),
    ...Object.entries(plan.generators ?? {}),
  ];
  const held = (sourceId: string) => {
    const link = plan.links?.[sourceId];
    return plan.stations?.[link ? link.leg_a : sourceId] ?? plan.generators?.[sourceId];
  };
  const outlets = Object.entries(held(feed.source_id)?.receptacles ?? {});
  const kind = (next: Feed["kind"]) => {
    const breaker_spaces = BACKFED.includes(next)
      ? feed.breaker_spaces.length > 0
        ? feed.breaker_spaces
        : freePair(plan, feed.panel_id)
      : [];
    change({ kind: next, breaker_spaces });
  };
  const source = (source_id: string) => {
    const first = Object.keys(held(source_id)?.receptacles ?? {})[0];
    if (first) change({ source_id, receptacle_id: first });
  };
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <ChoiceField label="feed by" value={feed.kind} choices={KINDS} onSave={kind} />
        <ChoiceField
          label="from"
          value={feed.source_id}
          choices={sources.map(([key, part]) => [key, part.name] as const)}
          onSave={source}
        />
        <ChoiceField
          label="its outlet"
          value={feed.receptacle_id}
          choices={outlets.map(([key, outlet]) => [key, `${outlet.kind}, ${outlet.rating_a} A`] as const)}
          onSave={(receptacle_id) => change({ receptacle_id })}
        />
        <ChoiceField
          label="into"
          value={feed.panel_id}
          choices={Object.entries(plan.panels ?? {}).map(([key, panel]) => [key, panel.name] as const)}
          onSave={(panel_id) => change({ panel_id })}
        />
      </div>
      {feed.cords.map((cord, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: cords have no identity but their place
        <div key={index} className="flex flex-wrap items-baseline gap-x-3">
          <Fields
            value={cord}
            fields={CORD}
            set={(part) =>
              change({ cords: feed.cords.map((item, at) => (at === index ? { ...item, ...part } : item)) })
            }
          />
          {feed.cords.length > 1 && (
            <button
              type="button"
              className="act"
              onClick={() => change({ cords: feed.cords.filter((_, at) => at !== index) })}
            >
              Take away
            </button>
          )}
        </div>
      ))}
      {feed.adapters.map((adapter, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: adapters have no identity but their place
        <div key={index} className="flex flex-wrap items-baseline gap-x-3">
          <Fields
            value={adapter}
            fields={ADAPTER}
            set={(part) =>
              change({
                adapters: feed.adapters.map((item, at) => (at === index ? { ...item, ...part } : item)),
              })
            }
          />
          <button
            type="button"
            className="act"
            onClick={() => change({ adapters: feed.adapters.filter((_, at) => at !== index) })}
          >
            Take away
          </button>
        </div>
      ))}
      <p className="flex gap-x-3">
        <button
          type="button"
          className="act"
          onClick={() => change({ cords: [...feed.cords, { length_m: 7.62, awg: 10, conductors: null }] })}
        >
          Add a cord
        </button>
        <button
          type="button"
          className="act"
          onClick={() =>
            change({
              adapters: [
                ...feed.adapters,
                {
                  source_end: feed.inlet,
                  load_end: feed.inlet,
                  rating_a: 30,
                  overcurrent_a: null,
                  passes_neutral: "unknown",
                  passes_ground: "unknown",
                },
              ],
            })
          }
        >
          Add an adapter
        </button>
        <button
          type="button"
          className="act"
          onClick={() =>
            edit((now) => ({
              ...now,
              feeds: Object.fromEntries(Object.entries(now.feeds ?? {}).filter(([key]) => key !== id)),
            }))
          }
        >
          Take this feed away
        </button>
      </p>
      <Fields value={feed} fields={FEED} set={change} />
      {WIRED.includes(feed.kind) && <WiredCircuits feed={feed} change={change} />}
    </div>
  );
}

function WiredCircuits({ feed, change }: { feed: Feed; change: (part: Partial<Feed>) => void }) {
  const { view } = useDesk();
  const circuits = Object.entries(view.plan.circuits ?? {}).filter(
    ([, circuit]) => circuit.panel_id === feed.panel_id,
  );
  return (
    <fieldset>
      <legend className="text-faint">
        {feed.kind === "cords" ? "Circuits whose loads hang on these cords" : "Circuits wired to it"}
      </legend>
      <div className="flex flex-wrap gap-x-4">
        {circuits.map(([key, circuit]) => (
          <label key={key} className="min-h-[24px]">
            <input
              type="checkbox"
              className="size-4 accent-cedar"
              checked={feed.circuit_ids.includes(key)}
              onChange={(event) =>
                change({
                  circuit_ids: event.target.checked
                    ? [...feed.circuit_ids, key]
                    : feed.circuit_ids.filter((other) => other !== key),
                })
              }
            />{" "}
            {circuit.label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
