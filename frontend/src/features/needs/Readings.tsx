import { useMutation } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { answer, client } from "../../api/client";
import { tenth, whole } from "../../ui/format";
import { NumberField } from "../../ui/NumberField";

interface LineProps {
  words: string;
  children: ReactNode;
  go: string;
  ready: boolean;
  onGo: () => void;
  error: Error | null;
}

/** One way of measuring: fields in a row, a button, what was wrong. */
function Way({ words, children, go, ready, onGo, error }: LineProps) {
  const [early, setEarly] = useState(false);
  const told = early && !ready ? "Fill in the reading first." : error?.message;
  return (
    <div className="flex flex-wrap items-baseline gap-x-3">
      <span className="text-faint">{words}</span>
      {children}
      <button
        type="button"
        className="act"
        onClick={() => {
          setEarly(!ready);
          if (ready) onGo();
        }}
      >
        {go}
      </button>
      {told && (
        <p role="alert" className="basis-full text-stop">
          {told}
        </p>
      )}
    </div>
  );
}

export interface Totals {
  mean_w: number;
  duty: number | null;
  start_w: number | null;
}

/** Totals of a plug-in meter: energy, hours, highest power. */
export function MeterTotals({
  runningW,
  onTotals,
}: {
  runningW: number | null;
  onTotals: (t: Totals) => void;
}) {
  const [kwh, setKwh] = useState<number | null>(null);
  const [hours, setHours] = useState<number | null>(24);
  const [highest, setHighest] = useState<number | null>(null);
  const read = useMutation({
    mutationFn: () => {
      const query = {
        kwh: kwh ?? 0,
        hours: hours ?? 0,
        ...(highest === null ? {} : { highest_w: highest }),
        ...(runningW === null ? {} : { running_w: runningW }),
      };
      return answer(client.GET("/api/measure/totals", { params: { query } }));
    },
    onSuccess: onTotals,
  });
  return (
    <Way
      words="plug-in meter shows"
      go="Take the totals"
      ready={kwh !== null && hours !== null}
      onGo={() => read.mutate()}
      error={read.error}
    >
      <NumberField label="kWh shown" hideLabel value={kwh} unit="kWh" width="w-14" onSave={setKwh} />
      <NumberField label="after" value={hours} unit="h" width="w-12" onSave={setHours} />
      <NumberField label="highest" value={highest} unit="W" width="w-14" onSave={setHighest} />
    </Way>
  );
}

export type Clamped = { watts: number; powerFactor: number | null };

/** A clamp meter around one conductor; a power factor that was read is kept with the load. */
export function Clamp({ at, usual, onTake }: { at: number; usual: number; onTake: (read: Clamped) => void }) {
  const [amps, setAmps] = useState<number | null>(null);
  const [volts, setVolts] = useState<number | null>(at);
  const [factor, setFactor] = useState<number | null>(null);
  const read = useMutation({
    mutationFn: () => {
      const query = { amps: amps ?? 0, volts: volts ?? 0, power_factor: factor ?? usual };
      return answer(client.GET("/api/measure/clamp", { params: { query } }));
    },
    onSuccess: (reading) => onTake({ watts: reading.watts, powerFactor: factor }),
  });
  return (
    <Way
      words="clamp meter reads"
      go="Take the reading"
      ready={amps !== null}
      onGo={() => read.mutate()}
      error={read.error}
    >
      <NumberField label="amps read" hideLabel value={amps} unit="A" width="w-12" onSave={setAmps} />
      <NumberField label="at" value={volts} unit="V" width="w-12" onSave={setVolts} />
      <NumberField
        label="power factor read"
        hideLabel
        value={factor ?? usual}
        unit=""
        width="w-10"
        onSave={setFactor}
      />
      <span className="text-faint">power factor{factor === null ? ", as in the plan" : ", as read"}</span>
    </Way>
  );
}

