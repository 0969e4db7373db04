import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";

type Handle = components["schemas"]["Handle"];
type Stand = components["schemas"]["Stand"];

interface Props {
  handles: Handle[];
  stand: Stand;
  stopped: boolean;
  onAct: (what: string, to: string) => void;
}

/** From the utility to the source: mains, breakers where they are, the hook-up, the source. */
export function Handles({ handles, stand, stopped, onAct }: Props) {
  const { view } = useDesk();
  const { plan } = view;
  const of = (...kinds: string[]) => handles.filter((item) => kinds.includes(item.key.split("/")[0] ?? ""));
  const breakers = of("breaker");
  const panels = Object.entries(plan.panels ?? {});
  const rows = { stand, stopped, onAct };
  return (
    <div>
      <Row title="Utility side" handles={of("main", "interlock", "transfer", "feed_breaker")} {...rows} />
      {panels.map(([id, panel]) => (
        <Panel
          key={id}
          name={panel.name}
          breakers={breakers.filter(
            (item) => plan.circuits?.[item.key.slice("breaker/".length)]?.panel_id === id,
          )}
          {...rows}
        />
      ))}
      <Row title="Handles of the switch" handles={of("handle")} {...rows} />
      <Row
        title="Cords"
        handles={of("load_end", "source_end", "bonding_plug", "plug", "home_plug")}
        {...rows}
      />
      <Row title="Sources" handles={of("output", "engine", "lockout")} {...rows} />
    </div>
  );
}

/** Breakers of a panel where they are: odd spaces on the left, even ones on the right. */
function Panel({ name, breakers, ...rows }: { name: string; breakers: Handle[] } & Omit<Props, "handles">) {
  const { view } = useDesk();
  if (breakers.length === 0) return null;
  const spaceOf = (item: Handle) => view.plan.circuits?.[item.key.slice("breaker/".length)]?.spaces[0] ?? 0;
  const side = (odd: boolean) =>
    breakers.filter((item) => spaceOf(item) % 2 === (odd ? 1 : 0)).sort((a, b) => spaceOf(a) - spaceOf(b));
  return (
    <section aria-label={`Breakers of ${name}`} className="my-2 border-2 border-ink p-2">
      <h3 className="font-semibold">{name}</h3>
      <div className="grid grid-cols-2 gap-x-3">
        {[true, false].map((odd) => (
          <ul key={String(odd)}>
            {side(odd).map((item) => (
              <li key={item.key}>
                <Switch
                  item={item}
                  words={view.plan.circuits?.[item.key.slice("breaker/".length)]?.label ?? item.name}
                  live={item.key.slice("breaker/".length) in rows.stand.live}
                  {...rows}
                />
              </li>
            ))}
          </ul>
        ))}
      </div>
    </section>
  );
}

function Row({ title, handles, ...rows }: { title: string } & Props) {
  if (handles.length === 0) return null;
  return (
    <section aria-label={title} className="my-2">
      <h3 className="text-faint">{title}</h3>
      <ul className="flex flex-wrap gap-2">
        {handles.map((item) => (
          <li key={item.key}>
            <Switch item={item} words={item.name} live={false} {...rows} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** One thing that is moved; pressing it puts it where it is not. Three positions have a button each. */
function Switch({
  item,
  words,
  live,
  stand,
  stopped,
  onAct,
}: { item: Handle; words: string; live: boolean } & Omit<Props, "handles">) {
  const at = stand.at[item.key] ?? "";
  const others = item.positions.filter((position) => position !== at);
  const on = ["on", "in", "source"].includes(at);
  return (
    <span
      className={`flex min-h-9 w-full flex-wrap items-center gap-x-2 border-b border-rule px-1 ${on ? "" : "text-faint"}`}
    >
      <span className="min-w-0 flex-1">
        {words} <strong>{at}</strong>
        {live && <span className="text-good"> · has power</span>}
      </span>
      {others.map((position) => (
        <button
          key={position}
          type="button"
          aria-label={`${position}: ${words}`}
          className="act min-h-9 min-w-11 max-sm:min-h-11 border border-rule px-2"
          disabled={stopped}
          onClick={() => onAct(item.key, position)}
        >
          {position}
        </button>
      ))}
    </span>
  );
}
