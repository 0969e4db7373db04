/** Quantities as people write them, turned into the unit that the field stores. */

const UNITS = {
  W: { w: 1, kw: 1000 },
  VA: { va: 1, kva: 1000 },
  Wh: { wh: 1, kwh: 1000 },
  h: { h: 1, hours: 1, hour: 1, d: 24, days: 24, day: 24, min: 1 / 60 },
  min: { min: 1, h: 60, s: 1 / 60 },
  s: { s: 1, min: 60, h: 3600 },
  A: { a: 1 },
  "%": { "%": 1 },
  "": {},
} as const satisfies Record<string, Record<string, number>>;

export type Unit = keyof typeof UNITS;

export function readQuantity(text: string, unit: Unit): number | null {
  const found = /^\s*(-?[\d,]*\.?\d+)\s*([a-zA-Z%]*)\s*$/.exec(text);
  if (!found) return null;
  const value = Number((found[1] ?? "").replaceAll(",", ""));
  const written = (found[2] ?? "").toLowerCase();
  if (!Number.isFinite(value)) return null;
  if (written === "") return value;
  const factor = (UNITS[unit] as Record<string, number>)[written];
  return factor === undefined ? null : value * factor;
}

export const example: Record<Unit, string> = {
  W: "140 or 1.5 kW",
  VA: "1100 or 1.1 kVA",
  Wh: "900 or 1.2 kWh",
  h: "96 or 4 d",
  min: "45 or 1.5 h",
  s: "20 or 15 min",
  A: "20",
  "%": "38",
  "": "3",
};
