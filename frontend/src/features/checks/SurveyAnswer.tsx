import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";

const WORDS = [
  ["yes", "so"],
  ["no", "not so"],
  ["unknown", "not known"],
] as const;

interface Props {
  room: string;
  id: string;
  question: string;
  /** What the server last knew; the plan on screen goes before it. */
  answered?: string;
  label: string;
}

type Asked = { survey?: Record<string, string> } | undefined;

/** The answer to one question of the survey, given where it is asked. */
export function SurveyAnswer({ room, id, question, answered = "unknown", label }: Props) {
  const { view, edit } = useDesk();
  const asked = (room === "site" ? view.plan.site : view.plan[room as "panels"]?.[id]) as Asked;
  const present = asked?.survey?.[question] ?? answered;
  const save = (given: string) =>
    edit((plan) => {
      const said = (part: object & Asked) => ({ ...part, survey: { ...part?.survey, [question]: given } });
      if (room === "site") return { ...plan, site: said(plan.site as object) } as Plan;
      const parts = plan[room as "panels"] ?? {};
      return { ...plan, [room]: { ...parts, [id]: said(parts[id] as object) } } as Plan;
    });
  return (
    <select
      aria-label={label}
      className={`field shrink-0 ${present === "unknown" ? "text-caution" : ""}`}
      value={present}
      onChange={(event) => save(event.target.value)}
    >
      {WORDS.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}
