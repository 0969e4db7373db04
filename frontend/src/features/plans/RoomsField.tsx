import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { PastedLines } from "../breakers/PastedLines";
import { type Given, type Mark, tickOf } from "./given";

const SUCH_AS =
  "1 kitchen fridge 20 A 12 AWG keep\n3 furnace 15 A\n5 7 well pump 20 A, 8 A at 240 V by plate\n9a hall lights 15 A\n9b bath 20 A gfci";

interface Props {
  given: Given;
  set: (part: Partial<Given>) => void;
  system: "split_phase_120_240" | "single_phase_230";
}

/** Rooms with what each usually brings, tickable one by one; or the labels of the panel, or a schedule. */
export function RoomsField({ given, set, system }: Props) {
  const rooms = useQuery({
    queryKey: ["rooms"],
    queryFn: () => answer(client.GET("/api/library/rooms")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const tick = (room: string, id: string, mark: Mark | null) => {
    const { [tickOf(room, id)]: _, ...others } = given.ticks;
    set({ ticks: mark ? { ...others, [tickOf(room, id)]: mark } : others });
  };
  return (
    <div className="w-full">
      <div className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-6 gap-y-3">
        {(rooms ?? []).map(({ room, brings }) => (
          <fieldset key={room}>
            <legend className="text-faint">{room}</legend>
            {brings.map((item) => {
              const present = given.ticks[tickOf(room, item.appliance_id)];
              return (
                <div key={item.appliance_id} className="flex min-h-[26px] items-baseline gap-2">
                  <label className="min-w-0">
                    <input
                      type="checkbox"
                      className="size-4 accent-cedar"
                      checked={present !== undefined}
                      onChange={(event) =>
                        tick(room, item.appliance_id, event.target.checked ? markOf(item.mark) : null)
                      }
                    />{" "}
                    {item.name}{" "}
                    <span className="whitespace-nowrap text-[12px] text-faint">{item.running_w} W</span>
                  </label>
                  {present && (
                    <button
                      type="button"
                      className="shrink-0 text-[12px] text-cedar underline underline-offset-2"
                      aria-label={`${item.name}: ${present === "keep" ? "must run" : "when there is room"}`}
                      onClick={() => tick(room, item.appliance_id, present === "keep" ? "room" : "keep")}
                    >
                      {present === "keep" ? "must run" : "if room"}
                    </button>
                  )}
                </div>
              );
            })}
          </fieldset>
        ))}
      </div>
      <details className="mt-2" open={given.text !== ""}>
        <summary className="min-h-[26px] cursor-pointer text-faint">
          Or type the labels in the panel, or paste a panel schedule
        </summary>
        <label className="block pt-1">
          <span className="text-faint">
            One breaker a line, CSV, or cells of a spreadsheet with their names: space (two for two poles, a
            or b for the halves of a tandem), label, amps; and whatever else is known
          </span>
          <textarea
            className="field mt-1 block h-[120px] w-full border border-rule"
            placeholder={SUCH_AS}
            value={given.text}
            onChange={(event) => set({ text: event.target.value })}
          />
        </label>
        <label className="mt-1 flex items-baseline gap-2">
          <input
            type="checkbox"
            className="size-4 accent-cedar"
            checked={given.usual}
            onChange={(event) => set({ usual: event.target.checked })}
          />
          put on each breaker what its label usually means
        </label>
        <PastedLines text={given.text} usual={given.usual} system={system} />
      </details>
    </div>
  );
}

const markOf = (mark: string): Mark => (mark === "keep" ? "keep" : "room");
