import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";

/** When a plan was practised last, in words; a plan that never was says so. */
export function LastPractised({ planId }: { planId: string }) {
  const record = useQuery({
    queryKey: ["practised", planId],
    staleTime: 0,
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/drill/record", { params: { path: { plan_id: planId } } })),
  });
  if (!record.data) return null;
  const [last] = record.data;
  const times = record.data.length === 1 ? "once" : `${record.data.length} times`;
  return (
    <Link className={`underline ${last ? "" : "text-caution"}`} to={`/plans/${planId}/practise`}>
      {last ? `practised ${times}, last on ${last.on}` : "never practised"}
    </Link>
  );
}
