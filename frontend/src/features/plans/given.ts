import type { components } from "../../api/schema.gen";
import { readQuantity, type Unit } from "../../ui/quantity";

export type NewPlan = components["schemas"]["NewPlan"];
type Answers = NonNullable<NewPlan["answers"]>;
export type Mark = "keep" | "room";

/** A thing that was ticked, by its room and class. */
export const tickOf = (room: string, id: string) => `${room}/${id}`;

/** What was answered so far, as it stands in the fields; empty is “not yet”. */
export interface Given {
  name: string;
  climate_id: string;
  system: "" | "single_phase_230";
  latitude: string;
  longitude: string;
  coldest: string;
  units: "" | "us" | "metric";
  /** A class of stations, or "plate". */
  station: string;
  output: "120/240" | "120" | "230";
  rated_va: string;
  nameplate_wh: string;
  outlet: string;
  charge_w: string;
  how_many: "one" | "two" | "linked";
  kit_outlet: string;
  packs: string;
  pack_wh: string;
  modules: string;
  count: string;
  engine: string;
  car: string;
  reach: "" | NonNullable<Answers["reach"]>;
  ticks: Record<string, Mark>;
  text: string;
  /** Whether breakers carry what their labels usually mean. */
  usual: boolean;
  hours: string;
}

export const fresh: Given = {
  name: "",
  climate_id: "",
  system: "",
  latitude: "",
  longitude: "",
  coldest: "",
  units: "",
  station: "",
  output: "120/240",
  rated_va: "",
  nameplate_wh: "",
  outlet: "L14-30",
  charge_w: "",
  how_many: "one",
  kit_outlet: "L14-30",
  packs: "0",
  pack_wh: "",
  modules: "",
  count: "4",
  engine: "",
  car: "",
  reach: "",
  ticks: {},
  text: "",
  usual: false,
  hours: "72",
};

/** What a station gives in a house of these volts, and by which outlet: shown in its fields, and changed there. */
export function usualPlate(system: string | undefined): Partial<Given> {
  if (system === undefined) return {};
  return system === "single_phase_230"
    ? { output: "230", outlet: "CEE 7" }
    : { output: "120/240", outlet: "L14-30" };
}

/** A figure as people write it; what cannot be read goes on as it is, and the server says what is wrong. */
const figure = (text: string, unit: Unit): number | null =>
  text.trim() === "" ? null : (readQuantity(text, unit) ?? (text as never));

/** A count; empty is `none`. */
const whole = <T extends number | null>(text: string, none: T): number | T =>
  text.trim() === "" ? none : Number.isFinite(Number(text)) ? Number(text) : (text as never);

function station(given: Given): Answers["station"] {
  if (given.station === "") return null;
  const packs = { packs: whole(given.packs, 0), pack_wh: figure(given.pack_wh, "Wh") };
  const plate = {
    output: given.output,
    outlet: given.outlet,
    units: given.how_many,
    kit_outlet: given.kit_outlet,
  };
  if (given.station !== "plate") return { ...plate, ...packs, class_id: given.station };
  return {
    ...plate,
    ...packs,
    rated_va: figure(given.rated_va, "W"),
    nameplate_wh: figure(given.nameplate_wh, "Wh"),
    charge_w: figure(given.charge_w, "W"),
  };
}

/** The answers as they are sent. */
export function newPlan(given: Given): NewPlan {
  const needs = Object.entries(given.ticks).map(([tick, mark]) => {
    const [room = "", appliance_id = ""] = tick.split("/");
    return { room, appliance_id, mark };
  });
  return {
    name: given.name.trim() || "This house",
    begin: "answers",
    rooms: [],
    text: given.text,
    usual: given.usual,
    answers: {
      climate_id: given.climate_id || null,
      system: given.climate_id ? null : given.system || null,
      latitude: whole(given.latitude, null),
      longitude: whole(given.longitude, null),
      coldest_c:
        given.coldest.trim() === "" ? null : (readQuantity(given.coldest, "°C") ?? (given.coldest as never)),
      time_zone: given.climate_id ? null : Intl.DateTimeFormat().resolvedOptions().timeZone,
      units: given.units || null,
      station: station(given),
      modules: given.modules ? { class_id: given.modules, count: whole(given.count, 1) } : null,
      engine_class: given.engine || null,
      car_class: given.car || null,
      reach: given.reach || null,
      needs,
      hours: whole(given.hours, 72),
    },
  };
}
