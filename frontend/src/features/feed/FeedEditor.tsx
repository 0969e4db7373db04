import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import { useGear } from "../gear/useGear";
import { FEED, type Feed, KINDS } from "./feedFields";
import { Joints } from "./Joints";

interface Props {
  id: string;
  feed: Feed;
}

/** What is at each joint of a feed. */
export function FeedEditor({ id, feed }: Props) {
  const { view, edit } = useDesk();
  const plan = view.plan;
  const gear = useGear();
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
    const breaker_spaces = gear?.breaker_kinds.includes(next)
      ? feed.breaker_spaces.length > 0
        ? feed.breaker_spaces
        : [...(view.schedules.find((item) => item.panel_id === feed.panel_id)?.free_spaces ?? [])]
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
      <Joints id={id} feed={feed} />
      <Fields value={feed} fields={FEED} set={change} />
      {gear?.wired_kinds.includes(feed.kind) && <WiredCircuits feed={feed} change={change} />}
      <p>
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
