import type { Plan, Problem } from "../api/client";
import { placeInWords } from "./places";

/** What is wrong, a line each: where, what was given, what would be right. */
export function ProblemLines({ problem, plan }: { problem: Problem; plan?: Plan }) {
  const lines = problem.problems ?? [];
  if (lines.length === 0) return <p className="mt-1">{problem.detail}</p>;
  const spoken = (text: string) => text.replace(/(\w)_(?=\w)/g, "$1 ");
  return (
    <ul className="mt-1">
      {lines.map((item) => (
        <li key={`${item.field} ${item.right}`}>
          {placeInWords(item.field, plan)}: got {spoken(item.value)}; {spoken(item.right)}
        </li>
      ))}
    </ul>
  );
}
