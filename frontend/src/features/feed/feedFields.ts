import type { BoxPart, Plan } from "../../api/client";
import { ANSWERS, type FieldOf } from "../../ui/Fields";

export type Feed = NonNullable<Plan["feeds"]>[string];
export type Lead = NonNullable<Plan["leads"]>[string];
export type Source = Lead["source"];
export type ToFeed = Extract<Lead["to"], { end?: "feed" }>;
export type ToLoads = Extract<Lead["to"], { end?: "loads" }>;
export type ToInput = Extract<Lead["to"], { end?: "input" }>;
export type Cord = NonNullable<Lead["cords"]>[number];
export type Adapter = NonNullable<Lead["adapters"]>[number];
export type Wire = NonNullable<Feed["wire"]>;
export type Inlet = Extract<BoxPart, { part: "inlet" }>;

const awgWords = (awg: number) => [String(awg), `AWG ${awg}`] as const;
const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4].map(awgWords);

export const CORD: readonly FieldOf<Cord>[] = [
  { key: "name", label: "named", optional: true },
  { key: "length_m", label: "cord", unit: "m", plate: true },
  { key: "awg", label: "of", choices: [["", "mm²"], ...GAUGES], numeric: true },
  { key: "mm2", label: "or of mm²", unit: "", optional: true },
  { key: "conductors", label: "conductors, ground counted", unit: "", optional: true },
];

export const ADAPTER: readonly FieldOf<Adapter>[] = [
  { key: "name", label: "named", optional: true },
  { key: "source_end", label: "adapter from", offered: "receptacles" },
  { key: "load_end", label: "to", offered: "receptacles" },
  {
    key: "sits_at",
    label: "sits",
    choices: [
      ["source", "at the source"],
      ["load", "after the cords"],
    ],
  },
  { key: "rating_a", label: "rated", unit: "A" },
  { key: "overcurrent_a", label: "breaker inside", unit: "A", optional: true },
  { key: "passes_neutral", label: "passes the neutral", choices: ANSWERS },
  { key: "passes_ground", label: "passes the ground", choices: ANSWERS },
];

export const INLET: readonly FieldOf<Inlet>[] = [
  { key: "name", label: "named", optional: true },
  { key: "kind", label: "inlet", offered: "receptacles" },
  { key: "rating_a", label: "rated", unit: "A" },
];

/** Wire in the wall, from the inlet to the breaker or switch. */
export const WIRE: readonly FieldOf<Wire>[] = [
  { key: "length_m", label: "wire to the panel", unit: "m", plate: true },
  {
    key: "awg",
    label: "of",
    choices: [["unknown", "gauge not known"], ...[14, 12, 10, 8, 6, 4, 3, 2, 1].map(awgWords)],
    numeric: true,
  },
  {
    key: "metal",
    label: "metal",
    choices: [
      ["copper", "copper"],
      ["aluminium", "aluminium"],
    ],
  },
  {
    key: "terminals_c",
    label: "marked for",
    choices: [
      ["", "not known: 60 °C counts"],
      ["60", "60 °C, or house cable"],
      ["75", "75 °C, cable and all terminals"],
    ],
    numeric: true,
  },
  { key: "conductors", label: "conductors without the ground", unit: "", optional: true },
];

export const FEED: readonly FieldOf<Feed>[] = [
  { key: "inlet", label: "inlet or plug", offered: "receptacles" },
  { key: "inlet_a", label: "inlet rated", unit: "A" },
  { key: "breaker_a", label: "feed breaker or switch", unit: "A" },
  { key: "neutral_switched", label: "transfer switches the neutral", choices: ANSWERS },
];

/** How one feed is changed over, where that is not as the outage says. */
export const CHANGEOVER: readonly FieldOf<Feed>[] = [
  { key: "changeover_after_s", label: "changed over after", unit: "min", scale: 60, optional: true },
  {
    key: "restore",
    label: "breakers back on",
    choices: [
      ["", "as the outage says"],
      ["one_at_a_time", "one at a time"],
      ["all_at_once", "all at once"],
    ],
  },
  { key: "restore_interval_s", label: "between two", unit: "s", optional: true },
];

/** Schools of closing, where one act puts a whole panel under power. */
export const CLOSING: readonly FieldOf<Feed>[] = [
  {
    key: "branches_off",
    label: "off before",
    choices: [
      ["all", "all branch breakers"],
      ["large", "only the large ones"],
      ["none", "none but those marked off"],
    ],
  },
  {
    key: "output_on",
    label: "output on",
    choices: [
      ["before", "before it is joined to the panel"],
      ["after", "after it is joined to the panel"],
    ],
  },
];

export const LIGHT_FIRST: readonly FieldOf<Feed>[] = [
  { key: "light_first", label: "a circuit of lamps comes back first", tick: true },
];

/** The end of cords to appliances. */
export const STRIP: readonly FieldOf<ToLoads>[] = [
  { key: "plug", label: "plug at the end", offered: "receptacles" },
  { key: "plug_a", label: "rated", unit: "A" },
  { key: "overcurrent_a", label: "breaker in the strip", unit: "A", optional: true },
];

export const BOND: readonly FieldOf<Lead>[] = [
  { key: "bonding_plug", label: "bonding plug in the source", choices: ANSWERS },
];

/** The ends of a lead, told apart. */
export const isToFeed = (end: Lead["to"]): end is ToFeed => end.end === "feed";
export const isToLoads = (end: Lead["to"]): end is ToLoads => end.end === "loads";
export const isToInput = (end: Lead["to"]): end is ToInput => end.end === "input";
