import { useState } from "react";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";

const BIG = "act min-h-11 min-w-11 border border-rule px-3";

/** Large buttons that say a line: it is shown as understood before it counts. */
export function Buttons({ onSay }: { onSay: (line: string) => void }) {
  const { view } = useDesk();
  const { stations, loads, generators } = view.plan;
  const names = Object.values(loads ?? {}).map((load) => [load.name, load.name] as const);
  const [load, setLoad] = useState(names[0]?.[0] ?? "");
  const packs = Object.values(stations ?? {}).flatMap((station) => Object.keys(station.packs ?? {}));
  const heads = Object.values(stations ?? {});
  return (
    <fieldset className="mt-2 flex flex-wrap items-center gap-2">
      <legend className="sr-only">Say it by a button</legend>
      {heads.map((station) => (
        <button
          key={station.name}
          type="button"
          className={BIG}
          onClick={() => onSay(heads.length > 1 ? `${station.name} % ` : packs.length ? "main " : "charge ")}
        >
          {heads.length > 1 ? `${station.name}: charge` : "Charge"}
        </button>
      ))}
      <button type="button" className={BIG} onClick={() => onSay("out  W")}>
        Watts out
      </button>
      {Object.values(generators ?? {}).map((engine) => (
        <span key={engine.name} className="inline-flex gap-2">
          <button type="button" className={BIG} onClick={() => onSay(`${engine.name} on`)}>
            {engine.name} runs
          </button>
          <button type="button" className={BIG} onClick={() => onSay(`${engine.name} off`)}>
            stopped
          </button>
        </span>
      ))}
      <button type="button" className={BIG} onClick={() => onSay("it tripped")}>
        It tripped
      </button>
      <button type="button" className={BIG} onClick={() => onSay("it went dark")}>
        Dark
      </button>
      {names.length > 0 && (
        <span className="inline-flex flex-wrap items-center gap-2">
          <ChoiceField label="Switched" value={load} choices={names} onSave={setLoad} />
          <button type="button" className={BIG} onClick={() => onSay(`${load} off`)}>
            Off
          </button>
          <button type="button" className={BIG} onClick={() => onSay(`${load} on`)}>
            On
          </button>
        </span>
      )}
    </fieldset>
  );
}
