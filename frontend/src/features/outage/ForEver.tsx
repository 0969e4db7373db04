import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { OnDemand } from "../../ui/OnDemand";

type Found = components["schemas"]["ForEver"];

/** Whether it goes on without end, and down to which weather. */
export function ForEver() {
  const { view } = useDesk();
  return (
    <OnDemand<Found>
      title="Does it hold for ever?"
      id="for-ever"
      button="Run the same day over and over"
      takes="twelve days of each kind, with fuel that is brought"
      waiting="Each kind of day is being run over and over …"
      what="answer"
      ask={(signal) => {
        const params = { path: { plan_id: view.id } };
        return answer(client.GET("/api/plans/{plan_id}/for-ever", { params, signal }));
      }}
    >
      {(found) => (
        <>
          <p className="mt-1 text-[1.05rem]" data-testid="for-ever-sentence">
            {found.sentence}
          </p>
          <ul>
            {(found.days ?? []).map((day) => (
              <li key={day.name} className="grid grid-cols-[9rem_minmax(0,1fr)] gap-x-3 py-0.5">
                <span className="text-right">{day.name}</span>
                <span className={day.holds ? "text-good" : ""}>
                  {day.holds ? "✓ " : "✗ "}
                  {day.words}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </OnDemand>
  );
}
