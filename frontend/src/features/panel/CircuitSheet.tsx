import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, type Circuit, client, type Load } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { ChoiceField } from "../../ui/ChoiceField";
import { ANSWERS, type FieldOf, Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { NumberField } from "../../ui/NumberField";
import { readQuantity, useUnits } from "../../ui/quantity";
import { TextField } from "../../ui/TextField";
import { FindingsOf } from "../checks/FindingsOf";
import { freshLoad } from "../load/fresh";
import { Hanging } from "../load/Hanging";
import { leadOf } from "../load/hangs";
import { LoadEditor } from "../load/LoadEditor";

const PROTECTIONS = [
  ["none", "plain"],
  ["gfci", "ground-fault"],
  ["afci", "arc-fault"],
  ["gfci_afci", "ground- and arc-fault"],
  ["rcd", "residual-current"],
] as const;
const WIRE: readonly FieldOf<Circuit>[] = [
  { key: "length_m", label: "to the farthest outlet", unit: "m", optional: true },
  { key: "breaker_by_plate", label: "a motor's plate rules the breaker", choices: ANSWERS },
];
const METALS = [
  ["copper", "copper"],
  ["aluminium", "aluminium"],
] as const;
const AWG = [14, 12, 10, 8, 6, 4, 3, 2, 1] as const;
const MM2 = [1, 1.5, 2.5, 4, 6, 10, 16, 25] as const;

/** One circuit: all of its breaker, and what is on it. */
export function CircuitSheet({ circuitId }: { circuitId: string }) {
  const { view, edit, command } = useDesk();
  const circuit = view.plan.circuits?.[circuitId];
  if (!circuit) return null;
  const loads = Object.entries(view.plan.loads ?? {}).filter(([, load]) => load.circuit_id === circuitId);
  const change = (part: Partial<Circuit>) =>
    edit((plan) => ({ ...plan, circuits: { ...plan.circuits, [circuitId]: { ...circuit, ...part } } }));
  const changeLoad = (loadId: string, load: Load) =>
    edit((plan) => ({ ...plan, loads: { ...plan.loads, [loadId]: load } }));
  return (
    <section
      id="circuit-sheet"
      aria-label={`Breaker ${circuit.spaces.join(" and ")}`}
      onKeyDown={(event) => {
        if (event.key === "Escape")
          document.querySelector<HTMLElement>(`[data-circuit="${circuitId}"]`)?.focus();
      }}
    >
      <h2 className="border-b border-ink pb-1">
        Breaker {circuit.spaces.join(" and ")} · {circuit.label}
      </h2>
      <div className="flex flex-wrap gap-x-4 gap-y-1 py-2">
        <TextField label="label" value={circuit.label} onSave={(label) => change({ label })} />
        <NumberField
          label="rated"
          value={circuit.breaker_a}
          unit="A"
          width="w-10"
          empty="not known"
          onSave={(breaker_a) => change({ breaker_a })}
          onEmpty={() => change({ breaker_a: "unknown" })}
        />
        <NumberField
          label="kept longest: 1, then 2 …"
          value={circuit.order ?? 50}
          unit=""
          width="w-10"
          onSave={(order) => change({ order: Math.round(order) })}
        />
        <PoleFields circuit={circuit} change={change} />
        <ChoiceField
          label="is"
          value={circuit.protection ?? "none"}
          choices={PROTECTIONS}
          onSave={(protection) => change({ protection })}
        />
        <WireFields circuit={circuit} change={change} />
        <Fields value={circuit} fields={WIRE} set={change} />
        <PartnerField circuitId={circuitId} circuit={circuit} />
        <SwitchField circuitId={circuitId} />
        <Tick label="stays where it is" on={circuit.locked} set={(locked) => change({ locked })} />
      </div>
      <OfferFeed circuitId={circuitId} circuit={circuit} />
      <FindingsOf of={[["circuits", circuitId], ...loads.map(([id]) => ["loads", id] as const)]} />
      {loads.map(([id, load]) => (
        <div key={id}>
          {leadOf(view.plan, id) && <Hanging id={id} load={load} onChange={(next) => changeLoad(id, next)} />}
          <LoadEditor load={load} onChange={(next) => changeLoad(id, next)} />
        </div>
      ))}
      {loads.length === 0 && <p className="text-faint">Nothing is on this circuit.</p>}
      <AddLoad
        onAdd={(name, watts) =>
          edit((plan) => {
            const load = freshLoad(name, circuitId, watts, "estimate");
            return { ...plan, loads: { ...plan.loads, [freeId(name, plan.loads ?? {})]: load } };
          })
        }
      />
      <button
        type="button"
        className="act"
        onClick={() => command({ command: "remove", part: `circuits/${circuitId}` })}
      >
        Take this breaker out{loads.length > 0 ? ", with what is on it" : ""}
      </button>
    </section>
  );
}

const FEED_WORDS = /inlet|generator|interlock|back-?feed/i;

/** A label that says inlet or generator may be the breaker of a feed: it is offered, never assumed. */
function OfferFeed({ circuitId, circuit }: { circuitId: string; circuit: Circuit }) {
  const { view, command } = useDesk();
  const loads = Object.values(view.plan.loads ?? {}).some((load) => load.circuit_id === circuitId);
  const poles = view.plan.site.system === "single_phase_230" ? 1 : 2;
  const offered = FEED_WORDS.test(circuit.label) && !loads && circuit.spaces.length === poles;
  const params = { path: { plan_id: view.id, circuit_id: circuitId } };
  const feed = useQuery({
    queryKey: ["as-feed", view.id, circuitId, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/circuits/{circuit_id}/as-feed", { params })),
    enabled: offered,
  });
  if (!offered) return null;
  const make = () => command({ command: "inlet", circuit_id: circuitId });
  return (
    <p className="mb-2 border-l-4 border-rule pl-3">
      Is this the breaker that the inlet feeds?{" "}
      <button type="button" className="act font-semibold" disabled={!feed.data} onClick={make}>
        Make it the feed's breaker
      </button>
      {feed.data && (
        <>
          {" "}
          with an inlet {feed.data.inlet} of {feed.data.inlet_a} A, as is usual: look at yours and put it
          right on Feed.
        </>
      )}
      <CannotShow asked={feed} what="the inlet for it" />
    </p>
  );
}

/** Something more on this breaker: always on at first, to be described then. */
function AddLoad({ onAdd }: { onAdd: (name: string, watts: number) => void }) {
  const [name, setName] = useState("");
  const [text, setText] = useState("");
  const read = readQuantity(text, "W");
  return (
    <form
      aria-label="Add a load"
      className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (read === null) return;
        onAdd(name.trim(), read);
        setName("");
        setText("");
      }}
    >
      <label>
        <span className="text-faint">something more on it </span>
        <input
          className="field w-36"
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label>
        <span className="text-faint">draws </span>
        <input
          className="field w-16 text-right"
          required
          value={text}
          onChange={(event) => setText(event.target.value)}
        />{" "}
        W
      </label>
      <button type="submit" className="act">
        Add it
      </button>
      {text !== "" && read === null && (
        <span role="alert" className="text-stop">
          watts: got {text}; a figure such as 60 or 1.2 kW
        </span>
      )}
    </form>
  );
}

