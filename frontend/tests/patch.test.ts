import { describe, expect, it } from "vitest";
import { applyPatch, asSent, mergePatch } from "../src/api/patch";

const BEFORE = { name: "a", rules: [1, 2], loads: { fridge: { watts: 100, note: "x" }, tv: { watts: 50 } } };

describe("what leads from one document to another", () => {
  it("is nothing where nothing changed", () => {
    expect(mergePatch(BEFORE, structuredClone(BEFORE))).toEqual({});
  });

  it("names only what changed; lists go whole", () => {
    const after = { ...BEFORE, rules: [1], loads: { ...BEFORE.loads, fridge: { watts: 120, note: "x" } } };
    expect(mergePatch(BEFORE, after)).toEqual({ rules: [1], loads: { fridge: { watts: 120 } } });
  });

  it("tells what is gone from what became empty, and sends both as null", () => {
    const after = { name: null, rules: [1, 2], loads: { tv: { watts: 50 } } };
    const patch = mergePatch(BEFORE, after);
    expect(patch).toEqual({ name: null, loads: { fridge: undefined } });
    expect(Object.hasOwn((patch.loads as object) ?? {}, "fridge")).toBe(true);
    expect(asSent(patch)).toEqual({ name: null, loads: { fridge: null } });
  });

  it("leads there when it is applied, and leaves what it was applied to", () => {
    const kept = structuredClone(BEFORE);
    const after = { name: null, extra: { deep: { er: 1 } }, rules: [], loads: { tv: { watts: 0 } } };
    expect(applyPatch(BEFORE, mergePatch(BEFORE, after))).toEqual(after);
    expect(BEFORE).toEqual(kept);
  });
});
