import type { Plan } from "../../api/client";
import { ANSWERS, type FieldOf } from "../../ui/Fields";
import { RECEPTACLES } from "../feed/feedFields";

type Part<K extends keyof Plan> = NonNullable<Plan[K]> extends Record<string, infer P> ? P : never;
export type Station = Part<"stations">;
export type Generator = Part<"generators">;
export type SolarArray = Part<"arrays">;
export type Vehicle = Part<"vehicles">;
export type Place = Part<"places">;
export type Recharge = Part<"recharges">;
export type AcInput = NonNullable<Station["ac_inputs"]>[string];
export type DcInput = NonNullable<Station["dc_inputs"]>[string];
export type Bank = NonNullable<Station["bank"]>;
export type Pack = NonNullable<Station["packs"]>[string];
export type Receptacle = NonNullable<Station["receptacles"]>[string];

const ORIGINS = [
  ["measured", "measured"],
  ["plate", "from the plate"],
  ["estimate", "estimate"],
  ["library", "typical of its class"],
] as const;
const NEUTRAL = [
  ["unknown", "not known"],
  ["floating", "floating"],
  ["bonded", "bonded to ground"],
  ["switchable", "can be switched"],
  ["changes", "different in bypass"],
] as const;
const OUTPUT = [
  ["120/240", "120/240 V"],
  ["120", "120 V"],
  ["230", "230 V"],
] as const;

