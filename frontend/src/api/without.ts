import type { Plan } from "./client";

/** Rooms whose parts can be taken away. */
export type Room =
  | "panels"
  | "circuits"
  | "loads"
  | "stations"
  | "links"
  | "generators"
  | "vehicles"
  | "externals"
  | "arrays"
  | "places"
  | "feeds"
  | "leads";
type Rule = NonNullable<NonNullable<Plan["strategy"]>["rules"]>[number];
type Load = NonNullable<Plan["loads"]>[string];
type Gone = Record<string, Set<string>>;
type Parts<T> = Record<string, T>;

const kept = <T>(parts: Parts<T> | undefined, test: (part: T, key: string) => boolean): Parts<T> =>
  Object.fromEntries(Object.entries(parts ?? {}).filter(([key, part]) => test(part, key)));
const mapped = <T>(parts: Parts<T> | undefined, change: (part: T) => T): Parts<T> =>
  Object.fromEntries(Object.entries(parts ?? {}).map(([key, part]) => [key, change(part)]));
const keys = <T>(parts: Parts<T> | undefined, test: (part: T, key: string) => boolean) =>
  Object.keys(kept(parts, test));

/** Parts that cannot be without one that goes. */
function dependants(plan: Plan, room: Room, id: string, gone: Gone): [Room, string[]][] {
  const from = (kind: string) => keys(plan.leads, ({ source }) => source.kind === kind && source.id === id);
  switch (room) {
    case "panels":
      return [
        ["circuits", keys(plan.circuits, (circuit) => circuit.panel_id === id)],
        ["feeds", keys(plan.feeds, (feed) => feed.panel_id === id)],
      ];
    case "circuits": {
      const plugged = Object.values(plan.leads ?? {}).flatMap(({ to }) =>
        to.end === "loads" ? (to.load_ids ?? []) : [],
      );
      const on = keys(plan.loads, (load, key) => load.circuit_id === id && !plugged.includes(key));
      return [
        ["loads", on],
        ["leads", from("circuit")],
      ];
    }
    case "stations":
      return [
        ["links", keys(plan.links, (link) => link.leg_a === id || link.leg_b === id)],
        ["leads", from("station")],
        ["leads", keys(plan.leads, ({ to }) => to.end === "input" && to.station_id === id)],
      ];
    case "links":
      return [["leads", from("link")]];
    case "generators":
      return [["leads", from("generator")]];
    case "vehicles":
      return [["leads", from("vehicle")]];
    case "feeds":
      return [["leads", keys(plan.leads, ({ to }) => to.end === "feed" && to.feed_id === id)]];
    case "leads": {
      const to = plan.leads?.[id]?.to;
      if (to?.end !== "feed") return [];
      const others = kept(
        plan.leads,
        (lead, key) => key !== id && !gone.leads?.has(key) && lead.to.end === "feed",
      );
      const used = Object.values(others).some(
        (lead) => lead.to.end === "feed" && lead.to.feed_id === to.feed_id,
      );
      return used ? [] : [["feeds", [to.feed_id]]];
    }
    default:
      return [];
  }
}

/** A rule without what it cannot name any more; null where nothing is left of it. */
function ruleWithout(rule: Rule, gone: Gone): Rule | null {
  const is = (room: Room, id: string) => gone[room]?.has(id) ?? false;
  switch (rule.kind) {
    case "engine":
      return is("generators", rule.generator_id) ? null : rule;
    case "plug":
    case "swap":
      return is("leads", rule.lead_id) ? null : rule;
    case "while": {
      const load_ids = rule.load_ids.filter((id) => !is("loads", id));
      const stops = rule.generator_id != null && is("generators", rule.generator_id);
      const left = { ...rule, load_ids, generator_id: stops ? null : rule.generator_id };
      return load_ids.length > 0 && (left.generator_id != null || left.sun_above_w != null) ? left : null;
    }
    case "start":
      return is("loads", rule.load_id) ? null : rule;
    case "turn":
      return is("arrays", rule.array_id) ? null : rule;
    case "shed":
    case "reserve": {
      const circuit_ids = rule.circuit_ids.filter((id) => !is("circuits", id));
      return circuit_ids.length > 0 ? { ...rule, circuit_ids } : null;
    }
    case "together":
    case "surplus":
    case "hand_cycle": {
      const load_ids = rule.load_ids.filter((id) => !is("loads", id));
      return load_ids.length >= (rule.kind === "together" ? 2 : 1) ? { ...rule, load_ids } : null;
    }
    default:
      return rule;
  }
}

