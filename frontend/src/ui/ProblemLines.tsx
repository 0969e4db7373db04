import type { Problem } from "../api/client";
import { placeInWords } from "./places";

/** What is wrong, a line each: where, what was given, what would be right. */
export function ProblemLines({ problem }: { problem: Problem }) {
  const lines = problem.problems ?? [];
  if (lines.length === 0) return <p className="mt-1">{problem.detail}</p>;
  return (
    <ul className="mt-1">
      {lines.map((item) => (
        <li key={`${item.field} ${item.right}`}>
          {placeInWords(item.field)}: got {item.value}; {item.right}
        </li>
      ))}
    </ul>
  );
}
