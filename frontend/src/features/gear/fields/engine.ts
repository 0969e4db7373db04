import { ANSWERS, type FieldOf, type GroupOf } from "../../../ui/Fields";
import { NEUTRAL, OUTPUT, OWNED } from "./common";
import type { Generator, Vehicle } from "./types";

const FUELS = [
  ["petrol", "petrol"],
  ["diesel", "diesel"],
  ["propane", "propane"],
  ["natural_gas", "gas from a pipe"],
] as const;

export const SECOND_FUEL: readonly FieldOf<NonNullable<Generator["second_fuel"]>>[] = [
  { key: "fuel", label: "burns then", choices: FUELS },
  { key: "rated_share", label: "of its rating, as a share", unit: "" },
  { key: "tank_l", label: "one bottle", unit: "L", optional: true },
  { key: "on_hand_l", label: "in the house in all", unit: "L", optional: true },
  { key: "price_per_l", label: "price", unit: "/L", optional: true },
];

export const GENERATOR: readonly GroupOf<Generator>[] = [
  {
    title: "Output",
    hint: "On its plate: rated and starting watts, volts.",
    fields: [
      { key: "name", label: "name" },
      { key: "output", label: "output", choices: OUTPUT },
      { key: "rated_w", label: "rated", unit: "W" },
      { key: "starting_w", label: "starting", unit: "W", optional: true },
      { key: "leg_w", label: "one leg", unit: "W", optional: true },
      {
        key: "waveform",
        label: "class",
        choices: [
          ["inverter", "inverter"],
          ["conventional", "conventional"],
          ["standby", "standby set"],
        ],
      },
      { key: "distortion_percent", label: "distortion", unit: "%", optional: true },
      { key: "hertz_swing", label: "frequency strays by, Hz", unit: "", optional: true },
      { key: "healthy_minimum_share", label: "loaded to at least", unit: "%", scale: 0.01, plate: true },
    ],
  },
  {
    title: "Neutral",
    hint: "Unplugged and stopped: ohms between the neutral and ground slots of an outlet. Near zero is bonded.",
    fields: [
      { key: "neutral", label: "neutral", choices: NEUTRAL },
      { key: "auto_start", label: "starts by itself", answered: true },
      { key: "locked_out", label: "locked out while another feeds", choices: ANSWERS },
    ],
  },
  {
    title: "Fuel",
    hint: "Flow is typical of its rating where it is left empty; hours on a tank in the manual give it.",
    fields: [
      {
        key: "fuel",
        label: "burns",
        choices: FUELS,
      },
      { key: "tank_l", label: "tank", unit: "L", optional: true },
      { key: "on_hand_l", label: "in the house in all", unit: "L", optional: true },
      { key: "no_load_l_per_h", label: "with nothing on, L/h", unit: "", optional: true },
      { key: "l_per_kwh", label: "for every kWh, L", unit: "", optional: true },
      { key: "fuel_price_per_l", label: "fuel costs", unit: "/L", optional: true },
      { key: "refuel_pause_s", label: "refuelling takes", unit: "min", scale: 60 },
    ],
  },
  {
    title: "To own",
    fields: [...OWNED, { key: "noise_db", label: "noise, dB", unit: "", optional: true }],
  },
];

export const VEHICLE_AWAY: readonly FieldOf<NonNullable<Vehicle["away"]>[number]>[] = [
  { key: "begins", label: "leaves", clock: true },
  { key: "ends", label: "is back", clock: true },
];

export const QUIET: readonly FieldOf<NonNullable<Generator["quiet"]>>[] = [
  { key: "begins", label: "quiet from", clock: true },
  { key: "ends", label: "to", clock: true },
];

export const VEHICLE: readonly GroupOf<Vehicle>[] = [
  {
    title: "Output",
    hint: "By the outlet, or at the fuse of the socket.",
    fields: [
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
      { key: "most_w", label: "at most", unit: "W", plate: true },
      { key: "draws_w", label: "drawn from it", unit: "W" },
      { key: "socket_fuse_a", label: "socket fuse", unit: "A", optional: true },
      { key: "socket_v", label: "12 V it really gives", unit: "V" },
      { key: "supply_12v_w", label: "its 12 V supply gives", unit: "W", optional: true },
      { key: "fuse_at_battery", label: "fuse at the battery", choices: ANSWERS },
      { key: "neutral", label: "neutral of its outlet", choices: NEUTRAL },
      { key: "gfci", label: "its outlet has ground-fault protection", choices: ANSWERS },
    ],
  },
  {
    title: "Energy",
    hint: "What its battery gives before it stops, and kWh for each litre: log one long run.",
    fields: [
      { key: "usable_kwh", label: "battery gives", unit: "kWh", optional: true },
      { key: "tank_l", label: "tank", unit: "L", optional: true },
      { key: "kwh_per_l", label: "kWh for each litre", unit: "", optional: true },
      { key: "engine_w", label: "its engine tops up with", unit: "W", optional: true },
      { key: "fuel_price_per_l", label: "its fuel costs", unit: "/L", optional: true },
      { key: "inverter_efficiency", label: "battery to outlet", unit: "%", scale: 0.01 },
      { key: "tops_up_below_percent", label: "engine starts at", unit: "%" },
      { key: "tops_up_to_percent", label: "and stops at", unit: "%" },
    ],
  },
  {
    title: "Staying on",
    fields: [
      { key: "ready_timeout_s", label: "turns itself off after", unit: "min", scale: 60 },
      { key: "told_to_stay", label: "was told to stay on", choices: ANSWERS },
      { key: "may_start_engine", label: "may start its engine", choices: ANSWERS },
      ...OWNED,
    ],
  },
];
