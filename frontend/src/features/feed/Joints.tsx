import type { BoxPart, Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { useGear } from "../gear/useGear";
import { ADAPTER, type Adapter, CORD, type Cord, type Feed, WIRE } from "./feedFields";

interface Props {
  id: string;
  feed: Feed;
}

type Box = Record<string, BoxPart>;

const without = (box: Box, id: string): Box =>
  Object.fromEntries(Object.entries(box).filter(([key]) => key !== id));

const withPart = (box: Box, part: BoxPart): Box => ({
  ...box,
  [freeId(part.name ?? part.part, box)]: part,
});

/** Cords, adapters and wire between source and panel: what is there, or one out of the box. */
export function Joints({ id, feed }: Props) {
  const { view, edit } = useDesk();
  const fresh = useGear()?.fresh;
  const box = view.plan.box ?? {};
  /** Change the feed and the box in one step, so that one undo takes both back. */
  const both = (change: (feed: Feed, box: Box) => [Partial<Feed>, Box]) =>
    edit((plan): Plan => {
      const now = plan.feeds?.[id];
      if (!now) return plan;
      const [part, next] = change(now, plan.box ?? {});
      return { ...plan, box: next, feeds: { ...plan.feeds, [id]: { ...now, ...part } } };
    });
  const change = (part: Partial<Feed>) => both((_, now) => [part, now]);
  const inBox = (part: BoxPart["part"]) =>
    Object.entries(box).filter(([, item]) => item.part === part) as [string, BoxPart][];
  return (
    <>
      {feed.cords.map((cord, index) => (
        <Joint
          // biome-ignore lint/suspicious/noArrayIndexKey: cords have no identity but their place
          key={`cord ${index}`}
          choices={inBox("cord")}
          onBack={
            feed.cords.length > 1
              ? () =>
                  both((now, held) => [
                    { cords: now.cords.filter((_, at) => at !== index) },
                    withPart(held, cord),
                  ])
              : null
          }
          onSwap={(key) =>
            both((now, held) => [
              { cords: now.cords.map((item, at) => (at === index ? (held[key] as Cord) : item)) },
              withPart(without(held, key), cord),
            ])
          }
        >
          <Fields
            value={cord}
            fields={CORD}
            set={(part) =>
              change({ cords: feed.cords.map((item, at) => (at === index ? { ...item, ...part } : item)) })
            }
          />
        </Joint>
      ))}
      {feed.adapters.map((adapter, index) => (
        <Joint
          // biome-ignore lint/suspicious/noArrayIndexKey: adapters have no identity but their place
          key={`adapter ${index}`}
          choices={[]}
          onBack={() =>
            both((now, held) => [
              { adapters: now.adapters.filter((_, at) => at !== index) },
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
                adapters: feed.adapters.map((item, at) => (at === index ? { ...item, ...part } : item)),
              })
            }
          />
        </Joint>
      ))}
      {feed.wire && (
        <div className="flex flex-wrap items-baseline gap-x-3">
          <Fields
            value={feed.wire}
            fields={WIRE}
            set={(part) => feed.wire && change({ wire: { ...feed.wire, ...part } })}
          />
          <button type="button" className="act" onClick={() => change({ wire: null })}>
            Not known
          </button>
        </div>
      )}
      <p className="flex flex-wrap gap-x-3">
        {fresh && (
          <>
            <button
              type="button"
              className="act"
              onClick={() => change({ cords: [...feed.cords, fresh.cord as Cord] })}
            >
              Add a cord
            </button>
            <button
              type="button"
              className="act"
              onClick={() =>
                change({
                  adapters: [
                    ...feed.adapters,
                    { ...fresh.adapter, source_end: feed.inlet, load_end: feed.inlet } as Adapter,
                  ],
                })
              }
            >
              Add an adapter
            </button>
            {!feed.wire && feed.kind !== "cords" && (
              <button type="button" className="act" onClick={() => change({ wire: fresh.wire })}>
                Say which wire goes to the panel
              </button>
            )}
          </>
        )}
        <FromBox
          label="out of the box"
          choices={Object.entries(box)}
          onChoose={(key) =>
            both((now, held) => {
              const part = held[key];
              const rest = without(held, key);
              if (part?.part === "cord") return [{ cords: [...now.cords, part] }, rest];
              if (part?.part === "adapter") return [{ adapters: [...now.adapters, part] }, rest];
              if (part?.part === "inlet") return [{ inlet: part.kind, inlet_a: part.rating_a }, rest];
              return [{}, held];
            })
          }
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
