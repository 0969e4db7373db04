import { scaleLinear } from "d3-scale";
import type { FeedPath } from "../../api/client";
import { tenth, whole } from "../../ui/format";

const TOP = 20;
const BORE = 92;
const MIDDLE = TOP + BORE / 2;

interface Props {
  path: FeedPath;
  /** Amps of both legs; the greatest of the run if absent. Leg A fills upward, leg B downward. */
  amps: { a: number; b: number } | null;
  legs: boolean;
  /** Whether the pinch of the whole plan is on this way; otherwise it is only the narrowest here. */
  isPinch: boolean;
}

/** One line whose bore is rating and whose fill is flow, from the source to the panel. */
export function PathFigure({ path, amps, legs, isPinch }: Props) {
  const rated = path.elements.filter((element) => element.rating_a != null);
  const narrow = rated.filter((element) => element.key !== "panel");
  const most = Math.max(1, ...narrow.map((element) => element.rating_a ?? 0));
  const bore = scaleLinear().domain([0, most]).range([3, BORE]).clamp(true);
  const wide = 1180 / path.elements.length;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: on a phone it scrolls sideways, by keyboard too
    <div className="overflow-x-auto" tabIndex={0}>
      <svg
        viewBox={`0 0 1180 ${TOP + BORE + 64}`}
        className="w-full min-w-[880px]"
        role="img"
        aria-label={`${path.name}: ${path.elements
          .map((element) => `${element.name} ${element.rating_a ?? "?"} A`)
          .join(", then ")}`}
      >
        {path.elements.map((element, index) => {
          const x = index * wide;
          const up = amps ? amps.a : (element.most_a ?? 0);
          const down = legs && amps ? amps.b : up;
          const flow = Math.max(up, down);
          const height = bore(element.rating_a ?? 0);
          const half = (value: number) => (value > 0 ? Math.min(height, bore(value)) / 2 : 0);
          const over = element.rating_a != null && flow > element.rating_a;
          const pinch = element.key === path.pinch;
          const bare = (element.protected_a ?? 0) > (element.rating_a ?? Infinity);
          return (
            <g key={element.key} transform={`translate(${x} 0)`}>
              <rect
                x="1"
                y={MIDDLE - height / 2}
                width={wide - 2}
                height={height}
                fill="var(--leaf)"
                stroke={pinch ? "var(--cedar)" : "var(--rule)"}
                strokeWidth={pinch ? 2.5 : 1}
              />
              <rect
                x="1"
                y={MIDDLE - half(up)}
                width={wide - 2}
                height={half(up)}
                fill={over ? "var(--stop)" : "var(--leg-a)"}
              />
              <rect
                x="1"
                y={MIDDLE}
                width={wide - 2}
                height={half(down)}
                fill={over ? "var(--stop)" : legs ? "var(--leg-b)" : "var(--leg-a)"}
              />
              {legs && index === 0 && (
                <g fontSize="12" fontWeight="600">
                  <text x="8" y={MIDDLE - 6} fill={half(up) > 16 ? "var(--paper)" : "var(--leg-a)"}>
                    A
                  </text>
                  <text x="8" y={MIDDLE + 15} fill={half(down) > 16 ? "var(--paper)" : "var(--leg-b)"}>
                    B
                  </text>
                </g>
              )}
              {element.neutral !== "yes" && (
                <line
                  x1="1"
                  x2={wide - 2}
                  y1={MIDDLE}
                  y2={MIDDLE}
                  stroke="var(--stop)"
                  strokeWidth="2"
                  strokeDasharray="6 5"
                />
              )}
              <foreignObject x="2" y={TOP + BORE + 6} width={wide - 6} height="58">
                <p className={`text-[13px] leading-tight ${pinch ? "font-semibold text-cedar" : "text-ink"}`}>
                  {element.name}
                  <br />
                  <span className="text-faint">
                    {flow > 0 && `${tenth(flow)} of `}
                    {element.rating_a != null ? `${whole(element.rating_a)} A` : "not rated"}
                    {bare && <span className="text-stop">, behind {whole(element.protected_a ?? 0)} A</span>}
                    {pinch && (isPinch ? ", the pinch" : ", the narrowest here")}
                    {element.neutral === "no" && ", no neutral"}
                  </span>
                </p>
              </foreignObject>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
