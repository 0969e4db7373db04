import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, type ColumnProposal, client, type MeterReport, Refused } from "../../api/client";
import { FileButton } from "../../ui/FileButton";
import { filesBody } from "../../ui/files";

const STAND_INS = ["refrigerator", "freezer", "sump pump", "dehumidifier", "gas furnace", "router"] as const;
const UNITS = ["W", "kW", "Wh", "kWh"] as const;
type Unit = (typeof UNITS)[number];

/** A meter's CSV, dropped or chosen: shows how it would be read, reads it when confirmed. */
export function MeterFile({ onReport }: { onReport: (report: MeterReport, file: Blob) => void }) {
  const [file, setFile] = useState<Blob | null>(null);
  const [over, setOver] = useState(false);
  const propose = useMutation({
    mutationFn: (chosen: Blob) => answer(client.POST("/api/meter/propose", filesBody({ file: chosen }))),
  });
  const take = (chosen: Blob) => {
    setFile(chosen);
    propose.mutate(chosen);
  };
  const standIn = useMutation({
    mutationFn: async (appliance: string) => {
      const query = new URLSearchParams({ appliance, days: "3", european: "true" });
      if (appliance === "gas furnace") query.set("step_s", "5");
      const got = await fetch(`/api/stand-ins/meter?${query}`);
      if (!got.ok) throw new Refused(got.status, await got.json());
      return got.blob();
    },
    onSuccess: take,
  });
  const refused = propose.error ?? standIn.error;
  return (
    <section
      aria-label="Meter series"
      className={`my-1 border border-dashed px-2 py-1 ${over ? "border-cedar" : "border-rule"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const dropped = event.dataTransfer.files[0];
        if (dropped) take(dropped);
      }}
    >
      <span className="text-faint">a meter's series: drop a CSV here,</span>{" "}
      <FileButton label="Meter file" accept=".csv,.txt,text/csv" onChoose={take}>
        choose a file
      </FileButton>{" "}
      <label>
        <span className="text-faint">or try the simulated meter on a </span>
        <select
          className="field"
          value=""
          onChange={(event) => event.target.value && standIn.mutate(event.target.value)}
        >
          <option value="">choose</option>
          {STAND_INS.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      {refused && (
        <p role="alert" className="text-stop">
          {refused.message}
        </p>
      )}
      {propose.data && file && <Confirm proposal={propose.data} file={file} onReport={onReport} />}
    </section>
  );
}

interface ConfirmProps {
  proposal: ColumnProposal;
  file: Blob;
  onReport: (report: MeterReport, file: Blob) => void;
}

function Confirm({ proposal, file, onReport }: ConfirmProps) {
  const [time, setTime] = useState(proposal.time);
  const [value, setValue] = useState(proposal.value);
  const [unit, setUnit] = useState<Unit | "">(proposal.unit_sure ? proposal.unit : "");
  const analyse = useMutation({
    mutationFn: () => answer(client.POST("/api/meter/analyse", filesBody({ file, time, value, unit }))),
    onSuccess: (report) => onReport(report, file),
  });
  const column = (label: string, chosen: string, set: (name: string) => void) => (
    <label className="inline-flex items-baseline gap-1">
      <span className="text-faint">{label}</span>
      <select className="field" value={chosen} onChange={(event) => set(event.target.value)}>
        {proposal.columns.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="mt-1 border-t border-rule pt-1">
      <div className="flex flex-wrap gap-x-3">
        {column("time is", time, setTime)}
        {column("power is", value, setValue)}
        <label className="inline-flex items-baseline gap-1">
          <span className="text-faint">in</span>
          <select className="field" value={unit} onChange={(event) => setUnit(event.target.value as Unit)}>
            {!proposal.unit_sure && <option value="">say which</option>}
            {UNITS.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
      </div>
      <p className="truncate text-[12px] text-faint">{proposal.first_rows[0]?.join("  |  ")}</p>
      <button type="button" className="act font-semibold" disabled={!unit} onClick={() => analyse.mutate()}>
        {analyse.isPending ? "Reading…" : "Read it so"}
      </button>
      {analyse.isError && (
        <p role="alert" className="text-stop">
          {analyse.error.message}
        </p>
      )}
    </div>
  );
}
