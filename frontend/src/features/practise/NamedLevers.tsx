import type { components } from "../../api/schema.gen";
import { Lever, type Moved } from "./Lever";

/** Levers in a row, each with its name and where it stands. */
export function NamedLevers({ items, ...rows }: { items: components["schemas"]["Handle"][] } & Moved) {
  return (
    <ul className="flex flex-wrap gap-x-5">
      {items.map((item) => (
        <li key={item.key} className="flex items-center gap-2">
          <Lever item={item} words={item.name} at={rows.stand.at[item.key] ?? ""} {...rows} />
          <span>
            {item.name} <strong>{rows.stand.at[item.key]}</strong>
          </span>
        </li>
      ))}
    </ul>
  );
}