interface Props {
  circuit: Circuit;
  change: (part: Partial<Circuit>) => void;
}

function Tick({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <label className="min-h-[24px]">
      <input
        type="checkbox"
        className="size-4 accent-cedar"
        checked={on}
        onChange={(event) => set(event.target.checked)}
      />{" "}
      {label}
    </label>
  );
}

type Shape = "one" | "two" | "upper" | "lower";
const SHAPES: readonly (readonly [Shape, string])[] = [
  ["one", "one pole"],
  ["two", "two poles"],
  ["upper", "upper half of a tandem"],
  ["lower", "lower half of a tandem"],
];

function PoleFields({ circuit, change }: Props) {
  const shape: Shape = circuit.spaces.length === 2 ? "two" : (circuit.half ?? "one");
  const first = circuit.spaces[0] ?? 1;
  const shaped = (next: Shape) =>
    change({
      spaces: next === "two" ? [first, first + 2] : [first],
      half: next === "upper" || next === "lower" ? next : null,
    });
  return <ChoiceField label="breaker of" value={shape} choices={SHAPES} onSave={shaped} />;
}

const TERMINALS = [
  ["", "not known: 60 °C counts"],
  ["60", "60 °C, or house cable"],
  ["75", "75 °C, cable and all terminals"],
] as const;

