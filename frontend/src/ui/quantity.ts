/** Quantities as people write them, turned into the unit that the plan stores, and back. */

import { createContext, useContext } from "react";
import type { components } from "../api/schema.gen";

export type Units = components["schemas"]["Units"];

/** What a figure is shown in: the setting of the plan's site. */
export const UnitsContext = createContext<Units>({
  temperature: "f",
  length: "ft",
  volume: "gal",
  wire: "awg",
  clock: "24",
});

export const useUnits = () => useContext(UnitsContext);

const UNITS = {
  W: { w: 1, watt: 1, watts: 1, kw: 1000, va: 1, kva: 1000, "btu/h": 0.29307107, btu: 0.29307107 },
  VA: { va: 1, kva: 1000, w: 1, watt: 1, watts: 1, kw: 1000 },
  Wh: { wh: 1, kwh: 1000, btu: 0.29307107 },
  kWh: { kwh: 1, wh: 1e-3 },
  h: { h: 1, hours: 1, hour: 1, d: 24, days: 24, day: 24, min: 1 / 60 },
  min: { min: 1, h: 60, s: 1 / 60 },
  s: { s: 1, min: 60, h: 3600 },
  A: { a: 1, amp: 1, amps: 1 },
  V: { v: 1 },
  hp: { hp: 1 },
  kg: { kg: 1, lb: 0.45359237 },
  "W/K": { "w/k": 1 },
  "%": { "%": 1 },
  "°": { "°": 1, deg: 1 },
  m: { m: 1, ft: 0.3048, cm: 0.01, in: 0.0254 },
  ft: { m: 1 / 0.3048, ft: 1, cm: 0.01 / 0.3048, in: 1 / 12 },
  L: { l: 1, gal: 3.785411784 },
  gal: { l: 1 / 3.785411784, gal: 1 },
  "/L": { "/l": 1, "/gal": 1 / 3.785411784 },
  "/gal": { "/l": 3.785411784, "/gal": 1 },
  "°C": {},
  "°F": {},
  K: { k: 1 },
  "°F apart": {},
  "°C d": {},
  "°F d": {},
  "": {},
} as const satisfies Record<string, Record<string, number>>;

export type Unit = keyof typeof UNITS;

interface Shown {
  unit: Unit;
  factor: number;
  offset: number;
}

const plain = (unit: Unit): Shown => ({ unit, factor: 1, offset: 0 });

/** How a stored unit is shown under a setting: value shown = stored × factor + offset. */
export function shownAs(unit: Unit, units: Units): Shown {
  if (units.temperature === "f") {
    if (unit === "°C") return { unit: "°F", factor: 1.8, offset: 32 };
    if (unit === "K") return { unit: "°F apart", factor: 1.8, offset: 0 };
    if (unit === "°C d") return { unit: "°F d", factor: 1.8, offset: 0 };
  }
  if (unit === "m" && units.length === "ft") return { unit: "ft", factor: 1 / 0.3048, offset: 0 };
  if (unit === "L" && units.volume === "gal") return { unit: "gal", factor: 1 / 3.785411784, offset: 0 };
  if (unit === "/L" && units.volume === "gal") return { unit: "/gal", factor: 3.785411784, offset: 0 };
  return plain(unit);
}

const NUMBER = String.raw`[-−]?(?:\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:\.\d*)?|\.\d+)`;
const QUANTITY = new RegExp(String.raw`^\s*(${NUMBER})\s*(°?/?[a-zA-Z%][a-zA-Z%/]*)?\s*$`);
const COMMA = /^\s*[-−]?\d+,\d+(?!\d*,)\s*(°?[a-zA-Z%][a-zA-Z%/]*)?\s*$/;

/** What was typed with a comma that is no thousands mark, with a point instead: it is asked, never guessed. */
export const withPoint = (text: string): string | null =>
  COMMA.test(text) && !QUANTITY.test(text) ? text.trim().replace(",", ".") : null;

/**
 * Read what was typed in a unit as shown; a temperature may carry its own letter. A comma counts as a thousands
 * mark only before three digits. VA and W stand for each other where one of them is asked for: at a power factor
 * of 1, which is the cautious way for a load.
 */
export function readQuantity(text: string, unit: Unit): number | null {
  const found = QUANTITY.exec(text);
  if (!found) return null;
  const value = Number((found[1] ?? "").replaceAll(",", "").replace("−", "-"));
  const written = (found[2] ?? "").toLowerCase().replace("°", "");
  if (!Number.isFinite(value)) return null;
  if (written === "") return value;
  if (unit === "°C" || unit === "°F") {
    if (written !== "c" && written !== "f") return null;
    const celsius = written === "c" ? value : (value - 32) / 1.8;
    return unit === "°C" ? celsius : celsius * 1.8 + 32;
  }
  const factor = (UNITS[unit] as Record<string, number>)[written];
  return factor === undefined ? null : value * factor;
}

export const example: Record<Unit, string> = {
  W: "140 or 1.5 kW",
  VA: "1100 or 1.1 kVA",
  Wh: "900 or 1.2 kWh",
  kWh: "2.4 or 900 Wh",
  h: "96 or 4 d",
  min: "45 or 1.5 h",
  s: "20 or 15 min",
  A: "20",
  V: "120",
  hp: "0.5",
  kg: "12 or 26 lb",
  "W/K": "200",
  "%": "38",
  "°": "30",
  m: "7.5 or 25 ft",
  ft: "25 or 7.5 m",
  L: "4 or 1 gal",
  gal: "1 or 4 L",
  "/L": "0.95 or 3.60 /gal",
  "/gal": "3.60 or 0.95 /L",
  "°C": "20 or 68 °F",
  "°F": "68 or 20 °C",
  K: "0.5",
  "°F apart": "1",
  "°C d": "2500",
  "°F d": "4500",
  "": "3",
};

const fine = new Intl.NumberFormat("en-US", { maximumFractionDigits: 1 });

/** A stored figure in words, in the unit of the setting. */
export function told(value: number, unit: Unit, units: Units): string {
  const shown = shownAs(unit, units);
  return `${fine.format(value * shown.factor + shown.offset)} ${shown.unit}`;
}
