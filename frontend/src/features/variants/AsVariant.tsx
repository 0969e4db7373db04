import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";

/** What a merge patch makes of the plan, opened as a variant beside it. */
export function AsVariant({ patch, words }: { patch: object; words: string }) {
  const { view } = useDesk();
  const navigate = useNavigate();
  const made = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/plans/{plan_id}/variants/changed", {
          params: { path: { plan_id: view.id } },
          body: patch as Record<string, never>,
          headers: { "Content-Type": "application/merge-patch+json" },
        }),
      ),
    onSuccess: (variant) => navigate(`/plans/${variant.id}/outage`),
  });
  return (
    <>
      <button type="button" className="act" disabled={made.isPending} onClick={() => made.mutate()}>
        {words}
      </button>
      {made.error && (
        <span role="alert" className="block text-stop">
          {made.error.message}
        </span>
      )}
    </>
  );
}
