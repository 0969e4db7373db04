import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";

type Stand = components["schemas"]["Stand"];

/** What displays and meters show: what each source gives on its legs, and what was read at the last look. */
export function Displays({ stand }: { stand: Stand }) {
  const { view } = useDesk();
  const { plan } = view;
  const draws = Object.entries(stand.draws);
  const nameOf = (lead: string) => {
    const from = plan.leads?.[lead]?.source;
    const id = from && "id" in from ? from.id : "";
    return plan.stations?.[id]?.name ?? plan.generators?.[id]?.name ?? plan.vehicles?.[id]?.name ?? lead;
  };
  return (
    <section aria-label="Displays" className="border border-rule p-2">
      {draws.length === 0 && <p className="text-faint">No source gives anything.</p>}
      {draws.map(([lead, { a_va: a, b_va: b }]) => (
        <p key={lead}>
          {nameOf(lead)}:{" "}
          <strong className="tabular-nums">
            {plan.site.system === "split_phase_120_240"
              ? `leg A ${whole(a)} VA, leg B ${whole(b)} VA`
              : `${whole(a + b)} VA`}
          </strong>
        </p>
      ))}
      <p>
        {Object.keys(stand.live).length} circuits on a source, {stand.utility.length} on the utility’s wire
      </p>
      {(stand.readings ?? []).length > 0 ? (
        <ul data-testid="readings" className="ml-4 list-disc">
          {stand.readings?.map((item) => (
            <li key={item.where}>
              {item.where}: <strong className="tabular-nums">{`${item.value} ${item.unit}`}</strong>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-faint">
          {stand.due ? "Something should be read here." : "Nothing new is to be read here."}
        </p>
      )}
    </section>
  );
}
