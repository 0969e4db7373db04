import { CircleHelp, Info, OctagonAlert, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { Finding, Plan } from "../../api/client";
import { applyPatch } from "../../api/patch";
import { useDesk } from "../../api/plan";
import { told, type Unit, useUnits } from "../../ui/quantity";
import { SurveyAnswer } from "./SurveyAnswer";
import { asksId } from "./surveyLink";

export const LEVELS = {
  stop: [OctagonAlert, "text-stop", "stop"],
  caution: [TriangleAlert, "text-caution", "caution"],
  cannot_judge: [CircleHelp, "text-caution", "not known"],
  note: [Info, "text-faint", "note"],
} as const;

/** Where an element of a finding is edited. */
const ROOMS: Record<string, string> = {
  circuits: "panel",
  loads: "needs",
  panels: "panel",
  feeds: "feed",
  leads: "feed",
  site: "checks",
};

const fine = new Intl.NumberFormat("en-US", { maximumFractionDigits: 2 });
const plain = new Intl.NumberFormat("en-US", { maximumFractionDigits: 0 });

function useFigure() {
  const units = useUnits();
  return (value: number, unit: string) =>
    unit === "m" || unit === "°C"
      ? told(value, unit as Unit, units)
      : `${(Math.abs(value) >= 200 ? plain : fine).format(value)} ${unit}`.trim();
}

interface ItemProps {
  finding: Finding;
  /** More of the same check, at other places. */
  more?: Finding[];
  /** Where others lead to it. */
  id?: string;
}

/** One finding, or several alike of one check: where, both figures, reason, remedy, source; mended here. */
export function FindingItem({ finding, more = [], id }: ItemProps) {
  const [Sign, colour, word] = LEVELS[finding.level];
  const places = [finding, ...more];
  return (
    <li
      id={id}
      className="grid scroll-mt-40 grid-cols-[22px_1fr] gap-x-2 border-b border-rule py-2"
      data-check={finding.check_id}
    >
      <Sign size={18} aria-hidden className={`mt-0.5 ${colour}`} />
      <div>
        <p>
          <span className="sr-only">{word}: </span>
          <strong>{finding.title}</strong>
          <span aria-hidden="true"> · </span>
          {more.length > 0 ? `${places.length} places` : <Where finding={finding} />}
        </p>
        {more.length === 0 && <Figures finding={finding} />}
        <p className="text-faint">
          {finding.why} {finding.remedy}
        </p>
        <p className="text-[12px] text-faint">{finding.source}</p>
        {finding.amendment && <p>Local rule: {finding.amendment}</p>}
        {more.length === 0 ? (
          <Mending finding={finding} />
        ) : (
          <ul>
            {places.map((place, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: one element may have the same finding twice
              <li key={`${place.key} ${index}`} className="border-t border-rule py-1 pl-3">
                <div className="flex flex-wrap gap-x-4">
                  <Where finding={place} />
                  <Figures finding={place} />
                </div>
                <Mending finding={place} />
              </li>
            ))}
          </ul>
        )}
      </div>
    </li>
  );
}

/** The element that a finding is about, as a way to where it is edited. */
function Where({ finding }: { finding: Finding }) {
  const { view } = useDesk();
  const room = ROOMS[finding.element.room] ?? "gear";
  return (
    <Link
      className="text-faint underline decoration-rule underline-offset-2 hover:text-cedar"
      to={`/plans/${view.id}/${room}#${finding.element.room}/${finding.element.id}`}
    >
      {finding.element.name}
    </Link>
  );
}

function Figures({ finding }: { finding: Finding }) {
  const figure = useFigure();
  return (
    <>
      {(finding.figures ?? []).map((item) => (
        <p key={`${item.name} ${item.unit}`}>
          {item.name}: <strong>{figure(item.value, item.unit)}</strong>
          {item.limit != null && <> against {figure(item.limit, item.unit)}</>}
        </p>
      ))}
      {finding.detail && !finding.asks && <p>{finding.detail}</p>}
    </>
  );
}

/** What can be done about a finding at one place: its question, its remedy, an electrician's answer. */
function Mending({ finding }: { finding: Finding }) {
  const { view, edit } = useDesk();
  const fix = finding.fix;
  return (
    <>
      {finding.answered && <p>Answered: {finding.answered}</p>}
      {finding.asks && (
        <div className="flex flex-wrap items-baseline gap-x-3">
          {finding.level !== "cannot_judge" && <span>{finding.asks.question}</span>}
          <SurveyAnswer
            room={finding.asks.room}
            id={finding.asks.id}
            question={finding.asks.question_id}
            label={`Here: ${finding.asks.question}`}
          />
          <Link
            className="act text-[12px] text-faint"
            to={`/plans/${view.id}/checks#${asksId(finding.asks)}`}
          >
            on the survey
          </Link>
        </div>
      )}
      <p className="flex flex-wrap gap-x-3">
        {fix && (
          <button
            type="button"
            className="act font-semibold"
            onClick={() => edit((plan) => applyPatch(plan, fix) as Plan)}
          >
            Apply the remedy{finding.fix_words ? `: ${finding.fix_words}` : ""}
          </button>
        )}
        {finding.answerable && <Answer finding={finding} />}
      </p>
    </>
  );
}

/** An electrician's answer with a reason; it is printed with the plan. */
function Answer({ finding }: { finding: Finding }) {
  const { view, edit } = useDesk();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const [by, setBy] = useState("");
  const answers = view.plan.check_answers ?? {};
  if (finding.answered)
    return (
      <button
        type="button"
        className="act"
        onClick={() =>
          edit((plan) => ({
            ...plan,
            check_answers: Object.fromEntries(Object.entries(answers).filter(([key]) => key !== finding.key)),
          }))
        }
      >
        Take the answer back
      </button>
    );
  if (!open)
    return (
      <button type="button" className="act" onClick={() => setOpen(true)}>
        Answer as an electrician
      </button>
    );
  return (
    <form
      className="flex flex-wrap items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        edit((plan) => ({
          ...plan,
          check_answers: { ...plan.check_answers, [finding.key]: { reason, by } },
        }));
      }}
    >
      <label>
        <span className="text-faint">reason </span>
        <input
          className="field w-64"
          placeholder="inspected, local approval"
          minLength={5}
          required
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      <label>
        <span className="text-faint">name and licence </span>
        <input className="field w-40" required value={by} onChange={(event) => setBy(event.target.value)} />
      </label>
      <button type="submit" className="act font-semibold">
        Answer
      </button>
    </form>
  );
}
