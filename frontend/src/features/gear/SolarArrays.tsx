import { useQuery } from "@tanstack/react-query";
import { answer, client, type GearLibrary } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Groups } from "../../ui/Fields";
import { whole } from "../../ui/format";
import { ListedItems } from "../../ui/Items";
import { dcInputs, inputKey, onInput } from "./dcInputs";
import { ARRAY, FACING, MODULE, SHADE } from "./fields/solar";
import type { SolarArray } from "./fields/types";
import { Parts, PlaceOf, useRoom } from "./Parts";
import { PlateText } from "./PlateText";

const day = (iso: string) =>
  new Intl.DateTimeFormat("en-US", { day: "numeric", month: "long", timeZone: "UTC" }).format(new Date(iso));

interface Props {
  gear: GearLibrary;
  onAdd: (name: string, array: SolarArray) => void;
}

/** Solar arrays, the input that each is on, and which layouts fit it. */
export function SolarArrays({ gear, onAdd }: Props) {
  const { view } = useDesk();
  const room = useRoom("arrays");
  const inputs = dcInputs(view.plan);
  return (
    <Parts
      title="Solar"
      room="arrays"
      parts={room.parts}
      choices={gear.modules.map((item) => [item.class_id, item.array.name])}
      counted="how many modules, in a row"
      onAdd={(id, count) => {
        const found = gear.modules.find((item) => item.class_id === id);
        if (!found) return;
        const name = count > 1 ? `${count} × ${found.array.name}` : found.array.name;
        onAdd(name, { ...found.array, name, series: count, ...onInput(inputs[0]?.[0] ?? "") });
      }}
      onRemove={room.remove}
    >
      {(id, array) => {
        const set = (part: Partial<SolarArray>) => room.set(id, part);
        return (
          <>
            <Groups value={array} groups={ARRAY} set={set} />
            <div className="flex flex-wrap gap-x-5">
              <ChoiceField
                label="on"
                value={inputKey(array)}
                choices={[["", "no input"] as const, ...inputs]}
                onSave={(key) => set(onInput(key))}
              />
              <PlaceOf value={array.place_id} onSave={(place_id) => set({ place_id })} />
            </div>
            <Groups
              value={array.module}
              groups={[MODULE]}
              set={(part) => set({ module: { ...array.module, ...part } })}
            />
            <PlateText
              kind="module"
              label="a module as printed"
              onRead={(part) => set({ module: { ...array.module, ...part } })}
            />
            <ListedItems
              title="Moved by hand"
              one="a position"
              items={array.moved}
              fields={FACING}
              fresh={gear.fresh.facing}
              onChange={(moved) => set({ moved })}
            />
            <ListedItems
              title="Shade"
              one="hours of shade"
              items={array.shade}
              fields={SHADE}
              fresh={gear.fresh.shade}
              onChange={(shade) => set({ shade })}
            />
            {array.station_id && <Layouts id={id} onTake={(series, parallel) => set({ series, parallel })} />}
          </>
        );
      }}
    </Parts>
  );
}

function Layouts({ id, onTake }: { id: string; onTake: (series: number, parallel: number) => void }) {
  const { view } = useDesk();
  const found = useQuery({
    queryKey: ["layouts", view.id, view.revision, id],
    queryFn: () =>
      answer(
        client.GET("/api/plans/{plan_id}/arrays/{array_id}/layouts", {
          params: { path: { plan_id: view.id, array_id: id } },
        }),
      ),
    placeholderData: (before) => before,
    retry: false,
  });
  if (found.isError) return <p className="text-caution">{found.error.message}</p>;
  return (
    <div className="relative overflow-x-auto">
      <table className="text-right" data-testid="layouts">
        <caption className="text-left text-faint">
          Layouts of {found.data?.modules} modules on this input, the best on a clear{" "}
          {found.data && day(found.data.day)} first
        </caption>
        <thead className="text-faint">
          <tr className="border-b border-rule [&>th]:px-2 [&>th]:font-normal">
            <th>series × parallel</th>
            <th>coldest V</th>
            <th>hottest V</th>
            <th>in good sun</th>
            <th>taken in the day</th>
            <th>clipped</th>
            <th className="text-left">what is in its way</th>
            <th>
              <span className="sr-only">Take</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {(found.data?.layouts ?? []).map((item) => (
            <tr
              key={`${item.series} ${item.parallel}`}
              className={`[&>td]:px-2 ${item.fits ? "" : "text-faint"}`}
            >
              <td>
                {item.series} × {item.parallel}
              </td>
              <td>{whole(item.coldest_v)}</td>
              <td>{whole(item.hottest_v)}</td>
              <td>{whole(item.array_w)} W</td>
              <td>{item.fits ? `${whole(item.day_wh)} Wh` : "nothing"}</td>
              <td>{item.fits ? `${whole(item.clipped_wh)} Wh` : ""}</td>
              <td className="text-left">{item.why_not}</td>
              <td>
                {item.fits && (
                  <button type="button" className="act" onClick={() => onTake(item.series, item.parallel)}>
                    Take
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
