import type { Plan } from "../../api/client";
import { useGear } from "../../api/library";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { Ticks } from "../../ui/Ticks";
import {
  BOND,
  CHANGEOVER,
  FEED,
  type Feed,
  isToFeed,
  isToLoads,
  type Lead,
  type Source,
  STRIP,
  type ToLoads,
} from "./feedFields";
import { Joints } from "./Joints";
import { feedingSources, outletsOf, sourceKey, splitSource } from "./leads";
import { Schools } from "./Schools";
import { SwitchLegs, wiredTo } from "./SwitchLegs";

interface Props {
  id: string;
  lead: Lead;
}

/** What is at each joint of a lead that feeds something, and the feed that it ends at. */
export function FeedEditor({ id, lead }: Props) {
  const { view, edit, command } = useDesk();
  const plan = view.plan;
  const gear = useGear();
  const feedId = isToFeed(lead.to) ? lead.to.feed_id : null;
  const feed = feedId === null ? undefined : plan.feeds?.[feedId];
  const change = (part: Partial<Lead>) =>
    edit((now) => ({ ...now, leads: { ...now.leads, [id]: { ...lead, ...part } } }));
  const changeFeed = (part: Partial<Feed>) =>
    feed && feedId && edit((now) => ({ ...now, feeds: { ...now.feeds, [feedId]: { ...feed, ...part } } }));
  const outlets = Object.entries(outletsOf(plan, lead.source));
  const spaces = (panelId: string, held: readonly number[] = []) =>
    held.length > 0
      ? [...held]
      : [...(view.schedules.find((x) => x.panel_id === panelId)?.free_spaces ?? [])];
  const kind = (next: string) => {
    if (next !== "cords") edit((now) => fedBy(now, next));
    else if (feed) command({ command: "cords", lead_id: id });
  };
  /** The plan with this lead ending otherwise: at a feed of another kind, or at a new one. */
  const fedBy = (now: Plan, next: string): Plan => {
    const own = gear.breaker_kinds.includes(next as Feed["kind"]);
    const wired = gear.wired_kinds.includes(next as Feed["kind"]);
    if (feed && feedId) {
      const breaker_spaces = own ? spaces(feed.panel_id, feed.breaker_spaces) : [];
      const part = { ...feed, kind: next as Feed["kind"], breaker_spaces };
      return { ...now, feeds: { ...now.feeds, [feedId]: part } };
    }
    const end = lead.to as ToLoads;
    const outlet = outletsOf(now, lead.source)[("outlet" in lead.source && lead.source.outlet) || ""];
    const panel_id = Object.keys(now.panels ?? {})[0] ?? "";
    const key = freeId("feed", now.feeds ?? {});
    const made: Feed = {
      kind: next as Feed["kind"],
      inlet: end.plug ?? outlet?.kind ?? gear.receptacle_kinds[0] ?? "",
      inlet_a: end.plug_a ?? outlet?.rating_a ?? 15,
      panel_id,
      breaker_a: end.plug_a ?? outlet?.rating_a ?? 15,
      breaker_spaces: own ? spaces(panel_id) : [],
      circuit_ids: wired ? (end.circuit_ids ?? []) : [],
      switch_legs: {},
      neutral_switched: "unknown",
      branches_off: "all",
      output_on: "before",
      light_first: false,
      survey: {},
    };
    const to = { end: "feed" as const, feed_id: key };
    return {
      ...now,
      feeds: { ...now.feeds, [key]: made },
      leads: { ...now.leads, [id]: { ...lead, to } },
    };
  };
  const source = (joined: string) => {
    const next = splitSource(joined);
    const first = Object.keys(outletsOf(plan, next))[0];
    if (next.kind === "vehicle") change({ source: next });
    else if (first) change({ source: { ...next, outlet: first } as Source });
  };
  const others = Object.entries(plan.feeds ?? {}).map(
    ([key, part]) =>
      [key, part.name ?? `the inlet of ${plan.panels?.[part.panel_id]?.name ?? part.panel_id}`] as const,
  );
  const beside = Object.entries(plan.leads ?? {}).filter(
    ([key, other]) => key !== id && isToFeed(other.to) && other.to.feed_id === feedId,
  );
  const another = () =>
    edit((now) => ({
      ...now,
      leads: { ...now.leads, [freeId("lead", now.leads ?? {})]: { ...lead, name: null } },
    }));
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <ChoiceField
          label="feed by"
          value={feed ? (feed.kind ?? "") : "cords"}
          choices={Object.entries(gear.feed_kinds)}
          onSave={kind}
        />
        <ChoiceField
          label="from"
          value={sourceKey(lead.source)}
          choices={feedingSources(plan)}
          onSave={source}
        />
        {lead.source.kind !== "vehicle" && (
          <ChoiceField
            label="its outlet"
            value={lead.source.outlet ?? ""}
            choices={outlets.map(([key, outlet]) => [key, `${outlet.kind}, ${outlet.rating_a} A`] as const)}
            onSave={(outlet) => change({ source: { ...lead.source, outlet } })}
          />
        )}
        {feed && (
          <ChoiceField
            label="into"
            value={feed.panel_id}
            choices={Object.entries(plan.panels ?? {}).map(([key, panel]) => [key, panel.name] as const)}
            onSave={(panel_id) =>
              changeFeed({
                panel_id,
                // Its breaker is in the panel that it feeds.
                breaker_spaces: (feed.breaker_spaces ?? []).length > 0 ? spaces(panel_id) : [],
              })
            }
          />
        )}
        {feedId && others.length > 1 && (
          <ChoiceField
            label="by way of"
            value={feedId}
            choices={others}
            onSave={(feed_id) => change({ to: { end: "feed", feed_id } })}
          />
        )}
      </div>
      <Joints id={id} lead={lead} feed={feed && feedId ? { id: feedId, part: feed } : undefined} />
      {feed && <Fields value={feed} fields={FEED} set={changeFeed} />}
      {feed && (
        <details>
          <summary className="min-h-[24px] cursor-pointer text-faint">
            Changed over and restored otherwise than the outage says
          </summary>
          <Fields value={feed} fields={CHANGEOVER} set={changeFeed} />
        </details>
      )}
      {feed && feedId && (
        <details>
          <summary className="min-h-[24px] cursor-pointer text-faint">Schools of closing it by hand</summary>
          <Schools feedId={feedId} />
        </details>
      )}
      {isToLoads(lead.to) && (
        <Fields
          value={lead.to}
          fields={STRIP}
          set={(part) => change({ to: { ...(lead.to as ToLoads), ...part } })}
        />
      )}
      <Fields value={lead} fields={BOND} set={change} />
      {feed && gear.wired_kinds.includes(feed.kind) && (
        <Circuits
          title="Circuits wired to it"
          panel={feed.panel_id}
          chosen={feed.circuit_ids ?? []}
          set={(circuit_ids) => changeFeed(wiredTo(feed, circuit_ids))}
        />
      )}
      {feed && gear.wired_kinds.includes(feed.kind) && (
        <SwitchLegs feed={feed} set={(switch_legs) => changeFeed({ switch_legs })} />
      )}
      {isToLoads(lead.to) && (
        <>
          <Circuits
            title="Circuits all of whose loads hang on these cords"
            chosen={lead.to.circuit_ids ?? []}
            set={(circuit_ids) => change({ to: { ...(lead.to as ToLoads), circuit_ids } })}
          />
          <Ticks
            title="Single appliances that hang on them by their own plugs"
            of={Object.entries(plan.loads ?? {}).map(([key, load]) => [key, load.name] as const)}
            chosen={lead.to.load_ids ?? []}
            onTick={(key, on) => command({ command: "plug", load_id: key, lead_id: on ? id : null })}
          />
        </>
      )}
      {beside.length > 0 && (
        <p className="text-faint">{beside.length + 1} leads end here: they take turns, one cord at a time.</p>
      )}
      <p className="flex flex-wrap gap-x-4">
        <button
          type="button"
          className="act"
          onClick={() => command({ command: "remove", part: `leads/${id}` })}
        >
          Take this lead away
        </button>
        {feed && (
          <button type="button" className="act" onClick={another}>
            Plug another source in here, in turn
          </button>
        )}
      </p>
    </div>
  );
}

interface CircuitsProps {
  title: string;
  /** Of one panel, or of all. */
  panel?: string;
  chosen: readonly string[];
  set: (ids: string[]) => void;
}

function Circuits({ title, panel, chosen, set }: CircuitsProps) {
  const { view } = useDesk();
  const circuits = Object.entries(view.plan.circuits ?? {})
    .filter(([, circuit]) => panel === undefined || circuit.panel_id === panel)
    .map(([key, circuit]) => [key, circuit.label] as const);
  return (
    <Ticks
      title={title}
      of={circuits}
      chosen={chosen}
      onTick={(key, on) => set(on ? [...chosen, key] : chosen.filter((other) => other !== key))}
    />
  );
}
