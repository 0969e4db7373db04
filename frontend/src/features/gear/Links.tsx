import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import { KeyedItems } from "../../ui/Items";
import { freeId } from "../../ui/ids";
import { TextField } from "../../ui/TextField";
import { LINK, OUTLET } from "./fields/station";
import type { Fresh, Link } from "./fields/types";

/** Two 120 V units joined by their maker's kit, one on each leg. */
export function Links({ fresh }: { fresh: Fresh }) {
  const { view, edit, command } = useDesk();
  const links = view.plan.links ?? {};
  const units = Object.entries(view.plan.stations ?? {}).filter(([, station]) => station.output === "120");
  const choices = units.map(([id, station]) => [id, station.name] as const);
  const put = (next: Record<string, Link>) => edit((plan) => ({ ...plan, links: next }));
  const [first, second] = units;
  if (units.length < 2 && Object.keys(links).length === 0) return null;
  return (
    <section aria-label="Linking kits" className="mb-6">
      <h2 className="border-b border-ink pb-1">Linking kits</h2>
      {Object.entries(links).map(([id, link]) => {
        const set = (part: Partial<Link>) => put({ ...links, [id]: { ...link, ...part } });
        return (
          <div key={id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-1">
            <TextField label="kit" value={link.name} onSave={(name) => set({ name })} />
            <ChoiceField
              label="on leg A"
              value={link.leg_a}
              choices={choices}
              onSave={(leg_a) => set({ leg_a, leg_b: leg_a === link.leg_b ? link.leg_a : link.leg_b })}
            />
            <ChoiceField
              label="on leg B"
              value={link.leg_b}
              choices={choices}
              onSave={(leg_b) => set({ leg_b, leg_a: leg_b === link.leg_a ? link.leg_b : link.leg_a })}
            />
            <Fields value={link} fields={LINK} set={set} />
            <KeyedItems
              title="Outlets of the kit"
              one="an outlet"
              items={link.receptacles}
              fields={OUTLET}
              fresh={fresh.receptacle}
              onChange={(receptacles) => set({ receptacles })}
            />
            <button
              type="button"
              className="act"
              onClick={() => command({ command: "remove", part: `links/${id}` })}
            >
              Take {link.name} away
            </button>
          </div>
        );
      })}
      {first && second && (
        <button
          type="button"
          className="act"
          onClick={() =>
            put({
              ...links,
              [freeId("pair", { ...links, ...view.plan.stations })]: {
                ...fresh.link,
                leg_a: first[0],
                leg_b: second[0],
              },
            })
          }
        >
          Add a linking kit
        </button>
      )}
    </section>
  );
}
