import type { ReactNode } from "react";
import { type FieldOf, Fields, Group } from "./Fields";
import { freeId } from "./ids";

interface Common<T> {
  /** Heads the list; what one of them is called. */
  title: string;
  one: string;
  fields: readonly FieldOf<T>[];
  fresh: T | undefined;
  /** What stands under the list. */
  beside?: ReactNode;
}

interface LineProps<T> {
  words: string;
  value: T;
  fields: readonly FieldOf<T>[];
  set: (part: Partial<T>) => void;
  onRemove: (() => void) | null;
}

function Line<T extends object>({ words, value, fields, set, onRemove }: LineProps<T>) {
  return (
    <li aria-label={words} className="py-0.5">
      <Fields value={value} fields={fields} set={set}>
        {onRemove && (
          <button type="button" className="act" aria-label={`Take ${words} away`} onClick={onRemove}>
            Take away
          </button>
        )}
      </Fields>
    </li>
  );
}

interface ShellProps {
  title: string;
  one: string;
  onAdd: (() => void) | null;
  beside?: ReactNode;
  children: ReactNode;
}

function Shell({ title, one, onAdd, beside, children }: ShellProps) {
  return (
    <Group title={title}>
      <ul>{children}</ul>
      {onAdd && (
        <button type="button" className="act" onClick={onAdd}>
          Add {one}
        </button>
      )}
      {beside}
    </Group>
  );
}

interface KeyedProps<T> extends Common<T> {
  items: Record<string, T> | undefined;
  onChange: (items: Record<string, T>) => void;
  /** Where more goes with one than itself. */
  onRemove?: (id: string) => void;
}

/** Parts of a part that have ids of their own: outlets, inputs, packs. */
export function KeyedItems<T extends object>(props: KeyedProps<T>) {
  const { title, one, fields, fresh, items = {}, onChange, beside } = props;
  const add = fresh && (() => onChange({ ...items, [freeId(one.replace(/^an? /, ""), items)]: fresh }));
  return (
    <Shell title={title} one={one} onAdd={add ?? null} beside={beside}>
      {Object.entries(items).map(([id, value], index) => (
        <Line
          key={id}
          words={`${one.replace(/^an? /, "")} ${index + 1}`}
          value={value}
          fields={fields}
          set={(part) => onChange({ ...items, [id]: { ...value, ...part } })}
          onRemove={() =>
            props.onRemove
              ? props.onRemove(id)
              : onChange(Object.fromEntries(Object.entries(items).filter(([key]) => key !== id)))
          }
        />
      ))}
    </Shell>
  );
}

interface ListedProps<T> extends Common<T> {
  items: readonly T[] | undefined;
  onChange: (items: T[]) => void;
  /** So many always stay. */
  least?: number;
}

/** Parts of a part that are known by their place in a list: points of a curve, hours of shade. */
export function ListedItems<T extends object>(props: ListedProps<T>) {
  const { title, one, fields, fresh, items = [], onChange, least = 0 } = props;
  const word = one.replace(/^an? /, "");
  return (
    <Shell title={title} one={one} onAdd={fresh ? () => onChange([...items, fresh]) : null}>
      {items.map((value, index) => (
        <Line
          // biome-ignore lint/suspicious/noArrayIndexKey: they have no identity but their place
          key={index}
          words={`${word} ${index + 1}`}
          value={value}
          fields={fields}
          set={(part) => onChange(items.map((item, at) => (at === index ? { ...item, ...part } : item)))}
          onRemove={items.length > least ? () => onChange(items.filter((_, at) => at !== index)) : null}
        />
      ))}
    </Shell>
  );
}
