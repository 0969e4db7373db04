import { ANSWERS, type FieldOf, type GroupOf } from "../../../ui/Fields";
import { NEUTRAL, ORIGINS, OUTPUT, OWNED } from "./common";
import type {
  AcInput,
  Bank,
  BankBattery,
  CurvePoint,
  DcInput,
  DcOutput,
  Link,
  Pack,
  Receptacle,
  Station,
  Taper,
} from "./types";

/** What everyone can read off the plate. */
export const PLATE: readonly GroupOf<Station>[] = [
  {
    title: "On its plate",
    hint: "By the outlets: volts, the rating in VA or W, and Wh, or Ah × V.",
    fields: [
      { key: "name", label: "name" },
      { key: "output", label: "output", choices: OUTPUT },
      { key: "rated_va", label: "rated", unit: "VA" },
      { key: "nameplate_wh", label: "plate energy", unit: "Wh" },
    ],
  },
];

/** Asked in the order in which a manual gives them. */
export const STATION: readonly GroupOf<Station>[] = [
  {
    title: "Output",
    hint: "In the manual: what one leg carries, and the wave.",
    fields: [
      { key: "leg_va", label: "one leg", unit: "VA", optional: true },
      {
        key: "waveform",
        label: "wave",
        choices: [
          ["sine", "pure sine"],
          ["modified", "modified"],
          ["unknown", "not known"],
        ],
      },
      {
        key: "hertz",
        label: "frequency",
        numeric: true,
        choices: [
          ["", "that of the house"],
          ["50", "50 Hz"],
          ["60", "60 Hz"],
        ],
      },
    ],
  },
  {
    title: "Energy",
    hint: "What the cells really give shows in a full discharge: see Sums.",
    fields: [
      { key: "cell_wh", label: "cells really give", unit: "Wh", optional: true },
      { key: "capacity_origin", label: "energy is", choices: ORIGINS },
      { key: "cutoff_percent", label: "turns off at", unit: "%" },
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
      { key: "self_discharge_percent_per_week", label: "loses a week", unit: "%" },
      { key: "coldest_charge_c", label: "charges from", unit: "°C", plate: true },
      { key: "self_heated", label: "heats its cells", tick: true },
    ],
  },
  {
    title: "What it uses itself",
    hint: "No-load or standby draw in the manual. Measure it: it often decides how long a small load lasts. Left empty, what is usual of its rating counts.",
    fields: [
      { key: "idle_w", label: "idle draw", unit: "W", optional: true },
      { key: "idle_origin", label: "idle draw is", choices: ORIGINS },
      { key: "inverter_efficiency", label: "inverter efficiency", unit: "%", scale: 0.01 },
      { key: "efficiency_origin", label: "efficiency is", choices: ORIGINS },
      { key: "sleep_w", label: "output off", unit: "W" },
      { key: "passthrough_overhead_w", label: "passing through", unit: "W" },
    ],
  },
  {
    title: "Neutral",
    hint: "Ask the maker, or measure neutral to ground at an outlet: on battery, and again while it passes through.",
    fields: [
      { key: "neutral", label: "neutral on battery", choices: NEUTRAL },
      {
        key: "neutral_in_bypass",
        label: "passing an input through",
        choices: [
          ["unknown", "not known"],
          ["passes", "that of its input"],
          ["floating", "floating"],
          ["bonded", "bonded to ground"],
        ],
      },
      { key: "isolated", label: "output isolated from the battery", choices: ANSWERS },
    ],
  },
  {
    title: "Off and on",
    hint: "What it does when empty, when the utility goes, and while it charges: in the manual, or try it.",
    fields: [
      { key: "auto_restart", label: "output back by itself after empty", choices: ANSWERS },
      { key: "restart_percent", label: "at", unit: "%", optional: true },
      { key: "transfer_gap_ms", label: "gap when the utility goes, ms", unit: "", plate: true },
      { key: "output_while_charging", label: "keeps its output while charging", answered: true },
      { key: "works_from_c", label: "gives power from", unit: "°C", plate: true },
      { key: "works_to_c", label: "to", unit: "°C", plate: true },
      {
        key: "display_inputs",
        label: "its display shows inputs",
        choices: [
          ["unknown", "not known"],
          ["each", "each by itself"],
          ["sum", "all together"],
        ],
      },
      { key: "display_time_s", label: "shown hours follow the load in", unit: "min", scale: 60 },
    ],
  },
  {
    title: "Charging",
    hint: "Watts at the wall against what arrives in the cells; the most of wall and sun together.",
    fields: [
      { key: "charge_efficiency", label: "wall to cells", unit: "%", scale: 0.01 },
      { key: "max_charge_w", label: "all sources together", unit: "W", optional: true },
      { key: "recharge_below_percent", label: "takes AC again below", unit: "%" },
      { key: "balance_w", label: "a fuller pack gives an emptier one", unit: "W" },
      { key: "balance_band_percent", label: "they share evenly within", unit: "%" },
    ],
  },
  {
    title: "To own",
    fields: [
      ...OWNED,
      { key: "noise_db", label: "noise, dB", unit: "", optional: true },
      { key: "cycle_life", label: "full cycles in its life", unit: "", optional: true },
    ],
  },
];

export const TAPER: readonly FieldOf<Taper>[] = [
  { key: "knee_percent", label: "takes less from", unit: "%" },
  { key: "end_percent", label: "down to", unit: "%" },
  { key: "reference_w", label: "of", unit: "W", optional: true },
];

export const CURVE: readonly FieldOf<CurvePoint>[] = [
  { key: "multiple", label: "of its rating", unit: "%", scale: 0.01 },
  { key: "seconds", label: "for", unit: "s", optional: true },
];

