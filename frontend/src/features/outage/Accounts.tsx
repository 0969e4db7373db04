import type { RunResult } from "../../api/client";
import { energy, percent, tenth, whole } from "../../ui/format";
import { Devices } from "./Devices";

/** Where the energy comes from and goes, and what comes nearest to its rating. */
export function Accounts({ run }: { run: RunResult }) {
  const ledger = run.ledger;
  if (!ledger) return null;
  const given = Math.max(0, ledger.from_battery_wh);
  const came = [
    ["out of the cells", given],
    ["from the sun", ledger.sun_wh ?? 0],
    ["from engines", ledger.engine_wh ?? 0],
    ["from the utility", ledger.grid_wh ?? 0],
    ["from vehicles", ledger.vehicle_wh ?? 0],
    ["from external batteries", ledger.external_wh ?? 0],
  ] as const;
  const went = [
    ["to the loads", ledger.loads_wh],
    ["inverter losses", ledger.inverter_loss_wh],
    ["idle draw of stations", ledger.idle_wh],
    ["asleep, and self-discharge", ledger.sleep_wh + ledger.self_discharge_wh],
    ["warmth of the cords", ledger.cord_wh],
    ["lost in charging", ledger.charging_loss_wh ?? 0],
    ["overhead of passing through", ledger.overhead_wh ?? 0],
    ["into the cells", Math.max(0, -ledger.from_battery_wh)],
  ] as const;
  const missed = Object.values(run.loads ?? {})
    .filter((load) => load.unserved_wh > 0.5)
    .sort((a, b) => b.unserved_wh - a.unserved_wh);
  return (
    <section aria-label="Accounts">
      <h2 className="border-b border-ink pb-1">Where the energy comes from and goes</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 pt-1">
        {came
          .filter(([, wh]) => wh > 0.5)
          .map(([words, wh]) => (
            <Line key={words} words={words} figure={energy(wh)} bold />
          ))}
        {went
          .filter(([, wh]) => wh > 0.5)
          .map(([words, wh]) => (
            <Line key={words} words={words} figure={energy(wh)} />
          ))}
        <Line words="left in the cells" figure={energy(ledger.stored_end_wh)} />
      </dl>
      <p className="text-faint" data-testid="ledger">
        {ledger.closes ? "The ledger closes" : "The ledger does not close: do not trust this run"} (to{" "}
        {ledger.residual.toExponential(1)}), over {whole(run.intervals ?? 0)} intervals.
      </p>
      <Devices run={run} />
      <h2 id="flows" className="mt-4 border-b border-ink pb-1">
        Nearest to its rating
      </h2>
      <dl className="grid grid-cols-[1fr_auto_auto] gap-x-4 pt-1">
        {(run.flows ?? []).slice(0, 7).map((flow) => (
          <div key={`${flow.feed} ${flow.key}`} className="contents">
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

function Line({ words, figure, bold = false }: { words: string; figure: string; bold?: boolean }) {
  const weight = bold ? "font-semibold" : "";
  return (
    <>
      <dt className={weight}>{words}</dt>
      <dd className={`text-right ${weight}`}>{figure}</dd>
    </>
  );
}