function WireFields({ circuit, change }: Props) {
  const units = useUnits();
  const sizes = units.wire === "awg" ? AWG : MM2;
  const present = units.wire === "awg" ? circuit.awg : circuit.mm2;
  const other = units.wire === "awg" ? circuit.mm2 : circuit.awg;
  const unit = units.wire === "awg" ? "AWG" : "mm²";
  const otherUnit = units.wire === "awg" ? "mm²" : "AWG";
  const choices = [
    ["", other ? `${other} ${otherUnit}` : "not known"] as const,
    ...sizes.map((size) => [String(size), `${size} ${unit}`] as const),
  ];
  const set = (text: string) => {
    if (text === "") return;
    const size = Number(text);
    change(units.wire === "awg" ? { awg: size as Circuit["awg"], mm2: null } : { mm2: size, awg: null });
  };
  return (
    <>
      <ChoiceField label="wire" value={present ? String(present) : ""} choices={choices} onSave={set} />
      <ChoiceField
        label="of"
        value={circuit.metal ?? "copper"}
        choices={METALS}
        onSave={(metal) => change({ metal })}
      />
      {circuit.awg != null && (
        <ChoiceField
          label="marked for"
          value={circuit.terminals_c ? String(circuit.terminals_c) : ""}
          choices={TERMINALS}
          onSave={(text) => change({ terminals_c: text === "" ? null : (Number(text) as 60 | 75) })}
        />
      )}
    </>
  );
}

/** Shared neutral: both halves name each other. */
function PartnerField({ circuitId, circuit }: { circuitId: string; circuit: Circuit }) {
  const { view, edit } = useDesk();
  const circuits = view.plan.circuits ?? {};
  const others = Object.entries(circuits).filter(
    ([id, other]) => id !== circuitId && other.panel_id === circuit.panel_id && other.spaces.length === 1,
  );
  const choices = [
    ["", "nobody"] as const,
    ...others.map(([id, other]) => [id, `${other.label} · ${other.spaces[0]}`] as const),
  ];
  const set = (partner: string) =>
    edit((plan) => {
      const next = { ...plan.circuits } as Record<string, Circuit>;
      for (const [id, other] of Object.entries(next))
        if (other.multiwire_partner === circuitId) next[id] = { ...other, multiwire_partner: null };
      next[circuitId] = { ...circuit, multiwire_partner: partner || null };
      const chosen = next[partner];
      if (chosen) next[partner] = { ...chosen, multiwire_partner: circuitId };
      return { ...plan, circuits: next };
    });
  if (circuit.spaces.length === 2) return null;
  return (
    <ChoiceField
      label="shares its neutral with"
      value={circuit.multiwire_partner ?? ""}
      choices={choices}
      onSave={set}
    />
  );
}

function SwitchField({ circuitId }: { circuitId: string }) {
  const { view, edit } = useDesk();
  const panelId = view.plan.circuits?.[circuitId]?.panel_id;
  const found = Object.entries(view.plan.feeds ?? {}).find(
    ([, feed]) => feed.kind === "transfer_switch" && feed.panel_id === panelId,
  );
  if (!found) return null;
  const [key, feed] = found;
  const set = (on: boolean) => {
    const circuit_ids = on
      ? [...feed.circuit_ids, circuitId]
      : feed.circuit_ids.filter((id) => id !== circuitId);
    edit((plan) => ({ ...plan, feeds: { ...plan.feeds, [key]: { ...feed, circuit_ids } } }));
  };
  return <Tick label="on the transfer switch" on={feed.circuit_ids.includes(circuitId)} set={set} />;
}
