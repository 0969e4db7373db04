import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema.gen";
import { ChoiceField } from "../../ui/ChoiceField";

type NewPlan = components["schemas"]["NewPlan"];
type Way = NewPlan["begin"];

const WAYS: readonly (readonly [Way, string])[] = [
  ["rooms", "a list of rooms"],
  ["labels", "the labels in the panel, typed in"],
  ["csv", "a panel schedule as CSV"],
  ["foothill", "a copy of the foothill house"],
  ["canal", "a copy of the canal-side duplex"],
  ["empty", "nothing"],
];
const PLACEHOLDERS: Partial<Record<Way, string>> = {
  labels: "1 kitchen fridge 20 A\n3 furnace 15 A\n5 7 well pump 20 A\n9a hall lights 15 A\n9b bath 20 A gfci",
  csv: "spaces,breaker_a,label,mark\n1,20,Kitchen fridge,keep\n5 7,20,Well pump,keep",
};

/** Begin a plan: from rooms, from a panel's labels, from a CSV, from a demo, or from nothing. */
export function Begin({ onBegin }: { onBegin: (plan: NewPlan) => void }) {
  const [name, setName] = useState("");
  const [begin, setBegin] = useState<Way>("rooms");
  const [chosen, setChosen] = useState<string[]>(["kitchen", "utility", "hall", "office"]);
  const [text, setText] = useState("");
  const known = useQuery({
    queryKey: ["rooms"],
    queryFn: () => answer(client.GET("/api/library/rooms")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <form
      aria-label="Begin a plan"
      className="mt-6"
      onSubmit={(event) => {
        event.preventDefault();
        onBegin({ name, begin, rooms: begin === "rooms" ? chosen : [], text });
        setName("");
      }}
    >
      <h2 className="border-b border-ink pb-1">Begin a plan</h2>
      <div className="flex flex-wrap items-baseline gap-3 pt-2">
        <label>
          <span className="text-faint">new plan </span>
          <input
            className="field w-52"
            value={name}
            onChange={(event) => setName(event.target.value)}
            required
          />
        </label>
        <ChoiceField label="from" value={begin} choices={WAYS} onSave={setBegin} />
        <button type="submit" className="act font-semibold">
          Begin
        </button>
      </div>
      {begin === "rooms" && (
        <fieldset className="pt-2">
          <legend className="text-faint">
            Each room brings what it usually holds, with typical figures, onto breakers of its own.
          </legend>
          <div className="flex flex-wrap gap-x-5">
            {(known.data ?? []).map((room) => (
              <label key={room} className="min-h-[26px]">
                <input
                  type="checkbox"
                  className="size-4 accent-cedar"
                  checked={chosen.includes(room)}
                  onChange={(event) =>
                    setChosen(
                      event.target.checked ? [...chosen, room] : chosen.filter((other) => other !== room),
                    )
                  }
                />{" "}
                {room}
              </label>
            ))}
          </div>
        </fieldset>
      )}
      {begin in PLACEHOLDERS && (
        <label className="block pt-2">
          <span className="text-faint">
            {begin === "labels"
              ? "One breaker a line: space (two for two poles, a or b for the halves of a tandem), label, amps"
              : "At least the columns spaces, breaker_a and label"}
          </span>
          <textarea
            className="field mt-1 block h-[140px] w-full border border-rule"
            placeholder={PLACEHOLDERS[begin]}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
      )}
    </form>
  );
}
