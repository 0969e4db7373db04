import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";

/** What taking everything over would do to the chance of the plan as it stands now. */
export function Worth({ sessionId, rows }: { sessionId: string; rows: number }) {
  const { view } = useDesk();
  const params = { path: { plan_id: view.id, session_id: sessionId } };
  const found = useQuery({
    queryKey: ["worth", view.id, view.revision, sessionId, rows],
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    queryFn: ({ signal }) =>
      answer(client.GET("/api/plans/{plan_id}/sessions/{session_id}/lesson/worth", { params, signal })),
  });
  return (
    <div className="my-1" data-testid="worth">
      {found.isFetching && (
        <p role="status" className="text-faint">
          Outages are tried with the plan as it stands, and with what was learnt …
        </p>
      )}
      <CannotShow asked={found} what="chance with what was learnt" />
      {found.data && !found.isFetching && <p>{found.data.sentence}</p>}
    </div>
  );
}
