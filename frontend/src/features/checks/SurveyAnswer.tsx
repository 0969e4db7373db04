import { ToggleGroup } from "radix-ui";
import type { Plan } from "../../api/client";
import { useDesk } from "../../api/plan";

const NOT_YET = "unknown";
const WORDS = [
  ["yes", "yes"],
  ["no", "no"],
  [NOT_YET, "not looked yet"],
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

/** What the plan on screen says to a question; nothing where it says nothing. */
export function answerOn(plan: Plan, room: string, id: string, question: string): string | undefined {
  const asked = (room === "site" ? plan.site : plan[room as "panels"]?.[id]) as Asked;
  return asked?.survey?.[question];
}

/** The answer to one question of the survey, given where it is asked. */
export function SurveyAnswer({ room, id, question, answered = NOT_YET, label }: Props) {
  const { view, edit } = useDesk();
  const present = answerOn(view.plan, room, id, question) ?? answered;
  const save = (given: string) =>
    edit((plan) => {
      const said = (part: object & Asked) => ({ ...part, survey: { ...part?.survey, [question]: given } });
      if (room === "site") return { ...plan, site: said(plan.site as object) } as Plan;
      const parts = plan[room as "panels"] ?? {};
      return { ...plan, [room]: { ...parts, [id]: said(parts[id] as object) } } as Plan;
    });
  return (
    <ToggleGroup.Root
      type="single"
      value={present}
      onValueChange={(next) => save(next || NOT_YET)}
      aria-label={label}
      className="flex shrink-0 items-baseline gap-1"
    >
      {WORDS.map(([key, words]) => (
        <ToggleGroup.Item key={key} value={key} className={key === NOT_YET ? OPEN : GIVEN}>
          {words}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

const GIVEN =
  "min-h-[26px] min-w-[40px] border border-rule px-2 text-ink hover:border-cedar data-[state=on]:border-cedar data-[state=on]:bg-cedar data-[state=on]:font-bold data-[state=on]:text-paper";
const OPEN =
  "min-h-[26px] px-1 text-faint hover:text-cedar data-[state=on]:text-caution data-[state=on]:font-semibold";
