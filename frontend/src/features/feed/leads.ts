import type { Plan } from "../../api/client";
import type { Source } from "./feedFields";

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

/** What may feed panels and appliances: stations, pairs, engines, and vehicles with an AC outlet. */
export function feedingSources(plan: Plan): (readonly [string, string])[] {
  const all = sourcesOf(plan, ["station", "link", "generator", "vehicle"]);
  return all.filter(([key]) => {
    const { kind, id } = splitSource(key);
    return kind !== "vehicle" || ["ac_120", "ac_230"].includes(plan.vehicles?.[id]?.outlet ?? "");
  });
}

/** Outlets of a source; of a link, those of its unit on leg A and of its kit. */
export function outletsOf(plan: Plan, source: Source): Outlets {
  if (source.kind === "generator") return (plan.generators?.[source.id]?.receptacles ?? {}) as Outlets;
  const link = source.kind === "link" ? plan.links?.[source.id] : undefined;
  const unit = plan.stations?.[link?.leg_a ?? source.id];
  return { ...unit?.receptacles, ...link?.receptacles } as Outlets;
}

/** A lead by its name, or by where it begins. */
export function leadWords(plan: Plan, id: string): string {
  const lead = plan.leads?.[id];
  if (!lead) return id;
  const { source, to } = lead;
  const from = sourcesOf(plan, [source.kind]).find(([key]) => key === sourceKey(source))?.[1] ?? source.id;
  return lead.name ?? `${to.end === "loads" ? "the cords" : "the lead"} from ${from}`;
}
