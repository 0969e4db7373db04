import { useState } from "react";
import { useMoments } from "../../ui/useMoments";
import type { Row } from "./rows";

/** So many rows are written out; all of them where that is asked for. */
const WRITTEN = 200;
/** A row that was taken in before it was done by more than this came from a clock that was ahead, ms. */
const AHEAD_MS = 600_000;

interface Props {
  rows: readonly (Row & { entered_at?: string })[];
  zone: string;
  /** Fingerprints of the sheets as they are now, by their keys. */
  current?: ReadonlyMap<string, string>;
}

const KINDS: Record<string, string> = {
  left_off: "left off",
  deviates: "not as it should be",
  tripped: "it tripped",
};

/** What was done at the panel, row by row, by the time of the act; what was taken back stays, struck out. */
export function RecordLines({ rows, zone, current }: Props) {
  const { moment } = useMoments(zone);
  const back = new Set(rows.flatMap((row) => (row.undoes ? [row.undoes] : [])));
  const [every, setEvery] = useState(false);
  const done = rows.filter((row) => row.kind !== "undone");
  const written = every ? done : done.slice(-WRITTEN);
  return (
    <>
      {written.length < done.length && (
        <p>
          The last {WRITTEN} of {done.length} rows.{" "}
          <button type="button" className="act" onClick={() => setEvery(true)}>
            Show all of them
          </button>
        </p>
      )}
      <ol aria-label="Record" className="max-w-[760px]">
        {written.map((row) => (
          <li key={row.id} className="grid grid-cols-[9rem_minmax(0,1fr)] border-t border-rule py-1">
            <span className="text-faint">{moment(row.at)}</span>
            <span>
              {back.has(row.id) ? (
                <>
                  <s>{row.action}</s> <span className="text-faint">taken back</span>
                </>
              ) : (
                row.action
              )}
              {KINDS[row.kind ?? "done"] && (
                <strong className="text-stop"> {KINDS[row.kind ?? "done"]}</strong>
              )}
              {current && row.fingerprint && current.get(row.sheet) !== row.fingerprint && (
                <span className="text-faint"> · of another sheet, revision {row.revision}</span>
              )}
              {row.entered_at && Date.parse(row.at) - Date.parse(row.entered_at) > AHEAD_MS && (
                <span className="text-caution"> · by a clock that was ahead</span>
              )}
              {Object.entries(row.read ?? {}).map(([where, text]) => (
                <span key={where} className="text-faint">
                  {" "}
                  · {where}: {text}
                </span>
              ))}
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}
