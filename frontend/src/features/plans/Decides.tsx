import { ChoiceField } from "../../ui/ChoiceField";
import { type Given, tickOf } from "./given";

type Tick = readonly [room: string, id: string, words: string];

/** What most often decides whether a plan is enough: of each there is one in a house, or none. */
const ONE_OF: readonly (readonly [label: string, of: readonly Tick[]])[] = [
  [
    "heat that needs power",
    [
      ["utility", "furnace-psc", "gas furnace with a plain blower"],
      ["utility", "furnace-ecm", "gas furnace with a variable-speed blower"],
      ["utility", "boiler-one-pump", "boiler with one pump"],
      ["utility", "boiler-two-pumps", "boiler with two pumps"],
      ["utility", "oil-furnace", "oil furnace"],
      ["utility", "pellet-stove", "pellet stove"],
    ],
  ],
  [
    "water that needs power",
    [
      ["outdoors", "well-pump-half", "well pump, half a horsepower"],
      ["outdoors", "well-pump-one", "well pump, one horsepower"],
      ["outdoors", "jet-pump", "jet pump"],
    ],
  ],
];

/** What someone's health hangs on. */
const HEALTH: readonly Tick[] = [
  ["bedroom", "cpap", "sleep apnoea machine"],
  ["bedroom", "oxygen-concentrator", "oxygen concentrator"],
  ["kitchen", "medicine-cooler", "medicine that is kept cold"],
  ["bedroom", "hospital-bed", "hospital bed"],
  ["hall", "stair-lift", "stair lift"],
];

/** Asked before rooms: heat, water, and what someone's health hangs on; all of it must run. */
export function Decides({ given, set }: { given: Given; set: (part: Partial<Given>) => void }) {
  const has = ([room, id]: Tick) => given.ticks[tickOf(room, id)] !== undefined;
  const put = (gone: readonly Tick[], come: Tick | undefined) => {
    const keys = gone.map(([room, id]) => tickOf(room, id));
    const ticks = Object.fromEntries(Object.entries(given.ticks).filter(([key]) => !keys.includes(key)));
    if (come) ticks[tickOf(come[0], come[1])] = "keep";
    set({ ticks });
  };
  return (
    <div className="flex w-full flex-wrap items-baseline gap-x-6 gap-y-2 border-b border-rule pb-2">
      {ONE_OF.map(([label, of]) => (
        <ChoiceField
          key={label}
          label={label}
          value={of.find(has)?.[1] ?? ""}
          choices={[["", "none, or not yet"], ...of.map(([, id, words]) => [id, words] as const)]}
          onSave={(id) =>
            put(
              of,
              of.find((item) => item[1] === id),
            )
          }
        />
      ))}
      <fieldset className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <legend className="float-left mr-3 text-faint">someone’s health hangs on</legend>
        {HEALTH.map((item) => (
          <label key={item[1]} className="inline-flex min-h-[26px] items-center gap-1">
            <input
              type="checkbox"
              className="size-4 accent-cedar"
              checked={has(item)}
              onChange={(event) => put([item], event.target.checked ? item : undefined)}
            />
            {item[2]}
          </label>
        ))}
      </fieldset>
    </div>
  );
}
