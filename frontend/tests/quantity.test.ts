import { describe, expect, it, test } from "vitest";
import { dateOf, readDate, readTime, timeOf } from "../src/ui/clock";
import { moment, time } from "../src/ui/format";
import { freeId } from "../src/ui/ids";
import { example, readQuantity, shownAs, told, type Unit, type Units, withPoint } from "../src/ui/quantity";

const AMERICAN: Units = { temperature: "f", length: "ft", volume: "gal", wire: "awg", clock: "12" };
const METRIC: Units = { temperature: "c", length: "m", volume: "l", wire: "mm2", clock: "24" };

describe("a quantity as it is typed", () => {
  test.each([
    ["1.5 kW", "W", 1500],
    ["1,500", "W", 1500],
    ["1100", "VA", 1100],
    ["1.1 kVA", "W", 1100],
    ["−5", "°C", -5],
    ["68 °F", "°C", 20],
    ["20 c", "°F", 68],
    ["25 ft", "m", 7.62],
    ["4 d", "h", 96],
    ["1 gal", "L", 3.785411784],
  ] as [string, Unit, number][])("%s in %s is %d", (text, unit, value) => {
    expect(readQuantity(text, unit)).toBeCloseTo(value, 6);
  });

  test.each([
    ["1,5", "W"],
    ["12,34 kW", "W"],
    ["five", "W"],
    ["5 kg", "W"],
    ["5 w", "°C"],
    ["", "A"],
    ["1 2", "A"],
  ] as [string, Unit][])("%s in %s is not read", (text, unit) => {
    expect(readQuantity(text, unit)).toBeNull();
  });

  it("asks for a point where a comma is no thousands mark", () => {
    expect(withPoint("1,5 kW")).toBe("1.5 kW");
    expect(withPoint("1,500")).toBeNull();
    expect(withPoint("1.5")).toBeNull();
  });

  it("reads back every example that it gives", () => {
    for (const [unit, words] of Object.entries(example))
      for (const one of words.split(" or ")) expect(readQuantity(one, unit as Unit), one).not.toBeNull();
  });

  it("is shown in the setting of the house and stored as before", () => {
    for (const unit of Object.keys(example) as Unit[]) {
      const shown = shownAs(unit, AMERICAN);
      const there = 12 * shown.factor + shown.offset;
      expect((there - shown.offset) / shown.factor).toBeCloseTo(12, 9);
      expect(shownAs(unit, METRIC)).toEqual({ unit, factor: 1, offset: 0 });
    }
    expect(told(20, "°C", AMERICAN)).toBe("68 °F");
    expect(told(7.62, "m", METRIC)).toBe("7.6 m");
  });
});

describe("a time of day", () => {
  it("is read as people write it, and not where it could be either half of the day", () => {
    expect(readTime("6:30 pm", "12")).toBe("18:30:00");
    expect(readTime("12 am", "12")).toBe("00:00:00");
    expect(readTime("noon", "24")).toBe("12:00:00");
    expect(readTime("1830", "24")).toBe("18:30:00");
    expect(readTime("6:30", "12")).toBeNull();
    expect(readTime("24:00", "24")).toBeNull();
    expect(readTime("13 pm", "12")).toBeNull();
  });

  it("comes back as it was written", () => {
    for (let minute = 0; minute < 1440; minute += 7) {
      const stored = `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}:00`;
      for (const clock of ["12", "24"] as const) expect(readTime(timeOf(stored, clock), clock)).toBe(stored);
    }
  });
});

test("a day is read with or without a year, and never where figures could be day or month", () => {
  expect(readDate("14 Oct", "2026-01-12")).toBe("2026-10-14");
  expect(readDate("Oct 14, 2027", "2026-01-12")).toBe("2027-10-14");
  expect(readDate("2026-2-29", "2026-01-12")).toBeNull();
  expect(readDate("4/5/2026", "2026-01-12")).toBeNull();
  expect(readDate(dateOf("2026-10-14"), "2020-01-01")).toBe("2026-10-14");
});

test("a moment is told on the clock of the house, whoever reads it", () => {
  const at = "2026-10-14T10:10:00Z";
  expect(moment(at, "America/Los_Angeles")).toBe("Wed 14 Oct 03:10");
  expect(moment(at, "America/Los_Angeles", "12")).toBe("Wed 14 Oct 3:10 am");
  expect(time(at, "Asia/Kolkata")).toBe("15:40");
});

test("an id is made from words and is free", () => {
  expect(freeId("Garage freezer, old!", {})).toBe("garage-freezer-old");
  expect(freeId("x", { x: 1, "x-2": 1 })).toBe("x-3");
  expect(freeId("冷蔵庫", {})).toBe("part");
});
