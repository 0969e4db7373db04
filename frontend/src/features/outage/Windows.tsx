import type { Plan } from "../../api/client";
import { ChoiceField } from "../../ui/ChoiceField";
import { freeId } from "../../ui/ids";
import { SpanFields } from "./SpanFields";

type Outage = Plan["outage"];
type Sky = NonNullable<Outage["weather"]["sky"]>[number];

interface Props {
  outage: Outage;
  change: (part: Partial<Outage>) => void;
}

const SKIES: readonly (readonly [Sky, string])[] = [
  ["clear", "clear"],
  ["haze", "haze"],
  ["smoke", "smoke"],
  ["broken_cloud", "broken cloud"],
  ["overcast", "overcast"],
  ["rain", "rain"],
  ["snow_on_panels", "snow on the panels"],
];

/** What the sky does to the sun, day by day; the last one stays. */
export function Skies({ outage, change }: Props) {
  const sky = outage.weather.sky ?? [];
  if (outage.weather.hourly_sun)
    return (
      <p className="py-1 text-faint">
        The sun is that of the weather file {outage.weather.hourly_sun.name}; kinds of days do not count.
      </p>
    );
  const put = (next: Sky[]) => change({ weather: { ...outage.weather, sky: next } });
  return (
    <fieldset className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1">
      <legend className="text-faint">The sky, day by day; the last one stays</legend>
      {sky.length === 0 && <span>Not chosen: the usual mix of the season counts.</span>}
      {sky.map((kind, index) => (
        <ChoiceField
          // biome-ignore lint/suspicious/noArrayIndexKey: days have no identity but their place
          key={index}
          label={`day ${index + 1}`}
          value={kind}
          choices={SKIES}
          onSave={(next) => put(sky.map((old, other) => (other === index ? next : old)))}
        />
      ))}
      <button type="button" className="act" onClick={() => put([...sky, sky.at(-1) ?? "broken_cloud"])}>
        {sky.length === 0 ? "Choose it" : "Add a day"}
      </button>
      {sky.length > 0 && (
        <button type="button" className="act" onClick={() => put(sky.slice(0, -1))}>
          {sky.length === 1 ? "Do not choose" : "Take the last away"}
        </button>
      )}
    </fieldset>
  );
}

/** When the utility is back for a while, in a rolling outage. */
export function GridWindows({ outage, change }: Props) {
  const grid = outage.grid ?? {};
  const windows = Object.entries(grid).sort(([, a], [, b]) => a.at_s - b.at_s);
  const set = (id: string, part: Partial<(typeof grid)[string]>) =>
    change({ grid: { ...grid, [id]: { ...(grid[id] as (typeof grid)[string]), ...part } } });
  const last = windows.at(-1)?.[1];
  const add = () =>
    change({
      grid: {
        ...grid,
        [freeId("window", grid)]: {
          at_s: last ? last.at_s + last.for_s + 4 * 3600 : 4 * 3600,
          for_s: 2 * 3600,
        },
      },
    });
  return (
    <fieldset className="py-1">
      <legend className="text-faint">The utility comes back for a while</legend>
      {windows.map(([id, window]) => (
        <div key={id} className="flex flex-wrap items-baseline gap-x-4">
          <SpanFields
            span={window}
            set={(part) => set(id, part)}
            remove={() =>
              change({ grid: Object.fromEntries(Object.entries(grid).filter(([key]) => key !== id)) })
            }
          />
        </div>
      ))}
      <button type="button" className="act" onClick={add}>
        Add a window
      </button>
    </fieldset>
  );
}
