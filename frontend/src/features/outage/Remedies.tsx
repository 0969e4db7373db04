import { useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import { applyPatch } from "../../api/patch";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";

/** What would have prevented an event: each was run, and can be applied and taken back. */
export function Remedies({ number }: { number: number }) {
  const { view, edit } = useDesk();
  const params = { path: { plan_id: view.id, number } };
  const found = useQuery({
    queryKey: ["remedies", view.id, view.revision, number],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/events/{number}/remedies", { params })),
  });
  return (
    <div className="border-l-2 border-rule py-1 pl-3 sm:ml-[132px]" data-testid="remedies">
      <CannotShow asked={found} what="remedies" />
      {found.isPending && <p className="text-faint">Trying what would prevent it…</p>}
      {found.data?.length === 0 && (
        <p className="text-faint">
          No change of marks or rules that was tried prevents this. More is possible than was tried: other
          gear, other hours, less load.
        </p>
      )}
      <ul>
        {found.data?.map((remedy) => (
          <li key={remedy.words} className="py-0.5">
            <button
              type="button"
              className="act mr-2 font-semibold"
              onClick={() => edit((plan) => applyPatch(plan, remedy.patch) as Plan)}
            >
              {remedy.words}
            </button>
            {remedy.outcome}. <span className="text-faint">With that: {remedy.verdict}.</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
