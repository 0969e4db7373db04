/** Figures and moments as people write them. Nothing is computed here. */

const plain = new Intl.NumberFormat("en-US", { maximumFractionDigits: 0 });
const fine = new Intl.NumberFormat("en-US", { maximumFractionDigits: 1 });

export const whole = (value: number) => plain.format(value);
export const tenth = (value: number) => fine.format(value);
export const percent = (share: number) => `${plain.format(100 * share)} %`;
export const watts = (value: number) => `${plain.format(value)} W`;
export const energy = (wh: number) =>
  wh >= 10_000 ? `${fine.format(wh / 1000)} kWh` : `${plain.format(wh)} Wh`;

export function moment(at: string | number | Date, zone: string): string {
  const parts = Object.fromEntries(
    new Intl.DateTimeFormat("en-GB", {
      weekday: "short",
      day: "numeric",
      month: "short",
      hour: "2-digit",
      minute: "2-digit",
      timeZone: zone,
    })
      .formatToParts(new Date(at))
      .map((part) => [part.type, part.value]),
  );
  return `${parts.weekday} ${parts.day} ${parts.month} ${parts.hour}:${parts.minute}`;
}

/** A moment on the clock of whoever reads it, as all others are written. */
export const here = (at: string | number | Date): string =>
  moment(at, Intl.DateTimeFormat().resolvedOptions().timeZone);

export function time(at: string | number | Date, zone: string): string {
  return new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone }).format(
    new Date(at),
  );
}
