import { moment, time } from "./format";
import { useUnits } from "./quantity";

/** Moments on the clock of a place, in 12 or 24 hours as the plan sets. */
export function useMoments(zone: string) {
  const { clock } = useUnits();
  return {
    moment: (at: string | number | Date) => moment(at, zone, clock),
    time: (at: string | number | Date) => time(at, zone, clock),
  };
}
