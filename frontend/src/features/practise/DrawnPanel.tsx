import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { isClosed, Lever, type Moved } from "./Lever";
import { NamedLevers } from "./NamedLevers";

type Handle = components["schemas"]["Handle"];

const idOf = (item: Handle) => item.key.slice(item.key.indexOf("/") + 1);

/** A panel as it hangs on the wall: its main and what feeds it above, breakers on both sides of its bus. */
export function DrawnPanel({ id, handles, ...rows }: { id: string; handles: Handle[] } & Moved) {
  const { view } = useDesk();
  const { plan } = view;
  const panel = plan.panels?.[id];
  const circuitOf = (item: Handle) => plan.circuits?.[idOf(item)];
  const breakers = handles.filter(
    (item) => item.key.startsWith("breaker/") && circuitOf(item)?.panel_id === id,
  );
  const above = handles.filter((item) => {
    const [kind, key = ""] = item.key.split("/");
    if (kind === "main") return key === id;
    return (
      ["interlock", "transfer", "feed_breaker"].includes(kind ?? "") && plan.feeds?.[key]?.panel_id === id
    );
  });
  if (breakers.length + above.length === 0) return null;
  const joined = rows.stand.buses?.[id] ?? [];
  const live = joined.some((name) => name !== "the utility");
  const utility = joined.length > 0 && !live;
  const spaceOf = (item: Handle) => circuitOf(item)?.spaces[0] ?? 1;
  const last = Math.max(1, ...breakers.map((item) => Math.ceil(spaceOf(item) / 2)));
  const beside = (odd: boolean, row: number) =>
    breakers.filter((item) => {
      const space = spaceOf(item);
      return Math.ceil(space / 2) === row && (space % 2 === 1) === odd;
    });
  const used = Array.from({ length: last }, (_, place) => place + 1).filter(
    (row) => beside(true, row).length + beside(false, row).length > 0,
  );
  const bars = live ? "border-cedar" : utility ? "border-ink" : "border-dashed border-rule";
  return (
    <section aria-label={`Breakers of ${panel?.name}`} className="my-2 border-2 border-ink bg-leaf/40 p-2">
      <h3 className="flex flex-wrap justify-between gap-x-3 font-semibold">
        {panel?.name}{" "}
        <span className="font-normal">
          bus: {joined.length > 0 ? `joined to ${joined.join(" and ")}` : "joined to nothing"}
        </span>
      </h3>
      <div className="border-b border-rule pb-1">
        <NamedLevers items={above} {...rows} />
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_18px_minmax(0,1fr)]">
        {used.map((row) => (
          <div key={row} className="contents">
            <Side items={beside(true, row)} {...rows} />
            <span aria-hidden="true" className={`border-x-4 ${bars}`} />
            <Side items={beside(false, row)} mirrored {...rows} />
          </div>
        ))}
      </div>
    </section>
  );
}

/** Breakers of one row on one side; they close towards the bus. */
function Side({ items, mirrored, ...rows }: { items: Handle[]; mirrored?: boolean } & Moved) {
  const { view } = useDesk();
  return (
    <ul>
      {items.map((item) => {
        const at = rows.stand.at[item.key] ?? "";
        const words = view.plan.circuits?.[idOf(item)]?.label ?? item.name;
        const lever = <Lever item={item} words={words} at={at} mirrored={mirrored ?? false} {...rows} />;
        return (
          <li
            key={item.key}
            className={`flex items-center gap-2 border-b border-rule ${isClosed(at) ? "" : "text-faint"}`}
          >
            {mirrored && lever}
            <span className={`min-w-0 flex-1 ${mirrored ? "" : "text-right"}`}>
              {words} <strong>{at}</strong>
              {idOf(item) in rows.stand.live && <span className="text-good"> · has power</span>}
            </span>
            {!mirrored && lever}
          </li>
        );
      })}
    </ul>
  );
}
