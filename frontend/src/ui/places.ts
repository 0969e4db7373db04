import type { Plan } from "../api/client";

/** Names of fields that a screen calls otherwise. */
const WORDS: Record<string, string> = {
  rated_va: "rated watts",
  nameplate_wh: "watt-hours on the plate",
  cell_wh: "watt-hours that it really gives",
  charge_w: "watts from the wall",
  pack_wh: "watt-hours of a pack",
  setting_w: "charging watts",
  leg_va: "one leg",
  class_id: "class",
  climate_id: "climate",
  appliance_id: "appliance",
  breaker_a: "breaker",
  breaker_spaces: "spaces of the feed breaker",
  inlet_a: "inlet",
  awg: "wire",
  mm2: "wire",
  length_m: "length",
  duty: "share of its time",
  period_s: "every",
  power_factor: "power factor",
  start: "start",
  va: "VA",
  on_w: "watts while on",
  run_w: "watts while it runs",
  design_low_c: "coldest morning",
  length_s: "length of the outage",
  changeover_after_s: "changed over after",
  start_local: "start",
  schema_version: "version of the file",
};

/** What parts are called by the plan that they are in, by their pointers. */
function namesIn(plan: Plan | undefined): Map<string, string> {
  const names = new Map<string, string>();
  const walk = (value: unknown, at: string) => {
    if (typeof value !== "object" || value === null) return;
    const { name, label } = value as { name?: unknown; label?: unknown };
    const called = label ?? name;
    if (typeof called === "string" && at !== "") names.set(at, called);
    for (const [key, inner] of Object.entries(value)) walk(inner, `${at}/${key}`);
  };
  walk(plan, "");
  return names;
}

/**
 * Where something stands, in words: “kettle, step 1, watts”; never a pointer or a name of the code. A part is called
 * as the plan calls it, where the plan is known.
 */
export function placeInWords(field: string, plan?: Plan): string {
  const numbered = /^\/(line|row)\/(\d+)(?:\/(\w+))?$/.exec(field);
  if (numbered) {
    const column = numbered[3] ? `, ${COLUMNS[numbered[3]] ?? WORDS[numbered[3]] ?? numbered[3]}` : "";
    return `${numbered[1]} ${numbered[2]}${column}`;
  }
  const parts = field.split("/").filter(Boolean);
  const words: string[] = [];
  const names = namesIn(plan);
  parts.forEach((part, index) => {
    const own = names.get(`/${parts.slice(0, index + 1).join("/")}`);
    if (own) {
      words.pop();
      words.push(own);
      return;
    }
    if (/^\d+$/.test(part) && words.length > 0) {
      const one = (words.pop() ?? "").replace(/s$/, "");
      words.push(`${one} ${Number(part) + 1}`);
    } else if (!(index < parts.length - 1 && SKIPPED.has(part))) {
      words.push(WORDS[part] ?? part.replace(/_(w|wh|va|a|v|m|c|s|l|id)$/, "").replaceAll("_", " "));
    }
  });
  return words.slice(-3).join(", ") || "all of it";
}

/** Columns of the table of breakers, as they are headed. */
const COLUMNS: Record<string, string> = {
  spaces: "space",
  breaker_a: "amps",
  loads: "what hangs on it",
  draw: "draws",
  sure: "how sure",
  clamp_a: "clamp",
  read_on: "read on",
  multiwire_partner: "shares a neutral with",
  plate_rule: "plate rules breaker",
};

/** Steps on the way that say nothing to a person. */
const SKIPPED = new Set(["answers", "behaviour", "to", "outage"]);
