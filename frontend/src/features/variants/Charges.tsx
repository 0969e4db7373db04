import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useRef } from "react";
import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";
import { useWidth } from "../../ui/useWidth";
import { Axis } from "../outage/Axis";
import { LEFT, RIGHT } from "../outage/lanes";
import { least } from "../outage/series";
import { SpanContext, scaleOf } from "../outage/span";

type Sibling = components["schemas"]["Sibling"];

const LANE = 62;
const GAP = 14;
const TOP = 22;

/** Charge of each plan on a lane of its own, under one axis; where the first thing is lost, it is marked. */
export function Charges({
  plans,
  start,
  zone,
}: {
  plans: Sibling[];
  start: string | undefined;
  zone: string;
}) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const longest = plans.reduce((most, plan) => Math.max(most, plan.length_s), 600);
  const span = { from: 0, to: longest };
  const x = scaleOf(span, width);
  const height = TOP + plans.length * (LANE + GAP) + 18;
  return (
    <SpanContext.Provider value={span}>
      <div ref={box} className="border-y border-rule" data-testid="charges">
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`Charge over the outage: ${plans.map(inWords).join("; ")}`}
          className="block"
        >
          {start && <Axis run={{ start }} width={width} height={height} zone={zone} />}
          {plans.map((plan, index) => {
            const top = TOP + index * (LANE + GAP);
            const y = scaleLinear()
              .domain([0, 100])
              .range([top + LANE, top]);
            const curve = line<number>()
              .x((_, point) => x(plan.t_s[point] ?? 0))
              .y((charge) => y(charge));
            const lost = plan.verdict.until_s;
            return (
              <g key={plan.id} fontSize="12">
                <line x1={LEFT} x2={width - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--ink)" />
                <path
                  d={curve(plan.charge_percent) ?? ""}
                  fill="none"
                  stroke="var(--cedar)"
                  strokeWidth="2"
                />
                {lost != null && (
                  <g>
                    <line
                      x1={x(lost)}
                      x2={x(lost)}
                      y1={top}
                      y2={y(0)}
                      stroke="var(--stop)"
                      strokeWidth="1.5"
                    />
                    <text
                      x={x(lost) + (x(lost) > width / 2 ? -5 : 5)}
                      y={top + 11}
                      textAnchor={x(lost) > width / 2 ? "end" : "start"}
                      fill="var(--stop)"
                      className="halo"
                    >
                      first loss
                    </text>
                  </g>
                )}
                <text x={LEFT - 8} y={top + 8} textAnchor="end" fill="var(--faint)">
                  100 %
                </text>
                <text
                  x={LEFT - 8}
                  y={top + LANE / 2 + 6}
                  textAnchor="end"
                  fill="var(--cedar)"
                  fontWeight="600"
                >
                  {index + 1}
                </text>
                <text x={LEFT + 6} y={top + LANE - 5} fill="var(--ink)" className="halo">
                  {plan.name.length > width / 8 ? `${plan.name.slice(0, width / 8)}…` : plan.name}
                </text>
              </g>
            );
          })}
        </svg>
      </div>
    </SpanContext.Provider>
  );
}

const inWords = (plan: Sibling) =>
  `${plan.name}: ${plan.verdict.sentence}, lowest ${whole(least(plan.charge_percent))} %`;
