import type { components } from "../../api/schema.gen";

type Handle = components["schemas"]["Handle"];
type Stand = components["schemas"]["Stand"];

/** What all that is drawn is given: how it stands, whether it may be moved, and how. */
export interface Moved {
  stand: Stand;
  stopped: boolean;
  onAct: (what: string, to: string) => void;
}

/** Positions in which a thing lets current through, or sits. */
const CLOSED = ["on", "in", "source"];

export const isClosed = (at: string) => CLOSED.includes(at);

interface Props {
  item: Handle;
  /** What it is called here; its whole name is for who does not see the drawing. */
  words: string;
  at: string;
  stopped: boolean;
  /** On which side it closes: towards the bus. */
  mirrored?: boolean;
  onAct: (what: string, to: string) => void;
}

/** One thing that is moved: pressing what is drawn puts it where it is not; of three positions each has its own. */
export function Lever({ item, words, at, stopped, mirrored, onAct }: Props) {
  const others = item.positions.filter((position) => position !== at);
  const two = others.length === 1;
  return (
    <span className="inline-flex flex-wrap items-center gap-x-1">
      {others.map((position) => (
        <button
          key={position}
          type="button"
          aria-label={`${position}: ${words}`}
          title={`${words}: ${position}`}
          className={
            two
              ? "inline-flex min-h-9 min-w-11 items-center justify-center max-sm:min-h-11 hover:not-disabled:text-cedar disabled:text-faint"
              : "act min-h-9 min-w-11 border border-rule px-2 max-sm:min-h-11"
          }
          disabled={stopped}
          onClick={() => onAct(item.key, position)}
        >
          {two ? (
            <Drawn closed={isClosed(at)} joint={item.positions.includes("in")} mirrored={mirrored} />
          ) : (
            position
          )}
        </button>
      ))}
    </span>
  );
}

/** A lever in its slot, or a plug before its socket. */
function Drawn({
  closed,
  joint,
  mirrored,
}: {
  closed: boolean;
  joint: boolean;
  mirrored: boolean | undefined;
}) {
  const right = closed !== Boolean(mirrored);
  return (
    <svg viewBox="0 0 44 22" width="44" height="22" aria-hidden="true">
      {joint ? (
        <>
          <path d="M30 3 h4 a8 8 0 0 1 0 16 h-4 z" fill="none" stroke="currentColor" strokeWidth="1.6" />
          <g transform={closed ? "translate(13 0)" : "translate(0 0)"}>
            <path d="M2 11 h6" stroke="currentColor" strokeWidth="1.6" />
            <path
              d="M8 4 h8 v14 h-8 z M16 7.5 h6 M16 14.5 h6"
              fill={closed ? "currentColor" : "none"}
              stroke="currentColor"
              strokeWidth="1.6"
            />
          </g>
        </>
      ) : (
        <>
          <rect
            x="1"
            y="3"
            width="42"
            height="16"
            rx="2"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.4"
          />
          <rect
            x={right ? 24 : 4}
            y="6"
            width="16"
            height="10"
            rx="1"
            fill={closed ? "currentColor" : "none"}
            stroke="currentColor"
            strokeWidth="1.6"
          />
        </>
      )}
    </svg>
  );
}
