import type { Plan } from "../../api/client";
import { isToFeed, type Source } from "./feedFields";

type Kind = Source["kind"];
type Outlets = Record<string, { kind: string; rating_a: number }>;

/** A source as one word, for choices: its kind and id. */
export const sourceKey = (source: Source) => `${source.kind}/${source.id}`;

export function splitSource(joined: string): Source {
  const [kind, id] = joined.split("/");
  return { kind: kind as Kind, id: id ?? "", outlet: null };
}

/** What a lead may begin at, by name. */
export function sourcesOf(plan: Plan, kinds: readonly Kind[]): (readonly [string, string])[] {
  const rooms: Record<Kind, [string, string][]> = {
    station: named(plan.stations),
    link: named(plan.links),
    generator: named(plan.generators),
    vehicle: named(plan.vehicles),
    circuit: Object.entries(plan.circuits ?? {}).map(([id, part]) => [id, `breaker of ${part.label}`]),
  };
  return kinds.flatMap((kind) => rooms[kind].map(([id, name]) => [`${kind}/${id}`, name] as const));
}

const named = (parts: Record<string, { name: string }> | undefined) =>
  Object.entries(parts ?? {}).map(([id, part]) => [id, part.name] as [string, string]);

/** Outlets of a source; of a link, those of its unit on leg A. */
export function outletsOf(plan: Plan, source: Source): Outlets {
  if (source.kind === "generator") return (plan.generators?.[source.id]?.receptacles ?? {}) as Outlets;
  const unit = source.kind === "link" ? plan.links?.[source.id]?.leg_a : source.id;
  return (plan.stations?.[unit ?? ""]?.receptacles ?? {}) as Outlets;
}

/** The plan without a lead, without what names it, and without the feed at which nothing else ends. */
export function withoutLead(plan: Plan, id: string): Plan {
  const lead = plan.leads?.[id];
  const leads = Object.fromEntries(Object.entries(plan.leads ?? {}).filter(([key]) => key !== id));
  const feedId = lead && isToFeed(lead.to) ? lead.to.feed_id : null;
  const used = Object.values(leads).some((other) => isToFeed(other.to) && other.to.feed_id === feedId);
  const feeds =
    feedId === null || used
      ? plan.feeds
      : Object.fromEntries(Object.entries(plan.feeds ?? {}).filter(([key]) => key !== feedId));
  const { outage, strategy } = plan;
  const kept = <T>(parts: Record<string, T> | undefined, test: (part: T) => boolean) =>
    Object.fromEntries(Object.entries(parts ?? {}).filter(([, part]) => test(part)));
  const incidents = kept(outage.incidents, (item) => item.lead_id !== id);
  const acts = kept(outage.acts, (act) => act.room !== "leads" || act.part_id !== id);
  const rules = strategy?.rules?.filter((rule) => rule.kind !== "plug" || rule.lead_id !== id);
  return {
    ...plan,
    leads,
    feeds,
    outage: { ...outage, incidents, acts },
    strategy: { ...strategy, rules },
  } as Plan;
}
