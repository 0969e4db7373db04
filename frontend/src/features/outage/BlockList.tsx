import { useState } from "react";
import type { RunResult } from "../../api/client";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import { useUnits } from "../../ui/quantity";
import { ReadField } from "../../ui/ReadField";
import { useMoments } from "../../ui/useMoments";
import { readMoment } from "./readMoment";
import type { Block, Blocks, Lane } from "./useBlocks";

interface Props {
  blocks: Blocks;
  run: RunResult;
  at: number;
  zone: string;
}

/** The blocks as a list: for typing exact times, and for whoever does not see the lanes. */
export function BlockList({ blocks, run, at, zone }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="mb-3 border-l-2 border-rule pl-3"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer py-0.5">The blocks as a list, with their exact times</summary>
      <p className="py-1 text-faint">
        On a block, arrow keys move it by a quarter hour, Shift with them makes it longer or shorter, Enter
        keeps it there, Escape lets go, Delete takes it away. What holds for every day moves on all days.
      </p>
      {(open ? blocks.lanes : []).map((lane) => {
        const seen = new Set<string>();
        const first = lane.blocks.filter((block) => {
          const known = seen.has(block.part);
          seen.add(block.part);
          return !known;
        });
        return (
          <fieldset key={lane.lane} className="py-1">
            <legend className="text-faint">{lane.lane}</legend>
            {first.map((block) => (
              <Row key={block.key} block={block} parts={lane.parts} blocks={blocks} run={run} zone={zone} />
            ))}
            {lane.add && (
              <button
                type="button"
                className="act"
                onClick={() =>
                  blocks.commit({ deed: "add", key: lane.lane, at_s: at, for_s: null, value: "" })
                }
              >
                {lane.add}
              </button>
            )}
          </fieldset>
        );
      })}
    </details>
  );
}

function Row({
  block,
  parts,
  blocks,
  run,
  zone,
}: Omit<Props, "at"> & { block: Block; parts: Lane["parts"] }) {
  const { moment } = useMoments(zone);
  const { clock } = useUnits();
  const start = new Date(run.start).getTime();
  const deed = { key: block.key, at_s: block.at_s, for_s: block.for_s, value: "" };
  const sky = block.lane === "sky";
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <span className="min-w-40">{sky ? moment(start + block.at_s * 1000).slice(0, -6) : block.name}</span>
      {!sky && (
        <ReadField
          label={block.daily ? "first at" : "at"}
          value={String(block.at_s)}
          width="w-40"
          written={(stored) => moment(start + Number(stored) * 1000)}
          read={(text) => {
            const found = readMoment(text, run, block.at_s - 2, zone, clock);
            return found === null ? null : String(found);
          }}
          example={clock === "12" ? "Thu 3:10 am" : "Thu 3:10"}
          onSave={(stored) => blocks.commit({ ...deed, deed: "move", at_s: Number(stored) })}
        />
      )}
      {block.resizable && block.for_s !== null && (
        <NumberField
          label="for"
          value={block.for_s / 3600}
          unit="h"
          width="w-12"
          onSave={(hours) => blocks.commit({ ...deed, deed: "move", for_s: hours * 3600 })}
        />
      )}
      {block.of != null && (
        <ChoiceField
          label="what"
          value={block.of}
          choices={parts.map((part) => [part.value, part.name] as const)}
          onSave={(value) => blocks.commit({ ...deed, deed: "part", value })}
        />
      )}
      {block.value != null && (
        <ChoiceField
          label={sky ? "is" : "goes"}
          value={block.value ?? ""}
          choices={block.choices.map((choice) => [choice, choice.replaceAll("_", " ")] as const)}
          onSave={(value) => blocks.commit({ ...deed, deed: "choose", value })}
        />
      )}
      {block.removable && (
        <button type="button" className="act" onClick={() => blocks.commit({ ...deed, deed: "remove" })}>
          Take away
        </button>
      )}
      {block.daily && <span className="text-faint">every day</span>}
    </div>
  );
}
