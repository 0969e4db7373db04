import { Link } from "react-router";
import type { BoxPart, GearLibrary } from "../../api/client";
import { useDesk } from "../../api/plan";
import { type FieldOf, Fields } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { ADAPTER, CORD, INLET } from "../feed/feedFields";
import { OWNED } from "./fields/common";
import { Parts, PlaceOf } from "./Parts";

const FIELDS: Record<BoxPart["part"], readonly FieldOf<never>[]> = {
  cord: CORD as readonly FieldOf<never>[],
  adapter: ADAPTER as readonly FieldOf<never>[],
  inlet: INLET as readonly FieldOf<never>[],
};

/** Cords, adapters and inlets that one has and that are at no joint; those in use are on the feed. */
export function Box({ gear }: { gear: GearLibrary }) {
  const { view, edit } = useDesk();
  const box = view.plan.box ?? {};
  const put = (next: Record<string, BoxPart>) => edit((plan) => ({ ...plan, box: next }));
  const named = Object.fromEntries(
    Object.entries(box).map(([id, part]) => [id, { ...part, name: part.name ?? part.part }]),
  );
  const used = Object.values(view.plan.leads ?? {}).flatMap((lead) => [
    ...(lead.cords ?? []),
    ...(lead.adapters ?? []),
  ]);
  return (
    <>
      <Parts
        title="Cords, adapters and inlets"
        room="box"
        parts={named}
        choices={gear.leads.map((item) => [item.class_id, item.name])}
        onAdd={(id) => {
          const found = gear.leads.find((item) => item.class_id === id);
          if (found) put({ ...box, [freeId(found.name, box)]: found.lead });
        }}
        onRemove={(id) => put(Object.fromEntries(Object.entries(box).filter(([key]) => key !== id)))}
      >
        {(id, part) => {
          const set = (next: object) => put({ ...box, [id]: { ...box[id], ...next } as BoxPart });
          return (
            <>
              <Fields value={part as never} fields={FIELDS[part.part]} set={set} />
              <Fields value={part} fields={OWNED} set={set}>
                <PlaceOf value={part.place_id} onSave={(place_id) => set({ place_id })} />
              </Fields>
            </>
          );
        }}
      </Parts>
      {used.length > 0 && (
        <p className="-mt-5 mb-6 text-faint">
          In use at a <Link to="../feed">feed</Link>: {used.map((part) => part.name ?? part.part).join(", ")}.
        </p>
      )}
    </>
  );
}
