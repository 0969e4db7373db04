import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Load, type MeterReport } from "../../api/client";
import { useDesk } from "../../api/plan";
import { filesBody } from "../../ui/files";
import { FindingsOf } from "../checks/FindingsOf";
import { Hanging } from "../load/Hanging";
import { LoadEditor } from "../load/LoadEditor";
import { HeaterSheet } from "./HeaterSheet";
import { MeterFile } from "./MeterFile";
import { Clamp, type Clamped, MeterTotals, MotorPlate, type Totals } from "./Readings";
import { Report } from "./Report";

/** Power while it runs, where the load says it. */
function runningW(load: Load): number | null {
  const spec = load.behaviour;
  if (spec.kind === "cycling") return spec.on_w;
  if (spec.kind === "thermostatic") return spec.run_w;
  return null;
}

/** One load: its figures, and the ways to measure it. Nothing changes before it is accepted. */
export function MeasureSheet({ loadId }: { loadId: string }) {
  const { view, edit } = useDesk();
  const [read, setRead] = useState<{ report: MeterReport; file: Blob } | null>(null);
  const load = view.plan.loads?.[loadId];
  if (!load) return null;
  const put = (next: Load) => edit((plan) => ({ ...plan, loads: { ...plan.loads, [loadId]: next } }));
  const spec = load.behaviour;
  const totals = ({ mean_w, duty, start_w }: Totals) => {
    const start = start_w === null ? load.start : { va: start_w, seconds: load.start?.seconds ?? 0.5 };
    const behaviour =
      spec.kind === "cycling" && duty !== null ? { ...spec, duty } : { kind: "steady", watts: mean_w };
    put({ ...load, origin: "measured", start, behaviour } as Load);
  };
  const clamped = ({ watts, powerFactor }: Clamped) => {
    const origin = "measured" as const;
    const factor = { power_factor: powerFactor ?? load.power_factor, power_factor_origin: origin };
    const read: Load = { ...load, origin, ...(powerFactor === null ? {} : factor) };
    if (spec.kind === "cycling" || spec.kind === "refrigerating") {
      put({ ...read, behaviour: { ...spec, on_w: watts } });
    } else if (spec.kind === "thermostatic") put({ ...read, behaviour: { ...spec, run_w: watts } });
    else put({ ...read, behaviour: { kind: "steady", watts } });
  };
  const poles = view.plan.circuits?.[load.circuit_id ?? ""]?.spaces?.length === 2 ? 2 : 1;
  const volts = view.plan.site.system === "single_phase_230" ? 230 : 120 * poles;
  const heater = spec.kind === "thermostatic" || load.role === "heat";
  return (
    <>
      <section aria-label={`Measure ${load.name}`} className="mb-5">
        <h2 className="mb-1 border-b border-ink pb-1">Measure: {load.name}</h2>
        <Hanging id={loadId} load={load} onChange={put} />
        <LoadEditor load={load} onChange={put} />
        <FindingsOf of={[["loads", loadId]]} />
        {spec.kind !== "thermostatic" && <MeterTotals runningW={runningW(load)} onTotals={totals} />}
        <Clamp at={volts} usual={load.power_factor ?? 1} onTake={clamped} />
        <MotorPlate
          onStart={(va) => put({ ...load, start: { seconds: 0.5, seen_on: [], ...load.start, va } })}
        />
        <MeterFile onReport={(report, file) => setRead({ report, file })} />
        {read && spec.kind !== "thermostatic" && (
          <Report
            report={read.report}
            load={load}
            loadId={loadId}
            onAccept={(next) => {
              put(next);
              setRead(null);
            }}
            onDrop={() => setRead(null)}
          />
        )}
        {read && spec.kind === "thermostatic" && (
          <Calls
            file={read.file}
            onTake={(steps) => {
              put({ ...load, origin: "measured", behaviour: { ...spec, ...steps } });
              setRead(null);
            }}
          />
        )}
      </section>
      {heater && <HeaterSheet loadId={loadId} />}
    </>
  );
}

type Steps = Pick<Extract<Load["behaviour"], { kind?: "thermostatic" }>, "before" | "run_w" | "after">;

/** The steps of a heater's call, found in its meter series. */
function Calls({ file, onTake }: { file: Blob; onTake: (steps: Steps) => void }) {
  const find = useMutation({
    mutationFn: () => answer(client.POST("/api/meter/sequence", filesBody({ file }))),
  });
  const told = (steps: Steps["before"]) =>
    steps.map((step) => `${Math.round(step.watts)} W for ${Math.round(step.seconds)} s`).join(", ");
  return (
    <div className="my-2 border-l-4 border-rule pl-3" data-testid="calls">
      <button type="button" className="act font-semibold" onClick={() => find.mutate()}>
        Find the steps of a call
      </button>
      {find.isError && (
        <p role="alert" className="text-stop">
          {find.error.message}
        </p>
      )}
      {find.data && (
        <p>
          {find.data.calls} calls seen. First {told(find.data.before) || "nothing"}; then{" "}
          {Math.round(find.data.run_w)} W while it heats; after that {told(find.data.after) || "nothing"}.{" "}
          <button
            type="button"
            className="act font-semibold"
            onClick={() => {
              const { before, run_w, after } = find.data;
              onTake({ before, run_w, after });
            }}
          >
            Accept
          </button>
        </p>
      )}
    </div>
  );
}
