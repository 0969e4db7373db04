import { useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";

const WORDS = [
  ["yes", "so"],
  ["no", "not so"],
  ["unknown", "not known"],
] as const;

/** Questions that only someone at the house can answer. What is not known is never taken for fine. */
export function Survey() {
  const { view, edit } = useDesk();
  const survey = useQuery({
    queryKey: ["survey", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/survey", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  const save = (room: string, id: string, question: string, given: string) =>
    edit((plan) => {
      const said = (part: object & { survey?: Record<string, string> }) => ({
        ...part,
        survey: { ...part.survey, [question]: given },
      });
      if (room === "site") return { ...plan, site: said(plan.site) } as Plan;
      const parts = plan[room as "panels"] ?? {};
      return { ...plan, [room]: { ...parts, [id]: said(parts[id] as object) } } as Plan;
    });
  const given = (room: string, id: string, question: string, answered: string) => {
    const part = room === "site" ? view.plan.site : view.plan[room as "panels"]?.[id];
    return (part as { survey?: Record<string, string> } | undefined)?.survey?.[question] ?? answered;
  };
  return (
    <section aria-label="Survey">
      <h2 className="border-b border-ink pb-1">Survey of the house</h2>
      <ul data-testid="survey">
        {(survey.data ?? []).map((item) => {
          const present = given(item.room, item.id, item.question_id, item.answer);
          return (
            <li key={`${item.room} ${item.id} ${item.question_id}`} className="border-b border-rule py-1">
              <label className="flex items-baseline gap-3">
                <span className="grow">
                  {item.statement} <span className="text-[12px] text-faint">{item.name}</span>
                </span>
                <select
                  className={`field shrink-0 ${present === "unknown" ? "text-caution" : ""}`}
                  value={present}
                  onChange={(event) => save(item.room, item.id, item.question_id, event.target.value)}
                >
                  {WORDS.map(([key, words]) => (
                    <option key={key} value={key}>
                      {words}
                    </option>
                  ))}
                </select>
              </label>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
