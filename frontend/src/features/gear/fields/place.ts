import { ANSWERS, type FieldOf } from "../../../ui/Fields";
import type { ToInput } from "../../feed/feedFields";
import type { Place } from "./types";

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
  { key: "wet", label: "rain or spray reaches it", choices: ANSWERS },
  { key: "dusty", label: "dusty", choices: ANSWERS },
];
export const CHARGING: readonly FieldOf<ToInput>[] = [
  { key: "setting_w", label: "set to, else as much as it takes", unit: "W", optional: true },
  { key: "converter_w", label: "by a converter of", unit: "W", optional: true },
  { key: "converter_efficiency", label: "of which arrives", unit: "%", scale: 0.01 },
  {
    key: "when",
    label: "connected",
    choices: [
      ["", "as is usual of its kind"],
      ["grid", "when the utility is there"],
      ["strategy", "as planned in the outage"],
      ["always", "always"],
    ],
  },
];
