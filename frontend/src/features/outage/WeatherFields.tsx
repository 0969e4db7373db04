import { useState } from "react";
import type { Plan } from "../../api/client";
import { ClockField } from "../../ui/ClockField";
import { NumberField } from "../../ui/NumberField";
import { readQuantity, shownAs, told, useUnits } from "../../ui/quantity";
import { WeatherFile } from "./WeatherFile";

type Outage = Plan["outage"];

interface Props {
  outage: Outage;
  change: (part: Partial<Outage>) => void;
}

/** Outdoor temperature: a day curve, one value an hour pasted in, a weather file, or a forecast. */
export function WeatherFields({ outage, change }: Props) {
  const units = useUnits();
  const as = shownAs("°C", units);
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const weather = outage.weather;
  const set = (part: Partial<typeof weather>) => change({ weather: { ...weather, ...part } });
  const hourly = weather.hourly_c ?? [];
  const take = () => {
    const parts = text.split(/[\s,;]+/).filter(Boolean);
    const read = parts.map((part) => readQuantity(part, as.unit));
    const bad = read.indexOf(null);
    setWrong(bad >= 0 ? `value ${bad + 1}: got ${parts[bad]}; write a temperature such as 41` : "");
    if (bad >= 0 || read.length === 0) return;
    set({ hourly_c: read.map((value) => Number((((value ?? 0) - as.offset) / as.factor).toFixed(3))) });
    setText("");
  };
  return (
    <fieldset className="flex flex-wrap items-baseline gap-x-6 gap-y-1 py-1">
      <legend className="text-faint">Outdoor temperature, which drives what is on a thermostat</legend>
      {hourly.length > 0 ? (
        <>
          <span>
            {hourly.length} hourly values, {told(Math.min(...hourly), "°C", units)} to{" "}
            {told(Math.max(...hourly), "°C", units)}
          </span>
          {weather.hourly_sun && <span>and the sun of {weather.hourly_sun.name}</span>}
          <button type="button" className="act" onClick={() => set({ hourly_c: [], hourly_sun: null })}>
            Use a day curve instead
          </button>
        </>
      ) : (
        <>
          <NumberField
            label="coldest"
            value={weather.low_c}
            unit="°C"
            width="w-12"
            onSave={(low_c) => set({ low_c })}
          />
          <ClockField label="at" value={weather.coldest_at} onSave={(at) => set({ coldest_at: at })} />
          <NumberField
            label="warmest"
            value={weather.high_c}
            unit="°C"
            width="w-12"
            onSave={(high_c) => set({ high_c })}
          />
        </>
      )}
      <label className="inline-flex items-baseline gap-1">
        <span className="text-faint">or paste one value an hour, {as.unit}</span>
        <input
          className="field w-48"
          value={text}
          aria-invalid={wrong !== ""}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button type="button" className="act" disabled={text.trim() === ""} onClick={take}>
        Take the values
      </button>
      <WeatherFile set={set} />
      {wrong && (
        <span role="alert" className="basis-full text-stop">
          {wrong}
        </span>
      )}
    </fieldset>
  );
}
