import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { tenth, whole } from "../../ui/format";
import { isClosed, Lever, type Moved } from "./Lever";
import { NamedLevers } from "./NamedLevers";

type Handle = components["schemas"]["Handle"];

/** What gives power, with its display, and every lead of it as a line to where it ends. */
export function DrawnSource({ of, handles, ...rows }: { of: string; handles: Handle[] } & Moved) {
  const { view } = useDesk();
  const { plan } = view;
  const [kind = "", id = ""] = of.split("/");
  const own = handles.filter((item) => [`output/${of}`, `lockout/${of}`, `engine/${id}`].includes(item.key));
  const engine = kind === "generator" ? own : own.filter((item) => !item.key.startsWith("engine/"));
  const leads = Object.entries(plan.leads ?? {}).filter(
    ([, lead]) => lead.source.kind === kind && lead.source.id === id,
  );
  const name =
    plan.stations?.[id]?.name ??
    plan.links?.[id]?.name ??
    plan.generators?.[id]?.name ??
    plan.vehicles?.[id]?.name ??
    plan.circuits?.[id]?.label ??
    id;
  if (engine.length === 0 && leads.length === 0) return null;
  return (
    <section aria-label={`${name} and its leads`} className="my-2 border border-ink p-2">
      <h3 className="font-semibold">{kind === "circuit" ? `An outlet of ${name}` : name}</h3>
      <NamedLevers items={engine} {...rows} />
      {leads.map(([key]) => (
        <LeadLine key={key} lead={key} handles={handles} {...rows} />
      ))}
    </section>
  );
}

/** One lead: its two ends, the line between them, what flows and the volts at its end. */
function LeadLine({ lead, handles, ...rows }: { lead: string; handles: Handle[] } & Moved) {
  const { view } = useDesk();
  const { plan } = view;
  const ends = ["source_end", "load_end"].map((end) => handles.find((item) => item.key === `${end}/${lead}`));
  const more = handles.filter((item) =>
    ["bonding_plug", "home_plug", "plug"].some(
      (kind) => item.key.startsWith(`${kind}/`) && item.key.split("/")[1] === lead,
    ),
  );
  const { to } = plan.leads?.[lead] ?? {};
  const end =
    to?.end === "input"
      ? `${plan.stations?.[to.station_id]?.name ?? "station"}, to charge it`
      : to?.end === "feed"
        ? (plan.panels?.[plan.feeds?.[to.feed_id]?.panel_id ?? ""]?.name ?? "panel")
        : "appliances";
  const plugged = ends.every((item) => item && isClosed(rows.stand.at[item.key] ?? ""));
  const draw = rows.stand.draws[lead];
  const line = rows.stand.hot?.includes(lead)
    ? "border-cedar border-t-4"
    : plugged
      ? "border-ink border-t-2"
      : "border-dashed border-rule border-t-2";
  return (
    <div className="border-t border-rule py-1">
      <p className="flex flex-wrap items-center gap-x-2">
        {ends.map((item, place) =>
          item ? (
            <span key={item.key} className={`flex items-center gap-2 ${place ? "max-sm:basis-full" : ""}`}>
              {place === 1 && <span aria-hidden="true" className={`w-10 sm:w-24 ${line}`} />}
              <Lever item={item} words={item.name} at={rows.stand.at[item.key] ?? ""} {...rows} />
              <span className={isClosed(rows.stand.at[item.key] ?? "") ? "" : "text-faint"}>
                {place === 0 ? "source end" : "far end"} <strong>{rows.stand.at[item.key]}</strong>
              </span>
            </span>
          ) : null,
        )}
        <span>→ {end}</span>
        {draw && <Flow lead={lead} {...rows} />}
      </p>
      {more.length > 0 && <NamedLevers items={more} {...rows} />}
    </div>
  );
}

/** What the source's display shows of a lead, and what a meter shows at its end. */
function Flow({ lead, stand }: { lead: string } & Moved) {
  const { view } = useDesk();
  const draw = stand.draws[lead];
  const volts = stand.volts?.[lead];
  if (!draw) return null;
  const at = (value: number | null | undefined) => (value == null ? "" : `, ${tenth(value)} V`);
  const both = view.plan.site.system === "split_phase_120_240";
  return (
    <strong className="whitespace-nowrap border border-rule px-2">
      {both
        ? `A ${whole(draw.a_va)} VA${at(volts?.a_v)} · B ${whole(draw.b_va)} VA${at(volts?.b_v)}`
        : `${whole(draw.a_va + draw.b_va)} VA${at(volts?.a_v)}`}
    </strong>
  );
}