/** The plan without a part, without what cannot be without it, and without what names either. */
export function without(plan: Plan, room: Room, id: string): Plan {
  const gone: Gone = {};
  const waiting: [Room, string][] = [[room, id]];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [where, key] = next;
    gone[where] ??= new Set();
    const seen = gone[where];
    if (seen.has(key)) continue;
    seen.add(key);
    for (const [other, ids] of dependants(plan, where, key, gone))
      waiting.push(...ids.map((item): [Room, string] => [other, item]));
  }
  const is = (where: Room, key: string | null | undefined) => key != null && (gone[where]?.has(key) ?? false);
  const left = <T>(where: Room, parts: Parts<T> | undefined) => kept(parts, (_, key) => !is(where, key));
  const stays = (where: Room, ids: string[] = []) => ids.filter((key) => !is(where, key));
  const unjoined = <T extends { station_id?: string | null }>(part: T): T =>
    is("stations", part.station_id) ? { ...part, station_id: null, pack_id: null, input_id: null } : part;
  const placed = <T>(parts: Parts<T> | undefined) =>
    mapped(parts, (part) =>
      is("places", (part as { place_id?: string | null }).place_id) ? { ...part, place_id: null } : part,
    );
  const unseen = (load: Load): Load =>
    load.start
      ? {
          ...load,
          start: {
            ...load.start,
            seen_on: load.start.seen_on?.filter(({ kind, id }) => !is(`${kind ?? "station"}s`, id)),
          },
        }
      : load;
  const { outage, strategy } = plan;
  const charge = kept(
    outage.start_charge_percent,
    (_, key) => !(["stations", "vehicles", "externals"] as const).some((where) => is(where, key)),
  );
  return {
    ...plan,
    panels: mapped(left("panels", plan.panels), (panel) =>
      is("circuits", panel.fed_from) ? { ...panel, fed_from: null } : panel,
    ),
    circuits: mapped(left("circuits", plan.circuits), (circuit) =>
      is("circuits", circuit.multiwire_partner) ? { ...circuit, multiwire_partner: null } : circuit,
    ),
    loads: mapped(placed(left("loads", plan.loads)), (load) =>
      unseen(is("circuits", load.circuit_id) ? { ...load, circuit_id: null } : load),
    ),
    stations: placed(left("stations", plan.stations)),
    links: placed(left("links", plan.links)),
    generators: placed(left("generators", plan.generators)),
    vehicles: placed(left("vehicles", plan.vehicles)),
    externals: placed(mapped(left("externals", plan.externals), unjoined)),
    arrays: placed(mapped(left("arrays", plan.arrays), unjoined)),
    places: left("places", plan.places),
    feeds: mapped(left("feeds", plan.feeds), (feed) => ({
      ...feed,
      circuit_ids: stays("circuits", feed.circuit_ids),
      switch_legs: kept(feed.switch_legs, (_, key) => !is("circuits", key)),
    })),
    leads: mapped(left("leads", plan.leads), (lead) =>
      lead.to.end === "loads"
        ? {
            ...lead,
            to: {
              ...lead.to,
              circuit_ids: stays("circuits", lead.to.circuit_ids),
              load_ids: stays("loads", lead.to.load_ids),
            },
          }
        : lead,
    ),
    outage: {
      ...outage,
      start_charge_percent: charge,
      pack_charge_percent: left("stations", outage.pack_charge_percent),
      incidents: kept(outage.incidents, (item) => !is("loads", item.load_id) && !is("leads", item.lead_id)),
      acts: kept(outage.acts, (act) => !is(act.room, act.part_id)),
    },
    strategy: {
      ...strategy,
      recovery_off: stays("circuits", strategy?.recovery_off),
      rules: strategy?.rules?.map((rule) => ruleWithout(rule, gone)).filter((rule) => rule !== null),
    },
  } as Plan;
}

type Packs = NonNullable<NonNullable<Plan["stations"]>[string]["packs"]>;

/** The plan with other packs of a station: what named one that is gone lets go of it. */
export function withPacks(plan: Plan, stationId: string, packs: Packs): Plan {
  const { outage } = plan;
  const station = plan.stations?.[stationId];
  const gone = (id: string | null | undefined) => id != null && !(id in packs);
  const unjoined = <T extends { station_id?: string | null; pack_id?: string | null }>(part: T): T =>
    part.station_id === stationId && gone(part.pack_id)
      ? { ...part, station_id: null, pack_id: null, input_id: null }
      : part;
  const charges = outage.pack_charge_percent?.[stationId];
  return {
    ...plan,
    stations: { ...plan.stations, [stationId]: { ...station, packs } },
    arrays: mapped(plan.arrays, unjoined),
    externals: mapped(plan.externals, unjoined),
    outage: {
      ...outage,
      pack_charge_percent: charges
        ? { ...outage.pack_charge_percent, [stationId]: kept(charges, (_, key) => !gone(key)) }
        : outage.pack_charge_percent,
      acts: kept(outage.acts, (act) => act.part_id !== stationId || !gone(act.pack_id)),
    },
  } as Plan;
}
