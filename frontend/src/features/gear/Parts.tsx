import { type ReactNode, useState } from "react";
import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { CountField } from "../../ui/CountField";
import { FindingsOf } from "../checks/FindingsOf";
import { LevelMark } from "../checks/LevelMark";
import { useDeeds, useWords } from "./useInventory";

/** Rooms of the plan that hold gear. */
export type Room = "stations" | "generators" | "arrays" | "vehicles" | "externals" | "leads" | "places";
type PartOf<R extends Room> = NonNullable<Plan[R]>[string];

/** The parts of a room, with how one is changed or taken away. */
export function useRoom<R extends Room>(room: R) {
  const { view, edit, command } = useDesk();
  const parts = (view.plan[room] ?? {}) as Record<string, PartOf<R>>;
  const put = (next: Record<string, PartOf<R>>) => edit((plan) => ({ ...plan, [room]: next }) as Plan);
  return {
    parts,
    set: (id: string, part: Partial<PartOf<R>>) =>
      put({ ...parts, [id]: { ...(parts[id] as PartOf<R>), ...part } }),
    remove: (id: string) => command({ command: "remove", part: `${room}/${id}` }),
  };
}

interface Props<T extends { name: string }> {
  title: string;
  /** Where its parts are in the plan. */
  room: Room | "box";
  parts: Record<string, T>;
  choices: readonly (readonly [string, string])[];
  onAdd: (choice: string, count: number) => void;
  /** What is counted when several are added at once: modules. */
  counted?: string;
  /** Said when there is nothing to choose from. */
  none?: string;
  onRemove: (id: string) => void;
  children: (id: string, part: T) => ReactNode;
}

/** A kind of gear: each part can be opened and edited; more are added from classes. */
export function Parts<T extends { name: string }>(props: Props<T>) {
  const { title, room, parts, choices, onAdd, onRemove, children } = props;
  const { view } = useDesk();
  const words = useWords(room);
  const does = useDeeds(room);
  const worst = (id: string) =>
    view.findings.find(({ element, answered }) => !answered && element.room === room && element.id === id)
      ?.level;
  return (
    <section aria-label={title} className="mb-6">
      <h2 className="border-b border-ink pb-1">{title}</h2>
      {Object.entries(parts).map(([id, part]) => (
        <details key={id} data-part={`${room}/${id}`} className="border-b border-rule py-1">
          <summary className="min-h-[26px] cursor-pointer">
            <span className="font-semibold">{part.name}</span>
            {words[id] && <span className="ml-3 text-faint">{words[id]}</span>}
            <LevelMark level={worst(id)} />
            {does[id] && <span className="ml-4 block">{does[id]}</span>}
          </summary>
          <div className="flex flex-col gap-2 py-1 pl-4">
            <FindingsOf of={[[room, id]]} />
            {children(id, part)}
            <p>
              <button type="button" className="act" onClick={() => onRemove(id)}>
                Take {part.name} away
              </button>
            </p>
          </div>
        </details>
      ))}
      {choices.length === 0 && <p className="mt-1 text-faint">{props.none}</p>}
      <AddFrom title={title} choices={choices} counted={props.counted} onAdd={onAdd} />
    </section>
  );
}

interface AddProps {
  title: string;
  choices: readonly (readonly [string, string])[];
  counted?: string | undefined;
  onAdd: (choice: string, count: number) => void;
}

/** Choosing adds nothing yet: the button does. */
function AddFrom({ title, choices, counted, onAdd }: AddProps) {
  const [chosen, setChosen] = useState("");
  const [count, setCount] = useState("1");
  const many = Math.max(1, Math.round(Number(count)) || 1);
  if (choices.length === 0) return null;
  return (
    <form
      className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (chosen) onAdd(chosen, many);
        setChosen("");
        setCount("1");
      }}
    >
      <ChoiceField label="add" value={chosen} choices={[["", "choose"], ...choices]} onSave={setChosen} />
      {counted && chosen !== "" && <CountField label={counted} value={count} onSave={setCount} />}
      <button
        type="submit"
        className="act disabled:invisible"
        disabled={chosen === ""}
        aria-label={`Add it to ${title}`}
      >
        Add it
      </button>
    </form>
  );
}

/** Where a part stands. */
export function PlaceOf({
  value,
  onSave,
}: {
  value: string | null | undefined;
  onSave: (place: string | null) => void;
}) {
  const { view } = useDesk();
  const choices = [
    ["", "not said"] as const,
    ...Object.entries(view.plan.places ?? {}).map(([id, place]) => [id, place.name] as const),
  ];
  return (
    <ChoiceField
      label="stands in"
      value={value ?? ""}
      choices={choices}
      onSave={(place) => onSave(place || null)}
    />
  );
}