/** A motor's plate: locked-rotor amps, or horsepower and code letter, or full-load amps. */
export function MotorPlate({ onStart }: { onStart: (va: number) => void }) {
  const [lockedRotor, setLockedRotor] = useState<number | null>(null);
  const [horsepower, setHorsepower] = useState<number | null>(null);
  const [letter, setLetter] = useState("");
  const [fullLoad, setFullLoad] = useState<number | null>(null);
  const [volts, setVolts] = useState<number | null>(120);
  const read = useMutation({
    mutationFn: () => {
      const query = {
        volts: volts ?? 0,
        ...(lockedRotor === null ? {} : { locked_rotor_a: lockedRotor }),
        ...(horsepower === null ? {} : { horsepower }),
        ...(letter ? { code_letter: letter } : {}),
        ...(fullLoad === null ? {} : { running_a: fullLoad }),
      };
      return answer(client.GET("/api/measure/motor", { params: { query } }));
    },
    onSuccess: (start) => onStart(Math.round(start.high_va)),
  });
  return (
    <>
      <Way words="motor plate" go="Set the start" ready onGo={() => read.mutate()} error={read.error}>
        <NumberField label="locked rotor" value={lockedRotor} unit="A" width="w-12" onSave={setLockedRotor} />
        <NumberField label="or" value={horsepower} unit="hp" width="w-12" onSave={setHorsepower} />
        <label>
          <span className="text-faint">code letter </span>
          <input
            className="field w-7"
            maxLength={1}
            value={letter}
            onChange={(event) => setLetter(event.target.value.toUpperCase())}
          />
        </label>
        <NumberField label="or full load" value={fullLoad} unit="A" width="w-12" onSave={setFullLoad} />
        <NumberField label="plate volts" value={volts} unit="V" width="w-12" onSave={setVolts} />
      </Way>
      {read.data && (
        <p className="text-faint" data-testid="motor">
          {whole(read.data.low_va)} to {whole(read.data.high_va)} VA, {whole(read.data.low_w)} to{" "}
          {whole(read.data.high_w)} W, by {read.data.basis}. A hermetic compressor's plate gives locked-rotor
          amps; a start over half of the station's rating is proven only by trying it.
        </p>
      )}
    </>
  );
}

/** Two meters on one run of cord, and the standby of the whole house by difference. */
export function HouseReadings({ onStandby }: { onStandby: (watts: number) => void }) {
  const [before, setBefore] = useState<number | null>(null);
  const [after, setAfter] = useState<number | null>(null);
  const [cordHours, setCordHours] = useState<number | null>(24);
  const [kwh, setKwh] = useState<number | null>(null);
  const [hours, setHours] = useState<number | null>(8);
  const [known, setKnown] = useState<number | null>(0);
  const cord = useMutation({
    mutationFn: () => {
      const query = { kwh_before: before ?? 0, kwh_after: after ?? 0, hours: cordHours ?? 0 };
      return answer(client.GET("/api/measure/cord", { params: { query } }));
    },
  });
  const standby = useMutation({
    mutationFn: () => {
      const query = { kwh: kwh ?? 0, hours: hours ?? 0, known_w: known ?? 0 };
      return answer(client.GET("/api/measure/standby", { params: { query } }));
    },
  });
  return (
    <section aria-label="House readings" className="mb-5">
      <h2 className="mb-1 border-b border-ink pb-1">Standby and cords</h2>
      <Way
        words="everything switched off, the house meter counts"
        go="Find the standby"
        ready={kwh !== null}
        onGo={() => standby.mutate()}
        error={standby.error}
      >
        <NumberField label="house kWh" hideLabel value={kwh} unit="kWh" width="w-14" onSave={setKwh} />
        <NumberField label="in" value={hours} unit="h" width="w-10" onSave={setHours} />
        <NumberField label="of that known" value={known} unit="W" width="w-12" onSave={setKnown} />
      </Way>
      {standby.data && (
        <p data-testid="standby">
          <strong>{tenth(standby.data.watts)} W</strong> always on, {whole(standby.data.wh ?? 0)} Wh a day.{" "}
          <button type="button" className="act" onClick={() => onStandby(standby.data.watts)}>
            Add it as a need
          </button>
        </p>
      )}
      <Way
        words="two meters on one cord: before it"
        go="Find the loss"
        ready={before !== null && after !== null}
        onGo={() => cord.mutate()}
        error={cord.error}
      >
        <NumberField label="kWh before" hideLabel value={before} unit="kWh" width="w-14" onSave={setBefore} />
        <NumberField label="after it" value={after} unit="kWh" width="w-14" onSave={setAfter} />
        <NumberField label="over" value={cordHours} unit="h" width="w-10" onSave={setCordHours} />
      </Way>
      {cord.data && (
        <p data-testid="cord-loss">
          The cord took <strong>{whole(cord.data.wh ?? 0)} Wh</strong>, {tenth(cord.data.watts)} W on average.
        </p>
      )}
    </section>
  );
}
