import type { Plan } from "../../api/client";

export interface OnInput {
  station_id?: string | null;
  pack_id?: string | null;
  input_id?: string | null;
}

const NONE = "";

/** Every DC input of a plan, of stations and of their packs: key → words. */
export function dcInputs(plan: Plan): [string, string][] {
  return Object.entries(plan.stations ?? {}).flatMap(([station, item]) => [
    ...Object.keys(item.dc_inputs ?? {}).map((input): [string, string] => [
      `${station}//${input}`,
      `${item.name}, ${input}`,
    ]),
    ...Object.entries(item.packs ?? {}).flatMap(([pack, held]) =>
      Object.keys(held.dc_inputs ?? {}).map((input): [string, string] => [
        `${station}/${pack}/${input}`,
        `${held.name} of ${item.name}, ${input}`,
      ]),
    ),
  ]);
}

export const inputKey = (part: OnInput) =>
  part.station_id ? `${part.station_id}/${part.pack_id ?? ""}/${part.input_id}` : NONE;

/** The input that a key names. */
export function onInput(key: string): OnInput {
  const [station_id, pack_id, input_id] = key.split("/");
  return key === NONE
    ? { station_id: null, pack_id: null, input_id: null }
    : { station_id, pack_id: pack_id || null, input_id };
}
