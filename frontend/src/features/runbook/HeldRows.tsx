import { useState } from "react";
import { ProblemLines } from "../../ui/ProblemLines";
import { type Held, holdRow, mendRow, newId, type Row } from "./rows";

/** Rows that the server does not take in: why, and what can be done with each. None is lost. */
export function HeldRows({ planId, held }: { planId: string; held: readonly Held[] }) {
  const asked = held.filter(({ aside }) => !aside);
  const aside = held.filter((one) => one.aside);
  if (held.length === 0) return null;
  return (
    <section aria-label="Rows that are not taken in" className="mt-3 border-l-4 border-stop py-1 pl-3">
      {asked.length > 0 && (
        <p className="font-semibold">
          {asked.length === 1 ? "One row cannot" : `${asked.length} rows cannot`} be taken in; all others are.
        </p>
      )}
      {asked.map((one) => (
        <HeldRow key={one.row.id} planId={planId} held={one} />
      ))}
      {aside.length > 0 && (
        <p className="mt-2">
          {aside.length === 1 ? "One row is" : `${aside.length} rows are`} put aside on this device.{" "}
          <button
            type="button"
            className="act"
            onClick={() => {
              for (const one of aside) holdRow(planId, { ...one, aside: false });
            }}
          >
            Take up again
          </button>
        </p>
      )}
    </section>
  );
}

/** One of them, to be mended and sent again, or put aside. */
function HeldRow({ planId, held }: { planId: string; held: Held }) {
  const [row, setRow] = useState<Row>(held.row);
  const problems = held.problems.map((one) => ({ ...one, field: one.field.replace(/^\/rows\/\d+\//, "") }));
  const again = () => {
    const taken = held.problems.some(({ field }) => field.endsWith("/id"));
    mendRow(planId, held, taken ? { ...row, id: newId() } : row);
  };
  return (
    <div className="my-2" data-testid="held-row">
      <p>{held.row.action}</p>
      <ProblemLines problem={{ title: "", status: 422, detail: "", problems }} />
      <p className="mt-1 flex flex-wrap items-center gap-3">
        <label>
          At{" "}
          <input
            className="field w-64"
            aria-label="Moment of the act"
            value={row.at}
            onChange={(event) => setRow({ ...row, at: event.target.value })}
          />
        </label>
        {Object.entries(row.read ?? {}).map(([where, typed]) => (
          <label key={where}>
            {where.slice(0, 60)}{" "}
            <input
              className="field w-28"
              value={typed}
              onChange={(event) => setRow({ ...row, read: { ...row.read, [where]: event.target.value } })}
            />
          </label>
        ))}
        <button type="button" className="act" onClick={again}>
          Send it so
        </button>
        <button type="button" className="act" onClick={() => holdRow(planId, { ...held, row, aside: true })}>
          Put it aside
        </button>
      </p>
    </div>
  );
}
