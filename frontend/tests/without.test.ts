import { readFileSync } from "node:fs";
import { describe, expect, it, test } from "vitest";
import type { Plan } from "../src/api/client";
import { without, withPacks } from "../src/api/without";

const demo = (name: string) =>
  JSON.parse(readFileSync(`../backend/src/weary_cedar/demo/${name}.json`, "utf-8")) as Plan;
const DEMOS = ["foothill", "canal", "hut", "orchard"].map((name) => [name, demo(name)] as const);
const ROOMS = [
  "panels",
  "circuits",
  "loads",
  "stations",
  "links",
  "generators",
  "vehicles",
  "externals",
  "arrays",
  "places",
  "feeds",
  "leads",
] as const;

/** Every text of a document that could be the name of a part, keys of what is keyed by parts included. */
function texts(value: unknown, found = new Set<string>()): Set<string> {
  if (typeof value === "string") found.add(value);
  else if (Array.isArray(value)) for (const item of value) texts(item, found);
  else if (value && typeof value === "object") for (const item of Object.values(value)) texts(item, found);
  return found;
}

describe.each(DEMOS)("of the plan %s", (_, plan) => {
  it("whatever is taken away, nothing names it any more, and the plan before stays as it was", () => {
    const before = structuredClone(plan);
    for (const room of ROOMS)
      for (const id of Object.keys(plan[room] ?? {})) {
        const left = without(plan, room, id);
        expect(left[room] ?? {}, `${room}/${id}`).not.toHaveProperty([id]);
        for (const [key, source] of Object.entries(left.leads ?? {}))
          expect(`${source.source.kind}s/${source.source.id}`, key).not.toBe(`${room}/${id}`);
        const unique = ROOMS.filter((other) => id in (plan[other] ?? {})).length === 1;
        const named = texts({ ...left, name: "", site: null });
        const otherwise = texts({ name: plan.name, boxes: plan.box, receptacles: id === "station" });
        if (unique && id.includes("-") && !otherwise.has(id))
          expect(named.has(id), `${room}/${id}`).toBe(false);
      }
    expect(plan).toEqual(before);
  });
});

test("a rule goes with the last part that it names, and stays without one of two", () => {
  const plan = demo("foothill");
  const [one = "", two = ""] = Object.keys(plan.loads ?? {});
  const engine = Object.keys(plan.generators ?? {})[0] ?? "";
  const rules = [
    { kind: "surplus", load_ids: [one, two] },
    { kind: "together", load_ids: [one, two] },
    { kind: "while", load_ids: [two], generator_id: engine, sun_above_w: 500 },
    { kind: "while", load_ids: [two], generator_id: engine },
  ];
  const ruled = { ...plan, strategy: { ...plan.strategy, rules } } as Plan;
  const kinds = (left: Plan) => left.strategy?.rules?.map((rule) => rule.kind);
  expect(kinds(without(ruled, "loads", one))).toEqual(["surplus", "while", "while"]);
  const left = without(ruled, "generators", engine);
  expect(kinds(left)).toEqual(["surplus", "together", "while"]);
  expect(left.strategy?.rules?.[2]).toMatchObject({ generator_id: null, sun_above_w: 500 });
});

test("what was joined to a pack that is gone lets go of it", () => {
  const plan = demo("foothill");
  const [id = "", station] = Object.entries(plan.stations ?? {})[0] ?? [];
  const pack = Object.keys(station?.packs ?? {})[0] ?? "";
  const [key = "", array] = Object.entries(plan.arrays ?? {})[0] ?? [];
  const joined = { ...plan, arrays: { [key]: { ...array, station_id: id, pack_id: pack } } } as Plan;
  const left = withPacks(joined, id, {});
  expect(left.arrays?.[key]).toMatchObject({ station_id: null, pack_id: null, input_id: null });
});
