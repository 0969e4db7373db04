import type { Circuit, Load, Mark } from "../../api/client";

/** A new breaker in a space, whole: the screen shows it before the server has answered. */
export function freshCircuit(panel_id: string, space: number, label: string, mark: Mark): Circuit {
  return {
    panel_id,
    spaces: [space],
    half: null,
    breaker_a: 20,
    label,
    mark,
    order: 50,
    multiwire_partner: null,
    locked: false,
    protection: "none",
    awg: null,
    mm2: null,
    metal: "copper",
    outlets: [],
    breaker_by_plate: "unknown",
  };
}

/** A new load that is always on, whole. */
export function freshLoad(
  name: string,
  circuit_id: string | null,
  watts: number,
  origin: Load["origin"],
): Load {
  return {
    name,
    circuit_id,
    behaviour: { kind: "steady", watts },
    power_factor: 0.9,
    power_factor_origin: "estimate",
    start: null,
    soft_start: false,
    compressor: false,
    restart_factor: 1.5,
    drops_on_dip: false,
    tolerance_s: 900,
    needs_bonded: false,
    needs_sine: false,
    origin,
  };
}
