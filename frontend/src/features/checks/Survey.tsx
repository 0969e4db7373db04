import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { answerOn, SurveyAnswer } from "./SurveyAnswer";
import { asksId } from "./surveyLink";

const LEVEL_WORDS: Record<string, string> = {
  stop: "Stop",
  caution: "Caution",
  cannot_judge: "Not to be judged",
  note: "Note",
};

/** Questions that only someone at the house can answer, as one walks through it. */
export function Survey() {
  const { view } = useDesk();
  const survey = useQuery({
    queryKey: ["survey", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/survey", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  const items = (survey.data ?? []).map((item) => ({
    ...item,
    answer: answerOn(view.plan, item.room, item.id, item.question_id) ?? item.answer,
  }));
  const open = items.filter((item) => item.answer === "unknown").length;
  const stops = [...new Set(items.map((item) => item.walk))];
  return (
    <section aria-label="Survey" id="survey">
      <h2 className="border-b border-ink pb-1">
        Survey, on a walk through the house{" "}
        <span className="font-normal text-faint" data-testid="survey-open">
          · {open === 0 ? "all answered" : `${open} not looked yet`}
        </span>
      </h2>
      <CannotShow asked={survey} what="survey" />
      <div data-testid="survey">
        {stops.map((stop) => (
          <section key={stop} aria-label={stop} className="mt-2">
            <h3 className="font-semibold">{stop}</h3>
            <ul>
              {items
                .filter((item) => item.walk === stop)
                .map((item) => (
                  <li
                    key={asksId(item)}
                    id={asksId(item)}
                    className="scroll-mt-16 border-b border-rule py-1.5 target:bg-leaf"
                  >
                    <p>
                      {item.question} <span className="text-[12px] text-faint">{item.name}</span>
                    </p>
                    <div className="flex flex-wrap items-baseline gap-x-3">
                      <SurveyAnswer
                        room={item.room}
                        id={item.id}
                        question={item.question_id}
                        answered={item.answer}
                        label={`${item.question} ${item.name}`}
                      />
                      {item.answer === "yes" && <span className="text-faint">Settled: nothing to mend.</span>}
                      {item.answer === "no" && (
                        <span className={item.level === "stop" ? "text-stop" : "text-caution"}>
                          {LEVEL_WORDS[item.level]}: {item.settles}
                        </span>
                      )}
                    </div>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
    </section>
  );
}
