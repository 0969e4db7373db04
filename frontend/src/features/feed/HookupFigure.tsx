import { type KeyboardEvent, useMemo } from "react";
import type { HookupDrawing, RunResult } from "../../api/client";
import { useDesk } from "../../api/plan";
import { watts } from "../../ui/format";
import { BLOCK, filledAt, flowOf, layoutOf, type Placed, pathOf, type Run, WIDTH } from "./hookupLayout";

interface Props {
  drawing: HookupDrawing;
  run: RunResult | undefined;
  /** Seconds from the start; the greatest flow if absent. */
  at: number | null;
  chosen: string | null;
  onChoose: (key: string) => void;
}

/** Everything that is plugged into what: bores are ratings, fills are what flows. */
export function HookupFigure({ drawing, run, at, chosen, onChoose }: Props) {
  const { view } = useDesk();
  const layout = useMemo(() => layoutOf(drawing), [drawing]);
  const stopped = (room: string, id: string) =>
    view.findings.some(
      ({ level, element }) => level === "stop" && element.room === room && element.id === id,
    );
  const press = (key: string) => ({
    role: "button",
    tabIndex: 0,
    "aria-pressed": chosen === key,
    className: "cursor-pointer",
    onClick: () => onChoose(key),
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      onChoose(key);
    },
  });
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: on a phone it scrolls sideways, by keyboard too
    <div className="mb-3 overflow-x-auto" tabIndex={0} data-testid="hookup">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing holds no fieldset */}
      <svg
        viewBox={`0 0 ${WIDTH} ${layout.height}`}
        className="w-full min-w-[880px]"
        role="group"
        aria-label="The hook-up: choose a part to open it"
      >
        {layout.strokes.map((item) => {
          const { stroke } = item;
          const flow = flowOf(run, stroke, at);
          return (
            <g
              key={stroke.key}
              {...press(stroke.key)}
              aria-label={`${stroke.name}: ${told(flow, stroke.rating_va)}${stroke.pinch ? ", the pinch" : ""}`}
            >
              <Stroke
                item={item}
                flow={flow}
                bore={layout.bore}
                height={layout.height}
                chosen={chosen === stroke.key}
                stopped={stroke.level === "refused" || stopped(stroke.room, stroke.id)}
              />
            </g>
          );
        })}
        {layout.parts.map((placed) => (
          <g
            key={placed.part.key}
            {...press(placed.part.key)}
            aria-label={`${placed.part.name}, ${placed.part.words}${placed.part.bond ? ", neutral bonded here" : ""}`}
          >
            <Block
              placed={placed}
              filled={placed.part.room === "stations" ? filledAt(run, placed.part.id, at) : null}
              chosen={chosen === placed.part.key}
              stopped={stopped(placed.part.room, placed.part.id)}
            />
          </g>
        ))}
      </svg>
    </div>
  );
}

const told = (flow: number | null, rating: number | null | undefined) => {
  const most = rating == null ? "not rated" : watts(rating);
  return flow === null ? most : `${watts(flow)} of ${most}`;
};

interface StrokeProps {
  item: Run;
  flow: number | null;
  bore: (va: number) => number;
  height: number;
  chosen: boolean;
  stopped: boolean;
}

function Stroke({ item, flow, bore, height, chosen, stopped }: StrokeProps) {
  const { stroke, from, to, back } = item;
  const line = pathOf(item, height);
  const over = flow !== null && stroke.rating_va != null && flow > stroke.rating_va;
  const filled = flow ? Math.min(item.bore, bore(flow)) : 0;
  const direct = stroke.flow_room === "suns" || stroke.room === "externals";
  const edge = chosen ? "var(--ink)" : stroke.pinch ? "var(--cedar)" : "var(--rule)";
  const [x, y] = back
    ? [(from[0] + to[0]) / 2, height - 22]
    : [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2 + 4];
  const words = `${told(flow, stroke.rating_va)}${stroke.pinch ? ", the pinch" : ""}${stroke.level === "refused" ? ", refused" : ""}`;
  return (
    <g fill="none">
      <path
        d={line}
        stroke={stopped ? "var(--stop)" : edge}
        strokeWidth={item.bore + (chosen || stroke.pinch ? 5 : 2)}
      />
      <path d={line} stroke="var(--leaf)" strokeWidth={item.bore} />
      {filled > 0 && (
        <path
          d={line}
          stroke={over || stopped ? "var(--stop)" : direct ? "var(--cedar)" : "var(--leg-a)"}
          strokeWidth={filled}
          opacity={direct ? 0.7 : 1}
        />
      )}
      <rect
        x={x - words.length * 3.5}
        y={y - 13}
        width={words.length * 7}
        height="18"
        rx="2"
        fill="var(--paper)"
        opacity="0.9"
      />
      <text
        x={x}
        y={y}
        textAnchor="middle"
        fontSize="12"
        fontWeight={stroke.pinch ? 600 : 400}
        fill={stroke.pinch ? "var(--cedar)" : "var(--ink)"}
      >
        {words}
      </text>
    </g>
  );
}

interface BlockProps {
  placed: Placed;
  filled: number | null;
  chosen: boolean;
  stopped: boolean;
}

function Block({ placed, filled, chosen, stopped }: BlockProps) {
  const { part, x, top, height } = placed;
  const edge = stopped ? "var(--stop)" : "var(--ink)";
  return (
    <g>
      <foreignObject x={x} y={top - 38} width="180" height="36">
        <p className="truncate text-[13px] leading-tight">
          <span className={chosen ? "font-semibold underline" : "font-semibold"}>{part.name}</span>
          <br />
          <span className="text-faint">
            {filled !== null && `${Math.round(100 * filled)} % of `}
            {part.words}
          </span>
        </p>
      </foreignObject>
      <rect
        x={x}
        y={top}
        width={BLOCK}
        height={height}
        fill="var(--paper)"
        stroke={edge}
        strokeWidth={chosen || stopped ? 2.5 : 1.2}
      />
      {filled !== null && (
        <rect
          x={x + 2}
          y={top + 2 + (height - 4) * (1 - filled)}
          width={BLOCK - 4}
          height={(height - 4) * filled}
          fill="var(--cedar)"
        />
      )}
      {part.bond && (
        <g stroke="var(--ink)" strokeWidth="1.6">
          <path
            d={`M${x + BLOCK / 2},${top + height} v7 M${x},${top + height + 7} h${BLOCK} M${x + 4},${top + height + 11} h${BLOCK - 8} M${x + 7},${top + height + 15} h${BLOCK - 14}`}
          />
          <text x={x + BLOCK + 6} y={top + height + 14} fontSize="12" fill="var(--faint)" stroke="none">
            neutral bonded here
          </text>
        </g>
      )}
    </g>
  );
}
