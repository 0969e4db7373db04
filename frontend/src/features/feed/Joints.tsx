import type { BoxPart, Plan } from "../../api/client";
import { useGear } from "../../api/library";
import { useDesk } from "../../api/plan";
import { Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { ADAPTER, type Adapter, CORD, type Cord, type Feed, isToLoads, type Lead, WIRE } from "./feedFields";

interface Props {
  id: string;
  lead: Lead;
  /** The feed that it ends at, if it ends at one. */
  feed?: { id: string; part: Feed };
}

type Box = Record<string, BoxPart>;

/** Where neither a gauge nor a size is said: that of most cords of 230 V. */
const USUAL_MM2 = 2.5;

/** A cord that someone describes: by its gauge or by square millimetres, no longer as it is mostly sold. */
function measured(cord: Cord, part: Partial<Cord>): Cord {
  const next = { ...cord, ...part, usual: false };
  if (part.mm2 != null) return { ...next, awg: null };
  if (part.awg != null) return { ...next, mm2: null };
  return next.awg == null && next.mm2 == null ? { ...next, mm2: USUAL_MM2 } : next;
}

const without = (box: Box, id: string): Box =>
  Object.fromEntries(Object.entries(box).filter(([key]) => key !== id));

const withPart = (box: Box, part: BoxPart): Box => ({
  ...box,
  [freeId(part.name ?? part.part, box)]: part,
});

/** Cords, adapters and wire between source and end: what is there, or one out of the box. */
export function Joints({ id, lead, feed }: Props) {
  const { view, edit } = useDesk();
  const fresh = useGear().fresh;
  const box = view.plan.box ?? {};
  const cords = lead.cords ?? [];
  const adapters = lead.adapters ?? [];
  /** Change the lead and the box in one step, so that one undo takes both back. */
  const both = (change: (lead: Lead, box: Box) => [Partial<Lead>, Box]) =>
    edit((plan): Plan => {
      const now = plan.leads?.[id];
      if (!now) return plan;
      const [part, next] = change(now, plan.box ?? {});
      return { ...plan, box: next, leads: { ...plan.leads, [id]: { ...now, ...part } } };
    });
  const change = (part: Partial<Lead>) => both((_, now) => [part, now]);
  const changeFeed = (part: Partial<Feed>) =>
    feed &&
    edit((plan): Plan => {
      const now = plan.feeds?.[feed.id];
      return now ? { ...plan, feeds: { ...plan.feeds, [feed.id]: { ...now, ...part } } } : plan;
    });
  const needsCord = lead.to.end !== "input";
  const kinds = feed || isToLoads(lead.to) ? ["cord", "adapter", "inlet"] : ["cord", "adapter"];
  const inlet = (key: string, part: Extract<BoxPart, { part: "inlet" }>) =>
    edit((plan): Plan => {
      const now = plan.leads?.[id];
      if (!now) return plan;
      const rest = without(plan.box ?? {}, key);
      if (isToLoads(now.to)) {
        const to = { ...now.to, plug: part.kind ?? now.to.plug, plug_a: part.rating_a ?? now.to.plug_a };
        return { ...plan, box: rest, leads: { ...plan.leads, [id]: { ...now, to } } };
      }
      const fixed = feed && plan.feeds?.[feed.id];
      if (!feed || !fixed) return plan;
      const next = { ...fixed, inlet: part.kind ?? fixed.inlet, inlet_a: part.rating_a ?? fixed.inlet_a };
      return { ...plan, box: rest, feeds: { ...plan.feeds, [feed.id]: next } };
    });
  const inBox = (part: BoxPart["part"]) =>
    Object.entries(box).filter(([, item]) => item.part === part) as [string, BoxPart][];
  return (
    <>
      {cords.map((cord, index) => (
        <Joint
          // biome-ignore lint/suspicious/noArrayIndexKey: cords have no identity but their place
          key={`cord ${index}`}
          choices={inBox("cord")}
          onBack={
            cords.length > (needsCord ? 1 : 0)
              ? () =>
                  both((now, held) => [
                    { cords: (now.cords ?? []).filter((_, at) => at !== index) },
                    withPart(held, cord),
                  ])
              : null
          }
          onSwap={(key) =>
            both((now, held) => [
              { cords: (now.cords ?? []).map((item, at) => (at === index ? (held[key] as Cord) : item)) },
              withPart(without(held, key), cord),
            ])
          }
        >
          <Fields
            value={cord}
            fields={CORD}
            set={(part) =>
              change({ cords: cords.map((item, at) => (at === index ? measured(item, part) : item)) })
            }
          />
        </Joint>
      ))}
      {adapters.map((adapter, index) => (
        <Joint
          // biome-ignore lint/suspicious/noArrayIndexKey: adapters have no identity but their place
          key={`adapter ${index}`}
          choices={[]}
          onBack={() =>
            both((now, held) => [
              { adapters: (now.adapters ?? []).filter((_, at) => at !== index) },
              withPart(held, adapter),
            ])
          }
          onSwap={() => undefined}
        >
          <Fields
            value={adapter}
            fields={ADAPTER}
            set={(part) =>
              change({
                adapters: adapters.map((item, at) => (at === index ? { ...item, ...part } : item)),
              })
            }
          />
        </Joint>
      ))}
      {feed?.part.wire && (
        <div className="flex flex-wrap items-baseline gap-x-3">
          <Fields
            value={feed.part.wire}
            fields={WIRE}
            set={(part) => feed.part.wire && changeFeed({ wire: { ...feed.part.wire, ...part } })}
          />
          <button type="button" className="act" onClick={() => changeFeed({ wire: null })}>
            Not known
          </button>
        </div>
      )}
      <p className="flex flex-wrap gap-x-3">
        <button
          type="button"
          className="act"
          onClick={() => change({ cords: [...cords, fresh.cord as Cord] })}
        >
          Add a cord
        </button>
        <button
          type="button"
          className="act"
          onClick={() =>
            change({
              adapters: [
                ...adapters,
                (feed
                  ? { ...fresh.adapter, source_end: feed.part.inlet, load_end: feed.part.inlet }
                  : fresh.adapter) as Adapter,
              ],
            })
          }
        >
          Add an adapter
        </button>
        {feed && !feed.part.wire && (
          <button type="button" className="act" onClick={() => changeFeed({ wire: fresh.wire })}>
            Say which wire goes to the panel
          </button>
        )}
        <FromBox
          label="out of the box"
          choices={Object.entries(box).filter(([, part]) => kinds.includes(part.part))}
          onChoose={(key) => {
            const found = box[key];
            if (found?.part === "inlet") return inlet(key, found);
            both((now, held) => {
              const part = held[key];
              const rest = without(held, key);
              if (part?.part === "cord") return [{ cords: [...(now.cords ?? []), part] }, rest];
              if (part?.part === "adapter") return [{ adapters: [...(now.adapters ?? []), part] }, rest];
              return [{}, held];
            });
          }}
        />
      </p>
    </>
  );
}

interface JointProps {
  choices: [string, BoxPart][];
  onBack: (() => void) | null;
  onSwap: (id: string) => void;
  children: React.ReactNode;
}

/** One part at its joint: back into the box, or swapped for one that lies there. */
function Joint({ choices, onBack, onSwap, children }: JointProps) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-3">
      {children}
      <FromBox label="swap for" choices={choices} onChoose={onSwap} />
      {onBack && (
        <button type="button" className="act" onClick={onBack}>
          Back into the box
        </button>
      )}
    </div>
  );
}

interface FromBoxProps {
  label: string;
  choices: [string, BoxPart][];
  onChoose: (id: string) => void;
}

function FromBox({ label, choices, onChoose }: FromBoxProps) {
  if (choices.length === 0) return null;
  return (
    <label className="inline-flex items-baseline gap-2">
      <span className="text-faint">{label}</span>
      <select
        className="field"
        value=""
        onChange={(event) => event.target.value && onChoose(event.target.value)}
      >
        <option value="">choose</option>
        {choices.map(([key, part]) => (
          <option key={key} value={key}>
            {part.name ?? part.part}
          </option>
        ))}
      </select>
    </label>
  );
}
