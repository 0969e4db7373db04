import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Load, type MeterReport } from "../../api/client";
import { useDesk } from "../../api/plan";
import { NumberField } from "../../ui/NumberField";
import { LoadEditor } from "../panel/LoadEditor";
import { MeterFile } from "./MeterFile";
import { Report } from "./Report";

/** One load: its figures, and the ways to measure it. Nothing changes before it is accepted. */
export function MeasureSheet({ loadId }: { loadId: string }) {
  const { view, edit } = useDesk();
  const [report, setReport] = useState<MeterReport | null>(null);
  const load = view.plan.loads?.[loadId];
  if (!load) return null;
  const put = (next: Load) => edit((plan) => ({ ...plan, loads: { ...plan.loads, [loadId]: next } }));
  const measured = (watts: number) => {
    const spec = load.behaviour;
    const origin = "measured" as const;
    if (spec.kind === "cycling" && spec.on_w >= watts)
      put({ ...load, origin, behaviour: { ...spec, duty: watts / spec.on_w } });
    else put({ ...load, origin, behaviour: { kind: "steady", watts } });
  };
  return (
    <section aria-label={`Measure ${load.name}`} className="mb-5">
      <h2 className="mb-1 border-b border-ink pb-1">Measure: {load.name}</h2>
      <LoadEditor load={load} onChange={put} />
      <Totals onWatts={measured} />
      <MeterFile onReport={setReport} />
      {report && (
        <Report
          report={report}
          load={load}
          onAccept={() => {
            put({
              ...load,
              origin: "measured",
              behaviour: report.behaviour,
              start: report.start ?? load.start,
            } as Load);
            setReport(null);
          }}
          onDrop={() => setReport(null)}
        />
      )}
      <Motor onStart={(va) => put({ ...load, start: { va, seconds: load.start?.seconds ?? 0.5 } })} />
    </section>
  );
}

function Totals({ onWatts }: { onWatts: (watts: number) => void }) {
  const [kwh, setKwh] = useState(0);
  const [hours, setHours] = useState(24);
  const [amps, setAmps] = useState(0);
  const [volts, setVolts] = useState(120);
  const totals = useMutation({
    mutationFn: () => answer(client.GET("/api/measure/totals", { params: { query: { kwh, hours } } })),
    onSuccess: (reading) => onWatts(reading.watts),
  });
  const clamp = useMutation({
    mutationFn: () => answer(client.GET("/api/measure/clamp", { params: { query: { amps, volts } } })),
    onSuccess: (reading) => onWatts(reading.watts),
  });
  return (
    <div className="mb-1">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-faint">plug-in meter shows</span>
        <NumberField label="kWh shown" hideLabel value={kwh} unit="" onSave={setKwh} />
        <span className="text-faint">kWh after</span>
        <NumberField label="hours shown" hideLabel value={hours} unit="h" width="w-12" onSave={setHours} />
        <button type="button" className="act" onClick={() => totals.mutate()} disabled={kwh <= 0}>
          Take it
        </button>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-faint">clamp meter reads</span>
        <NumberField label="amps" hideLabel value={amps} unit="A" width="w-12" onSave={setAmps} />
        <span className="text-faint">at</span>
        <NumberField label="volts" hideLabel value={volts} unit="" width="w-12" onSave={setVolts} />
        <span className="text-faint">V</span>
        <button type="button" className="act" onClick={() => clamp.mutate()} disabled={amps <= 0}>
          Take it
        </button>
      </div>
      {(totals.isError || clamp.isError) && (
        <p role="alert" className="text-stop">
          {(totals.error ?? clamp.error)?.message}
        </p>
      )}
    </div>
  );
}

function Motor({ onStart }: { onStart: (va: number) => void }) {
  const [horsepower, setHorsepower] = useState(0.5);
  const [letter, setLetter] = useState("");
  const [volts, setVolts] = useState(120);
  const motor = useMutation({
    mutationFn: () => {
      const query = { volts, horsepower, ...(letter ? { code_letter: letter } : {}) };
      return answer(client.GET("/api/measure/motor", { params: { query } }));
    },
    onSuccess: (start) => onStart(Math.round(start.high_va)),
  });
  return (
    <div className="flex flex-wrap items-baseline gap-x-3">
      <span className="text-faint">motor plate</span>
      <NumberField
        label="horsepower"
        hideLabel
        value={horsepower}
        unit=""
        width="w-12"
        onSave={setHorsepower}
      />
      <span className="text-faint">hp, code</span>
      <input
        className="field w-8"
        aria-label="code letter"
        maxLength={1}
        value={letter}
        onChange={(event) => setLetter(event.target.value.toUpperCase())}
      />
      <NumberField label="at volts" hideLabel value={volts} unit="" width="w-12" onSave={setVolts} />
      <span className="text-faint">V</span>
      <button type="button" className="act" onClick={() => motor.mutate()}>
        Set the start
      </button>
      {motor.isError && (
        <p role="alert" className="basis-full text-stop">
          {motor.error.message}
        </p>
      )}
      {motor.data && (
        <p className="basis-full text-faint">
          {Math.round(motor.data.low_va)} to {Math.round(motor.data.high_va)} VA, by {motor.data.basis}; not
          for hermetic compressors
        </p>
      )}
    </div>
  );
}