/** Asked in the order in which a plate and a manual give them. */
export const STATION: readonly FieldOf<Station>[] = [
  { key: "name", label: "name" },
  { key: "output", label: "output", choices: OUTPUT },
  { key: "rated_va", label: "rated", unit: "VA" },
  { key: "leg_va", label: "one leg", unit: "VA", optional: true },
  { key: "nameplate_wh", label: "plate energy", unit: "Wh" },
  { key: "cell_wh", label: "cells really give", unit: "Wh", optional: true },
  { key: "capacity_origin", label: "energy is", choices: ORIGINS },
  { key: "cutoff_percent", label: "turns off at", unit: "%" },
  { key: "idle_w", label: "idle draw", unit: "W" },
  { key: "idle_origin", label: "idle draw is", choices: ORIGINS },
  { key: "efficiency_origin", label: "efficiency is", choices: ORIGINS },
  { key: "neutral", label: "neutral", choices: NEUTRAL },
  { key: "isolated", label: "output isolated from the battery", choices: ANSWERS },
  {
    key: "waveform",
    label: "wave",
    choices: [
      ["sine", "pure sine"],
      ["modified", "modified"],
      ["unknown", "not known"],
    ],
  },
  { key: "transfer_gap_ms", label: "gap when the utility goes, ms", unit: "" },
  { key: "auto_restart", label: "output back by itself after empty", choices: ANSWERS },
  { key: "output_while_charging", label: "keeps its output while charging", tick: true },
  {
    key: "chemistry",
    label: "cells",
    choices: [
      ["lfp", "lithium iron phosphate"],
      ["nmc", "other lithium"],
      ["lead_flooded", "flooded lead-acid"],
      ["lead_sealed", "sealed lead-acid"],
    ],
  },
  { key: "self_heated", label: "heats its cells", tick: true },
  { key: "weight_kg", label: "weighs", unit: "kg", optional: true },
  { key: "noise_db", label: "noise, dB", unit: "", optional: true },
  { key: "price", label: "price", unit: "", optional: true },
  { key: "cycle_life", label: "full cycles in its life", unit: "", optional: true },
];
export const PACK: readonly FieldOf<Pack>[] = [
  { key: "name", label: "pack" },
  { key: "nameplate_wh", label: "plate energy", unit: "Wh" },
  { key: "count", label: "how many", unit: "" },
];
export const OUTLET: readonly FieldOf<Receptacle>[] = [
  { key: "kind", label: "outlet", choices: RECEPTACLES },
  { key: "rating_a", label: "rated", unit: "A" },
  { key: "gfci", label: "ground-fault protected", choices: ANSWERS },
];
export const AC_INPUT: readonly FieldOf<AcInput>[] = [
  {
    key: "volts",
    label: "AC input",
    numeric: true,
    choices: [
      ["120", "120 V"],
      ["240", "240 V"],
      ["230", "230 V"],
    ],
  },
  { key: "most_w", label: "at most", unit: "W" },
  { key: "cap_a", label: "inlet", unit: "A" },
  { key: "passes_through", label: "passes through", tick: true },
  {
    key: "over_cap",
    label: "over that",
    choices: [
      ["input_trips", "its input trips"],
      ["assist", "the battery helps"],
    ],
  },
];
export const DC_INPUT: readonly FieldOf<DcInput>[] = [
  { key: "low_v", label: "solar input from", unit: "V" },
  { key: "high_v", label: "to", unit: "V" },
  { key: "most_a", label: "at most", unit: "A" },
  { key: "short_circuit_a", label: "short circuit at most", unit: "A", optional: true },
  { key: "most_w", label: "at most", unit: "W" },
];
export const BANK: readonly FieldOf<Bank>[] = [
  { key: "nominal_v", label: "battery", unit: "V" },
  { key: "lowest_v", label: "lowest", unit: "V" },
  { key: "cable_a", label: "cable carries", unit: "A", optional: true },
  { key: "fuse_a", label: "fuse", unit: "A", optional: true },
  { key: "fuse_for_dc", label: "made for direct current", choices: ANSWERS },
  { key: "fuse_interrupts_a", label: "interrupts", unit: "A", optional: true },
  { key: "fault_a", label: "battery's fault current", unit: "A", optional: true },
  { key: "bms_a", label: "weakest battery gives", unit: "A", optional: true },
  { key: "parallel", label: "in parallel", unit: "" },
  { key: "fuse_per_battery", label: "a fuse at each", choices: ANSWERS },
  { key: "joined_apart_v", label: "joined at a difference of", unit: "V", optional: true },
  { key: "in_series", label: "in series", unit: "" },
  { key: "most_in_series", label: "in series at most", unit: "", optional: true },
  { key: "alike", label: "all alike", choices: ANSWERS },
  { key: "precharge", label: "pre-charged", choices: ANSWERS },
  { key: "closed_room", label: "in a closed room", choices: ANSWERS },
  { key: "low_temperature_lockout", label: "locks charging out in the cold", choices: ANSWERS },
];
export const GENERATOR: readonly FieldOf<Generator>[] = [
  { key: "name", label: "name" },
  { key: "output", label: "output", choices: OUTPUT },
  { key: "rated_w", label: "rated", unit: "W" },
  { key: "starting_w", label: "starting", unit: "W", optional: true },
  {
    key: "waveform",
    label: "class",
    choices: [
      ["inverter", "inverter"],
      ["conventional", "conventional"],
      ["standby", "standby set"],
    ],
  },
  { key: "neutral", label: "neutral", choices: NEUTRAL },
  { key: "auto_start", label: "starts by itself", tick: true },
  { key: "locked_out", label: "locked out while another feeds", choices: ANSWERS },
];
export const VEHICLE: readonly FieldOf<Vehicle>[] = [
  { key: "name", label: "name" },
  {
    key: "kind",
    label: "it is",
    choices: [
      ["battery", "battery only"],
      ["hybrid", "a hybrid"],
      ["engine", "an engine"],
    ],
  },
  {
    key: "outlet",
    label: "gives by",
    choices: [
      ["ac_120", "120 V outlet"],
      ["ac_230", "230 V outlet"],
      ["socket_12v", "12 V socket"],
      ["battery_12v", "lead at its battery"],
    ],
  },
  { key: "most_w", label: "at most", unit: "W" },
  { key: "draws_w", label: "drawn from it", unit: "W" },
  { key: "socket_fuse_a", label: "socket fuse", unit: "A", optional: true },
  { key: "may_start_engine", label: "may start its engine", choices: ANSWERS },
  { key: "fuse_at_battery", label: "fuse at the battery", choices: ANSWERS },
];
export const ARRAY: readonly FieldOf<SolarArray>[] = [
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
  { key: "lead_m", label: "lead", unit: "m" },
  {
    key: "lead_awg",
    label: "of",
    numeric: true,
    choices: [14, 12, 10, 8, 6].map((awg) => [String(awg), `AWG ${awg}`] as const),
  },
];
export const MODULE: readonly FieldOf<SolarArray["module"]>[] = [
  { key: "watts", label: "module", unit: "W" },
  { key: "voc_v", label: "open circuit", unit: "V" },
  { key: "vmp_v", label: "working", unit: "V" },
  { key: "isc_a", label: "short circuit", unit: "A" },
  { key: "imp_a", label: "working", unit: "A" },
  { key: "voc_percent_per_k", label: "open circuit, % per K", unit: "", optional: true },
  { key: "series_fuse_a", label: "series fuse", unit: "A", optional: true },
];
export const PLACE: readonly FieldOf<Place>[] = [
  { key: "name", label: "name" },
  {
    key: "kind",
    label: "it is",
    choices: [
      ["living_space", "living space"],
      ["bedroom", "a bedroom"],
      ["garage", "a garage"],
      ["basement", "a basement"],
      ["outdoors", "outdoors"],
      ["vehicle", "a vehicle"],
    ],
  },
  { key: "opening_m", label: "from the nearest opening", unit: "m", optional: true },
  { key: "co_alarm", label: "carbon-monoxide alarm in the house", choices: ANSWERS },
  { key: "coldest_c", label: "coldest", unit: "°C", optional: true },
  { key: "hottest_c", label: "hottest", unit: "°C", optional: true },
  { key: "below_flood_level", label: "below flood level", choices: ANSWERS },
  { key: "escape_route", label: "on the way out", choices: ANSWERS },
];
export const RECHARGE: readonly FieldOf<Recharge>[] = [
  { key: "name", label: "name" },
  { key: "setting_w", label: "set to", unit: "W" },
  {
    key: "when",
    label: "connected",
    choices: [
      ["grid", "when the utility is there"],
      ["strategy", "as planned in the outage"],
      ["always", "always"],
    ],
  },
];
