import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { type KeyboardEvent, type ReactNode, useEffect, useRef } from "react";
import type { Cell, Mark, PanelSchedule, Plan } from "../../api/client";
import { ampsOf } from "../../ui/format";
import { BreakerRow } from "./BreakerRow";
import { feedAt } from "./FeedSheet";

interface Props {
  schedule: PanelSchedule;
  plan: Plan;
  chosen: string | null;
  onChoose: (circuitId: string) => void;
  onMark: (circuitId: string, mark: Mark) => void;
  onMove: (circuitId: string, toSpace: number) => void;
  onAdd: (space: number) => void;
  onChooseFeed: (feedId: string) => void;
}

const KEYS: Record<string, Mark> = { k: "keep", r: "room", o: "off" };

/** Odd spaces on the left, even on the right, the bus with its legs between them. */
export function ScheduleGrid(props: Props) {
  const { schedule, plan, chosen, onChoose, onMark, onMove, onAdd, onChooseFeed } = props;
  const grid = useRef<HTMLDivElement>(null);
  const moved = useRef<string | null>(null);
  const dense = schedule.rows.length > 14;
  const height = dense ? 27 : 42;
  // biome-ignore lint/correctness/useExhaustiveDependencies: focus follows a breaker once the panel is drawn anew
  useEffect(() => {
    if (moved.current === null) return;
    grid.current?.querySelector<HTMLElement>(`[data-circuit="${moved.current}"]`)?.focus();
    moved.current = null;
  }, [schedule]);
  const go = (circuitId: string, to: number) => {
    moved.current = circuitId;
    onMove(circuitId, to);
  };
  const panel = plan.panels?.[schedule.panel_id];
  const onSwitch = Object.values(plan.feeds ?? {}).find(
    (feed) => feed.kind === "transfer_switch" && feed.panel_id === schedule.panel_id,
  );
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const dropped = ({ active, over }: DragEndEvent) => {
    const space = over?.data.current?.space as number | undefined;
    if (space !== undefined) go(String(active.id), space);
  };

  const move = (event: KeyboardEvent<HTMLDivElement>) => {
    const from = (event.target as HTMLElement).closest<HTMLElement>("[data-space]");
    if (!from) return;
    if (event.key === "Enter" || event.key.toLowerCase() === "e") {
      event.preventDefault();
      document.querySelector<HTMLElement>("#circuit-sheet input")?.focus();
      return;
    }
    const mark = KEYS[event.key.toLowerCase()];
    const circuitId = from.dataset.circuit;
    if (mark && circuitId && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      onMark(circuitId, mark);
      return;
    }
    const way = { ArrowDown: [2, 2], ArrowUp: [-2, -2], ArrowRight: [1, 1], ArrowLeft: [-1, -1] }[event.key];
    if (!way || (event.target as HTMLElement).role === "radio") return;
    event.preventDefault();
    const sideways = way[0] === 1 || way[0] === -1;
    const at = Number(from.dataset.space);
    if (event.altKey && circuitId) {
      const to = at + (sideways ? (at % 2 === 1 ? 1 : -1) : (way[0] ?? 0));
      if (to >= 1) go(circuitId, to);
      return;
    }
    if (sideways && (way[0] === 1) !== (at % 2 === 1)) return;
    for (let space = at + (way[0] ?? 0); space > 0 && space <= 84; space += sideways ? -2 : (way[1] ?? 0)) {
      const next = grid.current?.querySelector<HTMLElement>(`[data-space="${space}"]`);
      if (next) {
        next.focus();
        return;
      }
    }
  };

  return (
    <section aria-label={schedule.name} className="mb-4">
      <div className="mb-1 flex items-baseline justify-between border-b border-ink pb-1">
        <h2>{schedule.name}</h2>
        <span className="text-faint">
          {onSwitch && `transfer switch of ${onSwitch.circuit_ids.length} circuits, `}
          main {ampsOf(panel?.main_a)}, bus {ampsOf(panel?.bus_a)}, {panel?.spaces} spaces
        </span>
      </div>
      <DndContext
        sensors={sensors}
        onDragEnd={dropped}
        accessibility={{ screenReaderInstructions: { draggable: "" } }}
      >
        {/* biome-ignore lint/a11y/useSemanticElements: a schedule of two mirrored columns is not a table */}
        <div
          ref={grid}
          role="group"
          aria-label={`Breakers of ${schedule.name}`}
          onKeyDown={move}
          className="whole grid"
          style={{
            gridTemplateColumns: "minmax(0,1fr) 30px minmax(0,1fr)",
            gridTemplateRows: `repeat(${schedule.rows.length}, minmax(${height}px, auto))`,
          }}
        >
          {schedule.rows.map((row, index) => {
            const leg = row[0]?.leg ?? "A";
            return (
              <div
                key={row[0]?.space}
                style={{ gridColumn: 2, gridRow: index + 1 }}
                className={`flex items-center justify-center border-x-2 font-semibold ${leg === "B" ? "border-leg-b text-leg-b" : "border-leg-a text-leg-a"}`}
                title={`Leg ${leg}`}
              >
                {leg}
              </div>
            );
          })}
          {schedule.rows.flatMap((row, index) =>
            row.map((cell) => (
              <Place key={cell.space} cell={cell} row={index + 1} schedule={schedule} onMove={onMove}>
                {cell.kind === "circuit" ? (
                  <BreakerRow
                    cell={cell}
                    plan={plan}
                    schedule={schedule}
                    chosen={chosen}
                    onChoose={onChoose}
                    onMark={onMark}
                    dense={dense}
                  />
                ) : (
                  <OtherCell
                    cell={cell}
                    plan={plan}
                    panelId={schedule.panel_id}
                    onAdd={onAdd}
                    onChooseFeed={onChooseFeed}
                  />
                )}
              </Place>
            )),
          )}
        </div>
      </DndContext>
    </section>
  );
}

