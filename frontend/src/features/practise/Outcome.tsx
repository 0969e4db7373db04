import type { components } from "../../api/schema.gen";

type Score = components["schemas"]["Score"];

/** What came of an exercise, calmly: what would have happened, and what prevents it. */
export function Outcome({
  score,
  over,
  onBack,
  onAgain,
  onLeave,
}: {
  score: Score;
  over: boolean;
  onBack: () => void;
  onAgain: () => void;
  onLeave: () => void;
}) {
  const hazard = score.hazard;
  if (!hazard && !over) return null;
  return (
    <div
      role="alert"
      data-testid="outcome"
      className={`my-2 border-l-4 pl-3 ${score.passed ? "border-good" : "border-stop"}`}
    >
      <p className="text-[1.05rem] font-semibold">{score.sentence}</p>
      {hazard?.prevents && (
        <p>
          What prevents it: <strong>{hazard.prevents}</strong>
        </p>
      )}
      {over && (score.missed ?? []).length > 0 && <p>Not read: {score.missed?.join("; ")}.</p>}
      {over && (score.left ?? []).length > 0 && (
        <p>Not as it should be: {score.left?.slice(0, 4).join("; ")}.</p>
      )}
      <p className="flex flex-wrap gap-x-4">
        {hazard && !over && (
          <button type="button" className="act min-h-11" onClick={onBack}>
            Again from before that
          </button>
        )}
        <button type="button" className="act min-h-11" onClick={onAgain}>
          From the beginning
        </button>
        <button type="button" className="act min-h-11" onClick={onLeave}>
          To the list
        </button>
      </p>
    </div>
  );
}
