import { useMoments } from "../../ui/useMoments";
import type { Row } from "./kept";

interface Props {
  rows: readonly Row[];
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
  const done = rows.filter((row) => row.kind !== "undone");
  return (
    <ol aria-label="Record" className="max-w-[760px]">
      {done.map((row) => (
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
            {KINDS[row.kind ?? "done"] && <strong className="text-stop"> {KINDS[row.kind ?? "done"]}</strong>}
            {current && row.fingerprint && current.get(row.sheet) !== row.fingerprint && (
              <span className="text-faint"> · of another sheet, revision {row.revision}</span>
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
  );
}
