import type { FeedPath } from "../../api/client";
import type { Feed } from "./feedFields";

const SOURCES = [
  ["floating", "floating"],
  ["bonded", "bonded, plain outlet"],
  ["bonded_gfci", "bonded, ground-fault outlet"],
  ["unknown", "changes, or not known"],
] as const;
const TRANSFERS = ["neutral not switched", "neutral switched", "cords only"] as const;
const CELLS: Record<string, readonly [string, string, string]> = {
  floating: ["right", "stop: no fault path", "normal; flame sensing may lock out"],
  bonded: ["caution: two bonds", "right", "right"],
  bonded_gfci: ["stop: will not hold", "right", "right"],
  unknown: ["cannot judge", "cannot judge", "worth asking"],
};

/** Where the one bond is, in each state: the cell of this feed is marked. */
export function NeutralMatrix({ path, feed }: { path: FeedPath; feed: Feed }) {
  const column = feed.kind === "cords" ? 2 : feed.neutral_switched === "yes" ? 1 : 0;
  const row = {
    "neutral-floating-switched": "floating",
    "neutral-double-bond": "bonded",
    "neutral-gfci-bond": "bonded_gfci",
    "neutral-unknown": "unknown",
    note: "unknown",
    right: column === 0 ? "floating" : column === 1 ? "bonded" : "floating",
  }[path.neutral_cell];
  if (row === undefined) return null;
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
        {SOURCES.map(([key, name]) => (
          <tr key={key} className="border-b border-rule">
            <th className="py-1 font-normal">{name}</th>
            {CELLS[key]?.map((words, index) => {
              const here = key === row && index === column;
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
