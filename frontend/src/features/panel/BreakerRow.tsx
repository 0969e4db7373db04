import { useDraggable } from "@dnd-kit/core";
import type { Cell, Mark, PanelSchedule, Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ampsOf, watts } from "../../ui/format";
import { LEVELS } from "../checks/FindingItem";
import { MARK_WORDS, MarkChoice } from "./MarkChoice";

interface Props {
  cell: Cell;
  plan: Plan;
  schedule: PanelSchedule;
  chosen: string | null;
  onChoose: (circuitId: string) => void;
  onMark: (circuitId: string, mark: Mark) => void;
  /** Many breakers: one line each. */
  dense: boolean;
}

/** The breakers of one space (two for a tandem), label outside, rating and number at the bus. */
export function BreakerRow({ cell, plan, schedule, chosen, onChoose, onMark, dense }: Props) {
  return (
    <div className="flex h-full flex-col">
      {cell.circuit_ids.map((id) => (
        <Breaker
          key={id}
          id={id}
          cell={cell}
          plan={plan}
          schedule={schedule}
          chosen={chosen === id}
          onChoose={onChoose}
          onMark={onMark}
          dense={dense}
        />
      ))}
    </div>
  );
}

interface BreakerProps extends Omit<Props, "chosen"> {
  id: string;
  chosen: boolean;
}

function Breaker({ id, cell, plan, schedule, chosen, onChoose, onMark, dense }: BreakerProps) {
  const circuit = plan.circuits?.[id];
  const sums = schedule.circuits[id];
  const { listeners, setNodeRef, transform, isDragging } = useDraggable({ id });
  const { view } = useDesk();
  if (!circuit || !sums) return null;
  const own = (room: string, part: string) =>
    (room === "circuits" && part === id) || (room === "loads" && plan.loads?.[part]?.circuit_id === id);
  const findings = view.findings.filter((item) => own(item.element.room, item.element.id) && !item.answered);
  const mark = circuit.mark ?? "off";
  const legs = sums.legs.length === 2 ? "both legs" : `leg ${sums.legs[0]}`;
  const wired = Object.values(plan.feeds ?? {}).some((feed) => feed.circuit_ids?.includes(id));
  const byCord = Object.values(plan.leads ?? {}).some(
    ({ to }) => to.end === "loads" && to.circuit_ids?.includes(id),
  );
  const names = [
    ...(byCord ? ["by cord"] : wired ? ["on the switch"] : []),
    ...Object.values(plan.loads ?? {})
      .filter((load) => load.circuit_id === id)
      .map((load) => load.name),
  ].join(", ");
  const left = cell.space % 2 === 1;
  const grave = findings.find((finding) => finding.level === "stop" || finding.level === "caution");
  const Sign = grave && LEVELS[grave.level][0];
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      style={
        transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 5 } : undefined
      }
      className={`relative ${isDragging ? "bg-leaf opacity-80" : ""} flex ${dense ? "min-h-[27px]" : "min-h-0"} flex-1 items-center gap-1.5 px-1 ${left ? "" : "flex-row-reverse"} ${chosen ? "bg-leaf" : ""}`}
    >
      <MarkChoice label={circuit.label} mark={mark} onMark={(next) => onMark(id, next)} />
      <button
        type="button"
        data-space={cell.space}
        data-circuit={id}
        aria-pressed={chosen}
        aria-label={`Breaker ${circuit.spaces.join(" and ")}, ${circuit.label}, ${ampsOf(circuit.breaker_a)}, ${legs}, ${MARK_WORDS[mark]}, ${watts(sums.on_w)}`}
        onClick={() => onChoose(id)}
        onFocus={() => onChoose(id)}
        className={`flex h-full min-w-0 flex-1 items-center gap-2 ${left ? "" : "flex-row-reverse"}`}
      >
        <span
          className={`min-w-0 flex-1 leading-tight ${dense ? "truncate" : ""} ${left ? "text-left" : "text-right"}`}
          title={`${circuit.label}: ${names || "nothing on it"}`}
        >
          <span
            className={`${dense ? "" : "block truncate"} ${mark === "off" ? "text-faint" : "font-semibold"}`}
          >
            {circuit.label}
          </span>
          <span className={`text-[12px] text-faint ${dense ? "" : "block truncate"}`}>
            {dense ? ` ${names}` : names || "nothing on it"}
          </span>
        </span>
        {grave && Sign && (
          <Sign size={15} aria-label={grave.title} className={`shrink-0 ${LEVELS[grave.level][1]}`} />
        )}
        <span className={`w-16 ${left ? "text-right" : "text-left"}`}>{watts(sums.on_w)}</span>
        <span className="w-9 text-center text-faint">
          {circuit.breaker_a === "unknown" ? "? A" : ampsOf(circuit.breaker_a)}
        </span>
        <span className="w-9 text-center font-semibold">{circuit.spaces.join(" ")}</span>
      </button>
    </div>
  );
}
