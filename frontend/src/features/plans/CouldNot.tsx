import { Refused } from "../../api/client";
import { ProblemLines } from "../../ui/ProblemLines";

/** Why something was refused, everything at once, and what was kept. */
export function CouldNot({ error, kept }: { error: Error; kept: string }) {
  const problem =
    error instanceof Refused ? error.problem : { title: "Refused", status: 0, detail: error.message };
  const count = problem.problems?.length ?? 0;
  return (
    <div role="alert" className="my-3 border-l-4 border-stop pl-3">
      <strong>
        {problem.title}
        {count > 1 && `: ${count} things`}.
      </strong>{" "}
      {kept}
      <ProblemLines problem={problem} />
    </div>
  );
}
