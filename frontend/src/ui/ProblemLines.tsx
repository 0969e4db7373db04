import type { Plan, Problem } from "../api/client";
import { placeInWords } from "./places";

/** What is wrong, a line each: where, what was given, what would be right. */
export function ProblemLines({ problem, plan }: { problem: Problem; plan?: Plan }) {
  const lines = problem.problems ?? [];
  if (lines.length === 0) return <p className="mt-1">{problem.detail}</p>;
  /** Words of the plan file are spoken; names of columns of another file stay as that file writes them. */
  const ofPlan = (field: string) => plan !== undefined && (field.split("/")[1] ?? "") in plan;
  const spoken = (field: string, text: string) =>
    ofPlan(field) ? text.replace(/(\w)_(?=\w)/g, "$1 ") : text;
  return (
    <ul className="mt-1">
      {lines.map((item) => (
        <li key={`${item.field} ${item.right}`}>
          {placeInWords(item.field, plan)}: got {spoken(item.field, item.value)};{" "}
          {spoken(item.field, item.right)}
        </li>
      ))}
    </ul>
  );
}
