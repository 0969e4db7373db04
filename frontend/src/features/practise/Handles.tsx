import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { DrawnPanel } from "./DrawnPanel";
import { DrawnSource } from "./DrawnSource";
import { Lever, type Moved } from "./Lever";

type Handle = components["schemas"]["Handle"];

/** From the house to the sources: panels as they hang, handles of a switch, every source with its leads. */
export function Handles({ handles, ...rows }: { handles: Handle[] } & Moved) {
  const { plan } = useDesk().view;
  const sources = [
    ...Object.values(plan.leads ?? {}).map((lead) => `${lead.source.kind}/${lead.source.id}`),
    ...handles
      .filter((item) => item.key.startsWith("output/"))
      .map((item) => item.key.slice("output/".length)),
  ];
  const places = Object.keys(plan.panels ?? {});
  const switched = handles.filter((item) => item.key.startsWith("handle/"));
  const arrays = handles.filter((item) => item.key.startsWith("lockout/array/"));
  return (
    <div>
      <p className="text-faint">Press what is drawn to move it. A thick line is live.</p>
      {places.map((id) => (
        <DrawnPanel key={id} id={id} handles={handles} {...rows} />
      ))}
      <Row title="Handles of the switch" handles={switched} {...rows} />
      {[...new Set(sources)].map((of) => (
        <DrawnSource key={of} of={of} handles={handles} {...rows} />
      ))}
      <Row title="Solar that is made for the utility" handles={arrays} {...rows} />
    </div>
  );
}

function Row({ title, handles, ...rows }: { title: string; handles: Handle[] } & Moved) {
  if (handles.length === 0) return null;
  return (
    <section aria-label={title} className="my-2 border border-ink p-2">
      <h3 className="font-semibold">{title}</h3>
      <ul className="grid gap-x-5 sm:grid-cols-2">
        {handles.map((item) => (
          <li key={item.key} className="flex items-center gap-2">
            <span className="min-w-0 flex-1">
              {item.name} <strong>{rows.stand.at[item.key]}</strong>
              {item.key.split("/")[2] && (item.key.split("/")[2] ?? "") in rows.stand.live && (
                <span className="text-good"> · has power</span>
              )}
            </span>
            <Lever item={item} words={item.name} at={rows.stand.at[item.key] ?? ""} {...rows} />
          </li>
        ))}
      </ul>
    </section>
  );
}
