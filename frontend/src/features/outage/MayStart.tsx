import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import { useMoments } from "../../ui/useMoments";

type Answer = components["schemas"]["MayStart"]["answer"];

const COLOURS: Record<Answer, string> = {
  yes: "border-good",
  if_off: "border-caution",
  later: "border-caution",
  no: "border-stop",
  dark: "border-stop",
  held: "border-stop",
};

/** A yes that changes how long it lasts is none without a price. */
const colourOf = ({ answer, as_before }: components["schemas"]["MayStart"]) =>
  answer === "yes" && !as_before ? COLOURS.if_off : COLOURS[answer];

/** An appliance that is not in the plan. */
const OTHER = "";

interface Question {
  load_id?: string;
  watts?: number;
  start_va?: number;
  circuit_id?: string;
  lasts_s: number;
}

/** May it be started at the cursor: one of the plan, or watts that are not in it; answered by runs of their own. */
export function MayStart({
  at,
  begins,
  zone,
  session,
}: {
  at: number;
  begins: string;
  zone: string;
  /** As the house stands in a session, from its last row on. */
  session?: string;
}) {
  const { view } = useDesk();
  const { moment } = useMoments(zone);
  const when = moment(new Date(begins).getTime() + 1000 * at);
  const loads = Object.entries(view.plan.loads ?? {}).map(([id, load]) => [id, load.name] as const);
  const circuits = Object.entries(view.plan.circuits ?? {})
    .filter(([, part]) => part.mark !== "off")
    .map(([id, part]) => [id, part.label] as const);
  const [load, setLoad] = useState(loads[0]?.[0] ?? OTHER);
  const [watts, setWatts] = useState(1100);
  const [start, setStart] = useState<number | null>(null);
  const [circuit, setCircuit] = useState(circuits[0]?.[0] ?? "");
  const [minutes, setMinutes] = useState(10);
  const [question, setQuestion] = useState<(Question & { at_s: number; when: string }) | null>(null);
  const asked = useQuery({
    queryKey: ["start", view.id, session ?? view.revision, question],
    enabled: question !== null,
    queryFn: () => {
      const { when: _, ...query } = question ?? { at_s: 0, lasts_s: 600, when: "" };
      const path = { plan_id: view.id };
      if (session !== undefined) {
        const params = { path: { ...path, session_id: session }, query };
        return answer(client.GET("/api/plans/{plan_id}/sessions/{session_id}/start", { params }));
      }
      return answer(client.GET("/api/plans/{plan_id}/start", { params: { path, query } }));
    },
  });
  const ask = () => {
    const starts = start ? { start_va: start } : {};
    const what = load === OTHER ? { watts, ...starts, circuit_id: circuit || undefined } : { load_id: load };
    setQuestion({ ...what, lasts_s: minutes * 60, at_s: Math.min(at, 31 * 86_400), when });
  };
  return (
    <section aria-label="May I start it" className="my-1">
      <form
        className="flex flex-wrap items-baseline gap-x-4 gap-y-1"
        onSubmit={(event) => {
          event.preventDefault();
          ask();
        }}
      >
        <ChoiceField
          label="May I start"
          value={load}
          choices={[...loads, [OTHER, "something else"] as const]}
          onSave={setLoad}
        />
        {load === OTHER && (
          <>
            {circuits.length > 0 && (
              <ChoiceField label="plugged in at" value={circuit} choices={circuits} onSave={setCircuit} />
            )}
            <NumberField label="of" value={watts} unit="W" onSave={setWatts} />
            <NumberField
              label="starting with"
              value={start}
              unit="VA"
              empty="no more"
              onSave={setStart}
              onEmpty={() => setStart(null)}
            />
          </>
        )}
        <NumberField label="for" value={minutes} unit="min" width="w-12" onSave={setMinutes} />
        <button type="submit" className="act font-semibold">
          {`Ask, ${when}`}
        </button>
      </form>
      <CannotShow asked={asked} what="answer" />
      {question && asked.isFetching && <p role="status">It is run …</p>}
      {question && asked.data && !asked.isFetching && (
        <p role="status" data-testid="may-start" className={`mt-1 border-l-4 pl-3 ${colourOf(asked.data)}`}>
          <span className="text-faint">{question.when}:</span> {asked.data.sentence}
        </p>
      )}
    </section>
  );
}