export const PACK: readonly FieldOf<Pack>[] = [
  { key: "name", label: "pack" },
  { key: "nameplate_wh", label: "plate energy", unit: "Wh" },
  { key: "cell_wh", label: "really gives", unit: "Wh", optional: true },
  { key: "count", label: "how many", unit: "" },
  { key: "reading_offset_percent", label: "its display is off by", unit: "%" },
  ...OWNED,
];

export const OUTLET: readonly FieldOf<Receptacle>[] = [
  { key: "kind", label: "outlet", offered: "receptacles" },
  { key: "rating_a", label: "rated", unit: "A" },
  { key: "gfci", label: "ground-fault protected", choices: ANSWERS },
  {
    key: "leg",
    label: "leg",
    choices: [
      ["", "by its kind"],
      ["both", "both"],
      ["A", "A"],
      ["B", "B"],
    ],
  },
];

/** What else is asked of the outlets of a station. */
export const STATION_OUTLET: readonly FieldOf<Receptacle>[] = [
  ...OUTLET,
  { key: "continuous", label: "rated for lasting load", choices: ANSWERS },
  { key: "transfer_gap_ms", label: "its own gap, ms", unit: "", optional: true },
  { key: "live_while_charging", label: "live while charging", choices: ANSWERS },
  { key: "live_while_linked", label: "live while linked", choices: ANSWERS },
  { key: "shown_on_when_dead", label: "shown on when dead", choices: ANSWERS },
];

export const AC_INPUT: readonly FieldOf<AcInput>[] = [
  {
    key: "volts",
    label: "from",
    numeric: true,
    choices: [
      ["120", "120 V"],
      ["240", "240 V"],
      ["230", "230 V"],
    ],
  },
  { key: "most_w", label: "charges at most", unit: "W" },
  { key: "steps_w", label: "only in steps of, W", numbers: true },
  { key: "cap_a", label: "inlet", unit: "A", plate: true },
  { key: "passes_through", label: "passes through", answered: true },
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
  {
    key: "kind",
    label: "for",
    choices: [
      ["solar", "solar"],
      ["pack_port", "a pack or battery"],
      ["socket_12v", "a 12 V socket"],
    ],
  },
  { key: "low_v", label: "from", unit: "V", plate: true },
  { key: "high_v", label: "to", unit: "V", optional: true },
  { key: "most_a", label: "at most", unit: "A", optional: true },
  { key: "short_circuit_a", label: "short circuit at most", unit: "A", optional: true },
  { key: "most_w", label: "at most", unit: "W" },
  { key: "efficiency", label: "to the cells", unit: "%", scale: 0.01 },
];

export const DC_OUTPUT: readonly FieldOf<DcOutput>[] = [
  {
    key: "kind",
    label: "gives by",
    choices: [
      ["socket_12v", "12 V socket"],
      ["posts_12v", "12 V posts"],
      ["usb", "USB"],
      ["high_voltage", "a high-voltage port"],
    ],
  },
  { key: "volts", label: "at", unit: "V" },
  { key: "most_a", label: "at most", unit: "A" },
];

export const BANK: readonly GroupOf<Bank>[] = [
  {
    title: "Battery",
    hint: "On each battery: volts, its protection's discharge limit, and how many may be joined.",
    fields: [
      { key: "nominal_v", label: "battery", unit: "V" },
      { key: "lowest_v", label: "lowest", unit: "V" },
      { key: "charge_v", label: "charged at", unit: "V", optional: true },
      { key: "charge_a", label: "charged with at most", unit: "A", optional: true },
      { key: "bms_a", label: "weakest battery gives", unit: "A", optional: true },
      { key: "in_series", label: "in series", unit: "" },
      { key: "most_in_series", label: "in series at most", unit: "", optional: true },
      { key: "parallel", label: "in parallel", unit: "" },
      { key: "joined_apart_v", label: "joined at a difference of", unit: "V", optional: true },
      { key: "alike", label: "all alike", choices: ANSWERS },
      { key: "closed_room", label: "in a closed room", choices: ANSWERS },
      { key: "low_temperature_lockout", label: "locks charging out in the cold", choices: ANSWERS },
    ],
  },
  {
    title: "Cable and fuse",
    hint: "On the fuse: amps, DC volts and interrupting rating. On the battery: its short-circuit current.",
    fields: [
      { key: "cable_a", label: "cable carries", unit: "A", optional: true },
      { key: "fused", label: "there is a fuse", choices: ANSWERS },
      { key: "fuse_a", label: "fuse", unit: "A", optional: true },
      { key: "fuse_for_dc", label: "made for direct current", choices: ANSWERS },
      { key: "fuse_interrupts_a", label: "interrupts", unit: "A", optional: true },
      { key: "fault_a", label: "battery's fault current", unit: "A", optional: true },
      { key: "fuse_per_battery", label: "a fuse at each", choices: ANSWERS },
      { key: "precharge", label: "pre-charged", choices: ANSWERS },
    ],
  },
];

export const BANK_BATTERY: readonly FieldOf<BankBattery>[] = [
  { key: "name", label: "name" },
  { key: "discharge_a", label: "gives at most", unit: "A", optional: true },
  { key: "charge_a", label: "charged with at most", unit: "A", optional: true },
];

export const LINK: readonly FieldOf<Link>[] = [
  {
    key: "ac_charging",
    label: "while on, AC charging is",
    choices: [
      ["unknown", "not known"],
      ["refused", "refused"],
      ["drops_output", "possible, but the output drops"],
      ["allowed", "possible"],
    ],
  },
  ...OWNED,
];
