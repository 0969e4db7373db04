import type { Mark, PanelSchedule, Plan } from "../../api/client";
import { ampsOf, watts } from "../../ui/format";
import { feedAt } from "./FeedSheet";
import { MARK_WORDS, MarkChoice } from "./MarkChoice";

interface Props {
  schedule: PanelSchedule;
  plan: Plan;
  chosen: string | null;
  onChoose: (circuitId: string) => void;
  onChooseFeed: (feedId: string) => void;
  onMark: (circuitId: string, mark: Mark) => void;
  onAdd: (space: number) => void;
}

/** A panel on a narrow screen: one breaker a row, in the order of the spaces, nothing cut. */
export function ScheduleList(props: Props) {
  const { schedule, plan, chosen, onChoose, onChooseFeed, onMark, onAdd } = props;
  const cells = schedule.rows.flat().sort((a, b) => a.space - b.space);
  const loadsOn = (id: string) =>
    Object.values(plan.loads ?? {})
      .filter((load) => load.circuit_id === id)
      .map((load) => load.name)
      .join(", ");
  return (
    <section aria-label={schedule.name} className="mb-4 [overflow-wrap:anywhere]">
      <h2 className="border-b border-ink pb-1">{schedule.name}</h2>
      <ul>
        {cells.flatMap((cell) => {
          if (cell.kind === "second_pole") return [];
          if (cell.kind === "feed") {
            const found = feedAt(plan, schedule.panel_id, cell.space);
            if (!found || found[1].breaker_spaces?.[0] !== cell.space) return [];
            const [feedId, feed] = found;
            return [
              <li key={cell.space} className="border-b border-rule bg-leaf py-1">
                <button
                  type="button"
                  className="min-h-[44px] w-full text-left"
                  onClick={() => onChooseFeed(feedId)}
                >
                  <strong className="text-cedar">
                    {feed.breaker_spaces?.join(" ")} · feed from the inlet
                  </strong>
                  , {feed.breaker_a} A, interlocked with the main
                </button>
              </li>,
            ];
          }
          if (cell.kind === "empty")
            return [
              <li key={cell.space} className="border-b border-rule text-faint">
                <button
                  type="button"
                  data-space={cell.space}
                  aria-label={`Add a breaker in space ${cell.space}`}
                  className="min-h-[30px] w-full text-left"
                  onClick={() => onAdd(cell.space)}
                >
                  {cell.space} · free
                </button>
              </li>,
            ];
          return cell.circuit_ids.map((id) => {
            const circuit = plan.circuits?.[id];
            const sums = schedule.circuits[id];
            if (!circuit || !sums) return null;
            const mark = circuit.mark ?? "off";
            const legs = sums.legs.length === 2 ? "both legs" : `leg ${sums.legs[0]}`;
            return (
              <li key={id} className={`border-b border-rule py-1 ${chosen === id ? "bg-leaf" : ""}`}>
                <button
                  type="button"
                  data-space={cell.space}
                  data-circuit={id}
                  aria-pressed={chosen === id}
                  aria-label={`Breaker ${circuit.spaces.join(" and ")}, ${circuit.label}, ${ampsOf(circuit.breaker_a)}, ${legs}, ${MARK_WORDS[mark]}, ${watts(sums.on_w)}`}
                  className="block min-h-[44px] w-full text-left"
                  onClick={() => onChoose(id)}
                >
                  <span className={mark === "off" ? "text-faint" : "font-semibold"}>
                    {circuit.spaces.join(" ")}
                    {circuit.half === "upper" ? "a" : circuit.half === "lower" ? "b" : ""} · {circuit.label}
                  </span>{" "}
                  <span className="text-faint">
                    {ampsOf(circuit.breaker_a)}, {legs}
                  </span>
                  <span className="block text-[13px] text-faint">
                    {loadsOn(id) || "nothing on it"} · {watts(sums.on_w)}
                  </span>
                </button>
                <MarkChoice label={circuit.label} mark={mark} onMark={(next) => onMark(id, next)} />
              </li>
            );
          });
        })}
      </ul>
    </section>
  );
}
