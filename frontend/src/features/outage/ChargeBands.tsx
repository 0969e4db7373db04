import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Chance } from "../../api/useChance";
import { LEFT, RIGHT } from "./lanes";

type Band = NonNullable<Chance["bands"]>[string];

const HEIGHT = 76;
const TOP = 6;

/** Charge of one battery in many outages: the middle one, half of them, and nine in ten, hour by hour. */
export function ChargeBands({ band, width }: { band: Band; width: number }) {
  const last = band.t_s.at(-1) ?? 1;
  const x = scaleLinear()
    .domain([0, last])
    .range([LEFT, width - RIGHT]);
  const y = scaleLinear()
    .domain([0, 100])
    .range([TOP + HEIGHT, TOP]);
  const at = (key: string, index: number) => y(band.percent[key]?.[index] ?? 0);
  const between = (low: string, high: string) =>
    area<number>()
      .x((t) => x(t))
      .y0((_, index) => at(low, index))
      .y1((_, index) => at(high, index))(band.t_s) ?? "";
  const middle =
    line<number>()
      .x((t) => x(t))
      .y((_, index) => at("50", index))(band.t_s) ?? "";
  const days = Array.from({ length: Math.floor(last / 86_400) }, (_, day) => (day + 1) * 86_400);
  return (
    <svg width={width} height={TOP + HEIGHT + 16} role="img" aria-label={band.words} className="block">
      <g fontSize="12" fill="var(--faint)">
        {days.map((t) => (
          <line key={t} x1={x(t)} x2={x(t)} y1={TOP} y2={TOP + HEIGHT} stroke="var(--rule)" />
        ))}
        <path d={between("5", "95")} fill="var(--cedar)" opacity="0.18" />
        <path d={between("25", "75")} fill="var(--cedar)" opacity="0.32" />
        <path d={middle} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        <line x1={LEFT} x2={width - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--ink)" />
        <text x={LEFT - 8} y={y(100) + 9} textAnchor="end">
          100 %
        </text>
        <text x={LEFT - 8} y={y(0)} textAnchor="end">
          0 %
        </text>
        <text x={LEFT} y={TOP + HEIGHT + 13}>
          {band.words}
        </text>
      </g>
    </svg>
  );
}
