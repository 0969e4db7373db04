import { type KeyboardEvent, memo, type PointerEvent, useRef } from "react";
import { ProblemLines } from "../../ui/ProblemLines";
import { useMoments } from "../../ui/useMoments";
import { LEFT, RIGHT } from "./lanes";
import { inSight } from "./series";
import { type Scale, useScale } from "./span";
import { type Block, type Blocks, type Deed, deedOf, type Lane } from "./useBlocks";

/** Blocks snap to this, s; the server has the last word. */
const SNAP = 900;
/** The end of a block that makes it longer or shorter, px; and how far a pointer moves before it drags. */
const HANDLE = 9;
const DRAGGED = 4;

interface Props {
  blocks: Blocks;
  start: string;
  width: number;
  at: number;
  zone: string;
}

/** What the plan says about hours: blocks that are dragged, made longer and taken away; the strip answers. */
export function BlockLanes({ blocks, start, width, at, zone }: Props) {
  const x = useScale(width);
  return (
    <section aria-label="Blocks" className="relative border-b border-rule pb-1" data-testid="blocks">
      {blocks.lanes.map((lane) => (
        <LaneRow
          key={lane.lane}
          lane={lane}
          blocks={blocks}
          start={start}
          width={width}
          x={x}
          at={at}
          zone={zone}
        />
      ))}
      <div
        aria-hidden="true"
        className="pointer-events-none absolute top-0 bottom-0 w-px bg-cedar"
        style={{ transform: `translateX(${Math.min(width, Math.max(LEFT, x(at)))}px)` }}
      />
      {blocks.tried && <Tried blocks={blocks} />}
    </section>
  );
}

/** What dropping it here would do. */
function Tried({ blocks }: { blocks: Blocks }) {
  const { tried } = blocks;
  const trial = tried?.trial;
  const verdict = trial?.run.verdict;
  /** Only the first part of the outage is worked out while the block is dragged. */
  const part = trial && trial.until_s < trial.run.length_s ? trial.until_s : null;
  return (
    <p
      role="status"
      className="fixed bottom-3 left-1/2 z-20 w-[min(94vw,720px)] -translate-x-1/2 border border-ink bg-paper px-4 py-2"
      data-testid="tried"
    >
      {verdict && (
        <>
          <span className="text-faint">
            With that{part ? `, in the first ${told(Math.round(part / 900) * 900)}` : ""}:{" "}
          </span>
          {part && verdict.status === "lasts" ? (
            "nothing goes dark; the rest follows when the block rests. "
          ) : (
            <>
              <strong className={verdict.status === "lasts" ? "text-good" : "text-stop"}>
                {verdict.headline}
              </strong>{" "}
              {verdict.sentence}{" "}
            </>
          )}
        </>
      )}
      {tried?.problem && (
        <span className="text-stop">
          It cannot be there: <ProblemLines problem={tried.problem.problem} />
        </span>
      )}
    </p>
  );
}

const NAMES: Record<Lane["lane"], string> = {
  sky: "sky",
  utility: "utility",
  people: "people",
  engine: "engine",
  vehicles: "vehicles",
  heat: "heat",
  jobs: "jobs",
  acts: "acts",
  incidents: "incidents",
};

interface LaneProps extends Props {
  lane: Lane;
  x: Scale;
}

/** Of a row of blocks: its height, for a mouse and for a thumb. */
const ROW = 27;
const THUMB_ROW = 47;
/** A strip that is narrower than this, px, is on a phone. */
const PHONE = 640;

/** Rows of a lane: blocks that overlap stand under each other. */
function rowsOf(lane: Lane): Map<string, number> {
  const ends: number[] = [];
  const rows = new Map<string, number>();
  for (const block of [...lane.blocks].sort((one, other) => one.at_s - other.at_s)) {
    const known = [...rows].find(([key]) => key.split("@")[0] === block.part)?.[1];
    const free = ends.findIndex((end) => end <= block.at_s);
    const row = known ?? (free >= 0 ? free : ends.length);
    ends[row] = Math.max(ends[row] ?? 0, block.at_s + (block.for_s ?? 3_600));
    rows.set(block.key, row);
  }
  return rows;
}

function LaneRow({ lane, blocks, start, width, x, at, zone }: LaneProps) {
  const rows = rowsOf(lane);
  const row = width < PHONE ? THUMB_ROW : ROW;
  const high = Math.max(1, ...[...rows.values()].map((place) => place + 1)) * row;
  /** Between which moments the block that is dragged can lie. */
  const held = lane.blocks.find((block) => block.to_s != null && deedOf(blocks, block) !== null);
  const add = () => blocks.commit({ deed: "add", key: lane.lane, at_s: at, for_s: null, value: "" });
  return (
    // biome-ignore lint/a11y/useSemanticElements: a lane of blocks is no set of fields
    <div role="group" aria-label={NAMES[lane.lane]} className="relative" style={{ height: high }}>
      <span
        className="absolute top-0.5 left-0 text-right text-[12px] font-semibold text-cedar"
        style={{ width: LEFT - 8 }}
      >
        {NAMES[lane.lane]}
      </span>
      {lane.add && (
        <button
          type="button"
          className="act absolute top-0 z-[1] bg-paper text-[12px]"
          style={{ right: RIGHT }}
          aria-label={`${lane.add} at the cursor`}
          title={`${lane.add} at the cursor`}
          onClick={add}
        >
          +
        </button>
      )}
      <div
        className="absolute top-0 bottom-0 overflow-hidden"
        style={{ left: LEFT, width: width - LEFT - RIGHT }}
      >
        {held && (
          <span
            aria-hidden="true"
            data-testid="between"
            className="absolute top-0 bottom-0 border-x-2 border-cedar bg-leaf/60"
            style={{ left: x(held.from_s ?? 0) - LEFT, width: x(held.to_s ?? 0) - x(held.from_s ?? 0) }}
          />
        )}
        {lane.blocks
          .filter((block) => inSight(block.at_s, block.at_s + (block.for_s ?? 0), x))
          .map((block) => (
            <BlockBar
              key={block.key}
              block={block}
              deed={deedOf(blocks, block)}
              doing={blocks.doing}
              start={start}
              x={x}
              zone={zone}
              top={(rows.get(block.key) ?? 0) * row}
              height={row - 3}
            />
          ))}
      </div>
    </div>
  );
}

