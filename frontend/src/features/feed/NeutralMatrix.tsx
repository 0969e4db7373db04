import type { FeedPath } from "../../api/client";

const TRANSFERS = ["neutral not switched", "neutral switched", "cords only"] as const;

/** Where the one bond is, in each state: the cell of this feed is marked. */
export function NeutralMatrix({ path }: { path: FeedPath }) {
  if (path.neutral_matrix.length === 0) return null;
  return (
    <table className="mt-3 w-full text-left" aria-label="Neutral of the source against the transfer">
      <thead className="text-faint">
        <tr className="border-b border-rule [&>th]:py-1 [&>th]:font-normal">
          <th>the source's neutral</th>
          {TRANSFERS.map((name) => (
            <th key={name}>{name}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {path.neutral_matrix.map((row) => (
          <tr key={row.source} className="border-b border-rule">
            <th className="py-1 font-normal">{row.source}</th>
            {row.cells.map((words, index) => {
              const here = row.here === index;
              return (
                <td
                  key={TRANSFERS[index]}
                  aria-current={here ? "true" : undefined}
                  className={here ? "bg-leaf font-semibold" : "text-faint"}
                >
                  {words}
                  {here && " (here)"}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
