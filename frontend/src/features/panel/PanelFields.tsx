import { answer, client, type PanelSchedule, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { FileButton } from "../../ui/FileButton";
import { filesBody } from "../../ui/files";
import { freeId } from "../../ui/ids";
import { NumberField } from "../../ui/NumberField";
import { TextField } from "../../ui/TextField";

const LEGS = [
  ["A", "leg A"],
  ["B", "leg B"],
] as const;

/** A panel as a whole: ratings, spaces, what feeds it, and its schedule as files. */
export function PanelFields({ schedule }: { schedule: PanelSchedule }) {
  const { view, edit, command } = useDesk();
  const id = schedule.panel_id;
  const panel = view.plan.panels?.[id];
  if (!panel) return null;
  const change = (part: Partial<typeof panel>) =>
    edit((plan) => ({ ...plan, panels: { ...plan.panels, [id]: { ...panel, ...part } } }));
  const feeders = Object.entries(view.plan.circuits ?? {}).filter(
    ([key, circuit]) => circuit.panel_id !== id || key === panel.fed_from,
  );
  const sources = [
    ["", "the utility"] as const,
    ...feeders.map(([key, circuit]) => [key, `breaker of ${circuit.label}`] as const),
  ];
  return (
    <details className="mb-3 border-l-2 border-rule pl-3">
      <summary className="cursor-pointer py-0.5">{schedule.name}: ratings, sub-panels and files</summary>
      <div className="flex flex-wrap gap-x-5 gap-y-1 py-1">
        <TextField label="name" value={panel.name} onSave={(name) => change({ name })} />
        <NumberField
          label="main"
          value={panel.main_a ?? null}
          unit="A"
          width="w-12"
          empty="not known"
          onSave={(main_a) => change({ main_a })}
          onEmpty={() => change({ main_a: "unknown" })}
        />
        <NumberField
          label="bus"
          value={panel.bus_a ?? null}
          unit="A"
          width="w-12"
          empty="not known"
          onSave={(bus_a) => change({ bus_a })}
          onEmpty={() => change({ bus_a: "unknown" })}
        />
        <NumberField
          label="neutral bus, if other"
          value={panel.neutral_bus_a ?? null}
          unit="A"
          width="w-12"
          onSave={(neutral_bus_a) => change({ neutral_bus_a })}
          onEmpty={() => change({ neutral_bus_a: null })}
        />
        <NumberField
          label="spaces"
          value={panel.spaces}
          unit=""
          width="w-10"
          onSave={(spaces) => change({ spaces: Math.round(spaces) })}
        />
        {view.plan.site.system !== "single_phase_230" && (
          <ChoiceField
            label="first row is on"
            value={panel.first_leg}
            choices={LEGS}
            onSave={(first_leg) => change({ first_leg })}
          />
        )}
        <ChoiceField
          label="fed from"
          value={panel.fed_from ?? ""}
          choices={sources}
          onSave={(key) => change({ fed_from: key || null })}
        />
      </div>
      <Files id={id} />
      <button type="button" className="act" onClick={() => edit(withSubPanel)}>
        Add a sub-panel
      </button>
      {panel.fed_from && (
        <button
          type="button"
          className="act ml-3"
          onClick={() => command({ command: "remove", part: `panels/${id}` })}
        >
          Take {panel.name} out, with its breakers
        </button>
      )}
    </details>
  );
}

/** A sub-panel fed by the last two-pole breaker that feeds none, else standing for itself. */
function withSubPanel(plan: Plan): Plan {
  const fed = new Set(Object.values(plan.panels ?? {}).map((panel) => panel.fed_from));
  const feeder = Object.entries(plan.circuits ?? {}).find(
    ([key, circuit]) =>
      circuit.spaces.length === 2 && !fed.has(key) && /sub|panel|feeder/i.test(circuit.label),
  );
  const id = freeId("sub-panel", plan.panels ?? {});
  const panel = {
    name: `Sub-panel ${Object.keys(plan.panels ?? {}).length}`,
    main_a: 60,
    bus_a: 100,
    spaces: 12,
    first_leg: "A" as const,
    fed_from: feeder?.[0] ?? null,
  };
  return { ...plan, panels: { ...plan.panels, [id]: panel } };
}

function Files({ id }: { id: string }) {
  const { view, request } = useDesk();
  const at = `/api/plans/${view.id}/panels/${id}`;
  const read = (file: File) =>
    request((header) =>
      answer(
        client.POST("/api/plans/{plan_id}/panels/{panel_id}/schedule.csv", {
          params: { path: { plan_id: view.id, panel_id: id }, header },
          ...filesBody({ file }),
        }),
      ),
    );
  return (
    <p className="flex flex-wrap gap-x-3 py-1">
      <a className="act" href={`${at}/schedule.pdf`} download>
        Print the schedule
      </a>
      <a className="act" href={`${at}/labels.pdf`} download>
        Print breaker labels
      </a>
      <a className="act" href={`${at}/schedule.csv`} download>
        Export as CSV
      </a>
      <FileButton label={`Schedule file of ${id}`} accept=".csv,text/csv" onChoose={read}>
        Import a CSV
      </FileButton>
    </p>
  );
}
