import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { SurveyAnswer } from "./SurveyAnswer";

/** Questions that only someone at the house can answer. What is not known is never taken for fine. */
export function Survey() {
  const { view } = useDesk();
  const survey = useQuery({
    queryKey: ["survey", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/survey", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  return (
    <section aria-label="Survey">
      <h2 className="border-b border-ink pb-1">Survey of the house</h2>
      <CannotShow asked={survey} what="survey" />
      <ul data-testid="survey">
        {(survey.data ?? []).map((item) => (
          <li key={`${item.room} ${item.id} ${item.question_id}`} className="border-b border-rule py-1">
            <div className="flex items-baseline gap-3">
              <span className="grow">
                {item.statement} <span className="text-[12px] text-faint">{item.name}</span>
              </span>
              <SurveyAnswer
                room={item.room}
                id={item.id}
                question={item.question_id}
                answered={item.answer}
                label={`${item.statement} ${item.name}`}
              />
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
