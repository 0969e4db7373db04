import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import {
  answer,
  type Circuit,
  client,
  type Load,
  type Mark,
  type Plan,
  type PlanView,
} from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { FileButton } from "../../ui/FileButton";
import { filesBody } from "../../ui/files";
import { whole } from "../../ui/format";
import { freeId } from "../../ui/ids";
import { freshCircuit, freshLoad } from "../load/fresh";
import { CouldNot } from "../plans/CouldNot";

/** A new breaker for each thing; none at all; else the id of one that is there. */
const NEW = "";
const NONE = " none";

/** A thing to add, with the breaker that it usually has. */
interface Wanted {
  load: Load;
  /** The space of its breaker, where a line says it. */
  breaker?: string;
  breaker_a?: number;
  poles?: number;
}

/** Free spaces of a panel for a breaker, in order; none where it is full. */
function freeSpaces(view: PlanView, taken: Set<string>, poles: number): [string, number[]] | null {
  for (const schedule of view.schedules) {
    const free = schedule.rows
      .flat()
      .filter((cell) => cell.kind === "empty" && !taken.has(`${schedule.panel_id} ${cell.space}`))
      .map((cell) => cell.space);
    for (const space of free) {
      const spaces = poles === 2 ? [space, space + 2] : [space];
      if (spaces.every((one) => free.includes(one))) return [schedule.panel_id, spaces];
    }
  }
  return null;
}

/** The breaker in a space, as it is written at a panel: 14, or 9a for the upper half of a tandem. */
function breakerAt(plan: Plan, words: string): string | null {
  const space = Number.parseInt(words, 10);
  const half = { a: "upper", b: "lower" }[words.slice(-1).toLowerCase()];
  const fits = Object.entries(plan.circuits ?? {}).filter(
    ([, item]) => item.spaces.includes(space) && (!half || item.half === half),
  );
  return fits.length === 1 ? (fits[0]?.[0] ?? null) : null;
}

/** The plan with some things more, each on the breaker that was chosen or on a new one; null where none fits. */
function withThings(view: PlanView, things: Wanted[], onto: string, mark: Mark): Plan | null {
  const { plan } = view;
  const loads = { ...plan.loads } as Record<string, Load>;
  const circuits = { ...plan.circuits } as Record<string, Circuit>;
  const taken = new Set<string>();
  for (const { load, breaker_a, poles, breaker } of things) {
    const named = breaker ? breakerAt(plan, breaker) : null;
    let circuitId: string | null = named ?? (onto === NONE ? null : onto);
    if (onto === NEW && named === null) {
      const place = freeSpaces(view, taken, poles ?? 1);
      if (!place) return null;
      const [panelId, spaces] = place;
      for (const space of spaces) taken.add(`${panelId} ${space}`);
      circuitId = freeId(load.name, circuits);
      const made = freshCircuit(panelId, spaces[0] ?? 1, load.name, mark);
      circuits[circuitId] = { ...made, spaces, breaker_a: breaker_a ?? made.breaker_a };
    }
    loads[freeId(load.name, loads)] = { ...load, circuit_id: circuitId };
  }
  return { ...plan, circuits, loads } as Plan;
}

/** Add needs from the library of appliances, or by typed and pasted lines. */
export function AddNeeds() {
  const { view, edit } = useDesk();
  const [onto, setOnto] = useState(NEW);
  const [mark, setMark] = useState<Mark>("keep");
  const [full, setFull] = useState(false);
  const circuits = Object.entries(view.plan.circuits ?? {}).sort(
    ([, a], [, b]) => a.panel_id.localeCompare(b.panel_id) || (a.spaces[0] ?? 0) - (b.spaces[0] ?? 0),
  );
  const there = onto === NEW || onto === NONE || view.plan.circuits?.[onto] ? onto : NEW;
  const add = (things: Wanted[]) => {
    const next = withThings(view, things, there, mark);
    setFull(next === null);
    if (next) edit(() => next);
  };
  return (
    <section aria-label="Add needs" className="mb-5">
      <h2 className="border-b border-ink pb-1">Add what must run</h2>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <ChoiceField
          label="onto"
          value={there}
          choices={[
            [NEW, "a new breaker of its own"],
            [NONE, "no breaker: only ever plugged into a lead"],
            ...circuits.map(([id, item]) => [id, `${item.spaces.join(" ")} · ${item.label}`] as const),
          ]}
          onSave={setOnto}
        />
        {there === NEW && (
          <ChoiceField
            label="marked"
            value={mark}
            choices={[
              ["keep", "must run"],
              ["room", "runs when there is room"],
              ["off", "stays off"],
            ]}
            onSave={setMark}
          />
        )}
      </div>
      {full && (
        <p role="alert" className="text-stop">
          No space is free in the panel for that; nothing was added. Choose a breaker that is there.
        </p>
      )}
      <Library onAdd={(thing) => add([thing])} />
      <Lines onAdd={add} />
    </section>
  );
}