interface PlaceProps {
  cell: Cell;
  row: number;
  schedule: PanelSchedule;
  onMove: (circuitId: string, toSpace: number) => void;
  children: ReactNode;
}

/** One place of the panel: a breaker can be dropped on it. */
function Place({ cell, row, schedule, onMove, children }: PlaceProps) {
  const { setNodeRef, isOver } = useDroppable({
    id: `space-${cell.space}`,
    data: { onMove, space: cell.space },
  });
  const below = schedule.rows[row]?.find((other) => other.space === cell.space + 2);
  const above = schedule.rows[row - 2]?.find((other) => other.space === cell.space - 2);
  if (cell.kind === "second_pole" || (cell.kind === "feed" && above?.kind === "feed")) return null;
  const tall = below?.kind === "second_pole" || (cell.kind === "feed" && below?.kind === "feed");
  return (
    <div
      ref={setNodeRef}
      style={{ gridColumn: cell.space % 2 === 1 ? 1 : 3, gridRow: tall ? `${row} / span 2` : row }}
      className={`min-w-0 border-b ${isOver ? "border-cedar bg-leaf" : "border-rule"}`}
    >
      {children}
    </div>
  );
}

interface OtherProps {
  cell: Cell;
  plan: Plan;
  panelId: string;
  onAdd: (space: number) => void;
  onChooseFeed: (feedId: string) => void;
}

function OtherCell({ cell, plan, panelId, onAdd, onChooseFeed }: OtherProps) {
  const [feedId, feed] = feedAt(plan, panelId, cell.space) ?? [];
  const side = cell.space % 2 === 1 ? "" : "flex-row-reverse";
  if (cell.kind === "feed")
    return (
      <button
        type="button"
        data-space={cell.space}
        aria-label={`Breaker of the feed, spaces ${feed?.breaker_spaces?.join(" and ")}, ${feed?.breaker_a} A`}
        className={`flex h-full w-full items-center gap-2 bg-leaf px-2 ${side}`}
        onClick={() => feedId && onChooseFeed(feedId)}
        onFocus={() => feedId && onChooseFeed(feedId)}
      >
        <span className={`min-w-0 font-semibold text-cedar ${side ? "text-right" : "text-left"}`}>
          {feed?.name ?? "Feed from the inlet"}, interlocked with the main
        </span>
        <span className="mx-auto" />
        <span className="shrink-0">{feed?.breaker_a} A</span>
        <span className="w-9 shrink-0 text-center text-faint">{feed?.breaker_spaces?.join(" ")}</span>
      </button>
    );
  return (
    <div className={`flex h-full items-center gap-2 px-2 text-faint ${side}`}>
      <button
        type="button"
        data-space={cell.space}
        aria-label={`Add a breaker in space ${cell.space}`}
        className="act"
        onClick={() => onAdd(cell.space)}
      >
        free
      </button>
      <span className="mx-auto" />
      <span className="w-9 text-center">{cell.space}</span>
    </div>
  );
}
