import { useQuery } from "@tanstack/react-query";
import { answer, client, type GearLibrary } from "../../api/client";
import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { Fields } from "../../ui/Fields";
import { whole } from "../../ui/format";
import { ARRAY, MODULE, type SolarArray } from "./gearFields";
import { Parts, useRoom } from "./Parts";

interface Props {
  modules: GearLibrary["modules"];
  onAdd: (name: string, array: SolarArray) => void;
}

/** Solar arrays, the input that each is on, and which layouts fit it. */
export function SolarArrays({ modules, onAdd }: Props) {
  const { view } = useDesk();
  const room = useRoom("arrays");
  const inputs = Object.entries(view.plan.stations ?? {}).flatMap(([station, item]) =>
    Object.keys(item.dc_inputs ?? {}).map(
      (input) => [`${station}/${input}`, `${item.name}, ${input}`] as const,
    ),
  );
  const place = (joined: string) => {
    const [station_id, input_id] = joined.split("/");
    return joined ? { station_id, input_id } : { station_id: null, input_id: null };
  };
  return (
    <Parts
      title="Solar"
      parts={room.parts}
      choices={modules.map((item) => [item.class_id, item.name])}
      onAdd={(id) => {
        const found = modules.find((item) => item.class_id === id);
        if (found)
          onAdd(found.name, {
            name: found.name,
            kind: "portable",
            module: found.module,
            series: 1,
            parallel: 1,
            ...place(inputs[0]?.[0] ?? ""),
            lead_m: 7.62,
            lead_awg: 12,
            string_fuses: "unknown",
            survey: {},
          });
      }}
      onRemove={room.remove}
    >
      {(id, array) => (
        <>
          <Fields value={array} fields={ARRAY} set={(part) => room.set(id, part)} />
          <ChoiceField
            label="on"
            value={array.station_id ? `${array.station_id}/${array.input_id}` : ""}
            choices={[["", "no input"] as const, ...inputs]}
            onSave={(joined) => room.set(id, place(joined))}
          />
          <Fields
            value={array.module}
            fields={MODULE}
            set={(part) => room.set(id, { module: { ...array.module, ...part } })}
          />
          {array.station_id && (
            <Layouts id={id} onTake={(series, parallel) => room.set(id, { series, parallel })} />
          )}
        </>
      )}
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
    <table className="text-right" data-testid="layouts">
      <caption className="text-left text-faint">
        Layouts of {found.data?.modules} modules on this input, the best first
      </caption>
      <thead className="text-faint">
        <tr className="border-b border-rule [&>th]:px-2 [&>th]:font-normal">
          <th>series × parallel</th>
          <th>coldest V</th>
          <th>hottest V</th>
          <th>in good sun</th>
          <th>taken</th>
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
            <td>{item.fits ? `${whole(item.taken_w)} W` : "nothing"}</td>
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
  );
}
