import type { FieldOf } from "../../../ui/Fields";

export const ORIGINS = [
  ["measured", "measured"],
  ["plate", "from the plate"],
  ["estimate", "estimate"],
  ["library", "typical of its class"],
] as const;

export const NEUTRAL = [
  ["unknown", "not known"],
  ["floating", "floating"],
  ["bonded", "bonded to ground"],
  ["switchable", "can be switched"],
  ["changes", "different in bypass"],
] as const;

export const OUTPUT = [
  ["120/240", "120/240 V"],
  ["120", "120 V"],
  ["230", "230 V"],
] as const;

/** What it costs and weighs. */
export const OWNED: readonly FieldOf<{ price?: number | null; weight_kg?: number | null }>[] = [
  { key: "price", label: "price", unit: "", optional: true },
  { key: "weight_kg", label: "weighs", unit: "kg", optional: true },
];
