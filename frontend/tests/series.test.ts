import { scaleLinear } from "d3-scale";
import { describe, expect, it, test } from "vitest";
import type { RunResult } from "../src/api/client";
import { joined } from "../src/features/outage/joined";
import { readMoment } from "../src/features/outage/readMoment";
import { between, greatest, indexAt, sighted, thin } from "../src/features/outage/series";

const HOUR = 3600;

test("a course holds its value until the next change, or goes straight to it", () => {
  expect([-5, 0, 9, 10, 25].map((at) => indexAt([0, 10, 20], at))).toEqual([0, 0, 0, 1, 2]);
  expect(between([0, 10], [0, 100], 2.5)).toBe(25);
  expect(between([0, 10], [0, 100], 99)).toBe(100);
  expect(between([], [], 3)).toBe(0);
  expect(greatest(undefined)).toBe(0);
});

describe("a thinned course", () => {
  const x = scaleLinear().domain([0, 1000]).range([0, 10]);
  const times = Array.from({ length: 1000 }, (_, index) => index);
  const values = times.map((t) => (t === 431 ? 99 : t % 3));

  it("keeps the greatest value and few points", () => {
    const points = thin(times, values, x);
    expect(greatest(points.map(({ value }) => value))).toBe(99);
    expect(points.length).toBeLessThan(60);
  });

  it("has one point more on both sides of what is in sight", () => {
    const near = scaleLinear().domain([105, 115]).range([0, 10]);
    const seen = sighted([0, 100, 110, 120, 130], near).map(([t]) => t);
    expect(seen).toEqual([100, 110, 120]);
  });
});

const RUN = {
  start: "2026-10-13T18:00:00-07:00",
  length_s: 96 * HOUR,
  events: [{ t_s: 5 }, { t_s: 50 }],
  loads: { fridge: { t_s: [0, 10, 40], watts: [1, 2, 3], name: "fridge" } },
} as unknown as RunResult;

test("the first part of a new run and the rest of the one before are one course", () => {
  const now = {
    length_s: 20,
    events: [{ t_s: 7 }],
    loads: { fridge: { t_s: [0, 15], watts: [9, 8] } },
  } as unknown as RunResult;
  const both = joined(RUN, now, 20) as unknown as {
    loads: { fridge: { t_s: number[]; watts: number[] } };
    events: { t_s: number }[];
  };
  expect(both.loads.fridge).toMatchObject({ t_s: [0, 15, 40], watts: [9, 8, 3] });
  expect(both.events.map((event) => event.t_s)).toEqual([7, 50]);
  expect(joined(RUN, now, RUN.length_s)).toBe(now);
});

test("a moment of the outage as people write it", () => {
  const read = (text: string, at = 0) => readMoment(text, RUN, at, "America/Los_Angeles", "24");
  expect(read("36 h")).toBe(36 * HOUR);
  expect(read("18:00")).toBe(24 * HOUR);
  expect(read("18:00", 24 * HOUR)).toBe(48 * HOUR);
  expect(read("Thu 3:10")).toBe((6 + 24 + 3) * HOUR + 600);
  expect(read("14 Oct 18:00")).toBe(24 * HOUR);
  expect(read("14 Oct")).toBe(6 * HOUR);
  expect(read("Mon")).toBeNull();
  expect(read("400 h")).toBeNull();
  expect(read("Foo 3:10")).toBeNull();
});