const ALL = "all rooms";

function Library({ onAdd }: { onAdd: (thing: Wanted) => void }) {
  const [words, setWords] = useState("");
  const [room, setRoom] = useState(ALL);
  const library = useQuery({
    queryKey: ["library"],
    queryFn: () => answer(client.GET("/api/library/appliances")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const rooms = [ALL, ...new Set((library ?? []).map((item) => item.room))];
  const sought = words.trim().toLowerCase().split(/\s+/);
  const here = (library ?? []).filter(
    (item) =>
      (room === ALL || item.room === room) && sought.every((word) => item.name.toLowerCase().includes(word)),
  );
  return (
    <div className="mt-2">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <label className="inline-flex items-baseline gap-1">
          <span className="text-faint">find</span>
          <input
            type="search"
            className="field w-36"
            placeholder="freezer"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
        <ChoiceField
          label="in"
          value={room}
          choices={rooms.map((name) => [name, name] as const)}
          onSave={setRoom}
        />
      </div>
      <ul className="mt-1 max-h-[176px] overflow-auto border-b border-rule" data-testid="library">
        {here.map((item) => (
          <li key={item.appliance_id}>
            <button
              type="button"
              title={item.source}
              className="flex min-h-[26px] w-full items-baseline gap-2 text-left hover:text-cedar"
              onClick={() => onAdd({ load: item.load, breaker_a: item.breaker_a, poles: item.poles })}
            >
              <span className="min-w-0 grow">
                {item.name}
                {room === ALL && <span className="text-[12px] text-faint"> {item.room}</span>}
              </span>
              <span className="shrink-0 text-faint">{whole(item.wh_day)} Wh a day</span>
              <span aria-hidden="true">+</span>
            </button>
          </li>
        ))}
        {library && here.length === 0 && (
          <li className="text-faint">Nothing of that name; type it as a line below.</li>
        )}
      </ul>
    </div>
  );
}

function Lines({ onAdd }: { onAdd: (things: Wanted[]) => void }) {
  const [text, setText] = useState("");
  const read = useMutation({
    mutationFn: (file: File | null) =>
      answer(
        file
          ? client.POST("/api/needs/read-file", filesBody({ file }))
          : client.POST("/api/needs/read", { body: { text } }),
      ),
    onSuccess: (lines) => {
      onAdd(
        lines.map(({ breaker, origin, ...line }) => ({
          load: {
            ...freshLoad(line.name, "", 0, "estimate"),
            ...line,
            ...(origin ? { origin } : {}),
          } as Load,
          ...(breaker ? { breaker } : {}),
        })),
      );
      setText("");
    },
  });
  return (
    <div className="mt-2">
      <label>
        <span className="text-faint">
          or type or paste lines (“on 14” says the breaker), or CSV with a name column
        </span>
        <textarea
          className="field mt-1 block h-[68px] w-full border border-rule"
          placeholder="fridge 1.6 kWh/day, 130 W, start 1100 W"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {read.isError && <CouldNot error={read.error} kept="The lines are still here." />}
      <button type="button" className="act" disabled={text.trim() === ""} onClick={() => read.mutate(null)}>
        Add these lines
      </button>{" "}
      <FileButton label="File with needs" accept=".csv,.xlsx,text/csv" onChoose={read.mutate}>
        Add from a CSV or spreadsheet
      </FileButton>
    </div>
  );
}