interface BarProps {
  block: Block;
  deed: Deed | null;
  doing: Blocks["doing"];
  start: string;
  x: Scale;
  zone: string;
  top: number;
  height: number;
}

const TONES: Record<Lane["lane"], string> = {
  sky: "bg-leaf",
  utility: "bg-leaf",
  people: "bg-rule/50",
  engine: "bg-rule/50",
  vehicles: "bg-rule/50",
  heat: "bg-leaf",
  jobs: "bg-leaf",
  acts: "bg-rule",
  incidents: "bg-rule",
};

const BlockBar = memo(function BlockBar({ block, deed, doing, start, x, zone, top, height }: BarProps) {
  const { moment, time } = useMoments(zone);
  const grip = useRef<{ from: number; resize: boolean; moved: boolean } | null>(null);
  const at = deed?.at_s ?? block.at_s;
  const long = block.for_s === null ? null : (deed?.for_s ?? block.for_s);
  const from = new Date(start).getTime() + at * 1000;
  const words =
    long === null
      ? `${block.name}, ${moment(from)}`
      : `${block.name}, ${moment(from)} to ${time(from + long * 1000)}, ${told(long)}`;
  const moved = (delta: number, resize: boolean): Deed => {
    const snapped = Math.round(delta / SNAP) * SNAP;
    return {
      deed: "move",
      key: block.key,
      at_s: resize ? block.at_s : block.at_s + snapped,
      for_s: block.for_s === null ? null : resize ? Math.max(SNAP, block.for_s + snapped) : block.for_s,
      value: "",
    };
  };
  const down = (event: PointerEvent<HTMLButtonElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    grip.current = {
      from: event.clientX,
      resize: block.resizable && event.clientX > box.right - HANDLE,
      moved: false,
    };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const drag = (event: PointerEvent<HTMLButtonElement>) => {
    const held = grip.current;
    if (!held) return;
    if (Math.abs(event.clientX - held.from) < DRAGGED && !held.moved) return;
    held.moved = true;
    const next = moved(x.invert(event.clientX) - x.invert(held.from), held.resize);
    if (next.at_s !== at || next.for_s !== long) doing.attempt(next);
  };
  const up = () => {
    const held = grip.current;
    grip.current = null;
    if (held?.moved && deed) doing.commit(deed);
  };
  const keys = (event: KeyboardEvent<HTMLButtonElement>) => {
    const way = { ArrowRight: SNAP, ArrowLeft: -SNAP }[event.key];
    if (way !== undefined) {
      const resize = event.shiftKey && block.resizable;
      const now: Deed = deed ?? moved(0, false);
      const next = resize
        ? { ...now, for_s: Math.max(SNAP, (now.for_s ?? SNAP) + way) }
        : { ...now, at_s: (now.at_s ?? block.at_s) + way * (block.lane === "sky" ? 96 : 1) };
      doing.attempt(next);
    } else if (event.key === "Enter" && deed) doing.commit(deed);
    else if (event.key === "Escape") doing.cancel();
    else if (event.key === "Delete" && block.removable)
      doing.commit({ deed: "remove", key: block.key, at_s: 0, for_s: null, value: "" });
    else return;
    event.preventDefault();
  };
  const left = x(at) - LEFT;
  return (
    <button
      type="button"
      data-block={block.key}
      className={`absolute flex cursor-grab items-center overflow-hidden border border-ink/50 px-1 text-left text-[12px] whitespace-nowrap touch-none ${TONES[block.lane]} ${deed ? "z-[2] border-cedar font-semibold" : ""}`}
      style={{ left, top, height, width: long === null ? undefined : Math.max(6, x(at + long) - x(at)) }}
      aria-label={words}
      title={words}
      onPointerDown={down}
      onPointerMove={drag}
      onPointerUp={up}
      onPointerCancel={() => doing.cancel()}
      onBlur={() => deed && !grip.current && doing.commit(deed)}
      onKeyDown={keys}
    >
      <span className="sticky left-1 overflow-hidden text-ellipsis">{deed ? words : block.name}</span>
      {block.resizable && (
        <span
          aria-hidden="true"
          className="absolute top-0 right-0 bottom-0 cursor-ew-resize border-r-2 border-ink/60"
          style={{ width: HANDLE }}
        />
      )}
    </button>
  );
});

const told = (seconds: number) =>
  seconds % 3600 === 0
    ? `${seconds / 3600} h`
    : seconds < 3600
      ? `${seconds / 60} min`
      : `${(seconds / 3600).toFixed(2)} h`;
