import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import type { Feed } from "./feedFields";

/** A switch with these circuits wired to it: a handle that is gone has no leg. */
export function wiredTo(feed: Feed, circuit_ids: readonly string[]): Partial<Feed> {
  const legs = Object.entries(feed.switch_legs ?? {}).filter(([key]) => circuit_ids.includes(key));
  return { circuit_ids: [...circuit_ids], switch_legs: Object.fromEntries(legs) };
}

interface SwitchLegsProps {
  feed: Feed;
  set: (legs: Record<string, "A" | "B">) => void;
}

/** Which leg of the source each handle of a switch takes, where that is not its leg in the panel. */
export function SwitchLegs({ feed, set }: SwitchLegsProps) {
  const { view } = useDesk();
  const at = view.schedules.find((schedule) => schedule.panel_id === feed.panel_id);
  const inPanel = (key: string): "A" | "B" | null => {
    const [leg, other] = at?.circuits[key]?.legs ?? [];
    return other === undefined && (leg === "A" || leg === "B") ? leg : null;
  };
  const handles = (feed.circuit_ids ?? []).flatMap((key) => {
    const leg = inPanel(key);
    return leg === null ? [] : [{ key, leg }];
  });
  if (handles.length === 0) return null;
  const legs = feed.switch_legs ?? {};
  const words = { A: "leg A", B: "leg B" };
  return (
    <details>
      <summary>
        Leg of each handle of the switch{Object.keys(legs).length > 0 ? ", some their own" : ""}
      </summary>
      <p className="text-faint">
        A switch may put a circuit on another leg of the source than its panel does. Both circuits of a shared
        neutral must be on different legs here too.
      </p>
      <ul className="flex flex-wrap gap-x-4 gap-y-1">
        {handles.map(({ key, leg }) => (
          <li key={key}>
            <ChoiceField
              label={view.plan.circuits?.[key]?.label ?? key}
              value={legs[key] ?? ""}
              choices={[
                ["", `as in the panel: ${words[leg]}`],
                ["A", words.A],
                ["B", words.B],
              ]}
              onSave={(next) => {
                const { [key]: _, ...others } = legs;
                set(next === "" ? others : { ...others, [key]: next });
              }}
            />
          </li>
        ))}
      </ul>
    </details>
  );
}
