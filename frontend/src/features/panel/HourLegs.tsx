import { scaleLinear } from "d3-scale";
import type { components } from "../../api/schema.gen";

type Hour = components["schemas"]["HourLean"];
const HALF = 34;
const WIDTH = 24 * 22;

/** The legs by time of day as the loads ask: mean filled, greatest as a line; A up, B down. */
export function HourLegs({ hours }: { hours: Hour[] }) {
  if (hours.length === 0) return null;
  const most = Math.max(1, ...hours.map((hour) => Math.max(hour.a_most_w, hour.b_most_w)));
  const height = scaleLinear().domain([0, most]).range([0, HALF]);
  return (
    <figure className="my-2">
      <figcaption className="text-[12px] text-faint">
        by time of day, as the loads ask: mean filled, greatest as a line
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${2 * HALF + 16}`}
        className="w-full"
        role="img"
        aria-label="Legs by time of day"
      >
        {hours.map((hour) => (
          <g key={hour.hour} transform={`translate(${hour.hour * 22} 0)`}>
            <rect
              x="3"
              width="16"
              y={HALF - height(hour.a_mean_w)}
              height={height(hour.a_mean_w)}
              fill="var(--leg-a)"
            />
            <rect x="3" width="16" y={HALF} height={height(hour.b_mean_w)} fill="var(--leg-b)" />
            <path d={`M3 ${HALF - height(hour.a_most_w)}h16`} stroke="var(--leg-a)" />
            <path d={`M3 ${HALF + height(hour.b_most_w)}h16`} stroke="var(--leg-b)" />
            {hour.hour % 6 === 0 && (
              <text x="11" y={2 * HALF + 13} textAnchor="middle" fontSize="11" fill="var(--faint)">
                {String(hour.hour).padStart(2, "0")}
              </text>
            )}
          </g>
        ))}
        <line x2={WIDTH} y1={HALF} y2={HALF} stroke="var(--ink)" />
        <text x={WIDTH} y="10" textAnchor="end" fontSize="11" fontWeight="600" fill="var(--leg-a)">
          A
        </text>
        <text x={WIDTH} y={2 * HALF} textAnchor="end" fontSize="11" fontWeight="600" fill="var(--leg-b)">
          B
        </text>
      </svg>
    </figure>
  );
}
