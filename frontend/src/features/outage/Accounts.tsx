import type { RunResult } from "../../api/client";
import { energy, percent, tenth, whole } from "../../ui/format";

/** Where the energy goes, and what comes nearest to its rating. */
export function Accounts({ run }: { run: RunResult }) {
  const ledger = run.ledger;
  if (!ledger) return null;
  const lines = [
    ["to the loads", ledger.loads_wh],
    ["inverter losses", ledger.inverter_loss_wh],
    ["idle draw of the station", ledger.idle_wh],
    ["asleep, and self-discharge", ledger.sleep_wh + ledger.self_discharge_wh],
    ["warmth of the cord", ledger.cord_wh],
  ] as const;
  const missed = Object.values(run.loads ?? {})
    .filter((load) => load.unserved_wh > 0.5)
    .sort((a, b) => b.unserved_wh - a.unserved_wh);
  return (
    <section aria-label="Accounts">
      <h2 className="border-b border-ink pb-1">Where the energy goes</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 pt-1">
        <dt className="font-semibold">out of the cells</dt>
        <dd className="text-right font-semibold">{energy(ledger.from_battery_wh)}</dd>
        {lines.map(([words, wh]) => (
          <Line key={words} words={words} figure={energy(wh)} />
        ))}
        <Line words="left in the cells" figure={energy(ledger.stored_end_wh)} />
      </dl>
      <p className="text-faint" data-testid="ledger">
        {ledger.closes ? "The ledger closes" : "The ledger does not close: do not trust this run"} (to{" "}
        {ledger.residual.toExponential(1)}), over {whole(run.intervals ?? 0)} intervals.
      </p>
      <h2 id="flows" className="mt-4 border-b border-ink pb-1">
        Nearest to its rating
      </h2>
      <dl className="grid grid-cols-[1fr_auto_auto] gap-x-4 pt-1">
        {(run.flows ?? []).slice(0, 7).map((flow) => (
          <div key={flow.key} className="contents">
            <dt>{flow.name}</dt>
            <dd className="text-right text-faint">
              {flow.unit === "A" ? tenth(flow.flow) : whole(flow.flow)} of {whole(flow.rating)} {flow.unit}
            </dd>
            <dd className="text-right">{percent(flow.share)}</dd>
          </div>
        ))}
      </dl>
      {missed.length > 0 && (
        <>
          <h2 className="mt-4 border-b border-ink pb-1">Went without</h2>
          <dl className="grid grid-cols-[1fr_auto] gap-x-4 pt-1">
            {missed.slice(0, 8).map((load) => (
              <Line key={load.name} words={load.name} figure={energy(load.unserved_wh)} />
            ))}
          </dl>
        </>
      )}
    </section>
  );
}

function Line({ words, figure }: { words: string; figure: string }) {
  return (
    <>
      <dt>{words}</dt>
      <dd className="text-right">{figure}</dd>
    </>
  );
}
