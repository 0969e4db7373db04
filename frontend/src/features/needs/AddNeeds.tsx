import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, type Circuit, client, type Load, type Plan, type PlanView } from "../../api/client";
import { useDesk } from "../../api/plan";
import { freeId } from "../../ui/ids";
import { freshCircuit, freshLoad } from "../load/fresh";

const NEW = "a new breaker";
const NONE = "no breaker: it is only ever plugged into a lead";

interface Where {
  circuitId: string | null;
  circuit: Circuit | null;
}

/** Where a need goes: a circuit that is there, or a new breaker in the first free space. */
function place(view: PlanView, wanted: string, label: string): Where | null {
  if (wanted === NONE) return { circuitId: null, circuit: null };
  if (wanted !== NEW) return { circuitId: wanted, circuit: null };
  for (const schedule of view.schedules) {
    const cell = schedule.rows.flat().find((item) => item.kind === "empty");
    if (cell) {
      const circuit = freshCircuit(schedule.panel_id, cell.space, label, "keep");
      return { circuitId: freeId(label, view.plan.circuits ?? {}), circuit };
    }
  }
  return null;
}

function withLoads(plan: Plan, where: Where, loads: Load[]): Plan {
  const all = { ...plan.loads };
  for (const load of loads) all[freeId(load.name, all)] = { ...load, circuit_id: where.circuitId };
  const { circuitId, circuit } = where;
  const circuits = circuit && circuitId ? { ...plan.circuits, [circuitId]: circuit } : plan.circuits;
  return { ...plan, circuits, loads: all } as Plan;
}

/** Add needs from the library of appliances, or by typed and pasted lines. */
export function AddNeeds() {
  const { view, edit } = useDesk();
  const [wanted, setWanted] = useState("");
  const [full, setFull] = useState(false);
  const circuits = Object.entries(view.plan.circuits ?? {}).sort((a, b) =>
    a[1].label.localeCompare(b[1].label),
  );
  const circuit = wanted || circuits[0]?.[0] || NEW;
  const add = (loads: Load[]) => {
    const where = place(view, circuit, loads[0]?.name ?? "new circuit");
    setFull(where === null);
    if (where) edit((plan) => withLoads(plan, where, loads));
  };
  return (
    <section aria-label="Add needs" className="mb-5">
      <h2 className="border-b border-ink pb-1">Add what must run</h2>
      <label className="mt-2 flex items-baseline gap-2">
        <span className="text-faint">onto</span>
        <select className="field grow" value={circuit} onChange={(event) => setWanted(event.target.value)}>
          {circuits.map(([id, item]) => (
            <option key={id} value={id}>
              {item.label} · {item.spaces.join(" ")}
            </option>
          ))}
          <option value={NEW}>{NEW}</option>
          <option value={NONE}>{NONE}</option>
        </select>
      </label>
      {full && (
        <p role="alert" className="text-stop">
          No space is free in the panel; choose a circuit that is there.
        </p>
      )}
      <Library onAdd={(load) => add([load])} />
      <Lines onAdd={add} />
    </section>
  );
}

function Library({ onAdd }: { onAdd: (load: Load) => void }) {
  const [room, setRoom] = useState("kitchen");
  const library = useQuery({
    queryKey: ["library"],
    queryFn: () => answer(client.GET("/api/library/appliances")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const rooms = [...new Set((library.data ?? []).map((item) => item.room))];
  const here = (library.data ?? []).filter((item) => item.room === room);
  return (
    <div className="mt-2">
      <label className="flex items-baseline gap-2">
        <span className="text-faint">from the</span>
        <select className="field" value={room} onChange={(event) => setRoom(event.target.value)}>
          {rooms.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <ul className="mt-1 max-h-[176px] overflow-auto border-b border-rule" data-testid="library">
        {here.map((item) => (
          <li key={item.appliance_id}>
            <button
              type="button"
              title={item.source}
              className="flex min-h-[26px] w-full items-baseline gap-2 text-left hover:text-cedar"
              onClick={() => onAdd(item.load)}
            >
              <span className="grow">{item.name}</span>
              <span className="text-faint">{Math.round(item.wh_day)} Wh a day</span>
              <span aria-hidden="true">+</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Lines({ onAdd }: { onAdd: (loads: Load[]) => void }) {
  const [text, setText] = useState("");
  const read = useMutation({
    mutationFn: () => answer(client.POST("/api/needs/read", { body: { text } })),
    onSuccess: (lines) => {
      onAdd(lines.map((line) => ({ ...freshLoad(line.name, "", 0, "estimate"), ...line })));
      setText("");
    },
  });
  return (
    <div className="mt-2">
      <label>
        <span className="text-faint">or type or paste lines, or CSV with a name column</span>
        <textarea
          className="field mt-1 block h-[68px] w-full border border-rule"
          placeholder="fridge 1.6 kWh/day, 130 W, start 1100 W"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {read.isError && (
        <p role="alert" className="text-stop">
          {read.error.message}
        </p>
      )}
      <button type="button" className="act" disabled={text.trim() === ""} onClick={() => read.mutate()}>
        Add these lines
      </button>
    </div>
  );
}
