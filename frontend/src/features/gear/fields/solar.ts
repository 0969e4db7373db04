import { ANSWERS, type FieldOf, type GroupOf } from "../../../ui/Fields";
import { OWNED } from "./common";
import type { External, Facing, Shade, SolarArray } from "./types";

export const ARRAY: readonly GroupOf<SolarArray>[] = [
  {
    title: "Wiring",
    hint: "How many in a row, how many rows side by side, and the lead to the station.",
    fields: [
      { key: "name", label: "name" },
      {
        key: "kind",
        label: "it is",
        choices: [
          ["portable", "portable"],
          ["roof", "on the roof"],
          ["grid_tied", "grid-tied"],
        ],
      },
      { key: "series", label: "in series", unit: "" },
      { key: "parallel", label: "strings in parallel", unit: "" },
      { key: "string_fuses", label: "a fuse in each string", choices: ANSWERS },
      { key: "lead_m", label: "lead", unit: "m", plate: true },
      {
        key: "lead_awg",
        label: "of",
        numeric: true,
        choices: [14, 12, 10, 8, 6].map((awg) => [String(awg), `AWG ${awg}`] as const),
      },
      ...OWNED,
    ],
  },
  {
    title: "In the sun",
    hint: "Tilt from flat, direction from north by the clock hand: 180 is south. A two-sided module on its face gives 71 %.",
    fields: [
      { key: "tilt_deg", label: "tilt, °", unit: "" },
      { key: "azimuth_deg", label: "looks towards, °", unit: "" },
      { key: "soiling_percent", label: "dirt takes", unit: "%" },
      { key: "losses_percent", label: "wiring and mismatch take", unit: "%" },
      { key: "face_factor", label: "face gives", unit: "%", scale: 0.01 },
    ],
  },
];

export const FACING: readonly FieldOf<Facing>[] = [
  { key: "at", label: "at", clock: true },
  { key: "tilt_deg", label: "tilt, °", unit: "" },
  { key: "azimuth_deg", label: "towards, °", unit: "" },
];

export const SHADE: readonly FieldOf<Shade>[] = [
  { key: "begins", label: "from", clock: true },
  { key: "ends", label: "to", clock: true },
  { key: "share_percent", label: "takes", unit: "%" },
];

export const MODULE: GroupOf<SolarArray["module"]> = {
  title: "Module",
  hint: "On its back, at standard test conditions.",
  fields: [
    { key: "watts", label: "module", unit: "W" },
    { key: "voc_v", label: "open circuit", unit: "V", optional: true },
    { key: "vmp_v", label: "working", unit: "V", optional: true },
    { key: "isc_a", label: "short circuit", unit: "A", optional: true },
    { key: "imp_a", label: "working", unit: "A", optional: true },
    { key: "voc_percent_per_k", label: "open circuit, % per K", unit: "", optional: true },
    { key: "vmp_percent_per_k", label: "working, % per K", unit: "", optional: true },
    { key: "tolerance_percent", label: "plate within", unit: "%" },
    { key: "series_fuse_a", label: "series fuse", unit: "A", optional: true },
  ],
};

export const EXTERNAL: readonly GroupOf<External>[] = [
  {
    title: "Battery",
    hint: "Wh of one, or Ah × V; volts empty and full. In a row only with the same charge.",
    fields: [
      { key: "name", label: "name" },
      {
        key: "kind",
        label: "it is",
        choices: [
          ["tool_packs", "tool packs"],
          ["lead_acid", "lead-acid"],
          ["lithium", "lithium"],
        ],
      },
      { key: "wh", label: "one holds", unit: "Wh" },
      { key: "lowest_v", label: "empty", unit: "V" },
      { key: "highest_v", label: "full", unit: "V" },
      { key: "in_series", label: "in series", unit: "" },
      { key: "parallel", label: "in parallel", unit: "" },
      { key: "equal_charge", label: "same charge in a row", choices: ANSWERS },
      { key: "transfer_efficiency", label: "arrives in the station", unit: "%", scale: 0.01 },
      { key: "gives_w", label: "its lead carries", unit: "W", optional: true },
      { key: "fuse_at_battery", label: "fuse at the battery", choices: ANSWERS },
      ...OWNED,
      { key: "cycle_life", label: "full cycles in its life", unit: "", optional: true },
    ],
  },
];
